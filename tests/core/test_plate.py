"""Pieces that stay in one plate, side by side and behind one another, until they are sawn apart."""

from __future__ import annotations

from datetime import date
from decimal import Decimal
from functools import lru_cache
from itertools import pairwise
from math import hypot

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.alternatives.grid import _alone
from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.masses import box_mass
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.ledger.scopes import scopes_of
from lean_ledger.core.loads.joined import blank_size, gap_of, vises_in
from lean_ledger.core.loads.poses import poses
from lean_ledger.core.operations.in_blank import InBlank
from lean_ledger.core.operations.milling.paths import Down, Rim, finish_outline_path, ramp_in, rough_outline_path
from lean_ledger.core.papers.load_drawing import load_drawing
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Arrangement
from lean_ledger.core.shop.shopping import material_to_buy
from tests.cases.parts.drawn import drawn
from tests.conftest import built
from tests.core.loads_shop import LIB, LoadShop, Shop
from tests.core.test_joined import FACE, ROUGH, STEPPED, cut_bar, lost, made

FINISH = "S1.outline.finish-outline"
#: 60 × 40 × 20 with a step that is open at Y+ and runs along X.
LEDGED = built(block((0, 0, 0), (60, 40, 20)) - block((-1, 30, 14), (61, 41, 21)))


def in_plate(along: int = 3, rows: int = 2, **values: object) -> Shop:
    shop = Shop()
    shop.arrange(joined=along, joined_rows=rows, **values)
    return shop


def test_six_stand_in_one_plate_three_by_two() -> None:
    """Stock of 60 + 2 · 7 by 40 + 2 · 7 and a kerf of 3: 77 from piece to piece along X, 57 along Y."""
    shop = Shop()
    words = shop.arrange(joined=3, joined_rows=2)
    load = shop.load
    # 2 · 54 + 3 = 111 do not go between the jaws of Vise 100: the next that opens wider holds it
    assert words == "load L1: 6 pieces, 3 × 2 in one plate; 7 of stock at X-, X+, Y- and Y+"
    assert load.built.hold.fixture.name == "Vise 125"
    assert load.where.left_out == ""
    assert [p.shift for p in load.placed] == [(x, y) for y in (-28.5, 28.5) for x in (-77.0, 0.0, 77.0)]
    assert {p.group for p in load.placed} == {"plate 1"}
    assert blank_size(load.built, load.where.load.arrangement) == (3 * 74 + 2 * 3, 2 * 54 + 3)
    assert gap_of(load.built) == 17
    assert load.pieces == 6
    assert not [f for f in shop.ledger.findings if f.severity == "error"]
    jaws = [b.box for b in vises_in(load.built, load.where.load.arrangement) if b.what == "jaw"]
    front, back = (sorted({round(j.min[1], 3) for j in jaws})[k] for k in (0, 1))
    assert back - front == pytest.approx(111 + load.built.hold.fixture.jaw_thickness)  # type: ignore[union-attr]


@pytest.mark.parametrize(("along", "rows"), [(2, 2), (3, 3)])
def test_no_part_of_a_plate_loses_what_it_would_not_lose_alone(along: int, rows: int) -> None:
    alone = Shop()
    before = lost(alone, cut_bar(alone))
    shop = in_plate(along, rows)
    left = cut_bar(shop)
    assert lost(shop, left) == pytest.approx(before * along * rows, abs=0.05)
    # all round the first part nothing is left over the web that the outline does not reach, but next to the next parts
    load, frame = shop.load, shop.load.built.home.frame
    part, stock = frame.box(shop.part.model.solid.bounds), frame.box(load.built.before.bounds)
    deep = min(p[2] for s in made(shop, ROUGH).motion.strokes for p in s.points)
    behind = Bounds((part.min[0], part.max[1] + 0.01, deep + 0.01), (part.max[0], part.max[1] + 16.1, stock.max[2]))
    assert left.common(box_mass(behind)).volume < 0.05


@settings(max_examples=1)
@given(st.sampled_from((301, 304, 305, 329)), st.integers(2, 3), st.just(2))
def test_parts_drawn_at_random_stay_whole_in_their_plate(seed: int, along: int, rows: int) -> None:
    alone, before = _drawn(seed)
    shop = LoadShop(alone.part)
    shop.arrange(joined=along, joined_rows=rows)
    assert shop.load.where.left_out == ""
    assert max(lost(shop, cut_bar(shop))) < before + 1
    assert abs(shop.program.agreement.difference) < 0.01


