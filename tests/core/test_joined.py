"""Pieces that stay in one bar until they are sawn apart: their places, what is cut between them, what they cost."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from decimal import Decimal
from fractions import Fraction
from functools import lru_cache
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.alternatives.grid import _alone
from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.in_process import followed, stock_after
from lean_ledger.core.followed.sweep import swept
from lean_ledger.core.geometry.masses import Mass, box_mass, mass_of_mesh, united
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.solids import block
from lean_ledger.core.ledger.counts import counts_of
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.ledger.scopes import scopes_of
from lean_ledger.core.loads.joined import (
    OVERHANG,
    bar_length,
    blank_size,
    gap_of,
    more_at_the_ends,
    vises_in,
    vises_under,
)
from lean_ledger.core.loads.poses import poses
from lean_ledger.core.loads.spacing import Solid
from lean_ledger.core.operations.in_blank import InBlank
from lean_ledger.core.operations.milling.paths import Down, Rim, finish_outline_path, rough_outline_path
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.papers.load_drawing import load_drawing
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Arrangement
from lean_ledger.core.pricing.price import Terms, bars_of
from lean_ledger.core.shop.shopping import material_to_buy
from lean_ledger.library.fixtures import Vise
from lean_ledger.library.types import Tool
from tests.cases.parts.drawn import drawn
from tests.conftest import built, demo_part
from tests.core.loads_shop import LIB, LoadShop, Shop
from tests.core.test_bars import RING

FACE, ROUGH = "S1.Z+.face", "S1.outline.rough-outline"
KERF = 3.0  # mm, the shop's
#: 60 × 40 × 20 with a step that is open at X+: what cuts it runs out there.
STEPPED = built(block((0, 0, 0), (60, 40, 20)) - block((45, -1, 14), (61, 41, 21)))
#: The same, open at Y+ all along X: one pass goes on over the next pieces.
LEDGED = built(block((0, 0, 0), (60, 40, 20)) - block((-1, 30, 14), (61, 41, 21)))


def in_bar(count: int = 5, **values: object) -> Shop:
    shop = Shop()
    shop.arrange(joined=count, **values)
    return shop


def shifted(mass: Mass, x: float, y: float = 0.0) -> Mass:
    return Mass(mass._solid.translate((x, y, 0.0)))


def cut_bar(shop: LoadShop) -> Mass:
    """What a cycle leaves of its bar, in the axes of the setup at its first piece: every call swept at its piece."""
    load = shop.load
    frame, first = load.built.home.frame, load.placed[0]
    stock = frame.box(load.built.before.bounds)
    x, y = blank_size(load.built, load.where.load.arrangement)
    left = box_mass(Bounds(stock.min, (stock.min[0] + x, stock.min[1] + y, stock.max[2])))
    for call in load.calls:
        own = load.placed_at(call.place)
        by = [own.shift[i] - first.shift[i] for i in (0, 1)]
        left = left.minus([shifted(swept(call.operation.motion, call.operation.tool, stock.max[2] + 5), *by)])
    return left


def lost(shop: LoadShop, left: Mass) -> list[float]:
    """mm³ that each piece's part has lost."""
    load = shop.load
    frame, first = load.built.home.frame, load.placed[0]
    part = mass_of_mesh(shop.part.model.solid.mesh)
    rows = (frame.right, frame.back, frame.up)
    seen = part.placed(*(tuple(row[i] for row in rows) for i in range(3)))  # type: ignore[arg-type]
    return [shifted(seen, p.shift[0] - first.shift[0], p.shift[1] - first.shift[1]).minus([left]).volume
            for p in load.placed]  # fmt: skip


def made(shop: LoadShop, operation: str) -> Operation:
    return next(call.operation for call in shop.load.rows if call.operation.id == operation)


