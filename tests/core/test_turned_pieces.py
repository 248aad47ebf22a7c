"""Pieces that are turned one by one: judged by what the machine does, turned by hand, and by what stands there."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from math import cos, radians, sin

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray
from pydantic import TypeAdapter

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.loads.turned import TURNS, turned, turned_motion
from lean_ledger.core.operations.model import HoleCycle, Motion
from lean_ledger.core.papers.lists import ZERO_HEAD, zero_rows
from lean_ledger.core.papers.load_drawing import load_drawing, sheet_pieces
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.core.plan import Arrangement, Plan
from lean_ledger.core.program.proof import course_of_programs
from lean_ledger.core.revised.subprograms import subprograms
from lean_ledger.core.timing.motion import feed, rapid
from tests.core.loads_shop import Shop, met_on_the_way, standing_with
from tests.core.test_bars import RING
from tests.core.test_poses import zeros_are_where_the_control_finds_them

Points = NDArray[np.float64]
FOUR = (("2", 90), ("3", 180), ("4", 270))


def four(**values: object) -> Shop:
    shop = Shop()
    shop.arrange(columns=2, rows=2, turned=FOUR, **values)
    return shop


def cuts_at(shop: Shop) -> dict[str, Points]:
    """By piece: where the machine cuts, its tips in the machine's coordinates, in the order of the operations."""
    checked, load = shop.program, shop.load
    main, found = checked.program.numbers.main, dict[str, dict[str, list[tuple[float, float, float]]]]()
    for step in checked.run.steps:
        if step.kind == "cut" and step.sub not in (0, main):
            call = load.calls[step.entered - 1]
            x, y, z = step.end
            length = checked.setting.lengths[step.length] if step.length is not None else 0.0
            found.setdefault(call.place, {}).setdefault(call.operation.id, []).append((x, y, z - length))
    return {place: np.array([p for id in sorted(own) for p in own[id]]) for place, own in found.items()}


def turned_by_hand(points: Points, degrees: int, about: tuple[float, ...], to: tuple[float, ...]) -> Points:
    c, s = cos(radians(degrees)), sin(radians(degrees))
    off = points - np.array(about)
    return np.stack([c * off[:, 0] - s * off[:, 1], s * off[:, 0] + c * off[:, 1], off[:, 2]], axis=1) + np.array(to)


def cut_as_the_first_is(shop: Shop) -> None:
    """Each piece's cuts are those of one that stands alone, turned about the middle of what holds it."""
    alone = Shop()
    (one,) = cuts_at(alone).values()
    about = alone.load.placed[0].stands.seat.at
    there = cuts_at(shop)
    assert len(there) == len(shop.load.placed)
    for placed in shop.load.placed:
        wanted = turned_by_hand(one, placed.turn, about, placed.stands.seat.at)
        assert there[placed.place.id] == pytest.approx(wanted, abs=2e-3)


@pytest.mark.parametrize("policy", ["piece", "group", "load"])
def test_each_piece_is_cut_as_it_is_turned(policy: str) -> None:
    shop = four()
    shop.change(change="set-offsets", load="L1", policy=policy)
    cut_as_the_first_is(shop)
    one = shop.program
    assert abs(one.agreement.difference) < 0.001
    assert one.troubles == ()
    rows = len(shop.load.rows)
    assert one.program.text.count("M98 ") == 4 * rows
    assert len(one.program.calls) == 4 * rows, "a subprogram for each way that the pieces stand"
    assert len({number for number, _ in one.program.calls}) == 4 * rows
    assert one.program.text.count("PIECE TURNED 90") == rows


def test_pieces_turned_alike_share_their_subprograms() -> None:
    shop = Shop()
    shop.arrange(columns=3, turned=(("1", 180), ("3", 180)))
    cut_as_the_first_is(shop)
    assert len(shop.program.program.calls) == 2 * len(shop.load.rows)
    checked = [c.program for c in shop.programs]
    assert {one.stays for one in subprograms(checked, checked)} == {"same"}


