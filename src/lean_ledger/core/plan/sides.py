"""The six sides of a part."""

from __future__ import annotations

from typing import Literal

from lean_ledger.core.geometry.vectors import SIX, Vec, axis_name

Side = Literal["X-", "X+", "Y-", "Y+", "Z-", "Z+"]

#: Direction that each side of the part looks in.
DIRECTIONS: dict[str, Vec] = {axis_name(d): d for d in SIX}