@lru_cache(maxsize=8)
def _drawn(seed: int) -> tuple[LoadShop, float]:
    shop = LoadShop(built(drawn(seed)))
    return shop, lost(shop, cut_bar(shop))[0]


@pytest.mark.parametrize("part", [STEPPED, LEDGED], ids=["open along X", "open along Y"])
def test_what_opens_towards_a_next_piece_comes_once_the_way_between_is_cut(part: Part) -> None:
    alone, shop = LoadShop(part), LoadShop(part)
    shop.arrange(joined=2, joined_rows=2)
    assert shop.load.where.left_out == ""
    order = [c.operation.id for c in shop.load.rows]
    assert order.index(FINISH) < order.index("S1.L1.rough-pocket")
    assert lost(shop, cut_bar(shop)) == pytest.approx(lost(alone, cut_bar(alone)) * 4, abs=0.1)
    assert followed(course_of(shop.part, shop.ledger)).collisions == ()
    assert not shop.findings("stock-left")


def test_a_round_part_is_come_down_on_beside_it_and_its_corners_from_there() -> None:
    part = built(rod((0, 0, 0), (0, 0, 1), 50, 20))
    shop = LoadShop(part, "mill-762")
    shop.change(change="set-stock", form="block")
    alone = lost(shop, cut_bar(shop))[0]
    shop.arrange(joined=2, joined_rows=2)
    assert shop.load.where.left_out == ""
    left = cut_bar(shop)
    assert max(lost(shop, left)) < alone + 0.5
    outcome = followed(course_of(shop.part, shop.ledger))
    assert outcome.collisions == ()
    assert abs(shop.program.agreement.difference) < 0.01


def test_each_row_is_faced_once_and_the_machine_agrees() -> None:
    shop = in_plate()
    face = made(shop, FACE)
    assert face.over == 3
    assert [c.place for c in shop.load.calls if c.operation.id == FACE] == ["1", "4"]
    scope = next(s for s in scopes_of(shop.ledger, shop.part, LIB, "L1") if s.operation == FACE)
    assert (scope.scope, scope.has_to) == ("row", True)
    assert shop.load.load.in_one_words == "once over all pieces of a row of a plate"
    assert abs(shop.program.agreement.difference) < 0.01
    shop.change(change="skip-pieces", load="L1", pieces=["2", "5", "6"])
    assert abs(shop.program.agreement.difference) < 0.01


def test_outlines_of_a_plate_go_once_round_all_and_save_their_ramps() -> None:
    shop, each = in_plate(3, 2), in_plate(3, 2)
    before = lost(each, cut_bar(each))
    (found,) = [s for s in scopes_of(shop.ledger, shop.part, LIB, "L1") if s.operation == ROUGH]
    assert (found.scope, found.goes_round, found.why) == ("each", True, "")
    words = shop.change(change="set-scope", load="L1", operation=ROUGH, scope="row")
    assert words == "load L1: “Rough outline, 13.0 deep” once round all pieces of a plate"
    op = made(shop, ROUGH)
    assert [c.place for c in shop.load.calls if c.operation.id == ROUGH] == ["1"]
    assert op.over == 6
    assert found.in_row is not None
    assert shop.load.cycle - each.load.cycle == pytest.approx(found.in_row)
    assert found.in_row < -30
    assert lost(shop, cut_bar(shop)) == pytest.approx(before, abs=0.05)
    assert abs(shop.program.agreement.difference) < 0.01
    assert followed(course_of(shop.part, shop.ledger)).collisions == ()
    # along X before and behind each row, 57 apart; along Y beside each piece, 77 apart; never beyond the first and last
    low = [(a, b) for s in op.motion.strokes if not s.is_rapid for a, b in pairwise(s.points) if a[2] == b[2]]
    frame = shop.load.built.home.frame
    x0, y0, _ = frame.box(shop.part.model.solid.bounds).min
    ys = {round(a[1] - y0, 3) for a, b in low if a[1] == b[1] and abs(a[0] - b[0]) > 100}
    xs = {round(a[0] - x0, 3) for a, b in low if a[0] == b[0] and abs(a[1] - b[1]) > 100}
    assert sorted(ys) == [-8.2, 48.2, 48.8, 105.2]
    assert sorted(xs) == [-8.2, 68.2, 68.8, 145.2, 145.8, 222.2]
    # with the part on its right, the tool climbs
    assert all((b[0] > a[0]) == (round(a[1] - y0, 3) in (48.2, 105.2)) for a, b in low
               if a[1] == b[1] and abs(a[0] - b[0]) > 100)  # fmt: skip
    sheet = setup_sheet(JobWords("T-1", "plate", "A", ""), shop.ledger, shop.part, 1, date(2026, 1, 1)).setups[0]
    assert any(line.startswith("Once round all pieces of a plate: “Rough outline") for line in sheet.by_hand)