def test_half_turn_takes_the_same_seconds_and_a_quarter_those_of_the_other_axis() -> None:
    """Turned by a quarter, a rapid of 400 along X is one along Y: where Y is half as quick it is longer."""
    shop, straight = Shop(), Shop()
    straight.arrange(columns=2)
    shop.arrange(columns=2, turned=(("2", 180),))
    assert shop.load.seconds["cutting"] == pytest.approx(straight.load.seconds["cutting"])
    assert sum(row.total for row in shop.load.rows) * 2 + shop.load.return_rapid == pytest.approx(shop.load.cycle)
    shop.arrange(turned=(("1", 90), ("2", 90)))
    assert sum(row.total for row in shop.load.rows) * 2 + shop.load.return_rapid == pytest.approx(shop.load.cycle)
    assert abs(shop.program.agreement.difference) < 0.001
    machine = shop.load.machine
    slow = replace(machine, carriages=(replace(machine.carriages[0], rapid=(20000.0, 10000.0, 20000.0)),))
    op = replace(shop.load.built.operations[0], motion=Motion((rapid((0, 0, 50), (400, 0, 50)),)))
    # 400 at 20 m/min are 1.2 s, at 10 m/min 2.4 s; getting up to speed comes to v / a: less at 10 by (333 − 167) / a
    up_x, up_y = 20000 / 60 / machine.acceleration[0], 10000 / 60 / machine.acceleration[1]
    assert turned(op, 90, slow).time.rapid == pytest.approx(2.4 + up_y)
    assert turned(turned(op, 90, slow), 270, slow).time.rapid == pytest.approx(1.2 + up_x)
    assert turned(op, 180, slow).time == op.time


def test_vise_of_one_piece_is_turned_by_itself() -> None:
    shop = Shop()
    words = shop.arrange(turned=(("1", 90),))
    assert words == "load L1: piece 1 turned by 90°"
    cut_as_the_first_is(shop)
    zeros_are_where_the_control_finds_them(shop)
    assert not [f for f in shop.ledger.findings if f.severity == "error"]
    assert shop.arrange(turned=(("1", 0),)) == "load L1: piece 1 as the others"
    assert shop.load.load.arrangement == Arrangement()


def test_turned_pieces_stand_where_their_zeros_are_and_go_clear_of_one_another() -> None:
    shop = four()
    zeros_are_where_the_control_finds_them(shop)
    assert not [f for f in shop.ledger.findings if f.severity == "error"]
    assert not met_on_the_way(shop)
    offsets = [o for o in offsets_of(shop.ledger, shop.part) if o.setup == "S1"]
    assert len({o.machine for o in offsets}) == len({o.word for o in offsets}) == 4


def test_turned_sides_of_a_tombstone_are_made_as_they_stand() -> None:
    shop = Shop(machine="mill-762-rotary")
    shop.change(change="set-carriers", setup="S1", carriers=("bar-480",))
    shop.change(change="set-fixture", setup="S1", fixture="vise-60-low")
    shop.arrange(sides=(0.0, 90.0), turned=(("2", 180),))
    zeros_are_where_the_control_finds_them(shop)
    assert abs(shop.program.agreement.difference) < 0.01
    assert shop.program.troubles == ()
    assert not met_on_the_way(shop)


def test_pieces_of_both_setups_in_one_load_are_turned() -> None:
    shop = Shop()
    shop.change(change="load-together", load="L1", setup="S2", in_turn="columns")
    shop.arrange(columns=4, turned=(("1", 180), ("4", 90)))
    assert [(one.decision.id, one.turn) for one in shop.load.placed] == [("S1", 180), ("S2", 0), ("S1", 0), ("S2", 90)]
    zeros_are_where_the_control_finds_them(shop)
    assert abs(shop.program.agreement.difference) < 0.001
    assert shop.program.troubles == ()
    assert not shop.findings("pieces-overlap")
    assert not shop.findings("neighbour-too-near")


