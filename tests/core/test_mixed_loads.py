"""First and second operation in one load: what holds them in turn, what runs when, what filling and emptying cost."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.loads.runs import Selection, filling_seconds, reduced, run_of
from lean_ledger.core.loads.sequence import merged_steps
from lean_ledger.core.papers.lists import zero_rows
from lean_ledger.core.plan import Arrangement
from lean_ledger.core.plan.loads import loads_of
from lean_ledger.core.program.checked import checked_part
from lean_ledger.core.program.trial import trial_of
from tests.conftest import built, demo_part
from tests.core.loads_shop import LIB, LoadShop, met_on_the_way, standing_with

#: 60 × 40 × 20 with a blind hole from above and one from below: two setups with little in each.
PART = built(block((0, 0, 0), (60, 40, 20)) - rod((15, 20, 12), (0, 0, 1), 6, 8) - rod((45, 20, 0), (0, 0, 1), 5, 6))


class Pair(LoadShop):
    def __init__(self, along: str = "columns", **arranged: Any) -> None:
        super().__init__(PART)
        if along == "stations":
            for setup in ("S1", "S2"):
                self.change(change="set-fixture", setup=setup, fixture="vise-125-double")
        self.words_of_change = self.change(change="load-together", load="L1", setup="S2", in_turn=along)
        if arranged:
            self.arrange(**arranged)


def turns(shop: LoadShop) -> str:
    return " ".join(placed.decision.id for placed in shop.load.placed)


# ---- where they lie


def test_columns_hold_the_setups_in_turn() -> None:
    shop = Pair("columns", columns=4, rows=2)
    assert turns(shop) == "S1 S2 S1 S2 S1 S2 S1 S2"
    assert (shop.load.pieces, len(shop.load.placed)) == (4, 8)
    assert [load.load.id for load in shop.ledger.loads] == ["L1"]
    assert Pair("rows", columns=2, rows=2).load.placed[2].decision.id == "S2"
    assert met_on_the_way(shop) == []


def test_three_double_vises_make_three_whole_pieces_a_cycle() -> None:
    """The second operation lies behind the middle jaw of the first: opening, jaw, and the same again."""
    shop = Pair("stations", columns=3)
    assert turns(shop) == "S1 S2 S1 S2 S1 S2"
    assert (shop.load.pieces, shop.load.where.fixtures) == (3, 3)
    first, second = (share.built.hold for share in shop.load.shares)
    between = []
    for placed in shop.load.placed[:2]:
        held = min((s.box for s in standing_with(placed, shop.load) if s.what == "stock"), key=lambda b: b.min[2])
        between += [held.min[1] + placed.shift[1], held.max[1] + placed.shift[1]]
    jaw = first.fixture.jaw_thickness  # type: ignore[union-attr]
    assert between[2] == pytest.approx(between[1] + jaw)
    assert first.fixture == second.fixture
    assert [f.title for f in shop.ledger.findings if f.severity == "error"] == []
    assert abs(shop.program.agreement.difference) < 0.001
    assert met_on_the_way(shop) == []


def test_sides_hold_them_in_turn() -> None:
    shop = LoadShop(PART, "mill-762-rotary")
    shop.change(change="set-machine", setup="S2", machine="mill-762-rotary")
    for setup in ("S1", "S2"):
        shop.change(change="set-carriers", setup=setup, carriers=("bar-480",))
        shop.change(change="set-fixture", setup=setup, fixture="vise-60-low")
    shop.arrange(sides=(0.0, 90.0, 180.0, 270.0), columns=2)
    shop.change(change="load-together", load="L1", setup="S2", in_turn="sides")
    assert turns(shop) == "S1 S1 S2 S2 S1 S1 S2 S2"
    assert met_on_the_way(shop) == []
    assert abs(shop.program.agreement.difference) < 0.001


def test_a_gap_that_is_too_small_is_seen_between_the_setups_too() -> None:
    shop = Pair("columns", columns=2)
    assert shop.findings("neighbour-too-near") == []
    shop.arrange(gap=(("X", 3.0),))
    assert shop.findings("neighbour-too-near") or shop.findings("pieces-overlap")
    assert met_on_the_way(shop) != []


@settings(max_examples=10)
@given(st.sampled_from(["columns", "rows", "stations"]), st.integers(1, 2), st.integers(1, 2),
       st.sampled_from(["tool", "operation", "piece"]))  # fmt: skip
def test_every_piece_has_all_of_its_setup_and_a_zero_of_its_own(along: str, a: int, b: int, by: str) -> None:
    shop = Pair(along)
    shop.arrange(columns=2 * a if along == "columns" else a, rows=2 * b if along == "rows" else b)
    shop.change(change="set-piece-order", load="L1", by=by)
    load = shop.load
    for share in load.shares:
        wanted = {op.id for op in share.built.operations}
        for placed in share.placed:
            mine = [call.operation for call in load.calls if call.place == placed.place.id]
            assert {op.id for op in mine} == wanted
            done: set[str] = set()
            for op in mine:
                assert {id for id, _ in op.after} & wanted <= done
                done.add(op.id)
    zeros = offsets_of(shop.ledger, shop.part)
    assert len({o.machine for o in zeros}) == len({o.word for o in zeros}) == len(load.placed)
    # a load's seconds are those of what each setup has, and those of a cycle on the machine
    shares = sum(share.cycle for share in load.shares)
    assert shares == pytest.approx(load.cycle)
    assert sum(sum(share.seconds.values()) for share in load.shares) == pytest.approx(sum(load.seconds.values()))
    assert shop.program.run.total == pytest.approx(load.cycle, rel=1e-3)


# ---- what runs when


def test_steps_of_one_tool_are_done_together() -> None:
    """T1 T2 T3 with T2 T3 T1: four steps. T1 T2 with T2 T1: three, whichever way round."""
    shop = Pair()
    ops = {op.tool.id: op for share in shop.load.shares for op in share.built.operations}
    t1, t2, t3 = list(ops.values())[:3]
    a = [[((0,), (op,))] for op in (t1, t2, t3)]
    b = [[((1,), (op,))] for op in (t2, t3, t1)]
    tools = [step[0][1][0].tool.id for step in merged_steps(a, b)]
    assert tools == [t.tool.id for t in (t1, t2, t3, t1)]
    assert [len(step) for step in merged_steps(a, b)] == [1, 2, 2, 1]
    assert len(merged_steps(a[:2], [b[0], b[2]])) == 3
    assert merged_steps(a, []) == a


def test_two_in_one_load_share_tool_changes() -> None:
    apart = LoadShop(PART)
    together = Pair("columns")
    assert together.load.cycle < sum(load.cycle for load in apart.ledger.loads)
    assert together.load.tool_calls < sum(load.tool_calls for load in apart.ledger.loads)


def test_grouping_by_tool_takes_all_setups_of_the_load() -> None:
    shop = Pair("columns")
    shop.change(change="group-by-tool", setup="S2")
    assert {at for at, _ in shop.plan.loads[0].order} == {"1", "2"}
    assert shop.load.grouping_saves == 0
    for share in shop.load.shares:
        assert share.grouped == tuple(row.operation.id for row in share.rows)


# ---- fill, run, empty


def test_ten_pieces_three_a_cycle_take_five_loads() -> None:
    shop = Pair("stations", columns=3)
    run = run_of(shop.load, 10)
    assert run.cycles == ((("S1",), 1), (("S1", "S2"), 3), (("S2",), 1))
    assert (run.loads, run.last) == (5, 1)
    one, whole = run_of(shop.load, 1), run_of(shop.load, 3)
    assert one.cycles == whole.cycles == ((("S1",), 1), (("S2",), 1))
    only = [reduced(shop.load, Selection((id,))).cycle for id in ("S1", "S2")]
    assert run.seconds == pytest.approx(only[0] + 3 * shop.load.cycle + only[1])
    assert filling_seconds(shop.load) == pytest.approx(sum(only) - shop.load.cycle)


def test_filling_and_emptying_are_in_the_hours_of_setting_up() -> None:
    shop = Pair("columns")
    extra = filling_seconds(shop.load) / 3600
    rates, to_set = LoadShop(PART).ledger, len({tool.id for s in shop.load.shares for tool in s.built.to_set})
    assert extra > 0
    without = float(shop.load.setup_hours) - extra
    # a base, the tools that do not stand there, a second fixture and zero: 0.05 h
    assert without == pytest.approx(float(rates.loads[0].setup_hours) + 0.05, abs=2e-4 + 0.05 * to_set)
    shop.change(change="set-setup-cost", setup="S1", hours="1.5")
    assert float(shop.ledger.setup_hours) == 1.5


def test_one_setup_takes_whole_loads() -> None:
    shop = LoadShop(PART)
    shop.arrange(columns=3)
    run = run_of(shop.load, 10)
    assert (run.cycles, run.last) == (((("S1",), 4),), 1)
    assert filling_seconds(shop.load) == 0


def test_part_of_a_load_is_a_program_of_its_own() -> None:
    shop = Pair("columns", columns=4)
    whole = dict(shop.program.program.calls)
    for selection, places in (
        (Selection(("S2",)), {"2", "4"}), (Selection(pieces=("1",)), {"1"}), (Selection(("S1",), ("3", "4")), {"3"}),
    ):  # fmt: skip
        (one,) = checked_part(shop.ledger, PART, "T-1", "L1", selection)
        assert {call.place for call in one.setup.calls} == places
        assert abs(one.agreement.difference) < 1e-3
        assert one.troubles == ()
        # it calls what the whole one calls, under the same numbers, from a main program of its own
        assert {(n, id) for n, id in one.program.calls} <= set(whole.items())
        assert one.program.numbers.main == 901 != shop.program.program.numbers.main
    with pytest.raises(PlanError, match="nothing to run"):
        checked_part(shop.ledger, PART, "T-1", "L1", Selection(("S1",), ("2",)))


def test_proving_out_skips_what_is_marked() -> None:
    shop = Pair("columns", columns=4)
    shop.change(change="skip-pieces", load="L1", pieces=("2", "3", "4"))
    assert abs(shop.program.agreement.difference) < 0.001
    assert any(line.startswith("/") for line in shop.program.program.text.splitlines())


# ---- together and apart


def test_taken_apart_each_keeps_its_pieces_and_its_order() -> None:
    shop = Pair("stations", columns=3)
    shop.change(change="group-by-tool", setup="S1")
    orders = [shop.plan.loads[0].ordered_at(place) for place in ("1", "2")]
    shop.change(change="load-apart", load="L1")
    assert [(load.id, load.setups, load.arrangement.count) for load in shop.plan.loads] == [
        ("L1", ("S1",), 3), ("L2", ("S2",), 3),
    ]  # fmt: skip
    assert [load.ordered_at("1") for load in shop.plan.loads] == orders
    shop.change(change="load-together", load="L2", setup="S1", in_turn="rows")
    assert [(load.id, load.setups) for load in shop.plan.loads] == [("L1", ("S1", "S2"))]
    assert shop.plan.loads[0].arrangement.columns == 3


def test_another_machine_or_side_takes_a_setup_out_of_its_load() -> None:
    shop = Pair("columns")
    shop.change(change="set-machine", setup="S2", machine="mill-500")
    assert [(load.id, load.machine) for load in shop.plan.loads] == [("L1", "mill-762"), ("L2", "mill-500")]
    shop = Pair("columns")
    shop.change(change="move-to-machine", machine="mill-500")
    assert [load.setups for load in shop.plan.loads] == [("S1", "S2")]
    shop.change(change="remove-setup", setup="S1")
    assert [(load.id, load.setups) for load in shop.plan.loads] == [("L2", ("S2",))]


def test_loads_that_differ_are_taken_apart() -> None:
    shop = Pair("columns", columns=4)
    first, second = shop.plan.clamped
    assert loads_of([first, second]) == shop.plan.loads
    other = replace(second, load=replace(second.load, machine="mill-500"))
    one, two = loads_of([first, other])
    assert (one.id, one.arrangement, two.id, two.machine) == ("L1", Arrangement(columns=2), "L2", "mill-500")


@pytest.mark.parametrize(
    ("values", "words"),
    [
        ({"change": "load-together", "load": "L1", "setup": "S2", "in_turn": "stations"}, "2 stations"),
        ({"change": "load-together", "load": "L1", "setup": "S2", "in_turn": "sides"}, "no sides"),
        ({"change": "load-together", "load": "L1", "setup": "S1"}, "already"),
        ({"change": "load-apart", "load": "L1"}, "one setup"),
    ],
)
def test_what_cannot_lie_together_is_refused(values: dict[str, Any], words: str) -> None:
    with pytest.raises(PlanError, match=words):
        LoadShop(PART).change(**values)


def test_setup_on_another_machine_is_moved_first() -> None:
    shop = LoadShop(PART)
    shop.change(change="set-machine", setup="S2", machine="mill-500")
    with pytest.raises(PlanError, match="move it there first"):
        shop.change(change="load-together", load="L1", setup="S2")


def test_columns_that_do_not_come_out_even_are_refused_with_what_would() -> None:
    shop = Pair("columns", columns=2)
    with pytest.raises(PlanError, match="a multiple of 2"):
        shop.arrange(columns=3)


def test_fixture_without_stations_is_said_and_cured() -> None:
    shop = Pair("stations", columns=2)
    shop.change(change="set-fixture", setup="S2", fixture="vise-100")
    (found,) = shop.findings("not-as-arranged")
    shop.change(**found.cures[0].change)
    assert not shop.findings("not-as-arranged")
    assert sorted(p.decision.id for p in shop.load.placed) == ["S1", "S1", "S2", "S2"]


# ---- what is told


def test_zeros_are_listed_in_the_walk_with_their_setups() -> None:
    shop = Pair("columns", columns=4)
    rows = zero_rows(shop.ledger, PART)
    assert [(row[0], row[1], row[3]) for row in rows] == [
        ("S1", "1", "G54"), ("S2", "2", "G55"), ("S1", "3", "G56"), ("S2", "4", "G57"),
    ]  # fmt: skip


def test_price_counts_finished_pieces() -> None:
    shop = Pair("columns", columns=4)
    (row,) = shop.ledger.problem.setups
    assert (row.name, row.pieces_per_cycle) == ("S1 + S2", 2)
    assert float(row.cycle_seconds) == pytest.approx(shop.load.cycle, abs=1e-3)
    # four fixtures to load, each as long as alone
    assert float(row.load_seconds) == pytest.approx(sum(p.built.hold.load_seconds for p in shop.load.placed))


def test_feet_of_the_demo_are_three_a_cycle_to_the_millimetre() -> None:
    """Three double vises 130 apart about X 381, their second pieces one opening and one jaw behind the first."""
    shop = LoadShop(demo_part("sensor-foot"))
    for setup in ("S1", "S2"):
        shop.change(change="set-fixture", setup=setup, fixture="vise-125-double")
    shop.change(change="load-together", load="L1", setup="S2", in_turn="stations")
    shop.arrange(columns=3)
    zeros = offsets_of(shop.ledger, shop.part)
    assert [o.word for o in zeros] == ["G54", "G55", "G56", "G57", "G58", "G59"]
    assert [o.setup for o in zeros] == ["S1", "S2"] * 3
    first, second = ([o.machine for o in zeros if o.setup == setup] for setup in ("S1", "S2"))
    # the first from the middle of its stock, over the mount at X 381; the second from a corner, 35 to the left
    assert [x for x, _, _ in first] == [251, 381, 511]
    assert [x for x, _, _ in second] == [251 - 35, 381 - 35, 511 - 35]
    assert {y for _, y, _ in first} == {first[0][1]}
    assert {y for _, y, _ in second} == {second[0][1]}
    a, b = (share.built.hold for share in shop.load.shares)
    jaw = a.fixture.jaw_thickness  # type: ignore[union-attr]
    middles = (a.opening + b.opening) / 2 + jaw  # type: ignore[attr-defined]
    assert second[0][1] + 22 - first[0][1] == pytest.approx(middles)


@pytest.mark.parametrize("policy", ["piece", "load"])
def test_own_program_is_tried_at_one_piece_of_its_setup(policy: str) -> None:
    """Other pieces and the other setup are none of its stock's, whether they share a zero or not."""
    shop = Pair("columns", columns=4)
    shop.change(change="set-offsets", load="L1", policy=policy)
    own = shop.program.program
    for share in shop.load.shares:
        trial = trial_of(shop.part, shop.ledger, LIB, share.words, own.text, own)
        assert {use.number for use in trial.uses} == {op.tool.number for op in share.built.operations}
        piece = share.placed[0].place.id
        (alone,) = checked_part(shop.ledger, shop.part, "T-1", "L1", Selection((share.words,), (piece,)))
        cutting = sum(step.seconds for step in alone.run.steps if step.kind == "cut")
        tried = sum(use.seconds for use in trial.uses)
        assert cutting - 1e-6 <= tried <= alone.run.total + 1e-6
