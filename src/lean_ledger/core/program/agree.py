"""A setup's program on the simulated machine beside the ledger: the same motion, so the same seconds."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from lean_ledger.core.control.run import run_program
from lean_ledger.core.control.setting import ABOUT, CounterCodes, Setting
from lean_ledger.core.control.steps import CATEGORY, Angles, Run, StepKind
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.travel import reach_along
from lean_ledger.core.program.asked import SetupProgram
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.library.dialects import Dialect
from lean_ledger.library.machines import Machine


@dataclass(frozen=True)
class Agreement:
    """Seconds by category, of the ledger's own motion and of the machine; handling is no machine's."""

    setup: str
    ledger: Mapping[str, float]
    machine: Mapping[str, float]

    @property
    def difference(self) -> float:
        """Share of the ledger's cycle by which the machine takes longer."""
        mine = sum(self.ledger.values())
        return sum(self.machine.values()) / mine - 1 if mine else 0.0


def setting_of(program: SetupProgram, setup: LoadLedger) -> Setting:
    """The control as the setter leaves it: offsets, tool lengths, and the machine where each cycle begins."""
    lengths = {e.operation.tool.number: e.operation.tool.gauge for e in setup.calls}
    offsets: dict[str, Vec] = {o.word: o.at for o in program.offsets}
    first, stands = setup.calls[0].operation, setup.built.stands
    codes = (program.dialect.probe, program.dialect.thread, program.dialect.local)
    more_g = frozenset(float(code) for code in codes if code)
    if setup.machine.turns_work:
        stands = setup.placed_at(setup.calls[0].place).stands
        x, y, z = stands.on_lathe(first.frame, stands.lathe_clear(first.frame))
        return Setting(
            offsets, {}, (x, y, stands.machine_z(z)), _angles(setup), in_front=in_front_of(setup), more_g=more_g,
            wait=program.dialect.wait if program.carriage else 0, counter=counter_codes(program.dialect),
            timed=_timed(program.dialect, setup.machine), brings=setup.machine.rotary is not None,
        )  # fmt: skip
    start = (stands.seat.at[0], stands.seat.at[1], setup.machine.travel[2][1])
    clamp, unclamp = (float(code[1:]) if code else None for code in (program.dialect.clamp, program.dialect.unclamp))
    return Setting(offsets, lengths, start, _angles(setup), clamp, unclamp, more_g=more_g)


def counter_codes(dialect: Dialect) -> CounterCodes | None:
    """What a control says to a counter spindle; None for one that has none."""
    if not dialect.spindles:
        return None
    main, counter = (float(code[1:]) for code in dialect.spindles)
    others = (dialect.drive, dialect.eject, dialect.synchronise, dialect.close, dialect.loosen, dialect.grip)
    return CounterCodes((main, counter), *(float(code[1:] or 0) for code in others))


def _timed(dialect: Dialect, machine: Machine) -> dict[float, tuple[StepKind, float]]:
    if machine.drum is None:
        return {}
    return {float(dialect.index[1:]): (StepKind.INDEX, machine.drum.index),
            float(dialect.feed[1:]): (StepKind.PICK_OFF, machine.drum.feed)}  # fmt: skip


def in_front_of(setup: LoadLedger) -> dict[int, float]:
    """By station of a turret: how far the tool stands out towards the work, which the travel has to go less."""
    numbers = tool_numbers(setup)
    calls = [(c.operation, setup.placed_at(c.place).stands) for c in setup.calls]
    return {numbers[op.tool.id]: reach_along(op.tool, across=stands.is_across(op.frame)) for op, stands in calls}


def _angles(setup: LoadLedger) -> Angles:
    way, stands = setup.calls[0].operation.way, setup.placed_at(setup.calls[0].place).stands
    angles = dict.fromkeys("ABC", 0.0)
    indexed = setup.decision.free is not None or bool(setup.where.load.arrangement.sides)
    for axis, value in ((setup.machine.rotary, way.angle + stands.angle), (setup.machine.tilt, way.tilt)):
        if axis is not None and (indexed or setup.machine.turns_work):
            angles[ABOUT[axis.about]] = value
    return (angles["A"], angles["B"], angles["C"])


def run_of(program: SetupProgram, setup: LoadLedger) -> Run:
    return run_program(program.text, setup.machine, setting_of(program, setup))


def agreement(run: Run, setup: LoadLedger) -> Agreement:
    own = setup.own_seconds
    ledger = {name: own[name] for name in CATEGORY.values()}
    machine = {name: run.seconds(kind) for kind, name in CATEGORY.items()}
    return Agreement(setup.decision.id, ledger, machine)
