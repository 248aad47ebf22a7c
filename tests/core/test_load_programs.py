"""Programs of loads: run whole, with skipped blocks, on the sides of a rotary, and judged by the machine's own run."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.control.run import run_program
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.program.write import programs_of
from lean_ledger.library import shipped_library
from lean_ledger.library.types import Library
from tests.conftest import demo_part, quick
from tests.core.loads_shop import PART, Shop, met_on_the_way

LIB = shipped_library()


# ---- programs


@pytest.mark.parametrize("policy", ["piece", "group", "load"])
def test_program_runs_the_whole_load_as_the_ledger_says(policy: str) -> None:
    shop = Shop()
    shop.arrange(columns=2, rows=2)
    shop.change(change="set-offsets", load="L1", policy=policy)
    one = shop.program
    assert abs(one.agreement.difference) < 0.01
    assert one.troubles == ()
    assert one.program.text.count("M98 ") == 4 * len(shop.load.rows), "a subprogram, called once for each piece"
    assert len(set(shop.words)) == {"piece": 4, "group": 2, "load": 1}[policy]
    assert ("G52 X" in one.program.text) == (policy != "piece")
    # every piece is cut where it stands: its tools come as far out of its zero as those of the first
    ends = {placed.place.id: placed.stands.seat.at for placed in shop.load.placed}
    cuts = [step for step in one.run.steps if step.kind == "cut"]
    xs = sorted(end[0] for end in ends.values())
    assert max(s.end[0] for s in cuts) - min(s.end[0] for s in cuts) > xs[-1] - xs[0]


def test_skipped_pieces_are_left_out_where_the_control_is_told_to() -> None:
    shop = Shop()
    shop.arrange(columns=3)
    shop.change(change="skip-pieces", load="L1", pieces=("2", "3"))
    program, checked = programs_of(shop.ledger, shop.part, "T-1")[0], shop.program
    proving = run_program(program.text, shop.load.machine, replace(checked.setting, skips=True))
    alone = Shop().program.run
    cutting = [sum(s.seconds for s in run.steps if s.kind == "cut") for run in (checked.run, proving, alone)]
    assert cutting[0] == pytest.approx(3 * cutting[2], rel=1e-3)
    assert cutting[1] == pytest.approx(cutting[2], rel=1e-3)
    # the rest is the way from piece 1 to piece 1
    assert proving.total == pytest.approx(alone.total, rel=0.02)
    assert abs(checked.agreement.difference) < 0.01


def test_first_piece_can_be_skipped_too_and_the_next_has_its_tool_s_length() -> None:
    shop = Shop()
    shop.arrange(columns=2)
    shop.change(change="skip-pieces", load="L1", pieces=("1",))
    checked = shop.program
    proving = run_program(checked.program.text, shop.load.machine, replace(checked.setting, skips=True))
    lowest = {s.length is not None for s in proving.steps if s.kind == "cut"}
    assert lowest == {True}
    deepest = [min(s.end[2] for s in run.steps if s.kind == "cut") for run in (checked.run, proving)]
    assert deepest[0] == pytest.approx(deepest[1])


# ---- a rotary's sides


def test_sides_of_a_rotary_are_turned_to_with_room_and_agree_with_the_machine() -> None:
    shop = Shop(machine="mill-762-rotary")
    shop.arrange(sides=(0, 90, 180, 270))
    load = shop.load
    assert load.pieces == 4
    assert load.load.on == ("bridge-rotary",), "something with sides is put there"
    assert [f for f in shop.ledger.findings if f.severity == "error"] == []
    offsets = [o for o in offsets_of(shop.ledger, shop.part) if o.setup == "S1"]
    assert [(o.word, o.angle) for o in offsets] == [("G54", 0), ("G55", 90), ("G56", 180), ("G57", 270)]
    assert len({o.machine for o in offsets}) == 1, "each as it is with its side up"
    turns = [call.transition.turned for call in load.calls]
    assert sum(turns) == 90 * 3 * load.tool_calls, "there and back, tool by tool"
    assert abs(shop.program.agreement.difference) < 0.01
    highest = max(s.box.max[2] for s in load.where.solids)
    # the corner of what stands up passes highest as it comes round
    assert load.where.free_above > highest


def test_side_that_there_is_not_and_a_machine_without_any() -> None:
    shop = Shop(machine="mill-762-rotary")
    shop.arrange(sides=(0, 45))
    assert "45°" in shop.findings("no-such-side")[0].title
    shop.cure("no-such-side")
    assert shop.load.load.arrangement.sides == (0, 90, 180, 270)
    with pytest.raises(PlanError, match="no rotary"):
        Shop().arrange(sides=(0, 90))


def test_row_that_is_longer_than_its_tombstone_is_found() -> None:
    shop = Shop(machine="mill-762-rotary")
    shop.arrange(sides=(0, 180), columns=4)
    assert "too short" in shop.findings("past-carrier")[0].title
    shop.arrange(columns=1)
    assert not shop.findings("past-carrier")


# ---- judged by the simulated machine: what its tools go through, beside what stands with the other pieces


@pytest.mark.parametrize(
    "values",
    [{"columns": 3, "rows": 2}, {"columns": 1, "rows": 3}, {"columns": 2, "stations": 2}],
)
def test_no_tool_comes_into_what_stands_with_other_pieces(values: dict[str, Any]) -> None:
    shop = Shop()
    if "stations" in values:
        shop.change(change="set-fixture", setup="S1", fixture="vise-125-double")
    shop.arrange(**values)
    assert met_on_the_way(shop) == []
    shop.arrange(gap=(("X", 4.0), ("Y", 4.0)))
    assert met_on_the_way(shop), "the judge sees what is too near"


def test_no_tool_comes_into_neighbours_on_the_sides_of_a_tombstone() -> None:
    shop = Shop(demo_part("cable-saddle"), "mill-762-rotary")
    shop.change(change="set-carriers", setup="S1", carriers=("bar-480",))
    shop.change(change="set-fixture", setup="S1", fixture="vise-60-low")
    shop.arrange(columns=4, sides=(0, 90, 180, 270))
    assert shop.load.pieces == 16
    assert met_on_the_way(shop) == []


# ---- what turns has to go clear


def test_load_that_swings_too_far_or_cannot_be_left_is_found() -> None:
    low = replace(
        LIB, machines=tuple(
            replace(m, mounts=tuple(replace(t, at=(t.at[0], t.at[1], 120.0)) if t.name == "rotary face" else t
                                    for t in m.mounts))
            for m in LIB.machines)
    )  # fmt: skip
    assert "axis is 120 high" in next(f.title for f in _on_sides(low) if f.code == "swing")
    assert not [f for f in _on_sides(LIB) if f.code in ("swing", "no-retract")]
    flat = replace(
        LIB, machines=tuple(
            replace(m, carriages=tuple(replace(c, travel=(*c.travel[:2], (0.0, 380.0))) for c in m.carriages))
            for m in LIB.machines)
    )  # fmt: skip
    assert [f for f in _on_sides(flat) if f.code == "no-retract"]


def _on_sides(library: Library) -> list[Finding]:
    plan = quick(PART)
    for values in (
        {"change": "set-machine", "setup": "S1", "machine": "mill-762-rotary"},
        {"change": "set-arrangement", "load": "L1", "sides": (0, 180)},
    ):
        plan, _ = read_change(values).apply(plan, Scene(PART, library, evaluate(plan, PART, library)))
    return list(evaluate(plan, PART, library).findings)