@settings(max_examples=8)
@given(st.integers(1, 3), st.integers(1, 2), st.lists(st.sampled_from(TURNS), min_size=6, max_size=6))
def test_no_two_turned_pieces_stand_in_one_another(columns: int, rows: int, turns: list[int]) -> None:
    shop = Shop()
    turned = tuple((str(k + 1), turn) for k, turn in enumerate(turns[: columns * rows]))
    shop.arrange(columns=columns, rows=rows, turned=turned)
    assert [one.turn for one in shop.load.placed] == turns[: columns * rows]
    boxes = [[one.box(s.box) for s in standing_with(one, shop.load)] for one in shop.load.placed]
    for i, a in enumerate(boxes):
        for b in boxes[i + 1 :]:
            assert not any(
                all(p.min[k] < q.max[k] - 1e-6 and q.min[k] < p.max[k] - 1e-6 for k in range(3)) for p in a for q in b
            )
    assert not shop.findings("pieces-overlap")
    assert not shop.findings("neighbour-too-near")


def test_turned_piece_too_near_to_the_next_is_found_and_cured() -> None:
    """Two vises side by side at the least pitch; one of them turned stands into the other, since that one is longer."""
    shop = Shop()
    shop.arrange(columns=2, turned=(("2", 90),))
    pitch = shop.load.where.pitch[0]
    shop.arrange(moved=(("2", -pitch / 2, 0.0),))
    assert shop.load.placed[1].turn == 90, "what is moved stays turned"
    assert shop.findings("pieces-overlap") or shop.findings("neighbour-too-near")
    shop.cure("pieces-overlap" if shop.findings("pieces-overlap") else "neighbour-too-near")
    assert shop.load.placed[1].turn == 90
    assert not shop.findings("pieces-overlap")
    assert not shop.findings("neighbour-too-near")


@pytest.mark.parametrize("turn", [90, 180, 270])
def test_stock_is_followed_through_the_program_of_a_load_whose_first_piece_is_turned(turn: int) -> None:
    shop = Shop()
    shop.arrange(columns=2, turned=(("1", turn),))
    ran = [(c.program, c.setting, c.run) for c in shop.programs]
    planned, written = course_of(shop.part, shop.ledger), course_of_programs(shop.part, shop.ledger, ran)
    own = {c.operation: c for c in written.cuts}
    assert [c.operation for c in planned.cuts] == [c.operation for c in written.cuts]
    for cut in planned.cuts:
        assert own[cut.operation].frame == cut.frame
        first, second = (np.array([p for s in m.strokes if not s.is_rapid for p in s.points])
                         for m in (cut.motion, own[cut.operation].motion))  # fmt: skip
        for pick in (np.min, np.max):
            assert pick(first, axis=0) == pytest.approx(pick(second, axis=0), abs=0.01)


def test_papers_say_which_pieces_are_turned() -> None:
    shop = four()
    offsets = [o for o in offsets_of(shop.ledger, shop.part) if o.setup == "S1"]
    assert [one.where for one in sheet_pieces(shop.load, offsets)] == [
        "row 1", "row 1, turned 90°", "row 2, turned 180°", "row 2, turned 270°",
    ]  # fmt: skip
    first = setup_sheet(JobWords("T-1", "turned", "A", ""), shop.ledger, shop.part, 1, date(2026, 1, 1)).setups[0]
    middle = "edge finder on both sides of the stock along X (64.00) and Y (44.00), zero in the middle"
    across = "edge finder on both sides of the stock along X (44.00) and Y (64.00), zero in the middle"
    assert first.touch_off == (
        f"G54 X Y: {middle}", f"G55 (turned 90°) X Y: {across}", f"G56 (turned 180°) X Y: {middle}",
        f"G57 (turned 270°) X Y: {across}", "G54, G55, G56, G57 Z: touch the top of the stock",
    )  # fmt: skip
    assert [row[ZERO_HEAD.index("in")] for row in zero_rows(shop.ledger, shop.part) if row[0] == "S1"] == [
        "row 1", "row 1, turned 90°", "row 2, turned 180°", "row 2, turned 270°",
    ]  # fmt: skip
    drawing = load_drawing(shop.load, offsets)
    assert drawing is not None
    stocks = [(round(b.width, 2), round(b.height, 2)) for b in drawing.boxes if b.what == "stock"]
    assert stocks[0] == stocks[2] == (stocks[1][1], stocks[1][0]), "a quarter lies across"


