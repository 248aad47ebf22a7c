"""How long work says where it is."""

from __future__ import annotations

from collections.abc import Callable

#: Told the stage in words and the share of the whole that is done, 0 to 1.
Report = Callable[[str, float], None]


def silent(stage: str, share: float) -> None:
    """For work that nobody watches."""
