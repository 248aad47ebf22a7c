"""How the part is held, from which side, on which machine, and which features fall to which setup."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.hand import keeping_hand
from lean_ledger.core.changes.scene import Scene, Strict, check_between, known_features
from lean_ledger.core.features import Slot
from lean_ledger.core.geometry.vectors import axis_name, neg
from lean_ledger.core.holding.laying import lying, named, side_to_lie_by, turn_with
from lean_ledger.core.holding.vise import ViseHold
from lean_ledger.core.ledger.machines import moved_to, new_setup, on_machine
from lean_ledger.core.plan import DIRECTIONS, MovedFeature, Plan, Side, Zero, ZeroOf, ZeroPlace
from lean_ledger.core.setups import assign_features
from lean_ledger.library.fixtures import Vise

MOST_GRIP = 200.0
LEAST_FORCE = 0.5  # kN
MOST_SETUPS = 12


@dataclass(frozen=True)
class MoveFeature(Strict):
    features: tuple[str, ...]
    setup: str
    change: Literal["move-feature"] = "move-feature"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features(self.features, scene)
        plan.setup(self.setup)
        kept = tuple(m for m in plan.moved if m.feature not in self.features)
        parked = tuple(id for id in plan.parked if id not in self.features)
        moved = replace(plan, moved=kept + tuple(MovedFeature(f, self.setup) for f in self.features), parked=parked)
        stayed = [f for f in self.features if f not in assign_features(scene.part, moved)[self.setup]]
        if stayed:
            raise PlanError(
                "unreachable", f"{', '.join(stayed)} cannot be reached with {plan.setup(self.setup).up} up", self.setup
            )
        return moved, f"{', '.join(self.features)} to setup {self.setup}"


@dataclass(frozen=True)
class SetUp(Strict):
    setup: str
    up: Side
    change: Literal["set-up"] = "set-up"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        before = plan.setup(self.setup)
        if before.part_turns and before.up[0] != self.up[0]:
            raise PlanError("not-the-axis", f"a lathe turns the part about {before.up[0]}: one of its ends is up",
                            self.setup)  # fmt: skip
        machine = scene.library.machine(plan.load_of(self.setup).machine)
        if before.free is not None and before.free[0] == self.up[0]:
            if self.up != before.free or machine is None or machine.tilt is None:
                raise PlanError("along-the-axis", f"{self.up} lies along the axis that the part turns about; the tool "
                                f"comes from a side square to {before.free[0]}", self.setup)  # fmt: skip
        decided = replace(before, up=self.up, turn=None)
        return plan.with_setup(decided).in_the_usual_order(self.setup), f"setup {self.setup}: {self.up} up"


@dataclass(frozen=True)
class SetTurn(Strict):
    setup: str
    turn: Literal[0, 90, 180, 270] | None
    change: Literal["set-turn"] = "set-turn"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        decided = replace(plan.setup(self.setup), turn=self.turn)
        words = "turned by the rule" if self.turn is None else f"turned to {self.turn}°"
        return plan.with_setup(decided), f"setup {self.setup}: {words}"


@dataclass(frozen=True)
class LayOnFace(Strict):
    """Stock is laid into what holds it by one of the part's faces: it rests on it, or has it at the fixed jaw."""

    setup: str
    face: int
    to: Literal["rest", "jaw"]
    change: Literal["lay-on-face"] = "lay-on-face"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        before, part = plan.setup(self.setup), scene.part
        side = side_to_lie_by(part, self.face)
        name = named(part, self.face)
        if self.to == "jaw":
            turn = turn_with(before, side)
            if turn is None:
                raise PlanError(
                    "not-square", f"{name} looks to {side}, which is above or below as the part lies. Choose a face at "
                    "its side, or lay it on another one first", self.setup,
                )  # fmt: skip
            return plan.with_setup(replace(before, turn=turn)), f"setup {self.setup}: {name} at the back, {side}"
        up = axis_name(neg(DIRECTIONS[side]))
        at_back = lying(part, before, before.turn).back if before.turn is not None else None
        if before.free is not None:
            laid, _ = SetIndexed(self.setup, up).apply(plan, scene)  # type: ignore[arg-type]
        else:
            laid, _ = SetUp(self.setup, up).apply(plan, scene)  # type: ignore[arg-type]
        # what was chosen for the jaw stays there where it can
        kept = turn_with(laid.setup(self.setup), at_back) if at_back is not None else None
        laid = laid.with_setup(replace(laid.setup(self.setup), turn=kept))
        return laid, f"setup {self.setup}: rests on {name}, {up} up"


