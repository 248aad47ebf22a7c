"""Driven tools on either side of one spindle: the angle that each finds the work at, opposite holes drilled at once."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from random import Random

import pytest

from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.control.run import run_program
from lean_ledger.core.control.together import run_together
from lean_ledger.core.geometry.solids import revolved, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to
from lean_ledger.core.loads.balanced import Finder
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.speeds import shared_speed, stands_at
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, StockChoice
from lean_ledger.core.program.agree import setting_of
from lean_ledger.core.program.checked import checked_programs
from tests.conftest import built, quick
from tests.core.loads_shop import LIB

#: Ø50 × 60 with Ø6 holes towards +X and −X, 42 up, and one of Ø5 towards +Y.
BODY = (
    revolved([(0, 0), (25, 0), (25, 60), (0, 60)])
    - rod((12, 0, 42), (1, 0, 0), 6, 14)
    - rod((-12, 0, 42), (-1, 0, 0), 6, 14)
    - rod((0, 14, 50), (0, 1, 0), 5, 12)
)
RIGHT, LEFT, BACK = "S1.H2", "S1.H3", "S1.H1"


@cache
def part() -> Part:
    return built(BODY)


@cache
def plan(machine: str = "lathe-both") -> Plan:
    found = next(m for m in LIB.machines if m.id == machine)
    stock = StockChoice("round bar", sizing="next size up", along="Z")
    return moved_to(replace(quick(part()), stock=stock), found, part(), LIB)


def on_second(*operations: str) -> Plan:
    now = plan()
    for id in operations:
        change = {"change": "set-carriage", "load": "L1", "operation": id, "carriage": "turret 2"}
        now = read_change(change).apply(now, Scene(part(), LIB, evaluate(now, part(), LIB)))[0]
    return now


def load(now: Plan) -> LoadLedger:
    return evaluate(now, part(), LIB).loads[0]


def beats(one: LoadLedger) -> dict[str, tuple[float, float]]:
    return {c.operation.id: (b.go, b.end) for lane in one.timeline.lanes
            for c, b in zip(lane.calls, lane.beats, strict=True)}  # fmt: skip


def texts(now: Plan) -> list[str]:
    made = evaluate(now, part(), LIB)
    return [c.program.text for c in checked_programs(made, part(), "T-1") if c.program.setup == "S1"]


@pytest.mark.parametrize("machine", ["lathe-driven", "lathe-both"])
def test_spindle_that_turned_is_brought_to_its_angle_even_where_that_is_nought(machine: str) -> None:
    """The first hole stands at 0°, after turning: 0.3 to unclamp and 0.3 to clamp, and C0 in the program."""
    calls = load(plan(machine)).calls
    first = next(c for c in calls if c.operation.id == f"{RIGHT}.spot")
    rotary = load(plan(machine)).machine.rotary
    assert rotary is not None
    assert first.operation.way.angle == 0
    before = calls[calls.index(first) - 1]
    assert before.operation.motion.turned
    assert first.transition.index == pytest.approx(rotary.unclamp + rotary.clamp)
    made = evaluate(plan(machine), part(), LIB)
    (one,) = [c for c in checked_programs(made, part(), "T-1") if c.program.setup == "S1"]
    lines = one.program.text.split("\n")
    spot = next(k for k, line in enumerate(lines) if "SPOT DRILL" in line)
    assert any(line.endswith("C0.") for line in lines[spot : spot + 5])
    assert one.agreement.machine["index"] == pytest.approx(one.agreement.ledger["index"])
    assert one.troubles == ()


def test_for_the_turret_on_the_other_side_the_work_turns_half_round() -> None:
    """What turret 1 drills at 180° is at 0° before turret 2."""
    first = {c.operation.id: c.operation.way.angle for c in load(plan()).calls}
    second = {c.operation.id: c.operation.way.angle for c in load(on_second(f"{LEFT}.drill", f"{BACK}.drill")).calls}
    assert (first[f"{LEFT}.drill"], second[f"{LEFT}.drill"]) == (180, 0)
    assert (first[f"{BACK}.drill"], second[f"{BACK}.drill"]) == (90, 270)
    assert "C270." in texts(on_second(f"{BACK}.drill"))[1]
    # what turns the work knows no angle
    turned = {c.operation.id: c.operation.way.angle for c in load(on_second("S1.outside.finish-turn")).calls}
    assert turned["S1.outside.finish-turn"] == 0


def test_opposite_holes_are_drilled_together() -> None:
    now = on_second(f"{LEFT}.spot", f"{LEFT}.drill", f"{LEFT}.counterbore-1")
    one, alone = load(now), load(plan())
    at = beats(one)
    right, left = at[f"{RIGHT}.drill"], at[f"{LEFT}.drill"]
    assert max(right[0], left[0]) < min(right[1], left[1]) - 2
    assert one.timeline.makespan < alone.timeline.makespan - 5
    calls = {c.operation.id: c for c in one.calls}
    for id in (f"{RIGHT}.drill", f"{LEFT}.drill"):
        stands = one.placed_at(calls[id].place).stands
        assert stands_at(calls[id].operation, stands) == shared_speed(calls[id].operation, stands) == "stands at 0"
    made = evaluate(now, part(), LIB)
    programs = [c for c in checked_programs(made, part(), "T-1") if c.program.setup == "S1"]
    for each in programs:
        assert each.troubles == ()
        assert abs(each.agreement.difference) < 0.005
    assert max(c.run.total for c in programs) == pytest.approx(one.cycle, rel=5e-3)
    gains = {g.operations for g in Finder(alone).gains()}
    assert any(id.startswith(LEFT) or id.startswith(RIGHT) for ids in gains for id in ids)


def test_what_asks_for_another_angle_is_never_beside() -> None:
    one = load(on_second(f"{BACK}.spot", f"{BACK}.drill", f"{BACK}.counterbore-1"))
    at = beats(one)
    for back in (id for id in at if id.startswith(BACK)):
        for other in (id for id in at if id.startswith((RIGHT, LEFT)) or "turn" in id):
            assert at[back][0] >= at[other][1] - 1e-6 or at[other][0] >= at[back][1] - 1e-6


@pytest.mark.parametrize("seed", range(5))
def test_machine_runs_both_programs_as_the_ledger_says_however_holes_are_shared_out(seed: int) -> None:
    random = Random(seed)
    ids = [c.operation.id for c in load(plan()).calls]
    now = on_second(*(id for id in ids if random.random() < 0.5))
    made = evaluate(now, part(), LIB)
    for one in (c for c in checked_programs(made, part(), "T-1") if c.program.setup == "S1"):
        assert abs(one.agreement.difference) < 0.005
        assert one.troubles == ()
    one = made.loads[0]
    at = beats(one)
    stands = {c.operation.id: stands_at(c.operation, one.placed_at(c.place).stands) for c in one.calls}
    for a in at:
        for b in at:
            meet = at[a][0] < at[b][1] - 1e-6 and at[b][0] < at[a][1] - 1e-6
            if a != b and meet and (stands[a] or stands[b]):
                assert stands[a] == stands[b]


def test_machine_tells_where_one_path_turns_the_work_under_the_other_s_drill() -> None:
    now = on_second(f"{LEFT}.spot", f"{LEFT}.drill", f"{LEFT}.counterbore-1")
    made = evaluate(now, part(), LIB)
    programs = [c for c in checked_programs(made, part(), "T-1") if c.program.setup == "S1"]
    runs = []
    for k, one in enumerate(programs):
        setup = made.loads[0]
        text = one.program.text
        if k == 1:  # the second path's drill goes to another angle than it should
            head, tail = text.split("DRILL 6", 1)
            text = head + "DRILL 6" + tail.replace("C0.", "C90.", 1)
        lane = setup.machine.on(one.program.carriage)
        runs.append(run_program(text, lane, setting_of(one.program, setup)))
    together = run_together(runs, [s.spindle.start for s in made.loads[0].machine.work_spindles])
    titles = [t.title for own in together.troubles for t in own]
    assert any("while path" in title and "°, standing" in title for title in titles)
