"""How a setup is held, and what else could hold it, as the API shows them."""

from __future__ import annotations

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.geometry.vectors import DIRECTION_NAMES, dot
from lean_ledger.core.holding.laying import lying, named
from lean_ledger.core.holding.placement import stacks
from lean_ledger.core.holding.resolve import hold_turns
from lean_ledger.core.holding.vise import ViseHold
from lean_ledger.core.loads.grips import Grip
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.made import grips_in
from lean_ledger.core.papers.sheet import fixture_words
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.setups.zero import zero_point
from lean_ledger.library.types import Library
from lean_ledger.store import Opened
from lean_ledger.web.setups import holds_schemas as h
from lean_ledger.web.setups import schemas as su


def hold_view(opened: Opened, one: LoadLedger, index: int, library: Library) -> su.HoldView:
    built, decided = one.built, one.decision
    hold, home = built.hold, built.home.frame
    ledger = opened.ledger
    point = zero_point(ledger.zero_of(opened.part, index), ledger.zero_place(opened.part, index))
    ways = {op.way: None for op in built.operations} or {built.home: None}
    return su.HoldView(
        fixture=hold.fixture.id,
        name=hold.fixture.name,
        kind=hold.fixture.kind,
        gripped_by=hold.gripped_by,
        decided=decided.fixture,
        carriers=list(one.load.on),
        needed=", then ".join(s.carrier.name for s in built.stands.seat.carriers) if not one.load.on else "",
        stacks=[
            su.StackView(ids=[c.id for c in stack], words=", then ".join(c.name for c in stack))
            for stack in stacks(one.machine, library)
        ],
        free=decided.free,
        spins=decided.part_turns,
        horizontal=decided.is_horizontal,
        ways=[
            su.WayView(side=DIRECTION_NAMES.get(w.direction, "slanted"), angle=w.angle, tilt=w.tilt)
            for w in sorted(ways, key=lambda w: (w.tilt, w.angle))
        ],
        grip=hold.grip,
        grip_decided=decided.grip,
        grips=list(hold.grips_over),
        force=hold.force_kn if isinstance(hold, ViseHold) else 0.0,
        force_decided=decided.force,
        spacers=list(hold.spaced) if isinstance(hold, ViseHold) else [],
        turns=[su.TurnView(turn=turn, words=words) for turn, words in hold_turns(decided, hold)],
        lies=_lies(opened, one),
        top=hold.jaw_top if hold.grip else None,
        touches=hold.touches,
        words=[su.WordView(label=label, words=words) for label, words in fixture_words(one)],
        zero=hold.frame.point(home.in_part(point)),
        axes=_axes(hold.frame, home),
    )


def _lies(opened: Opened, one: LoadLedger) -> su.LiesView:
    part = opened.part
    how = lying(part, one.decision, one.built.hold.turn)

    def names(faces: tuple[int, ...]) -> str:
        return ", ".join(dict.fromkeys(named(part, face) for face in faces))

    return su.LiesView(
        base=how.base, back=how.back, base_faces=list(how.base_faces), back_faces=list(how.back_faces),
        base_named=names(how.base_faces), back_named=names(how.back_faces),
    )  # fmt: skip


def _axes(drawn: Frame, machine: Frame) -> list[str]:
    names = []
    for axis in (drawn.right, drawn.back, drawn.up):
        along = max(
            ("X", machine.right), ("Y", machine.back), ("Z", machine.up), key=lambda one: abs(dot(one[1], axis))
        )
        names.append(along[0] if dot(along[1], axis) > 0 else f"−{along[0]}")
    return names


def grips_view(opened: Opened, setup: str, library: Library) -> h.GripsView:
    one = opened.ledger.setup(setup)
    tried = grips_in(one, opened.ledger.plan, library)
    now = (one.built.hold.fixture.id, one.built.hold.turn)
    return h.GripsView(grips=[_grip(grip, now) for grip in tried])


def _grip(grip: Grip, now: tuple[str, int]) -> h.GripView:
    hold = grip.hold
    reasons = sorted(grip.findings, key=lambda f: f.severity != Severity.ERROR)
    return h.GripView(
        fixture=hold.fixture.id,
        name=hold.fixture.name,
        turn=hold.turn,
        touches=hold.touches,
        safety=round(grip.safety, 2) if grip.safety is not None else None,
        load_seconds=hold.load_seconds,
        holds=grip.holds,
        reasons=[f.title for f in reasons],
        current=(hold.fixture.id, hold.turn) == now,
    )
