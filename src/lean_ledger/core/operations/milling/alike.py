"""Alike pockets are made once: at the others' places the tool goes the same ways, where it cuts nothing there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.milling.recesses import Recessed, corner_of
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.workplace import WALL, Named, Workplace
from lean_ledger.core.timing.motion import Stroke

PLACES = 6  # decimals of mm of a way that is moved


@dataclass(frozen=True)
class Made:
    """The first of alike recesses, what it is called, and its operations as they came."""

    recess: Recessed
    label: str
    operations: tuple[Operation, ...]

    def again(self, place: Workplace, recess: Recessed, label: str) -> bool:
        """Make another of them by the same ways. Nothing is done where a tool would cut something there."""
        (x, y), (u, v) = corner_of(self.recess), corner_of(recess)
        now = recess.feature.id
        by = u - x, v - y
        ids = {op.id: place.id_of(now, op.kind) for op in self.operations}
        found = [
            replace(
                op, id=ids[op.id], name=op.name.replace(self.label, label), features=recess.features, chain=now,
                motion=_moved(op.motion, by), after=tuple((ids[before], why) for before, why in op.after),
            )
            for op in self.operations
        ]  # fmt: skip
        if not all(_stays(place, op) for op in found):
            return False
        for op, first in zip(found, self.operations, strict=True):
            place.cut_along[op.id] = tuple(Same(_along(line.value, by)) for line in place.cut_along[first.id])
            if op.measured is not None:
                place.measured[op.id] = op.measured
            place.operations.append(op)
        return True


def made_alike(place: Workplace, recess: Recessed, label: str) -> Made | None:
    """What others may be made like: closed all round, from the top down, with nothing to be said about it."""
    own = tuple(op for op in place.operations if op.chain == recess.feature.id)
    ids = {op.id for op in own}
    plain = (
        bool(own) and recess.top >= place.top - WALL and not recess.region.open_edges and not recess.also
        and not any(recess.feature.id in found.features or found.operation in ids for found in place.findings)
        and all(op.id == place.id_of(recess.feature.id, op.kind) and not _deep_by_hand(op) for op in own)
        and {before for op in own for before, _ in op.after} <= ids
    )  # fmt: skip
    return Made(recess, label, own) if plain and all(_stays(place, op) for op in own) else None


def _deep_by_hand(op: Operation) -> bool:
    """Whether its depth was decided: it stands, whatever it cuts."""
    return op.measured is not None and bool(op.measured.words)


def _stays(place: Workplace, op: Operation) -> bool:
    """Whether a tool goes all of its way, just so."""
    named = Named(op.id, op.kind, op.name, op.features, op.chain)
    return op.id not in place.withheld and place.goes_as_it_is(named, op.tool, op.motion)


def _moved(motion: Motion, by: tuple[float, float]) -> Motion:
    strokes = tuple(Stroke(_along(stroke.points, by), stroke.feed_mm_per_min) for stroke in motion.strokes)
    return replace(motion, strokes=strokes)


def _along(points: Sequence[Vec], by: tuple[float, float]) -> tuple[Vec, ...]:
    return tuple((round(x + by[0], PLACES), round(y + by[1], PLACES), z) for x, y, z in points)
