"""Dividing by hand and by the solver: splitting, merging, locking, what belongs together, what comes first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.hand import keeping_hand
from lean_ledger.core.changes.scene import Scene, Strict, known_features
from lean_ledger.core.changes.setups import MOST_SETUPS
from lean_ledger.core.features import flat_side
from lean_ledger.core.ledger.machines import new_setup
from lean_ledger.core.part.bodies import planned_part
from lean_ledger.core.plan import Clamped, MovedFeature, Plan, Side
from lean_ledger.core.setups import assign_features
from lean_ledger.core.setups.propose import divided
from lean_ledger.core.setups.sides import is_outline, needs_machining


@dataclass(frozen=True)
class LockSetup(Strict):
    setup: str
    locked: bool
    change: Literal["lock-setup"] = "lock-setup"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        decided = replace(plan.setup(self.setup), locked=self.locked)
        words = "stays when divided again" if self.locked else "may change when divided again"
        return plan.with_setup(decided), f"setup {self.setup} {words}"


@dataclass(frozen=True)
class SplitSetup(Strict):
    """Some of a setup's features go into a new one right after it; `up` where another side is to be up."""

    setup: str
    features: tuple[str, ...]
    up: Side | None = None
    change: Literal["split-setup"] = "split-setup"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features(self.features, scene)
        clamped = plan.clamped_of(self.setup)
        before, load = clamped.setup, clamped.load
        if len(plan.setups) >= MOST_SETUPS:
            raise PlanError("too-many-setups", f"a plan takes at most {MOST_SETUPS} setups")
        taken = {s.id for s in plan.setups}
        id = next(f"S{i}" for i in range(1, 99) if f"S{i}" not in taken)
        bare = replace(before, locked=False, grip=None, force=None, spacers=(), turn=None, cut_off=None, probes=())
        added = Clamped(bare, replace(load, order=(), hand=())).renamed(id)
        if self.up is not None and self.up != before.up:
            added = new_setup(id, self.up, load, scene.part, scene.library)
        place = plan.setups.index(before) + 1
        split = plan.clamped_as([*plan.clamped[:place], added, *plan.clamped[place:]])
        split = _moved(split, self.features, id)
        _all_there(split, scene, self.features, id)
        return split, f"{', '.join(self.features)} split off {self.setup} into {id}, {added.setup.up} up"


@dataclass(frozen=True)
class MergeSetups(Strict):
    """All that a setup makes goes into another one, and the setup away."""

    setup: str
    into: str
    change: Literal["merge-setups"] = "merge-setups"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        plan.setup(self.setup)
        into = plan.setup(self.into)
        if self.setup == self.into:
            raise PlanError("same-setup", "a setup merges into another one", self.setup)
        part = planned_part(scene.part, plan)
        made = assign_features(part, plan)[self.setup]
        own = tuple(id for id in made if not is_outline(part, part.by_id[id], plan.outline_axis))
        kept = [one for one in plan.clamped if one.setup.id != self.setup]
        merged = _moved(plan.clamped_as(kept), own, self.into)
        _all_there(merged, scene, own, into.id)
        return keeping_hand(plan, merged, self.into), f"setup {self.setup} merged into {self.into}"


@dataclass(frozen=True)
class KeepTogether(Strict):
    features: tuple[str, ...]
    change: Literal["keep-together"] = "keep-together"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features(self.features, scene)
        wish = tuple(dict.fromkeys(self.features))
        if len(wish) < 2:
            raise PlanError("together", "at least two features are needed to be made together")
        words = f"{', '.join(wish)} in one setup"
        return plan if wish in plan.together else replace(plan, together=(*plan.together, wish)), words


@dataclass(frozen=True)
class ComeFirst(Strict):
    first: str
    then: str
    change: Literal["come-first"] = "come-first"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features((self.first, self.then), scene)
        if self.first == self.then:
            raise PlanError("before", "a feature comes before another one")
        if _comes_before(plan.before, self.then, self.first):
            raise PlanError("before", f"{self.then} is already asked for before {self.first}")
        pair = (self.first, self.then)
        words = f"{self.first} in no later setup than {self.then}"
        return plan if pair in plan.before else replace(plan, before=(*plan.before, pair)), words