def test_five_stand_side_by_side_in_one_bar() -> None:
    """Stock of 60 + 2 · 7 and a kerf of 3: from piece to piece 77; the bar is 5 · 74 + 4 · 3 = 382 long."""
    shop = Shop()
    words = shop.arrange(joined=5)
    load = shop.load
    # Ø16 with 0.2 for the wall and 0.2 besides, on either side, less the kerf: (16 + 0.8 − 3) / 2 = 6.9, so 7
    assert words == "load L1: 5 pieces, 5 in one bar; 7 of stock at X- and X+"
    assert load.where.left_out == ""
    assert [p.shift for p in load.placed] == [(x, 0.0) for x in (-154.0, -77.0, 0.0, 77.0, 154.0)]
    assert {p.group for p in load.placed} == {"bar 1"}
    assert bar_length(load.built, 5) == 382
    assert gap_of(load.built) == 17
    assert load.pieces == 5
    # one jaw of 100 and what may stand out, 0.6 · 74 = 44.4 on either side, hold 188.8; two 333.2; three 477.6
    assert [vises_under(load.built, n) for n in (1, 2, 3, 4, 5, 7)] == [1, 1, 2, 2, 3, 4]
    assert load.where.fixtures == 3
    assert load.load_seconds == 3 * load.built.hold.load_seconds
    assert not [f for f in shop.ledger.findings if f.severity == "error"]


def test_zeros_are_one_a_bar_and_the_control_is_told_how_far_the_next_piece_is() -> None:
    shop = in_bar(3, rows=2)
    found = [o for o in offsets_of(shop.ledger, shop.part) if o.setup == "S1"]
    assert [o.word for o in found] == ["G54"] * 3 + ["G55"] * 3
    assert [round(o.local[0], 4) for o in found] == [0, 77, 154] * 2
    assert shop.load.where.to_set == 4  # two vises under each
    shop.change(change="set-offsets", load="L1", policy="piece")
    assert shop.words == ["G54", "G55", "G56", "G57", "G58", "G59"]
    sheet = setup_sheet(JobWords("T-1", "joined", "A", ""), shop.ledger, shop.part, 1, date(2026, 1, 1)).setups[0]
    assert sheet.stock[0] == 3 * 74 + 2 * 3
    assert dict(sheet.fixture)["in one bar"] == "3 pieces, 228.0 long: saw them apart afterwards, 3 between two"
    # only the bar's left end is free: the first piece's stock of 74 has its middle 37 from there
    assert sheet.touch_off[0] == (
        "G54, G57 X Y: edge finder on the bar's left end, then 37.000 along X; on both along Y (44.00), in the middle"
    )
    shop.change(change="set-zero", setup="S1", of="stock", place="left front", level="top")
    sheet = setup_sheet(JobWords("T-1", "joined", "A", ""), shop.ledger, shop.part, 1, date(2026, 1, 1)).setups[0]
    assert sheet.touch_off[0].endswith("then 0.000 along X; on its front, then 0.000 along Y")
    assert "G55, G56, G58, G59: in the same bar, 77.000 farther along X from piece to piece" in sheet.touch_off


@pytest.mark.parametrize("count", [2, 4])
def test_no_part_of_a_bar_loses_what_it_would_not_lose_alone(count: int) -> None:
    alone = Shop()
    before = lost(alone, cut_bar(alone))
    shop = in_bar(count)
    left = cut_bar(shop)
    assert lost(shop, left) == pytest.approx(before * count, abs=0.05)
    # between two parts nothing is left over the web that the outline does not reach
    load = shop.load
    stock, deep = (
        load.built.home.frame.box(load.built.before.bounds),
        min(p[2] for s in made(shop, ROUGH).motion.strokes for p in s.points),
    )
    part = load.built.home.frame.box(shop.part.model.solid.bounds)
    between = Bounds((part.max[0] + 0.01, part.min[1], deep + 0.01), (part.max[0] + 16.99, part.max[1], stock.max[2]))
    assert left.common(box_mass(between)).volume < 0.9 * 40 * 13  # no more than 0.8 of a strip before the next part