def test_in_a_bar_it_is_longer_by_the_gaps_and_what_is_no_rectangle_stays_with_each() -> None:
    shop = Shop()
    shop.arrange(joined=3)
    (found,) = [s for s in scopes_of(shop.ledger, shop.part, LIB, "L1") if s.operation == ROUGH]
    assert found.in_row is not None
    assert found.in_row > 0
    disc = LoadShop(built(rod((0, 0, 0), (0, 0, 1), 50, 20)), "mill-762")
    disc.change(change="set-stock", form="block")
    disc.arrange(joined=2, joined_rows=2)
    with pytest.raises(PlanError, match="cannot run once round all pieces of a plate: the outline is no rectangle"):
        disc.change(change="set-scope", load="L1", operation=ROUGH, scope="row")


def test_zero_of_the_plate_and_how_far_the_others_are() -> None:
    shop = in_plate()
    found = [o for o in offsets_of(shop.ledger, shop.part) if o.setup == "S1"]
    assert [o.word for o in found] == ["G54"] * 6
    assert [(round(o.local[0], 4), round(o.local[1], 4)) for o in found] == [
        (x, y) for y in (0, 57) for x in (0, 77, 154)
    ]
    shop.change(change="set-offsets", load="L1", policy="piece")
    sheet = setup_sheet(JobWords("T-1", "plate", "A", ""), shop.ledger, shop.part, 1, date(2026, 1, 1)).setups[0]
    assert sheet.stock[:2] == (228, 111)
    assert dict(sheet.fixture)["in one plate"] == (
        "6 pieces, 3 × 2, 228.0 × 111.0: saw them apart afterwards, 3 between two"
    )
    # of the first piece's stock, 74 × 54, only the left end and the front are free
    assert sheet.touch_off[0] == (
        "G54 X Y: edge finder on the plate's left end, then 37.000 along X; on its front, then 27.000 along Y"
    )
    assert any("in the same plate, 77.000 farther along X from piece to piece, 57.000 along Y from row to row" in words
               for words in sheet.touch_off)  # fmt: skip


