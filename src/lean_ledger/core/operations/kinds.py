"""The kinds of operations: a new one is its own module, and one name and one row here."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from lean_ledger.core.plan import SETTABLE, Strategy
from lean_ledger.library.types import ToolKind

ALL = frozenset(SETTABLE)
#: Of what goes to its depth in one: there are no steps.
PLUNGING = ALL - {"ap", "ae", "passes", "allowance"}
#: Of what leaves nothing to another operation.
LAST = ALL - {"allowance"}


class OperationKind(StrEnum):
    """In the order that a setup falls into by itself."""

    FACE = "face"
    FACE_TURN = "face in the lathe"
    ROUGH_TURN = "rough turn"
    ROUGH_POCKET = "rough pocket"
    CLEAN_CORNERS = "clean corners"
    FINISH_FLOOR = "finish floor"
    FINISH_WALL = "finish wall"
    SPOT = "spot"
    DRILL = "drill"
    MILL_BORE = "mill bore"
    COUNTERBORE = "counterbore"
    COUNTERSINK = "countersink"
    REAM = "ream"
    BORE_TO_SIZE = "bore to size"
    TAP = "tap"
    THREAD_MILL = "mill thread"
    ROUGH_SURFACE = "open surface"
    FINISH_SURFACE = "finish surface"
    T_SLOT = "mill T-slot"
    DOVETAIL = "mill dovetail"
    ROUGH_OUTLINE = "rough outline"
    FINISH_OUTLINE = "finish outline"
    CHAMFER = "chamfer"
    ENGRAVE = "engrave"
    BORE = "bore"
    FINISH_TURN = "finish turn"
    GROOVE = "groove"
    TURN_RECESS = "turn between walls"
    BORE_GROOVE = "groove inside"
    THREAD_TURN = "turn thread"
    CUT_OFF = "cut off"
    PROBE = "probe"

    @property
    def rank(self) -> int:
        """Place in the order that a setup falls into by itself."""
        return _RANKS[self]

    @property
    def follows_walls(self) -> bool:
        """Whether an end mill goes along a wall, so that it climbs or works against the cut."""
        return KINDS[self].follows_walls

    @property
    def tool_kinds(self) -> tuple[ToolKind, ...]:
        """What can do it."""
        return KINDS[self].tools

    @property
    def settable(self) -> frozenset[str]:
        """The values that can be set by hand for one of the kind."""
        return KINDS[self].settable

    @property
    def cuts_into_part(self) -> bool:
        """Whether what it takes is gone from the part by a decision, and not by the model."""
        return KINDS[self].into_part

    @property
    def ways(self) -> tuple[Strategy, ...]:
        """That there are to choose from."""
        return KINDS[self].ways


@dataclass(frozen=True)
class Kind:
    tools: tuple[ToolKind, ...] = (ToolKind.END_MILL,)
    settable: frozenset[str] = ALL
    follows_walls: bool = False
    ways: tuple[Strategy, ...] = ()
    into_part: bool = False  # it is meant to cut into the part as it is drawn


_RANKS = {kind: rank for rank, kind in enumerate(OperationKind)}
ROUND = ALL - {"ae"}  # nothing goes in sideways
_TURNED = Kind((ToolKind.TURNING,), ROUND)

KINDS: Mapping[OperationKind, Kind] = {
    OperationKind.FACE: Kind((ToolKind.FACE_MILL, ToolKind.END_MILL), LAST),
    OperationKind.FACE_TURN: _TURNED,
    OperationKind.ROUGH_TURN: _TURNED,
    OperationKind.ROUGH_POCKET: Kind(follows_walls=True, ways=("in steps", "constant engagement")),
    OperationKind.CLEAN_CORNERS: Kind(follows_walls=True),
    OperationKind.FINISH_FLOOR: Kind(),
    OperationKind.FINISH_WALL: Kind(follows_walls=True),
    OperationKind.SPOT: Kind((ToolKind.SPOT_DRILL,), PLUNGING),
    OperationKind.DRILL: Kind((ToolKind.DRILL,), PLUNGING),
    OperationKind.MILL_BORE: Kind(follows_walls=True, ways=("in steps", "constant engagement", "in a helix")),
    OperationKind.COUNTERBORE: Kind(),
    OperationKind.COUNTERSINK: Kind((ToolKind.COUNTERSINK, ToolKind.CHAMFER_MILL), PLUNGING),
    OperationKind.REAM: Kind((ToolKind.REAMER,), PLUNGING),
    OperationKind.BORE_TO_SIZE: Kind((ToolKind.BORING_HEAD,), PLUNGING),
    OperationKind.TAP: Kind((ToolKind.TAP,), PLUNGING),
    OperationKind.THREAD_MILL: Kind((ToolKind.THREAD_MILL,), PLUNGING),
    OperationKind.ROUGH_SURFACE: Kind(),
    OperationKind.FINISH_SURFACE: Kind((ToolKind.BALL_MILL,), ways=("in rows", "in levels")),
    OperationKind.T_SLOT: Kind((ToolKind.T_SLOT_MILL,)),
    OperationKind.DOVETAIL: Kind((ToolKind.DOVETAIL_MILL,)),
    OperationKind.ROUGH_OUTLINE: Kind(follows_walls=True),
    OperationKind.FINISH_OUTLINE: Kind(follows_walls=True),
    OperationKind.CHAMFER: Kind((ToolKind.CHAMFER_MILL,), LAST),
    OperationKind.ENGRAVE: Kind((ToolKind.END_MILL, ToolKind.BALL_MILL), ALL - {"ae", "allowance"}, into_part=True),
    OperationKind.BORE: Kind((ToolKind.BORING_BAR,), ROUND),
    OperationKind.FINISH_TURN: _TURNED,
    OperationKind.GROOVE: Kind((ToolKind.GROOVING,), ROUND),
    OperationKind.TURN_RECESS: Kind((ToolKind.GROOVING, ToolKind.PROFILING), PLUNGING | {"passes"}),
    OperationKind.BORE_GROOVE: Kind((ToolKind.BORE_GROOVING,), PLUNGING),
    OperationKind.THREAD_TURN: Kind((ToolKind.THREADING,), PLUNGING | {"passes"}),
    OperationKind.CUT_OFF: Kind((ToolKind.GROOVING,), PLUNGING),
    OperationKind.PROBE: Kind((ToolKind.PROBE,), frozenset({"tool"})),
}
assert set(KINDS) == set(OperationKind), "each kind has its row"
