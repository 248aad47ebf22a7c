"""The load on the setup sheet: where each piece lies, on which offset, and a drawing of them with their numbers."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lean_ledger.core.holding.picture import Box2
from lean_ledger.core.ledger.offsets import WorkOffset
from lean_ledger.core.loads.load_ledger import LoadLedger


@dataclass(frozen=True)
class SheetPiece:
    """`where` is its row, or its side, and how it is turned; `zero` in the machine's coordinates, mm."""

    number: str
    where: str
    offset: str
    zero: tuple[float, float, float]
    skipped: bool


@dataclass(frozen=True)
class LoadDrawing:
    """From above, in the machine's axes; of a rotary's sides, which are alike, one. `numbers`: x, y, words."""

    boxes: tuple[Box2, ...]
    numbers: tuple[tuple[float, float, str], ...]


def sheet_pieces(load: LoadLedger, offsets: Sequence[WorkOffset]) -> tuple[SheetPiece, ...]:
    of = {o.place: o for o in reversed(offsets)}
    return tuple(
        SheetPiece(
            one.place.id, one.lies, of[one.place.id].word or "none left", of[one.place.id].machine,
            one.place.id in load.where.load.skipped,
        )
        for one in load.placed
    )  # fmt: skip


def load_drawing(load: LoadLedger, offsets: Sequence[WorkOffset]) -> LoadDrawing | None:
    """None for a load of one piece: its setup is drawn already. Pieces of the load's other setups have their setup in
    place of an offset.
    """
    if len(load.where.placed) == 1:
        return None
    words = {o.place: o.word for o in reversed(offsets)}
    where = load.where
    if where.load.arrangement.on_bar > 1:
        return _bar_drawing(load, words)
    sides = where.load.arrangement.sides
    boxes, numbers = [], []
    for solid in where.shared:
        boxes.append(_box(solid.what, solid.box.min, solid.box.max))
    for one in where.placed:
        solids = where.stands_with(one)
        stock = [one.box(s.box) for s in where.kind_at(one).solids if s.what == "stock"]
        middle = [(min(b.min[i] for b in stock) + max(b.max[i] for b in stock)) / 2 for i in (0, 1)]
        same = [p for p in where.placed if p.shift == one.shift]
        if same[0] is not one:
            continue
        own = [(s.what, one.box(s.box)) for s in solids if not s.shared]
        boxes += [_box(what, b.min, b.max) for what, b in own]
        said = [f"{p.place.id} {words.get(p.place.id, p.decision.id)}" for p in same]
        numbers.append((middle[0], middle[1], said[0] if not sides else ", ".join(p.place.id for p in same)))
    return LoadDrawing(tuple(boxes), tuple(numbers))


def _bar_drawing(load: LoadLedger, words: Mapping[str, str]) -> LoadDrawing:
    """The bar along its length, out of the collet to the right; pieces with their numbers."""
    built = load.built
    hold, part = built.hold, built.hold.frame.box(built.hold.held.part.model.solid.bounds)
    half = max(hold.stock.size[:2]) / 2
    nose = hold.jaw_top
    end = hold.stock.max[2] + load.placed[0].out
    boxes = [
        Box2("chuck", -half, -half * 1.3, half, half * 2.6),
        Box2("stock", -half, -half, end - nose + half, 2 * half),
    ]
    numbers = []
    for one in load.placed:
        low, high = part.min[2] - nose + one.out, part.max[2] - nose + one.out
        boxes.append(Box2("stock", low, -half, high - low, 2 * half))
        numbers.append(((low + high) / 2, 0.0, f"{one.place.id} {words[one.place.id]}"))
    return LoadDrawing(tuple(boxes), tuple(numbers))


def _box(what: str, low: Sequence[float], high: Sequence[float]) -> Box2:
    return Box2(what, low[0], low[1], high[0] - low[0], high[1] - low[1])  # type: ignore[arg-type]