def test_what_cannot_be_turned_is_refused_with_the_reason() -> None:
    shop = Shop()
    shop.arrange(columns=2)
    with pytest.raises(PlanError, match="load L1 has no piece '3'"):
        shop.arrange(turned=(("3", 90),))
    with pytest.raises(PlanError, match="turned"):
        shop.arrange(turned=(("2", 45),))
    shop.change(change="set-fixture", setup="S1", fixture="vise-125-double")
    with pytest.raises(PlanError, match=r"the 2 stations of .* hold their pieces one way"):
        shop.arrange(columns=1, stations=2, turned=(("2", 90),))
    lathe = Shop(RING, "lathe-320")
    assert lathe.load.machine.turns_work
    with pytest.raises(PlanError, match="turns one piece at a time"):
        lathe.arrange(turned=(("1", 90),))


def test_turned_piece_that_moves_to_a_lathe_is_said_and_taken_back() -> None:
    shop = Shop(RING, "mill-762")
    shop.arrange(turned=(("1", 90),))
    assert shop.load.placed[0].turn == 90
    shop.change(change="set-machine", setup="S1", machine="lathe-320")
    (found,) = shop.findings("not-as-arranged")
    assert "turns one piece at a time" in found.why
    shop.change(**found.cures[0].change)
    assert not shop.findings("not-as-arranged")
    assert shop.load.load.arrangement == Arrangement()


def test_what_ran_once_over_a_row_runs_on_each_once_a_piece_is_turned() -> None:
    """And the pieces stand as far apart then as its tool asks for."""
    shop = Shop()
    shop.arrange(columns=3)
    apart = shop.load.where.pitch[0]
    face = next(op.id for op in shop.load.built.operations if op.name.startswith("Face"))
    shop.change(change="set-scope", load="L1", operation=face, scope="row")
    nearer = shop.load.where.pitch[0]
    assert nearer < apart
    shop.arrange(turned=(("2", 180),))
    assert shop.load.where.pitch[0] >= apart
    assert [f.why for f in shop.findings("not-in-one-pass")] == [
        "So it runs on each: pieces were moved or turned by hand."
    ]
    assert not shop.findings("neighbour-too-near")
    cut_as_the_first_is(shop)


@given(
    st.lists(st.tuples(st.floats(-500, 500), st.floats(-500, 500), st.floats(-50, 50)), min_size=2, max_size=5),
    st.sampled_from(TURNS), st.sampled_from(TURNS),
)  # fmt: skip
def test_turns_add_up(points: list[tuple[float, float, float]], first: int, then: int) -> None:
    cycle = HoleCycle(81, tuple((x, y) for x, y, _ in points), 2.0, -5.0, 200.0)
    motion = Motion((feed(200, points),), cycle=cycle)
    twice, once = turned_motion(turned_motion(motion, first), then), turned_motion(motion, (first + then) % 360)
    assert twice == once
    assert [s.length for s in twice.strokes] == pytest.approx([s.length for s in motion.strokes])


def test_quarter_of_a_path_by_hand() -> None:
    motion = turned_motion(Motion((feed(200, [(60.0, 10.0, 5.0), (60.0, 40.0, 5.0)]),)), 90)
    assert motion.strokes[0].points == ((-10.0, 60.0, 5.0), (-40.0, 60.0, 5.0))


def test_plan_from_before_turns_is_read_as_it_was() -> None:
    shop, plans = Shop(), TypeAdapter(Plan)
    shop.arrange(columns=2, moved=(("2", 5.0, 0.0),))
    kept = plans.dump_json(shop.plan).decode()
    before = kept.replace(',"turn":0', "")
    assert before != kept
    assert plans.validate_json(before) == shop.plan