def test_a_plate_is_bought_whole_and_every_piece_but_one_costs_a_cut() -> None:
    """228 × 111 × 24 for six: each a sixth of the length of the whole section, and five cuts of the saw."""
    shop = in_plate()
    m = shop.ledger.problem.material
    assert (m.sawn_apart, m.together) == (6, 6)
    assert m.length == Decimal("38.0000")  # 228 / 6
    assert m.section_area == Decimal(str(111 * 24)).quantize(Decimal("0.01"))
    buy = material_to_buy(shop.ledger)
    assert "111 × 24, 228 long" in buy.words
    assert buy.needed[0] == -(-shop.ledger.prices[0].started // 6)


def test_rule_takes_the_vise_that_goes_round_all_rows_and_the_small_one_again() -> None:
    """2 · 54 + 3 = 111 in Vise 125, 3 · 54 + 6 = 168 in Vise 160; one row again as a piece alone."""
    shop = Shop()
    taken = []
    for rows in (2, 3, 1):
        shop.arrange(joined=3, joined_rows=rows)
        assert shop.load.where.left_out == ""
        taken.append(shop.load.built.hold.fixture.name)
    assert taken == ["Vise 125", "Vise 160", "Vise 100"]
    assert shop.plan.setup("S1").fixture is None


def test_jaws_have_to_go_round_a_plate() -> None:
    shop = Shop()
    with pytest.raises(PlanError, match="no vise of the shop opens wider: take fewer rows"):
        shop.arrange(joined=2, joined_rows=6)
    shop.change(change="set-fixture", setup="S1", fixture="vise-100")
    with pytest.raises(PlanError, match=r"is 111\.0 wide, Vise 100 opens 100: take Vise 125 first, or fewer rows"):
        shop.arrange(joined=2, joined_rows=2)
    wide = in_plate(2, 2)
    wide.change(change="set-fixture", setup="S1", fixture="vise-100")
    (found,) = wide.findings("not-as-arranged")
    assert "A plate of 2 rows is 111.0 wide, Vise 100 opens 100" in found.why
    wide.cure("not-as-arranged")
    assert not wide.findings("not-as-arranged")


def test_rows_without_pieces_beside_one_another_are_refused() -> None:
    shop = Shop()
    with pytest.raises(PlanError, match="a plate holds two pieces side by side at the least"):
        shop.arrange(joined_rows=2)
    with pytest.raises(PlanError, match="rows of one plate"):
        shop.arrange(joined=2, joined_rows=0)
    with pytest.raises(PlanError, match="more than 200"):
        shop.arrange(joined=60, joined_rows=60)
    shop = in_plate()
    with pytest.raises(PlanError, match="no piece of a plate is moved"):
        shop.arrange(moved=[["2", 5.0, 0.0]])
    assert shop.arrange(joined=1) == "load L1: one piece"
    assert shop.load.where.load.arrangement == Arrangement()
    alone = _alone(in_plate().load)
    assert alone is not None
    again = in_plate()
    plan, _ = read_change(alone).apply(again.plan, Scene(again.part, LIB, again.ledger))
    assert plan.loads[0].arrangement.count == 1


def test_a_finisher_thicker_than_what_was_cut_free_keeps_the_pieces_apart() -> None:
    shop = in_plate()
    shop.change(change="edit-operation", operation=ROUGH, tool="EA12")
    shop.change(change="edit-operation", operation=FINISH, tool="EA16")
    (found,) = shop.findings("not-as-arranged")
    assert "comes down with Ø16" in found.why


def test_plates_past_the_travel_lose_rows_and_plates_beside_one_another_go_clear() -> None:
    shop = in_plate(3, 2, columns=2)
    assert not [f for f in shop.ledger.findings if f.severity == "error"]
    assert shop.load.pieces == 12
    shop.arrange(gap=[["X", 4.0]])
    assert shop.findings("neighbour-too-near") or shop.findings("pieces-overlap")
    far = in_plate(12, 2)
    assert far.findings("past-travel")
    far.cure("past-travel")
    assert not far.findings("past-travel")
    assert far.load.pieces >= 6


def test_pictures_show_the_plate_once() -> None:
    shop = in_plate()
    drawing = load_drawing(shop.load, [o for o in offsets_of(shop.ledger, shop.part) if o.setup == "S1"])
    assert drawing is not None
    assert sum(box.what == "stock" for box in drawing.boxes) == 7  # the plate, and each piece in it
    assert [p.holds for p in poses(shop.load)] == [True] + [False] * 5
    (whole,) = [s for s in shop.load.where.units[0].solids if s.what == "stock"]
    assert whole.box.size[:2] == (228, 111)


def test_a_ramp_along_a_way_is_no_longer_than_it_has_to_be() -> None:
    """2 deep at 30° are 2 / sin 30° = 4 of way down: along a square of 10 it ends at (4, 0)."""
    square = ((0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (0.0, 10.0), (0.0, 0.0))
    assert ramp_in(square, 0.0, -2.0, 30.0) == [(0.0, 0.0, 0.0), (4.0, 0.0, -2.0)]
    # 12 deep are 24: round two corners and 4 along the third side
    *_, end = ramp_in(square, 0.0, -12.0, 30.0)
    assert end == (6.0, 10.0, -12.0)


def test_a_way_round_in_a_plate_is_come_down_on_and_closed() -> None:
    ring = ((0.0, 0.0), (60.0, 0.0), (60.0, 40.0), (0.0, 40.0))
    down = Down(20, 8, 2, 27, 3.0)
    rough = rough_outline_path(ring, Rim((0, 0, 60, 40), InBlank(3.0, rows=2)), 16, 0.2, 7, down, 1000)
    low = [p for s in rough.strokes for p in s.points if p[2] < 20]
    # never farther off the part than the mill's own way
    assert all(-8.2 - 1e-6 <= p[0] <= 68.2 + 1e-6 and -8.2 - 1e-6 <= p[1] <= 48.2 + 1e-6 for p in low)
    for level in (14, 8):  # at full feed, once the ramp at half of it is down
        (there,) = [s.points for s in rough.strokes if s.feed_mm_per_min == 1000 and s.points[0][2] == level]
        around = sum(hypot(b[0] - a[0], b[1] - a[1]) for a, b in pairwise(there))
        assert around == pytest.approx(2 * (60 + 40) + 2 * 3.14159 * 8.2, rel=1e-3)
        assert there[0] == pytest.approx(there[-1])
    finish = finish_outline_path(ring, 16, 0.0, down, 1000, off=8.2)
    first = next(p for s in finish.strokes for p in s.points if p[2] < 20)
    assert -8.2 - 1e-6 <= first[0] <= 68.2 + 1e-6
    assert -8.2 - 1e-6 <= first[1] <= 48.2 + 1e-6
