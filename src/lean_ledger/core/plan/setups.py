"""A setup: what is a piece's own in it, whatever load makes it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lean_ledger.core.plan.sides import Side

ZeroPlace = Literal["centre", "left front", "right front", "left back", "right back", "left", "right", "front", "back"]


#: What turns: the tool on a mill; the part on a lathe, which may have driven tools besides.
Spindling = Literal["tool", "part", "part and driven tools"]


ZeroOf = Literal["stock", "part", "bore", "axis"]


@dataclass(frozen=True)
class Zero:
    """Where a setup's work coordinates count from: on the axis of a `bore`, by its feature, where it is of one; on the
    rotary's axis at the part's free end where it is of that.
    """

    of: ZeroOf = "stock"
    place: ZeroPlace = "centre"
    level: Literal["top", "bottom"] = "top"
    bore: str = ""

    @property
    def words(self) -> str:
        if self.of == "axis":
            return "rotary axis, free end"
        return f"bore {self.bore}, {self.level}" if self.of == "bore" else f"{self.of}, {self.place}, {self.level}"


ZERO = "zero"  # among what is probed


@dataclass(frozen=True)
class SetupDecision:
    """One clamping of a piece. What is the load's, its machine above all, stands there (`Load`)."""

    id: str
    up: Side
    zero: Zero | None = None
    turn: Literal[0, 90, 180, 270] | None = None  # about up, degrees
    fixture: str | None = None
    grip: float | None = None  # mm of stock that is held
    locked: bool = False  # stays as it is, with its features, when the part is divided again
    spindle: Spindling = "tool"  # on a lathe the part turns, about `up`
    cut_off: float | None = None  # on a lathe: the piece is parted off its bar, with so much left to face, mm
    probes: tuple[str, ...] = ()  # what each cycle feels with a probe: ZERO, or features by their ids
    force: float | None = None  # kN that a vise's jaws press with; None: all that it has
    spacers: tuple[str, ...] = ()  # slots between whose walls a spacer stands while a vise holds them
    free: Side | None = None  # the end that stands free on a rotary axis; None where the tool comes from `up` only

    @property
    def part_turns(self) -> bool:
        """Whether the work turns against the tool, as on a lathe."""
        return self.spindle != "tool"

    @property
    def is_horizontal(self) -> bool:
        """Whether the axis that it is held about lies: in a lathe, or on a rotary with one end free."""
        return self.part_turns or self.free is not None


@dataclass(frozen=True)
class MovedFeature:
    feature: str
    setup: str
