"""What the planner says of features that the model does not: thread, tolerance, finish, a note."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict, check_between, known_features, names_of
from lean_ledger.core.features import Hole, Turned
from lean_ledger.core.features.tolerance import nominal_size, read_tolerance
from lean_ledger.core.plan import PLAIN, Plan, Said

FINEST, COARSEST = 0.05, 50.0  # Ra, µm
LONGEST_NOTE = 400


@dataclass(frozen=True)
class SayTolerance(Strict):
    """A fit such as H7 or limits such as ±0.02; None takes it back."""

    features: tuple[str, ...]
    tolerance: str | None
    change: Literal["say-tolerance"] = "say-tolerance"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features(self.features, scene)
        text = ""
        if self.tolerance:
            for id in self.features:
                text = read_tolerance(self.tolerance, nominal_size(scene.part.by_id[id])).text
        words = f"{names_of(self.features)} to {text}" if text else f"no tolerance on {names_of(self.features)}"
        return _said(plan, self.features, tolerance=text), words


@dataclass(frozen=True)
class SayFinish(Strict):
    """Surface roughness Ra in µm; None takes it back."""

    features: tuple[str, ...]
    finish: float | None
    change: Literal["say-finish"] = "say-finish"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features(self.features, scene)
        if self.finish is not None:
            check_between(self.finish, FINEST, COARSEST, "Ra")
        words = f"Ra {self.finish:g}" if self.finish is not None else "no finish asked"
        return _said(plan, self.features, finish=self.finish), f"{words} on {names_of(self.features)}"


@dataclass(frozen=True)
class SayNote(Strict):
    features: tuple[str, ...]
    note: str
    change: Literal["say-note"] = "say-note"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features(self.features, scene)
        note = " ".join(self.note.split())
        if len(note) > LONGEST_NOTE:
            raise PlanError("note-too-long", f"a note has at most {LONGEST_NOTE} characters; this one has {len(note)}")
        words = f"note on {names_of(self.features)}: {note}" if note else f"no note on {names_of(self.features)}"
        return _said(plan, self.features, note=note), words


@dataclass(frozen=True)
class SayThread(Strict):
    """A thread on a turned outside, or in single holes, before that of their size.

    "plain" is for none in them, None for what the size has.
    """

    features: tuple[str, ...]
    thread: str | None
    change: Literal["say-thread"] = "say-thread"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features(self.features, scene)
        if self.thread and self.thread != PLAIN:
            thread = scene.library.thread(self.thread)
            if thread is None:
                raise PlanError("no-such-thread", f"there is no thread {self.thread!r} in the library")
            for id in self.features:
                feature = scene.part.by_id[id]
                if isinstance(feature, Turned) and feature.where == "outside":
                    if not thread.fits_outside(feature.diameter):
                        raise PlanError(
                            "thread-misfit",
                            f"{id} of Ø{feature.diameter:g} cannot carry {thread.name}: its major diameter is "
                            f"{thread.major:g}",
                        )
                    continue
                if not isinstance(feature, Hole):
                    raise PlanError("no-such-hole", f"{id} is no hole and no turned outside: it carries no thread")
                if not thread.fits(feature.diameter):
                    raise PlanError(
                        "thread-misfit",
                        f"{id} of Ø{feature.diameter:g} cannot carry {thread.name}: its tap drill is "
                        f"{thread.tap_drill:g}, its major diameter {thread.major:g}",
                    )
        words = {None: "thread as its size", PLAIN: "no thread"}.get(self.thread, f"thread {self.thread}")
        return _said(plan, self.features, thread=self.thread or ""), f"{words} in {names_of(self.features)}"


def _said(plan: Plan, features: tuple[str, ...], **values: object) -> Plan:
    changed = {id: replace(plan.said_of(id), **values) for id in features}  # type: ignore[arg-type]
    kept = [said for said in plan.said if said.feature not in changed]
    added = [said for said in changed.values() if not said.is_empty]
    return replace(plan, said=tuple(sorted((*kept, *added), key=_by_feature)))


def _by_feature(said: Said) -> tuple[str, int]:
    return said.feature[:1], int(said.feature[1:] or 0)
