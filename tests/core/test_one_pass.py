"""Once over each row of pieces in place of once over each piece."""

from __future__ import annotations

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, box

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.followed.play import played
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.scopes import scopes_of
from lean_ledger.core.loads.one_pass import drawn_out, one_pass
from lean_ledger.core.loads.runs import Selection, reduced
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.timing.motion import feed, rapid
from tests.conftest import built
from tests.core.loads_shop import LIB, LoadShop, Shop, met_on_the_way

FACE = "S1.Z+.face"


def once(shop: LoadShop, operation: str = FACE) -> str:
    return shop.change(change="set-scope", load="L1", operation=operation, scope="row")


def in_row(shop: LoadShop, operation: str = FACE) -> tuple[float | None, str]:
    found = next(s for s in scopes_of(shop.ledger, shop.part, LIB, "L1") if s.operation == operation)
    return found.in_row, found.why


def made(shop: LoadShop, operation: str = FACE) -> Operation:
    return next(op for op in shop.ledger.operations if op.id == operation)


def test_pass_is_drawn_out_over_the_row() -> None:
    motion = Motion((rapid((-10, 0, 9), (-10, 0, 0)), feed(500, [(-10, 0, 0), (70, 0, 0)])))
    long = drawn_out(motion, 0, 30, 160)
    assert [s.points for s in long.strokes] == [((-10, 0, 9), (-10, 0, 0)), ((-10, 0, 0), (230, 0, 0))]


def test_row_of_four_is_faced_in_one_pass_there_and_one_back() -> None:
    shop = Shop()
    shop.arrange(columns=4)
    each, cycle, saved = made(shop), shop.load.cycle, in_row(shop)[0]
    words = once(shop)
    assert words == "load L1: “Face side Z+, 2 off” once over each row of pieces"
    row = made(shop)
    # two passes, there and back, each longer by the way from the first piece to the last
    assert row.time.cut_length == pytest.approx(each.time.cut_length + 2 * 3 * shop.load.where.pitch[0])
    assert row.over == 4
    assert row.cut_each == pytest.approx(row.time.cut / 4)
    assert [c.place for c in shop.load.calls if c.operation.id == FACE] == ["1"]
    assert saved is not None
    assert saved < -1
    assert shop.load.cycle == pytest.approx(cycle + saved)
    assert sum(r.total for r in shop.load.rows) * 4 == pytest.approx(shop.load.cycle - shop.load.return_rapid)
    assert abs(shop.program.agreement.difference) < 0.01
    assert met_on_the_way(shop) == []
    shop.change(change="set-scope", load="L1", operation=FACE, scope="each")
    assert shop.load.cycle == pytest.approx(cycle)


def test_pieces_of_a_faced_row_stand_closer() -> None:
    """The face mill of 50 no longer has to come out between them: then the vises themselves ask for most."""
    shop = Shop()
    shop.arrange(columns=4)
    before = shop.load.where
    assert before.least[0].operation == FACE
    once(shop)
    now = shop.load.where
    jaws = [s.box.size[0] for s in now.solids if s.what == "jaw"]
    assert now.least[0].because == "room between jaws"
    assert now.pitch[0] == pytest.approx(max(jaws) + 5)
    assert now.pitch[0] < before.pitch[0] - 10
    assert now.limit(0).most > before.limit(0).most


def test_machine_clears_every_piece_of_each_row() -> None:
    """By the program as it runs: what the tool goes over at the face's level, beside each piece's own stock."""
    shop = Shop()
    shop.arrange(columns=3, rows=2)
    once(shop)
    assert [c.place for c in shop.load.calls if c.operation.id == FACE] == ["1", "4"]
    checked, op = shop.program, made(shop)
    main = checked.program.numbers.main
    calls = [c.operation.id for c in shop.load.calls]
    gone = [
        LineString([step.start[:2], step.end[:2]]).buffer(op.tool.diameter / 2)
        for step in checked.run.steps
        if step.kind == "cut" and step.sub not in (0, main) and calls[step.entered - 1] == FACE
    ]
    over = shapely.union_all(gone)
    solids = shop.load.where.kind("S1").solids
    stock = next(s for s in solids if s.what == "stock")
    for placed in shop.load.placed:
        there = placed.box(stock.box)
        assert box(*there.min[:2], *there.max[:2]).difference(over).area < 0.1