@settings(max_examples=1)
@given(st.sampled_from((301, 304, 323, 329, 332, 343, 364)), st.integers(2, 4))
def test_parts_drawn_at_random_stay_whole_in_their_bar(seed: int, count: int) -> None:
    alone = _drawn(seed)
    before = lost(alone, cut_bar(alone))[0]
    shop = LoadShop(alone.part)
    shop.arrange(joined=count)
    assert shop.load.where.left_out == ""
    assert max(lost(shop, cut_bar(shop))) < before + 1
    checked = shop.program.agreement
    assert abs(checked.difference) < 0.01


@lru_cache(maxsize=8)
def _drawn(seed: int) -> LoadShop:
    return LoadShop(built(drawn(seed)))


def test_a_bar_is_faced_once_and_that_cannot_be_taken_apart() -> None:
    shop = in_bar(4)
    face = made(shop, FACE)
    assert face.over == 4
    assert [c.place for c in shop.load.calls if c.operation.id == FACE] == ["1"]
    scope = next(s for s in scopes_of(shop.ledger, shop.part, LIB, "L1") if s.operation == FACE)
    assert (scope.scope, scope.in_row, scope.has_to) == ("row", None, True)
    with pytest.raises(PlanError, match="comes into the next piece of its bar"):
        shop.change(change="set-scope", load="L1", operation=FACE, scope="each")
    assert abs(shop.program.agreement.difference) < 0.01
    shop.change(change="skip-pieces", load="L1", pieces=["2", "3", "4"])
    assert abs(shop.program.agreement.difference) < 0.01


@pytest.mark.parametrize("part", [STEPPED, LEDGED], ids=["open at an end", "open along the bar"])
def test_what_opens_towards_the_next_piece_comes_once_the_way_between_is_cut(part: Part) -> None:
    alone, shop = LoadShop(part), LoadShop(part)
    shop.arrange(joined=3)
    assert shop.load.where.left_out == ""
    order = [c.operation.id for c in shop.load.rows]
    assert order.index("S1.outline.finish-outline") < order.index("S1.L1.rough-pocket")
    step = made(shop, "S1.L1.rough-pocket")
    # its mill stays 0.2 for the wall and 2 · 0.2 off the next part, 17 away
    assert max(p[0] for s in step.motion.strokes for p in s.points) <= 60 + 17 - 0.6 - step.tool.diameter / 2 + 1e-6
    left = cut_bar(shop)
    assert lost(shop, left) == pytest.approx(lost(alone, cut_bar(alone)) * 3, abs=0.1)
    assert followed(course_of(shop.part, shop.ledger)).collisions == ()
    assert not shop.findings("stock-left")
    if part is LEDGED:  # it goes straight across: one pass for all of them is there to be chosen
        shop.change(change="set-scope", load="L1", operation="S1.L1.rough-pocket", scope="row")
        assert made(shop, "S1.L1.rough-pocket").over == 3
        assert max(lost(shop, cut_bar(shop))) < 0.05


def test_what_comes_out_below_the_way_between_keeps_the_pieces_apart() -> None:
    shop = LoadShop(STEPPED)
    shop.change(change="set-depth", operation=ROUGH, depth=5)
    shop.arrange(joined=3)
    (found,) = shop.findings("not-as-arranged")
    assert "“Rough step L1, 6 deep” would come 0.8 into what stands between the pieces." in found.why
    assert shop.load.pieces == 1
    assert shop.load.built.blank is None
    shop.cure("not-as-arranged")
    assert not shop.findings("not-as-arranged")


def test_a_mill_that_is_too_thick_or_too_thin_between_two_parts_is_named() -> None:
    shop = in_bar(3)
    shop.change(change="edit-operation", operation=ROUGH, tool="EA20")
    (found,) = shop.findings("not-as-arranged")
    assert "into the next part beside it" in found.why
    shop.change(change="edit-operation", operation=ROUGH, tool="EA6")
    (found,) = shop.findings("not-as-arranged")
    # 7 over at an end, of which Ø6 with 0.2 for the wall takes 6.2
    assert "would leave 0.8 standing at the ends of the piece" in found.why


