"""The work offsets that a control has, by their words."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

Family = Literal["basic", "extended-48", "extended-99"]


def offset_words(family: Family) -> Iterator[str]:
    """The words of a control in their order: G54 to G59, then those of its extension."""
    yield from (f"G{n}" for n in range(54, 60))
    if family == "extended-48":
        yield from (f"G54.1 P{n}" for n in range(1, 49))
    if family == "extended-99":
        yield from (f"G154 P{n}" for n in range(1, 100))