@pytest.mark.parametrize("by", ["tool", "operation", "piece"])
def test_pieces_of_a_row_wait_for_its_pass(by: str) -> None:
    shop = Shop()
    shop.arrange(columns=3)
    shop.change(change="set-piece-order", load="L1", by=by)
    once(shop)
    calls = [(c.place, c.operation.id) for c in shop.load.calls]
    faced = calls.index(("1", FACE))
    after = {op.id for op in shop.load.built.operations if FACE in {id for id, _ in op.after}}
    assert after
    assert all(calls.index(call) > faced for call in calls if call[1] in after)
    assert len(calls) == 3 * len(shop.load.rows) - 2


def test_part_of_a_load_keeps_the_pass_that_makes_its_pieces() -> None:
    shop = Shop()
    shop.arrange(columns=3)
    once(shop)
    only = reduced(shop.load, Selection(pieces=("3",)))
    assert [c.place for c in only.calls if c.operation.id == FACE] == ["1"]
    assert {c.place for c in only.calls if c.operation.id != FACE} == {"3"}


@pytest.mark.parametrize(("skipped", "called"), [(("2", "3"), True), (("1", "2"), True), (("4", "5", "6"), False)])
def test_pass_is_skipped_only_with_the_whole_row(skipped: tuple[str, ...], called: bool) -> None:
    shop = Shop()
    shop.arrange(columns=3, rows=2)
    once(shop)
    shop.change(change="skip-pieces", load="L1", pieces=skipped)
    lines = shop.program.program.text.splitlines()
    number = next(n for n, id in shop.program.program.calls if id == FACE)
    calls = [line for line in lines if f"M98 P{number}" in line]
    assert len(calls) == 2
    assert all(not line.startswith("/") for line in calls) is called


def test_played_cycle_has_all_pieces_of_the_row_faced() -> None:
    shop = Shop()
    shop.arrange(columns=3)
    once(shop)
    steps = [s for s in played(shop.ledger)[0] if s.setup == "S1"]
    at = next(k for k, s in enumerate(steps) if s.operation == FACE)
    following = [next(s for s in steps[at + 1 :] if s.place == piece) for piece in ("2", "3")]
    assert all(s.before == steps[at].after for s in following)


def test_tool_lasts_as_many_pieces_in_one_pass_as_it_cuts() -> None:
    shop = Shop()
    shop.arrange(columns=4)
    wear = shop.ledger.prices[0].each
    row_before = next(r for r in shop.load.rows if r.operation.id == FACE)
    once(shop)
    row = next(r for r in shop.load.rows if r.operation.id == FACE)
    assert row.share == pytest.approx(1 / 4)
    assert row.seconds["cutting"] < row_before.seconds["cutting"] * 1.2
    assert shop.ledger.prices[0].each < wear


def test_what_goes_round_turns_within_or_was_moved_runs_on_each() -> None:
    shop = Shop()
    shop.arrange(columns=3)
    assert "turns within the piece" in in_row(shop, "S1.outline.finish-outline")[1]
    assert "flat tool along lines" in in_row(shop, "S1.H1.drill")[1]
    with pytest.raises(PlanError, match="turns within the piece"):
        once(shop, "S1.outline.finish-outline")
    once(shop)
    shop.arrange(moved=(("2", 0.0, 30.0),))
    (finding,) = shop.findings("not-in-one-pass")
    assert "moved or turned by hand" in finding.why
    assert len([c for c in shop.load.calls if c.operation.id == FACE]) == 3
    shop.cure("not-in-one-pass")
    assert shop.findings("not-in-one-pass") == []
    shop.arrange(columns=1, rows=3, moved=(("2", 0.0, 0.0),))
    assert "turns within the piece along Y" in in_row(shop)[1]