@dataclass(frozen=True)
class SetFixture(Strict):
    setup: str
    fixture: str | None
    change: Literal["set-fixture"] = "set-fixture"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        fixture = scene.library.fixture(self.fixture) if self.fixture is not None else None
        if self.fixture is not None and fixture is None:
            raise PlanError("no-such-fixture", f"there is no fixture {self.fixture!r} in the library", self.setup)
        before = plan.setup(self.setup)
        # a grip belongs to what grips
        grip = before.grip if self.fixture == before.fixture else None
        words = fixture.name if fixture is not None else "held by the rule"
        return plan.with_setup(replace(before, fixture=self.fixture, grip=grip)), f"setup {self.setup}: {words}"


@dataclass(frozen=True)
class SetHold(Strict):
    """What holds and how it is turned, in one, as it was suggested: at the usual grip and force, with no spacers."""

    setup: str
    fixture: str
    turn: Literal[0, 90, 180, 270]
    change: Literal["set-hold"] = "set-hold"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        held, words = SetFixture(self.setup, self.fixture).apply(plan, scene)
        free = replace(held.setup(self.setup), turn=self.turn, grip=None, force=None, spacers=())
        return held.with_setup(free), f"{words}, turned to {self.turn}°"


@dataclass(frozen=True)
class SetCarriers(Strict):
    """What stands between the machine's mount and the fixture, from the machine upwards."""

    setup: str
    carriers: tuple[str, ...]
    change: Literal["set-carriers"] = "set-carriers"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        names = []
        for id in self.carriers:
            carrier = scene.library.carrier(id)
            if carrier is None:
                raise PlanError("no-such-carrier", f"there is no carrier {id!r} in the library", self.setup)
            names.append(carrier.name)
        words = f"on {', '.join(names)}" if names else "straight onto the machine"
        return plan.with_load(replace(plan.load_of(self.setup), on=self.carriers)), f"setup {self.setup}: {words}"


@dataclass(frozen=True)
class SetIndexed(Strict):
    """Which end of the part stands free on the rotary axis; None for a setup that is cut from one side."""

    setup: str
    free: Side | None
    change: Literal["set-indexed"] = "set-indexed"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        before = plan.setup(self.setup)
        if self.free is None:
            decided = replace(before, free=None, fixture=None, grip=None, force=None, spacers=(), turn=None, zero=None)
            return plan.with_setup(decided).in_the_usual_order(self.setup), f"setup {self.setup}: from {before.up} only"
        id = plan.load_of(self.setup).machine
        machine = scene.library.machine(id)
        if machine is None or not machine.indexes_work:
            names = ", ".join(m.name for m in scene.library.machines if m.indexes_work)
            raise PlanError(
                "no-rotary", f"{machine.name if machine else id} does not index a part; these do: {names}",
                self.setup,
            )  # fmt: skip
        same_axis = before.up[0] == self.free[0]
        if same_axis and machine.tilt is None:
            up: Side = next(s for s in ("Z+", "Y+", "X+") if s[0] != self.free[0])
        else:
            up = self.free if same_axis else before.up
        if machine.tilt is not None and not same_axis:
            up = self.free
        decided = replace(
            before, free=self.free, up=up, fixture=None, grip=None, force=None, spacers=(), turn=None, zero=None
        )
        there = plan.apart(self.setup).with_setup(decided).in_the_usual_order(self.setup)
        return there, f"setup {self.setup}: indexed, {self.free} stands free"


@dataclass(frozen=True)
class SetGrip(Strict):
    setup: str
    grip: float | None
    change: Literal["set-grip"] = "set-grip"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if self.grip is not None:
            check_between(self.grip, 0.1, MOST_GRIP, "the grip")
        decided = replace(plan.setup(self.setup), grip=self.grip)
        words = "grip by the rule" if self.grip is None else f"grip {self.grip:g}"
        return plan.with_setup(decided), f"setup {self.setup}: {words}"


@dataclass(frozen=True)
class SetForce(Strict):
    """kN that a vise's jaws press with; None for all that it has."""

    setup: str
    force: float | None
    change: Literal["set-force"] = "set-force"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        vise = _vise_of(self.setup, plan, scene)
        if self.force is not None:
            check_between(self.force, LEAST_FORCE, vise.force_kn, f"the force of {vise.name}, kN,")
        decided = replace(plan.setup(self.setup), force=self.force)
        words = f"all {vise.force_kn:g} kN" if self.force is None else f"{self.force:g} kN"
        return plan.with_setup(decided), f"setup {self.setup}: pressed with {words}"