def test_less_stock_at_the_ends_takes_a_thinner_mill() -> None:
    shop, alone = in_bar(3), Shop()
    for side in ("X-", "X+"):
        shop.change(change="set-allowance", side=side, value=4)
    assert gap_of(shop.load.built) == 11
    assert made(shop, ROUGH).tool.diameter <= 11 - 2 * 0.4
    assert max(lost(shop, cut_bar(shop))) == pytest.approx(lost(alone, cut_bar(alone))[0], abs=0.05)
    for side in ("X-", "X+"):
        shop.change(change="set-allowance", side=side, value=0.1)
    # 3.2 between two parts: a mill of Ø2 goes round them, in a quarter of an hour each
    assert made(shop, ROUGH).tool.diameter == 2
    assert made(shop, ROUGH).time.cut > 600
    shop.change(change="edit-operation", operation=ROUGH, allowance=1.5)
    (found,) = shop.findings("not-as-arranged")
    assert "No end mill of Ø" in found.why
    assert "reaches all of the outline" in found.why
    shop.change(change="edit-operation", operation=ROUGH, clear=["allowance"])
    shop.arrange(joined=3)  # which leaves what the mill of a piece alone needs
    assert shop.load.where.left_out == ""


REFUSED: dict[str, tuple[dict[str, Any], str]] = {
    "plate": ({"change": "set-fixture", "setup": "S1", "fixture": "plate-300"}, "does not clamp a bar"),
    "round": ({"change": "set-stock", "form": "round bar"}, "from a block, a plate or a flat bar"),
    "probing": ({"change": "set-probe", "setup": "S1", "what": "zero", "on": True}, "two sides stand in it"),
}


@pytest.mark.parametrize("name", REFUSED)
def test_what_cannot_lie_in_a_bar_is_refused_and_left_out(name: str) -> None:
    change, why = REFUSED[name]
    first = Shop()
    first.change(**change)
    with pytest.raises(PlanError, match=why):
        first.arrange(joined=3)
    shop = in_bar(3)
    shop.change(**change)
    found = shop.findings("not-as-arranged")
    assert why in found[0].why
    shop.cure("not-as-arranged")
    assert not shop.findings("not-as-arranged")


def test_a_bar_lies_alone_in_the_first_setup_and_its_pieces_stay_where_they_are() -> None:
    shop = in_bar(3)
    with pytest.raises(PlanError, match="begins with pieces that are apart already"):
        shop.change(change="set-arrangement", load="L2", joined=2)
    with pytest.raises(PlanError, match="all in one setup"):
        shop.change(change="load-together", load="L1", setup="S2")
    with pytest.raises(PlanError, match="no piece of a bar is moved"):
        shop.arrange(moved=[["2", 5.0, 0.0]])
    with pytest.raises(PlanError, match="no piece of a bar is moved or turned"):
        shop.arrange(turned=[["2", 90]])
    with pytest.raises(PlanError, match="pieces of one bar"):
        shop.arrange(joined=0)
    with pytest.raises(PlanError, match="turns its work"):
        LoadShop(RING, "lathe-320").arrange(joined=2)
    with pytest.raises(PlanError, match="more than 200"):
        shop.arrange(joined=40, rows=6)
    assert shop.arrange(joined=1) == "load L1: one piece"
    assert shop.load.where.alone


def test_bars_beside_one_another_go_clear_and_too_near_is_said() -> None:
    shop = in_bar(3, rows=2)
    assert not [f for f in shop.ledger.findings if f.severity == "error"]
    assert shop.load.where.pitch[1] == pytest.approx(shop.load.where.least[1].value)
    shop.arrange(gap=[["Y", 20.0]])
    assert shop.findings("pieces-overlap")  # jaw in jaw
    shop.cure("pieces-overlap")
    assert not shop.findings("pieces-overlap")
    shop.arrange(rows=1, columns=2, gap=[["X", 4.0]])
    assert shop.findings("neighbour-too-near")
    shop.arrange(gap=[["X", None]], joined=5)
    long = shop.findings("past-travel")
    assert [c.label for c in long[0].cures][-1] == "5 pieces"


