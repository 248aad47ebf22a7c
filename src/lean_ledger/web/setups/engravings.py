"""What is engraved in a setup, as it lies on its faces, and what could be."""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.operations.milling.engraving import area_of, engravable, laid, lines_of
from lean_ledger.core.plan import Engraving
from lean_ledger.core.setups.ways import directions
from lean_ledger.store.opened import Opened
from lean_ledger.web.setups import schemas as su

FACING = 0.999


def engravable_sides(opened: Opened, one: LoadLedger, features: Sequence[str]) -> list[str]:
    """The sides that a setup makes and that look to its tool; a lathe engraves nothing."""
    if one.decision.part_turns:
        return []
    ways = directions(one.decision)
    sides = [(id, engravable(opened.part.by_id[id])) for id in features]
    return [id for id, side in sides if side is not None and any(dot(side.normal, way) > FACING for way in ways)]


def engraving_views(opened: Opened, one: LoadLedger, features: Sequence[str]) -> list[su.EngravingView]:
    return [_view(opened, one, e) for e in opened.plan.engravings if e.face in features]


def _view(opened: Opened, one: LoadLedger, engraving: Engraving) -> su.EngravingView:
    face = engravable(opened.part.by_id[engraving.face])
    assert face is not None, "a plan engraves flat sides only"
    frame = next((op.frame for op in one.built.operations if op.chain == engraving.id), one.built.home.frame)
    area = area_of(face, frame)
    middle = area.centroid
    rings = [[(x - middle.x, y - middle.y) for x, y in ring.coords] for ring in (area.exterior, *area.interiors)]
    return su.EngravingView(
        id=engraving.id, face=engraving.face, words=engraving.words, text=engraving.text, height=engraving.height,
        depth=engraving.depth, x=engraving.at[0], y=engraving.at[1], turn=engraving.turn,
        lines=[list(line) for line in laid(lines_of(engraving), engraving, (0.0, 0.0))], rings=rings,
    )  # fmt: skip
