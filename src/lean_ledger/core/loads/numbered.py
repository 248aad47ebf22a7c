"""Which work offset each piece of a load is made on, and the program that sets them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lean_ledger.core.control.offset_words import Family, offset_words
from lean_ledger.core.geometry.model import Vec
from lean_ledger.core.loads.arranged import Spot
from lean_ledger.core.plan import Policy

FIRST_STANDARD = 54  # G54 is P1 of G10 L2


@dataclass(frozen=True)
class PlacedOffset:
    """A word, the zero that it stands for in the machine, and the rotary's angle there."""

    name: str
    zero: Vec
    angle: float | None


@dataclass(frozen=True)
class Numbered:
    """`of_spots`: each piece's word, None where they run out; `needs` words, of which the control `has` so many."""

    offsets: tuple[PlacedOffset, ...]
    of_spots: tuple[str | None, ...]
    needs: int
    has: int


def numbered(
    spots: Sequence[Spot], policy: Policy, family: Family, first: str, reserved: Sequence[str] = ()
) -> Numbered:
    """In the order of the walk, from `first` on, the reserved ones left out. One for each piece, for each group, or for
    the load: on a rotary one for each side. A word's zero is that of the first piece that is made on it.
    """
    words = list(offset_words(family))
    free = [word for word in words[words.index(first) :] if word not in reserved]
    keys = [_key(i, spot, policy) for i, spot in enumerate(spots)]
    first_of: dict[object, Spot] = {}
    for key, spot in zip(keys, spots, strict=True):
        first_of.setdefault(key, spot)
    order = {key: k for k, key in enumerate(first_of)}
    offsets = tuple(PlacedOffset(word, s.zero, s.angle) for word, s in zip(free, first_of.values(), strict=False))
    names = tuple(free[order[key]] if order[key] < len(free) else None for key in keys)
    return Numbered(offsets, names, len(order), len(free))


def _key(index: int, spot: Spot, policy: Policy) -> object:
    if policy == "piece":
        return index
    return spot.group if policy == "group" else spot.angle


def setting_lines(offsets: Sequence[PlacedOffset]) -> list[str]:
    """G10 lines that set them: L2 P1 … P6 for G54 … G59, L20 Pn for those of an extension; A for the rotary's angle."""
    lines = []
    for one in offsets:
        angle = "" if one.angle is None else f" A{_plain(one.angle)}"
        lines.append(
            "G10 "
            + register(one.name)
            + "".join(f" {a}{_plain(v)}" for a, v in zip("XYZ", one.zero, strict=True))
            + angle
        )
    return lines


def register(word: str) -> str:
    """G10's words for an offset: G54 to G59 are L2 P1 to P6, those of an extension L20 Pn."""
    first, _, number = word.partition(" P")
    return f"L20 P{number}" if number else f"L2 P{int(first[1:]) - FIRST_STANDARD + 1}"


def _plain(value: float) -> str:
    """Three decimals, and no zero with a sign."""
    return f"{round(value, 3) + 0.0:.3f}"
