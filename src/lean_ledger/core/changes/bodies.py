"""Material that the plan adds to hold the part by."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict, check_between, known_features
from lean_ledger.core.features import flat_side
from lean_ledger.core.plan import Plan, PlanningBody

LEAST, MOST, FARTHEST = 0.5, 500.0, 2000.0
SIZES = {"lug": (24.0, 12.0, 10.0), "tab": (10.0, 3.0, 6.0), "boss": (16.0, 16.0, 10.0)}


@dataclass(frozen=True)
class AddBody(Strict):
    """A lug, tab or boss in its usual size in the middle of a flat side."""

    kind: Literal["lug", "tab", "boss"]
    on: str
    change: Literal["add-body"] = "add-body"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features((self.on,), scene)
        if flat_side(scene.part.by_id[self.on]) is None:
            raise PlanError("no-flat-side", f"{self.on} is no flat side of the part; a {self.kind} stands on one")
        number = 1 + max((int(body.id[1:]) for body in plan.bodies), default=0)
        body = PlanningBody(f"B{number}", self.kind, self.on, *SIZES[self.kind])
        return replace(plan, bodies=(*plan.bodies, body)), f"{self.kind} {body.id} on {self.on}"


@dataclass(frozen=True)
class SizeBody(Strict):
    """One measure of a body: its length (a boss's diameter), width, height, or its place on the side."""

    body: str
    measure: Literal["length", "width", "height", "u", "v"]
    value: float
    change: Literal["size-body"] = "size-body"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        body = _body(plan, self.body)
        if self.measure in ("u", "v"):
            check_between(self.value, -FARTHEST, FARTHEST, f"the place of {body.id}")
        else:
            check_between(self.value, LEAST, MOST, f"the {self.measure} of {body.id}")
        changed = replace(body, **{self.measure: self.value})  # type: ignore[arg-type]
        return _with(plan, changed), f"{body.id} {self.measure} {self.value:g}"


@dataclass(frozen=True)
class RemoveBody(Strict):
    """Who takes a body off the finished part; empty for nobody yet."""

    body: str
    removal: Literal["", "by hand", "elsewhere"]
    change: Literal["remove-body"] = "remove-body"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        body = _body(plan, self.body)
        words = f"{body.id} taken off {self.removal}" if self.removal else f"{body.id} stays on"
        return _with(plan, replace(body, removal=self.removal)), words


@dataclass(frozen=True)
class DropBody(Strict):
    body: str
    change: Literal["drop-body"] = "drop-body"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        body = _body(plan, self.body)
        return replace(plan, bodies=tuple(b for b in plan.bodies if b.id != body.id)), f"no {body.kind} {body.id}"


def _body(plan: Plan, id: str) -> PlanningBody:
    found = next((body for body in plan.bodies if body.id == id), None)
    if found is None:
        raise PlanError("no-such-body", f"the plan adds no body {id}")
    return found


def _with(plan: Plan, changed: PlanningBody) -> Plan:
    return replace(plan, bodies=tuple(changed if body.id == changed.id else body for body in plan.bodies))
