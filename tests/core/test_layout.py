"""Several pieces in a load: where they stand, how near, on which offsets, what they take together."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from functools import lru_cache
from io import BytesIO
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.geometry.solids import rod
from lean_ledger.core.ledger.counts import counts_of
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.loads import spacing
from lean_ledger.core.loads.layout import Layout, fitting, layout
from lean_ledger.core.loads.layout_findings import layout_findings, troubled
from lean_ledger.core.loads.sequence import interleaved
from lean_ledger.core.loads.spacing import clashes
from lean_ledger.core.papers.lists import ZERO_HEAD, zero_rows
from lean_ledger.core.papers.pdf import sheet_pdf
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.core.plan import Load
from lean_ledger.library import shipped_library
from tests.conftest import built, demo_part, quick
from tests.core.loads_shop import PART, LoadShop, Shop, met_on_the_way, standing_with

LIB = shipped_library()


@pytest.fixture(scope="module")
def nine() -> Shop:
    shop = Shop()
    shop.arrange(columns=3, rows=3)
    return shop


# ---- where they stand


def test_pieces_stand_at_their_pitch_about_where_one_would(nine: Shop) -> None:
    px, py = nine.load.where.pitch
    shifts = [one.shift for one in nine.load.placed]
    assert shifts[4] == (0, 0), "the middle one"
    assert shifts[0] == (pytest.approx(-px), pytest.approx(-py))
    assert shifts[2] == (pytest.approx(px), pytest.approx(-py)), "row after row, along X"
    first, last = (one.stands.seat.at for one in (nine.load.placed[0], nine.load.placed[8]))
    assert (last[0] - first[0], last[1] - first[1]) == (pytest.approx(2 * px), pytest.approx(2 * py))


def test_least_pitch_is_what_the_widest_tool_beside_needs(nine: Shop) -> None:
    """By hand, along X: the tool that comes farthest out of the stock, its radius, and 2 to what stands beside."""
    load = nine.load
    stock = next(s.box for s in load.where.solids if s.what == "stock")
    reach = 0.0
    for op in load.built.operations:
        shift = load.built.stands.shift(op.frame)
        for stroke in op.motion.strokes:
            for x, _, z in stroke.points:
                if z + shift[2] < stock.max[2]:
                    reach = max(reach, x + shift[0] + op.tool.diameter / 2 - stock.max[0])
    # what is cut below the stock's top on one side passes the neighbour's stock on the other
    assert load.where.pitch[0] >= stock.size[0] + reach + 2 - 1e-6
    jaws = [s.box for s in load.where.solids if s.what in ("jaw", "bed")]
    wide = max(b.max[0] for b in jaws) - min(b.min[0] for b in jaws)
    assert load.where.pitch[0] >= wide + 5 - 1e-6


def test_gap_by_hand_too_small_is_found_and_cured() -> None:
    shop = Shop()
    shop.arrange(columns=2)
    least = shop.load.where.gap[0]
    assert not shop.findings("neighbour-too-near")
    assert not shop.findings("pieces-overlap")
    shop.arrange(gap=(("X", least - 3),))
    found = shop.findings("neighbour-too-near") + shop.findings("pieces-overlap")
    assert found
    shop.change(**found[0].cures[0].change)
    assert shop.load.where.gap[0] == pytest.approx(least)
    assert not shop.findings("neighbour-too-near")


def test_piece_moved_onto_another_is_found() -> None:
    shop = Shop()
    shop.arrange(columns=2, moved=(("2", -60.0, 0.0),))
    assert shop.findings("pieces-overlap")
    assert shop.load.placed[1].shift[0] == pytest.approx(shop.load.where.pitch[0] / 2 - 60)
    shop.cure("pieces-overlap")
    assert not shop.findings("pieces-overlap")


@settings(max_examples=8)
@given(st.integers(1, 4), st.integers(1, 3), st.sampled_from(["rows", "columns", "snake"]))
def test_no_two_pieces_overlap_and_every_zero_differs(columns: int, rows: int, walk: str) -> None:
    shop = Shop()
    shop.arrange(columns=columns, rows=rows)
    shop.change(change="set-offsets", load="L1", walk=walk)
    boxes = [[one.box(s.box) for s in standing_with(one, shop.load)] for one in shop.load.placed]
    for i, a in enumerate(boxes):
        for b in boxes[i + 1 :]:
            assert not any(
                all(p.min[k] < q.max[k] - 1e-6 and q.min[k] < p.max[k] - 1e-6 for k in range(3)) for p in a for q in b
            )
    offsets = [o for o in offsets_of(shop.ledger, shop.part) if o.setup == "S1"]
    assert len({o.machine for o in offsets}) == len({o.word for o in offsets}) == columns * rows


# ---- how many


def test_as_many_fit_as_the_travel_has_room_for() -> None:
    assert [fitting(250, 80), fitting(240, 80), fitting(239.9, 80), fitting(0, 80), fitting(-1, 80)] == [4, 4, 3, 1, 0]
    shop = Shop()
    shop.arrange(columns=2, rows=2)
    most = shop.load.where.limit(0).most, shop.load.where.limit(1).most
    shop.arrange(columns=most[0], rows=most[1])
    assert not shop.findings("past-travel")
    shop.arrange(columns=most[0] + 1, rows=most[1])
    assert shop.findings("past-travel")[0].title.startswith("Piece ")
    shop.change(**shop.findings("past-travel")[0].cures[-1].change)
    assert not shop.findings("past-travel")


def test_as_many_as_go_are_offered_after_a_handful_of_tries() -> None:
    """Sixty in a row run past the travel; what has room is asked first, and not one less and one less again."""
    shop = Shop()
    shop.arrange(columns=60)
    where, tried = shop.load.where, []

    def again(load: Load) -> Layout:
        tried.append(load.arrangement.columns)
        return layout(shop.plan, load, {"S1": where.placed[0].built}, shop.load.bed)

    (found,) = [f for f in layout_findings(where, again) if f.code == "past-travel"]
    assert len(tried) <= 6
    fewer = found.cures[-1]
    shop.change(**fewer.change)
    assert not shop.findings("past-travel")
    assert shop.load.pieces == where.limit(0).most
    shop.arrange(columns=shop.load.pieces + 1)
    assert shop.findings("past-travel"), "one more does not go"


def test_each_count_is_the_plan_evaluated_with_it_and_time_never_rises() -> None:
    shop = Shop()
    found = counts_of(shop.ledger, shop.part, LIB, "L1")
    able = [p for p in found.points if not p.stopped]
    assert [p.pieces for p in able] == sorted({p.pieces for p in able})
    assert all(b.seconds <= a.seconds + 1e-9 for a, b in pairwise(able))
    some = able[len(able) // 2]
    shop.arrange(columns=some.columns, rows=some.rows)
    assert shop.load.cycle / shop.load.pieces == pytest.approx(some.cutting + some.between)
    assert [p.each for p in shop.ledger.prices] == list(some.each)
    assert found.knee in {p.pieces for p in able}
    assert "too short" in found.why[0]


# ---- seconds and money


def test_cycle_is_its_calls_and_a_tool_is_changed_once_for_all_pieces(nine: Shop) -> None:
    one, load = Shop().load, nine.load
    assert len(load.calls) == 9 * len(one.calls)
    assert load.tool_calls == one.tool_calls
    assert load.seconds["cutting"] == pytest.approx(9 * one.seconds["cutting"])
    assert load.seconds["tool change"] == pytest.approx(one.seconds["tool change"])
    assert load.cycle == pytest.approx(sum(call.total for call in load.calls) + load.return_rapid)
    assert sum(row.total for row in load.rows) * 9 == pytest.approx(load.cycle - load.return_rapid)
    assert load.load_seconds == pytest.approx(9 * one.load_seconds)


def test_price_takes_the_pieces_of_a_cycle(nine: Shop) -> None:
    priced = nine.ledger.problem.setups[0]
    assert priced.pieces_per_cycle == 9
    assert float(priced.load_seconds) == pytest.approx(9 * nine.load.built.hold.load_seconds)
    one = Shop()
    assert nine.ledger.problem.tooling_per_piece == one.ledger.problem.tooling_per_piece
    assert nine.load.setup_hours - one.load.setup_hours == 8 * LIB.rates.setup_hours_per_place


def saddles() -> LoadShop:
    """The cable saddle, its second setup screwed to a large plate."""
    shop = LoadShop(demo_part("cable-saddle"))
    shop.change(change="set-thread", diameter=3.3, thread="M4")
    shop.change(change="set-fixture", setup="S2", fixture="plate-640")
    return shop


def test_setting_up_counts_fixtures_or_zeros_whichever_are_more() -> None:
    shop = saddles()
    base = shop.ledger.loads[1].setup_hours
    shop.change(change="set-arrangement", load="L2", columns=5, rows=8)
    for policy, further in (("piece", 39), ("group", 7), ("load", 0)):
        shop.change(change="set-offsets", load="L2", policy=policy)
        assert shop.ledger.loads[1].setup_hours - base == further * LIB.rates.setup_hours_per_place


def test_piece_by_piece_changes_tools_for_each() -> None:
    shop = Shop()
    shop.arrange(columns=3)
    grouped = shop.load.tool_calls
    shop.change(change="set-piece-order", load="L1", by="piece")
    assert shop.load.tool_calls == 3 * grouped
    assert [call.place for call in shop.load.calls] == sorted(call.place for call in shop.load.calls)


def test_pieces_are_come_to_there_and_back() -> None:
    ops = list(Shop().load.built.operations)
    steps = interleaved([(range(3), ops)], "operation")
    assert [piece for piece, _ in steps[:6]] == [0, 1, 2, 2, 1, 0]
    by_tool = interleaved([(range(2), ops)], "tool")
    for piece in (0, 1):
        assert [op.id for at, op in by_tool if at == piece] == [op.id for op in ops], "each piece in its order"


# ---- offsets


def test_pieces_are_numbered_from_a_word_round_what_is_kept_free() -> None:
    shop = Shop()
    shop.arrange(columns=3)
    assert shop.words == ["G54", "G55", "G56"]
    shop.change(change="set-offsets", load="L1", first="G55", reserved=("G57",))
    assert shop.words == ["G55", "G56", "G58"]
    shop.change(change="set-offsets", load="L1", named=(("2", "G57"),))
    assert shop.words == ["G55", "G57", "G56"]


def test_word_named_twice_is_found_and_cured() -> None:
    shop = Shop()
    shop.arrange(columns=2)
    shop.change(change="set-offsets", load="L1", named=(("1", "G55"), ("2", "G55")))
    assert len(shop.findings("offset-doubled")) == 2
    shop.cure("offset-doubled")
    assert not shop.findings("offset-doubled")
    assert len(set(shop.words)) == 2


def test_control_without_enough_words_is_found_and_sharing_cures_it() -> None:
    few = replace(LIB, machines=tuple(replace(m, offsets="basic") for m in LIB.machines))
    plan = quick(PART)
    ledger = evaluate(plan, PART, few)
    plan, _ = read_change({"change": "set-arrangement", "load": "L1", "columns": 3, "rows": 3}).apply(
        plan, Scene(PART, few, ledger)
    )
    ledger = evaluate(plan, PART, few)
    found = next(f for f in ledger.findings if f.code == "too-few-offsets")
    assert "piece 7" in found.title
    assert [cure.label for cure in found.cures] == ["One for each group", "One for the load"]
    plan, _ = read_change(found.cures[0].change).apply(plan, Scene(PART, few, ledger))
    ledger = evaluate(plan, PART, few)
    assert not [f for f in ledger.findings if f.code == "too-few-offsets"]
    assert len({o.word for o in offsets_of(ledger, PART) if o.setup == "S1"}) == 3


# ---- stations, refusals, papers


def test_both_stations_of_a_double_vise_share_a_fixture() -> None:
    shop = Shop()
    shop.change(change="set-fixture", setup="S1", fixture="vise-125-double")
    shop.arrange(stations=2, columns=2)
    hold = shop.load.built.hold
    assert shop.load.pieces == 4
    assert shop.load.where.fixtures == 2
    across = shop.load.placed[1].shift[1] - shop.load.placed[0].shift[1]
    assert across == pytest.approx(hold.opening + hold.fixture.jaw_thickness)  # type: ignore[attr-defined, union-attr]
    assert [f.title for f in shop.ledger.findings if f.severity == "error"] == []
    assert abs(shop.program.agreement.difference) < 0.01


def test_stations_follow_the_vise_on_a_mount_that_is_turned() -> None:
    """The vise's y is the machine's −X there: the second piece lies between the middle jaw and the far one."""
    shop = Shop()
    shop.change(change="set-fixture", setup="S1", fixture="vise-125-double")
    shop.change(change="set-carriers", setup="S1", carriers=("base-turned",))
    shop.arrange(stations=2)
    first, second = shop.load.placed
    off = second.shift[0] - first.shift[0]
    assert second.shift[1] == first.shift[1]
    stock = next(s.box for s in shop.load.where.solids if s.what == "stock")
    jaws = sorted((s.box.min[0], s.box.max[0]) for s in shop.load.where.solids if s.what == "jaw")
    assert (stock.min[0] + off, stock.max[0] + off) == (pytest.approx(jaws[0][1]), pytest.approx(jaws[1][0]))
    assert met_on_the_way(shop) == []


def test_as_many_as_fit_on_a_plate_are_within_the_travels() -> None:
    shop = saddles()
    shop.change(change="set-arrangement", load="L2", columns=2, rows=2)
    where = shop.ledger.loads[1].where
    shop.change(change="set-arrangement", load="L2", columns=where.limit(0).most, rows=where.limit(1).most)
    assert [f.title for f in shop.ledger.findings if f.code in ("past-travel", "past-carrier")] == []


@pytest.mark.parametrize(
    ("values", "words"),
    [
        ({"columns": 0}, "columns is 0"),
        ({"columns": 30, "rows": 30}, "900 pieces"),
        ({"stations": 2}, "1 station"),
        ({"gap": (("Y", -1.0),)}, "the gap"),
    ],
)
def test_what_cannot_lie_in_a_load_is_refused(values: dict[str, Any], words: str) -> None:
    with pytest.raises(PlanError, match=words):
        Shop().arrange(**values)


def test_sheet_names_each_piece_with_its_offset_and_zero(nine: Shop) -> None:

    sheet = setup_sheet(JobWords("T-1", "plate", "A", ""), nine.ledger, nine.part, 1, date(2026, 11, 29))
    pieces = sheet.setups[0].pieces
    assert [p.offset for p in pieces[:3]] == ["G54", "G55", "G56"]
    assert pieces[1].zero[0] - pieces[0].zero[0] == pytest.approx(nine.load.where.pitch[0])
    assert ("how many", "9 of them, one beside the other") in sheet.setups[0].fixture
    text = "".join(page.extract_text() for page in PdfReader(BytesIO(sheet_pdf(sheet))).pages)
    assert "Load: 9 pieces" in text
    assert f"{pieces[8].zero[0]:.3f}" in text


# ---- scope and loading


def test_probing_on_the_first_piece_only_costs_its_seconds_once() -> None:
    shop = Shop()
    shop.change(change="set-probe", setup="S1", what="zero", on=True)
    shop.arrange(columns=4)
    each = shop.load.seconds["probing"]
    probe = next(op for op in shop.load.built.operations if op.motion.probes)
    shop.change(change="set-scope", load="L1", operation=probe.id, scope="first")
    assert shop.load.seconds["probing"] == pytest.approx(each / 4)
    assert len(shop.load.calls) == 4 * len(shop.load.rows) - 3
    assert sum(row.total for row in shop.load.rows) * 4 == pytest.approx(shop.load.cycle - shop.load.return_rapid)
    assert abs(shop.program.agreement.difference) < 0.01
    cuts = next(op for op in shop.load.built.operations if not op.motion.probes)
    with pytest.raises(PlanError, match="would be left without it"):
        shop.change(change="set-scope", load="L1", operation=cuts.id, scope="first")


def test_loading_beside_the_cycle_costs_what_it_is_longer() -> None:
    shop = Shop()
    shop.arrange(columns=3)
    cycle, loading = shop.load.cycle, shop.load.load_seconds
    assert shop.load.idle == pytest.approx(loading)
    shop.change(change="load-beside", load="L1", on=True)
    assert shop.load.idle == pytest.approx(max(0, loading - cycle))
    shop.change(change="set-setup-cost", setup="S1", load_seconds="5000")
    assert shop.load.idle == pytest.approx(5000 - cycle)


def test_trouble_is_told_at_the_pieces_that_have_it() -> None:
    shop = Shop()
    shop.arrange(columns=3)
    assert troubled(shop.load.where) == {}
    shop.arrange(moved=(("2", -20.0, 0.0),))
    assert troubled(shop.load.where) == {"1": "too near to piece 2", "2": "too near to piece 1"}
    shop.arrange(moved=(("2", 0.0, 0.0), ("3", 400.0, 0.0)))
    assert troubled(shop.load.where) == {"3": "X runs past its travel"}


def test_journal_says_what_was_done_to_a_load() -> None:
    shop = Shop()
    assert shop.arrange(columns=3) == "load L1: 3 pieces, 3 × 1"
    assert shop.arrange(moved=(("2", 4.5, 0.0),)) == "load L1: piece 2 moved by 4.5, 0"
    assert shop.arrange(gap=(("X", None),)) == "load L1: gap along X by the rule"
    assert shop.arrange(moved=(("2", 0.0, 0.0),)) == "load L1: piece 2 back"
    assert shop.arrange(columns=1) == "load L1: one piece"


def test_zeros_are_listed_with_angle_and_shift() -> None:
    shop = Shop(machine="mill-762-rotary")
    shop.arrange(sides=(0, 180))
    rows = [row for row in zero_rows(shop.ledger, shop.part) if row[0] == "S1"]
    assert [row[1:5] for row in rows] == [("1", "side 0°", "G54", 0), ("2", "side 180°", "G55", 180)]
    flat = Shop()
    flat.arrange(columns=2)
    flat.change(change="set-offsets", load="L1", policy="load")
    rows = [row for row in zero_rows(flat.ledger, flat.part) if row[0] == "S1"]
    assert rows[1][8] == pytest.approx(flat.load.where.pitch[0])
    assert len(rows[0]) == len(ZERO_HEAD)


# ---- what was arranged for something else


def test_load_goes_on_with_what_its_machine_and_fixture_can() -> None:
    shop = Shop()
    shop.change(change="set-fixture", setup="S1", fixture="vise-125-double")
    shop.arrange(stations=2, columns=2)
    shop.change(change="set-fixture", setup="S1", fixture="toe-400")
    assert shop.load.pieces == 2
    assert "one station" in shop.findings("not-as-arranged")[0].why
    assert shop.program.troubles == ()
    shop.cure("not-as-arranged")
    assert not shop.findings("not-as-arranged")
    assert shop.load.load.arrangement.stations == 1


def test_sides_are_left_out_on_a_machine_without_a_rotary_and_rows_in_a_lathe() -> None:
    shop = Shop(machine="mill-762-rotary")
    shop.arrange(sides=(0, 180))
    shop.change(change="set-machine", setup="S1", machine="mill-762")
    assert shop.load.pieces == 1
    assert "no rotary" in shop.findings("not-as-arranged")[0].why
    turned = Shop(built(rod((0, 0, 0), (0, 0, 1), 30, 40)))
    turned.arrange(columns=2)
    turned.change(change="move-to-machine", machine="lathe-320")
    load = turned.ledger.loads[0]
    assert load.pieces == 1
    if load.load.arrangement.count > 1:
        assert "one piece at a time" in turned.findings("not-as-arranged")[0].why


def test_skips_that_would_leave_no_piece_are_forgotten() -> None:
    shop = Shop()
    shop.arrange(columns=3)
    shop.change(change="skip-pieces", load="L1", pieces=("1", "2"))
    shop.arrange(columns=2)
    assert shop.load.load.skipped == ()


@settings(max_examples=20)
@given(st.floats(-220, 220), st.floats(-220, 220))
def test_what_lies_far_off_is_told_apart_at_once_and_nothing_else_is(x: float, y: float) -> None:
    """Looked at tool by tool and block by block the answer is the same."""
    kind = _four().load.where.kinds[0]
    quick_answer = clashes(kind.built, kind.solids, kind.solids, (x, y))
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(spacing, "_far", lambda *_: False)
        assert quick_answer == clashes(kind.built, kind.solids, kind.solids, (x, y))


@lru_cache(maxsize=1)
def _four() -> Shop:
    shop = Shop()
    shop.arrange(columns=2, rows=2)
    return shop
