"""Engraving a flat side: letters or drawn lines, where they lie and how deep."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import isfinite
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.plain_text import check_name
from lean_ledger.core.changes.scene import Scene, Strict, check_between
from lean_ledger.core.operations.milling.engraving import engravable
from lean_ledger.core.operations.milling.lettering import strokes_of
from lean_ledger.core.plan import Drawn, Engraving, Plan

MOST = 40  # engravings of a plan
MOST_LETTERS = 80
MOST_POINTS = 20_000
DEPTH = (0.02, 3.0)  # mm
HEIGHT = (0.5, 200.0)
FAR = 2000.0  # mm from the middle of a face


@dataclass(frozen=True)
class Engrave(Strict):
    """Put letters, or the lines of a drawing, on a flat side of the part."""

    face: str
    text: str = ""
    height: float = 4.0
    lines: Drawn = ()
    name: str = ""
    depth: float = 0.2
    change: Literal["engrave"] = "engrave"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if len(plan.engravings) >= MOST:
            raise PlanError("too-many-engravings", f"a plan takes at most {MOST} engravings")
        taken = {one.id for one in plan.engravings}
        id = next(f"mark-{i}" for i in range(1, MOST + 2) if f"mark-{i}" not in taken)
        text = self.text.strip().upper()
        if bool(text) == bool(self.lines):  # neither, or both
            raise PlanError("nothing-to-engrave", "say either letters or the lines of a drawing to engrave")
        check_name(self.name, "the name of a drawing")
        height = self.height if text else 0.0
        one = Engraving(id, self.face, self.depth, text, height, self.lines, self.name.strip() or "lines")
        _check(one, scene)
        return replace(plan, engravings=(*plan.engravings, one)), f"{one.words} engraved on {one.face}"


@dataclass(frozen=True)
class EditEngraving(Strict):
    """Only what is given changes."""

    engraving: str
    face: str | None = None
    text: str | None = None
    height: float | None = None
    depth: float | None = None
    x: float | None = None
    y: float | None = None
    turn: float | None = None
    change: Literal["edit-engraving"] = "edit-engraving"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        before = _engraving(plan, self.engraving)
        if (self.text is not None or self.height is not None) and not before.text:
            raise PlanError("no-letters", f"{before.words} is drawn; its letters are not to be set")
        text = before.text if self.text is None else self.text.strip().upper()
        if before.text and not text:
            raise PlanError("nothing-to-engrave", "say at least one letter, or take the engraving away")
        at = (before.at[0] if self.x is None else self.x, before.at[1] if self.y is None else self.y)
        values = {name: getattr(self, name) for name in ("face", "height", "depth", "turn")}
        given = {name: value for name, value in values.items() if value is not None}
        one = replace(before, text=text, at=at, **given)
        _check(one, scene)
        words = f"{one.words} engraved on {one.face}, {one.depth:g} deep"
        return replace(plan, engravings=tuple(one if e.id == one.id else e for e in plan.engravings)), words


@dataclass(frozen=True)
class RemoveEngraving(Strict):
    engraving: str
    change: Literal["remove-engraving"] = "remove-engraving"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        gone = _engraving(plan, self.engraving)
        edits = tuple(e for e in plan.edits if f".{gone.id}." not in e.operation)
        kept = tuple(e for e in plan.engravings if e.id != gone.id)
        return replace(plan, engravings=kept, edits=edits), f"{gone.words} not engraved"


def _engraving(plan: Plan, id: str) -> Engraving:
    found = next((e for e in plan.engravings if e.id == id), None)
    if found is None:
        raise PlanError("no-such-engraving", f"the plan has no engraving {id}")
    return found


def _check(one: Engraving, scene: Scene) -> None:
    feature = scene.part.by_id.get(one.face)
    if feature is None or engravable(feature) is None:
        raise PlanError("no-flat-side", f"{one.face} is no flat side of this part; choose one to engrave on")
    check_between(one.depth, *DEPTH, "how deep it is engraved")
    for value, name in ((one.at[0], "x"), (one.at[1], "y")):
        check_between(value, -FAR, FAR, f"{name} from the middle of the face")
    check_between(one.turn, -360.0, 360.0, "the turn of an engraving")
    if one.text:
        check_between(one.height, *HEIGHT, "the height of the letters")
        if len(one.text) > MOST_LETTERS:
            raise PlanError("too-long", f"an engraving takes at most {MOST_LETTERS} letters, these are {len(one.text)}")
        strokes_of(one.text, one.height)
        return
    count = sum(map(len, one.lines))
    if count > MOST_POINTS:
        raise PlanError("too-many-points", f"a drawing takes at most {MOST_POINTS:,} points, this one has {count:,}")
    if any(len(line) < 2 for line in one.lines):
        raise PlanError("no-line", "each line of a drawing needs two points")
    if not all(isfinite(v) and abs(v) <= FAR for line in one.lines for p in line for v in p):
        raise PlanError("too-large", f"a drawing is at most {FAR:g} mm away from its origin")