@dataclass(frozen=True)
class DropWish(Strict):
    """Takes back what was asked of the division for exactly these features."""

    features: tuple[str, ...]
    change: Literal["drop-wish"] = "drop-wish"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        together = tuple(ids for ids in plan.together if ids != self.features)
        before = tuple(pair for pair in plan.before if pair != self.features)
        if (together, before) == (plan.together, plan.before):
            raise PlanError("no-such-wish", f"nothing is asked for {', '.join(self.features)}")
        return replace(plan, together=together, before=before), f"{', '.join(self.features)} wherever they fall"


@dataclass(frozen=True)
class DivideAgain(Strict):
    change: Literal["divide-again"] = "divide-again"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        found = divided(planned_part(scene.part, plan), plan, scene.library)
        count = len(found.clamped)
        words = f"divided again: {count} setup{'s' if count > 1 else ''}"
        if found.lower_bound == count:
            words += ", none can be spared"
        if found.clashes:
            words += f"; not to be had: {', '.join(found.clashes)}"
        return keeping_hand(plan, replace(plan.clamped_as(found.clamped), moved=found.moved, parked=())), words


@dataclass(frozen=True)
class StartEmpty(Strict):
    """One setup and nothing in it but what goes with its side; all else waits to be placed by hand."""

    up: Side
    change: Literal["start-empty"] = "start-empty"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        only = new_setup("S1", self.up, plan.load_of(plan.setups[0].id), scene.part, scene.library)
        empty = replace(plan.clamped_as([only]), moved=(), parked=(), together=(), before=())
        return replace(empty, parked=_placeable(empty, scene)), f"divided by hand, from {self.up} up"


@dataclass(frozen=True)
class ParkFeatures(Strict):
    """Takes features out of their setups: they wait to be placed."""

    features: tuple[str, ...]
    change: Literal["park-features"] = "park-features"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features(self.features, scene)
        fixed = [id for id in self.features if id not in _placeable(plan, scene)]
        if fixed:
            raise PlanError(
                "stays-with-side", f"{', '.join(fixed)} goes with the side that is up, it cannot be taken out"
            )
        parked = tuple(dict.fromkeys((*plan.parked, *self.features)))
        moved = tuple(m for m in plan.moved if m.feature not in self.features)
        return replace(plan, parked=parked, moved=moved), f"{', '.join(self.features)} in no setup yet"


def _placeable(plan: Plan, scene: Scene) -> tuple[str, ...]:
    """What can be put into one setup or another: all but flat sides and the outline."""
    part = planned_part(scene.part, plan)
    out = {left.feature for left in plan.left_out}
    return tuple(
        f.id for f in part.features
        if f.id not in out and flat_side(f) is None and not is_outline(part, f, plan.outline_axis)
        and needs_machining(part, f, scene.ledger.plan)
    )  # fmt: skip


def _moved(plan: Plan, features: Sequence[str], setup: str) -> Plan:
    kept = tuple(m for m in plan.moved if m.feature not in features)
    parked = tuple(id for id in plan.parked if id not in features)
    return replace(plan, moved=kept + tuple(MovedFeature(f, setup) for f in features), parked=parked)


def _all_there(plan: Plan, scene: Scene, features: Sequence[str], setup: str) -> None:
    there = assign_features(planned_part(scene.part, plan), plan)[setup]
    missing = [f for f in features if f not in there]
    if missing:
        raise PlanError(
            "unreachable", f"{', '.join(missing)} cannot be made with {plan.setup(setup).up} up in {setup}", setup
        )


def _comes_before(pairs: Sequence[tuple[str, str]], first: str, then: str) -> bool:
    """Whether `first` is asked for before `then`, over any number of steps."""
    reached, grown = {first}, True
    while grown:
        new = {b for a, b in pairs if a in reached} - reached
        grown = bool(new)
        reached |= new
    return then in reached