@dataclass(frozen=True)
class SetSpacer(Strict):
    """A spacer between the walls of a slot while a vise holds them, or none."""

    setup: str
    feature: str
    there: bool
    change: Literal["set-spacer"] = "set-spacer"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features((self.feature,), scene)
        _vise_of(self.setup, plan, scene)
        if not isinstance(scene.part.by_id[self.feature], Slot):
            raise PlanError("no-slot", f"{self.feature} is no slot: a spacer stands between two walls", self.feature)
        before = plan.setup(self.setup)
        others = tuple(id for id in before.spacers if id != self.feature)
        decided = replace(before, spacers=(*others, self.feature) if self.there else others)
        return plan.with_setup(decided), (
            f"setup {self.setup}: {'a spacer' if self.there else 'no spacer'} in {self.feature}"
        )


def _vise_of(setup: str, plan: Plan, scene: Scene) -> Vise:
    plan.setup(setup)
    hold = scene.ledger.setup(setup).built.hold
    if not isinstance(hold, ViseHold):
        raise PlanError("no-vise", f"setup {setup} is held by {hold.fixture.name}, which has no jaws to press", setup)
    return hold.vise


@dataclass(frozen=True)
class SetZero(Strict):
    setup: str
    of: ZeroOf
    place: ZeroPlace = "centre"
    level: Literal["top", "bottom"] = "top"
    bore: str = ""
    change: Literal["set-zero"] = "set-zero"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if self.of == "bore":
            known_features((self.bore,), scene)
        if self.of == "axis" and plan.setup(self.setup).free is None:
            raise PlanError("no-axis", f"setup {self.setup} is not indexed: it has no rotary axis", self.setup)
        zero = Zero(self.of, self.place, self.level, self.bore if self.of == "bore" else "")
        return plan.with_setup(replace(plan.setup(self.setup), zero=zero)), f"setup {self.setup}: zero {zero.words}"


@dataclass(frozen=True)
class ZeroByRule(Strict):
    setup: str
    change: Literal["zero-by-rule"] = "zero-by-rule"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        return plan.with_setup(replace(plan.setup(self.setup), zero=None)), f"setup {self.setup}: zero by the rule"


@dataclass(frozen=True)
class SetMachine(Strict):
    setup: str
    machine: str
    change: Literal["set-machine"] = "set-machine"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        machine = scene.library.machine(self.machine)
        if machine is None:
            raise PlanError("no-such-machine", f"there is no machine {self.machine!r} in the library", self.setup)
        moved = on_machine(plan.clamped_of(self.setup), machine, scene.part)
        every = [moved if one.setup.id == self.setup else one for one in plan.clamped]
        return plan.clamped_as(every), f"setup {self.setup}: {machine.name}"


@dataclass(frozen=True)
class MoveToMachine(Strict):
    """All setups on one machine."""

    machine: str
    change: Literal["move-to-machine"] = "move-to-machine"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        machine = scene.library.machine(self.machine)
        if machine is None:
            raise PlanError("no-such-machine", f"there is no machine {self.machine!r} in the library")
        moved = moved_to(plan, machine, scene.part, scene.library)
        return keeping_hand(plan, moved), f"all setups on {machine.name}"


@dataclass(frozen=True)
class AddSetup(Strict):
    up: Side
    change: Literal["add-setup"] = "add-setup"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if len(plan.setups) >= MOST_SETUPS:
            raise PlanError("too-many-setups", f"a plan takes at most {MOST_SETUPS} setups")
        taken = {s.id for s in plan.setups}
        id = next(f"S{i}" for i in range(1, 99) if f"S{i}" not in taken)
        added = new_setup(id, self.up, plan.load_of(plan.setups[-1].id), scene.part, scene.library)
        return plan.clamped_as([*plan.clamped, added]), f"setup {id} added, {self.up} up"


@dataclass(frozen=True)
class RemoveSetup(Strict):
    setup: str
    change: Literal["remove-setup"] = "remove-setup"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        plan.setup(self.setup)
        if len(plan.setups) == 1:
            raise PlanError("last-setup", "a plan needs at least one setup", self.setup)
        kept = [one for one in plan.clamped if one.setup.id != self.setup]
        moved = tuple(m for m in plan.moved if m.setup != self.setup)
        return replace(plan.clamped_as(kept), moved=moved), f"setup {self.setup} removed"