def test_row_of_two_setups_in_turn_would_go_through_the_other_s_stock() -> None:
    part = built(
        block((0, 0, 0), (60, 40, 20)) - rod((15, 20, 12), (0, 0, 1), 6, 8) - rod((45, 20, 0), (0, 0, 1), 5, 6)
    )
    shop = LoadShop(part)
    shop.change(change="load-together", load="L1", setup="S2", in_turn="columns")
    shop.arrange(columns=4)
    assert in_row(shop)[1] == "it would meet the stock that stands between"
    shop.arrange(columns=2, rows=2, in_turn="rows")
    assert in_row(shop)[0] is not None
    once(shop)
    assert met_on_the_way(shop) == []
    assert abs(shop.program.agreement.difference) < 0.01


@settings(max_examples=2)
@given(
    length=st.integers(30, 90), width=st.integers(25, 60), columns=st.integers(2, 4), slot=st.integers(8, 14),
    apart=st.integers(0, 30),
)  # fmt: skip
def test_what_is_taken_of_each_piece_is_the_same(length: int, width: int, columns: int, slot: int, apart: int) -> None:
    """Of faces and of a slot through: each piece loses to the row's pass what it lost to its own."""
    body = block((0, 0, 0), (length, width, 20)) - block((-1, 8, 14), (length + 1, 8 + slot, 21))
    shop = LoadShop(built(body))
    shop.arrange(columns=columns)
    shop.arrange(gap=(("X", shop.load.where.gap[0] + apart),))
    own = {op.id: op for op in shop.load.built.operations}
    able = [s.operation for s in scopes_of(shop.ledger, shop.part, LIB, "L1") if s.in_row is not None]
    for id in able:
        once(shop, id)
    stock = shop.load.built.before.bounds
    for id in able:
        row = made(shop, id)
        there = row.frame.box(stock)
        for k in range(columns):
            by = k * shop.load.where.pitch[0]
            mine, its = _gone(own[id], 0.0), _gone(row, by)
            piece = box(there.min[0], there.min[1], there.max[0], there.max[1])
            assert mine.symmetric_difference(its).intersection(piece).area < 0.1
    assert abs(shop.program.agreement.difference) < 0.01
    assert met_on_the_way(shop) == []


def _gone(op: Operation, by: float) -> shapely.Geometry:
    radius = op.tool.diameter / 2
    lines = [LineString([(x - by, y) for x, y, _ in s.points]).buffer(radius) for s in op.motion.strokes
             if not s.is_rapid and len(s.points) > 1]  # fmt: skip
    return shapely.union_all(lines)


def test_driven_mill_on_a_bar_runs_on_each_piece() -> None:
    """Pieces of an advance lie behind one another at one X and Y: no pass goes from one to the next."""
    machine = next(m for m in LIB.machines if m.turns_work and m.drives_tools)
    shop = Shop()
    shop.arrange(columns=3)
    op = next(op for op in shop.load.built.operations if op.id == FACE)
    assert one_pass(shop.load.where, op, machine).words == "on a lathe pieces do not stand in rows"
    assert one_pass(shop.load.where, op, shop.load.machine).words == ""


def test_scope_of_what_there_is_not_is_refused() -> None:
    shop = Shop()
    shop.arrange(columns=2)
    with pytest.raises(PlanError, match="there is no load L9"):
        scopes_of(shop.ledger, shop.part, LIB, "L9")
    with pytest.raises(PlanError, match="there is no load L9"):
        shop.change(change="set-scope", load="L9", operation=FACE, scope="row")
    with pytest.raises(PlanError, match="has no operation"):
        once(shop, "S1.nothing")
    with pytest.raises(PlanError, match="scope"):
        shop.change(change="set-scope", load="L1", operation=FACE, scope="sometimes")