def test_a_bar_past_the_travel_is_made_shorter() -> None:
    shop = in_bar(12)
    found = shop.findings("past-travel")
    assert found
    shop.cure("past-travel")
    assert not shop.findings("past-travel")
    assert shop.load.pieces == shop.load.where.load.arrangement.joined > 5


def test_what_is_bought_is_a_bar_of_all_pieces() -> None:
    """Five of 74 in 382: each 76.4 of 44 × 24, and four cuts of 1.50 for five pieces."""
    shop = in_bar(5)
    material = shop.ledger.problem.material
    assert (material.length, material.sawn_apart, material.together) == (Decimal("76.4000"), 5, 5)
    kg = Fraction(material.section_area) * Fraction("76.4") * Fraction(material.density) / 10**6
    each = kg * Fraction(material.price_per_kg) + Fraction(4, 5) * Fraction(material.cut_charge)
    assert Terms(shop.ledger.problem).lines["material"].each == each
    buy = material_to_buy(shop.ledger)
    assert "44 × 24, 382 long" in buy.words
    assert buy.needed[0] == -(-shop.ledger.prices[0].started // 5)
    shop.change(change="set-buy", buy="bar")
    bars = shop.ledger.problem.material
    # of 3,000 less what stays in the feed as many fives as go on, each 382 and a kerf
    usable = int(bars.bar_length - bars.remnant) + KERF
    assert bars.pieces_per_bar == int(usable // (382 + KERF)) * 5
    assert bars_of(bars, 10) == 1


def test_across_the_longest_side_the_section_bears_the_saw() -> None:
    """Pieces of 100 that lie across the jaws: a blank of 4 · 44 + 3 · 3 = 185 is that much wider for the saw, and each
    piece has a quarter of its length.
    """
    shop = LoadShop(built(block((0, 0, 0), (40, 100, 20))))
    shop.change(change="set-turn", setup="S1", turn=0)
    shop.arrange(joined=4)
    built_one = shop.load.built
    across = built_one.home.frame.box(built_one.before.bounds).size[0]
    assert across < 100
    m, (alone, length) = shop.ledger.problem.material, shop.ledger.stock.section_and_length
    assert float(m.section_area) == pytest.approx(alone * (4 * across + 3 * KERF) / across, abs=0.01)
    assert float(m.length) == pytest.approx(length / 4)
    assert m.together == 4


def test_stock_is_followed_up_to_the_next_part_and_sawn_to_the_piece() -> None:
    shop = in_bar(3)
    course = course_of(shop.part, shop.ledger)
    own = shop.ledger.stock.bounds
    assert course.sawn is not None
    assert course.sawn.kept == own
    assert course.stock.box.size[0] == 60 + 7 + 17
    outcome = followed(course)
    assert outcome.collisions == ()
    assert not [r for r in outcome.remainders if r.cut_into and r.amount > 0.15]
    after = stock_after(course, course.sawn.after)
    assert max(v[0] for v in after.vertices) == pytest.approx(own.max[0])
    steps = {s.operation: s for s in outcome.steps}
    alone = followed(course_of(Shop().part, Shop().ledger))
    finish = "S1.outline.finish-outline"
    # what the saw takes is no operation's: only its own 0.2 of the wall, as of a piece alone
    assert steps[finish].removed == pytest.approx(
        next(s.removed for s in alone.steps if s.operation == finish), rel=0.02
    )
    # full width between the parts: what is stated is what is taken
    stated = made(shop, ROUGH).rate
    assert steps[ROUGH].rate == pytest.approx(stated, rel=0.2)


def test_pictures_show_the_bar_once_with_its_vises() -> None:
    shop = in_bar(5)
    where = shop.load.where
    vises = vises_in(shop.load.built, Arrangement(joined=5))
    jaws = [b.box for b in vises if b.what == "jaw"]
    assert len(jaws) == 2 * 3
    assert isinstance(shop.load.built.hold.fixture, Vise)
    stock = shop.load.built.hold.stock
    ends = (stock.min[0], stock.min[0] + 382)
    low, high = min(b.min[0] for b in jaws), max(b.max[0] for b in jaws)
    assert low - ends[0] == pytest.approx(ends[1] - high)
    assert low - ends[0] <= OVERHANG * 74
    drawing = load_drawing(shop.load, [o for o in offsets_of(shop.ledger, shop.part) if o.setup == "S1"])
    assert drawing is not None
    assert sum(box.what == "jaw" for box in drawing.boxes) == 6
    assert sum(box.what == "stock" for box in drawing.boxes) == 6  # the bar, and each piece in it
    assert [n[2] for n in drawing.numbers] == [f"{k} G54" for k in range(1, 6)]
    assert [p.holds for p in poses(shop.load)] == [True, False, False, False, False]
    bodies = [Solid(s.what, s.box) for s in where.units[0].solids if s.what == "stock"]
    assert [s.box.size[0] for s in bodies] == [382]


def test_counts_are_bars_and_a_plan_alone_takes_them_apart() -> None:
    shop = in_bar(3)
    counts = counts_of(shop.ledger, shop.part, LIB, "L1")
    assert all(p.pieces == p.columns * p.rows * 3 for p in counts.points)
    alone = _alone(shop.load)
    assert alone is not None
    plan, _ = read_change(alone).apply(shop.plan, Scene(shop.part, LIB, shop.ledger))
    assert plan.loads[0].arrangement.count == 1


def test_kerf_by_hand_counts() -> None:
    shop = Shop()
    shop.change(change="set-rate", name="kerf", value="1.2")
    shop.arrange(joined=2)
    assert shop.load.built.blank == InBlank(1.2)
    # (16 + 0.8 − 1.2) / 2 = 7.8, to half a millimetre 8
    assert more_at_the_ends(shop.load.built, 1.2) == 8
    assert shop.load.placed[1].shift[0] - shop.load.placed[0].shift[0] == pytest.approx(60 + 16 + 1.2)


def test_a_way_round_in_a_bar_begins_and_ends_at_the_front() -> None:
    ring = ((0.0, 0.0), (60.0, 0.0), (60.0, 40.0), (0.0, 40.0))
    down = Down(20, 7, 1, 27)
    rough = rough_outline_path(ring, Rim((0, -2, 60, 42), InBlank(3.0)), 16, 0.2, 7, down, 1000)
    finish = finish_outline_path(ring, 16, 0.0, down, 1000, in_bar=True)
    for motion in (rough, finish):
        low = [p for s in motion.strokes for p in s.points if p[2] < 20]
        assert max(low[0][1], low[-1][1]) < -10  # beside the front, where no other part stands
        assert all(-8.2 - 1e-6 <= p[0] <= 68.2 + 1e-6 for p in low)
    assert united([swept(replace(rough, cycle=None), _mill(), 25.0)]).volume > 0


def _mill() -> Tool:
    return next(t for t in LIB.tools if t.id == "EA16")


def test_bars_on_the_sides_of_a_tombstone_have_a_zero_each() -> None:
    shop = LoadShop(demo_part("cable-saddle"), "mill-762-rotary")
    shop.change(change="set-carriers", setup="S1", carriers=("bar-480",))
    shop.change(change="set-fixture", setup="S1", fixture="vise-60-low")
    shop.arrange(joined=3, sides=(0, 90, 180))
    assert (shop.load.where.left_out, shop.load.pieces) == ("", 9)
    assert [p.group for p in shop.load.placed] == [f"bar {k}" for k in (1, 2, 3) for _ in range(3)]
    assert shop.words == [f"G{n}" for n in (54, 55, 56) for _ in range(3)]
    assert not [f for f in shop.ledger.findings if f.severity == "error"]
    assert abs(shop.program.agreement.difference) < 0.01
