"""What a control remembers from one block to the next, and the words that it knows."""

from __future__ import annotations

from dataclasses import dataclass

from lean_ledger.core.control.blocks import Block, ProgramError
from lean_ledger.core.timing.chain import XY, YZ, ZX, Plane

INCH = 25.4

MOTIONS = frozenset({0, 1, 2, 3})
LOCAL = 52  # a zero of its own beside the work offset's, on controls that know it
PROBE, THREAD = 31, 33  # motions that a control may know beside: until something is touched; K mm for each turn
CYCLES = frozenset({73, 74, 81, 82, 83, 84, 85, 86})
PLANES: dict[float, Plane] = {17: XY, 18: ZX, 19: YZ}
OFFSETS = frozenset({54, 55, 56, 57, 58, 59})
PASSIVE = frozenset({40, 41, 42, 43, 49})  # no effect on time; what they do to tool length is seen to by the run
KNOWN_G = (
    MOTIONS | CYCLES | PASSIVE | OFFSETS | PLANES.keys()
    | {4, 20, 21, 28, 50, 53, 54.1, 80, 90, 91, 92, 94, 95, 96, 97, 98, 99, 154}
)  # fmt: skip
KNOWN_M = frozenset({0, 1, 2, 3, 4, 5, 6, 8, 9, 30, 98, 99})


@dataclass
class Cycle:
    """A canned cycle while it is on; levels in machine coordinates."""

    code: int
    initial: float
    r: float | None = None
    z: float | None = None
    q: float | None = None
    dwell: float = 0.0


@dataclass
class Modal:
    """A control as it is switched on: G17 G21 G90 G94 G98 G54, no feed, spindle stopped."""

    motion: int = 0
    plane: Plane = XY
    scale: float = 1.0  # mm of one unit of the program
    absolute: bool = True
    per_turn: bool = False
    feed: float | None = None  # mm/min, or mm a turn
    offset: str = "G54"
    local: tuple[float, float, float] = (0.0, 0.0, 0.0)  # of G52, mm
    to_initial: bool = True  # G98
    surface: bool = False  # G96
    surface_speed: float = 0.0  # m/min
    cap: float | None = None  # rpm
    speed: float = 0.0  # rpm asked for under G97
    turning: int = 0  # 3, 4, or 0 where the spindle stands
    running: float | None = None  # rpm at which it runs; None under G96, where that goes on changing
    tool: int | None = None
    waiting: int | None = None  # the T word that the next M6 takes in
    length: int | None = None  # H
    cycle: Cycle | None = None
    spindle: int = 0  # that turns the work which the words are about: 1 is the counter spindle
    driven: bool = False  # whether S, M3 and M4 are about a driven tool beside it


def check_words(block: Block, more_m: frozenset[float], more_g: frozenset[float]) -> None:
    """Raises ProgramError for a G or M code that is not in the list."""
    for code in block.g:
        if code not in KNOWN_G and code not in more_g:
            raise ProgramError("unlisted", f"G{code:g} is no code that is read here", block.line)
    for code in block.m:
        if code not in KNOWN_M and code not in more_m:
            raise ProgramError("unlisted", f"M{code:g} is no code that is read here", block.line)


def set_modes(modal: Modal, block: Block) -> None:
    """The codes of a block that only say how others are meant. Raises ProgramError for what they leave open."""
    for code in block.g:
        if code in PLANES:
            modal.plane = PLANES[code]
        elif code in (20, 21):
            modal.scale = INCH if code == 20 else 1.0
        elif code in (90, 91):
            modal.absolute = code == 90
        elif code in (94, 95):
            if modal.per_turn != (code == 95):
                modal.feed = None
            modal.per_turn = code == 95
        elif code in (98, 99):
            modal.to_initial = code == 98
        elif code in OFFSETS:
            modal.offset = f"G{code:.0f}"
        elif code in (54.1, 154):
            number = block.values.get("P")
            if number is None:
                raise ProgramError("missing-p", f"G{code:g} needs a P that says which offset", block.line)
            modal.offset = f"G{code:g} P{number:.0f}"
        elif code in (50, 92):
            if "S" not in block.values:
                raise ProgramError("unlisted", f"G{code:g} is read with an S only, as the cap of the speed", block.line)
            modal.cap = block.values["S"]
        elif code == 49:
            modal.length = None
        elif code == 43:
            modal.length = int(block.values["H"]) if "H" in block.values else modal.length
    if "F" in block.values:
        modal.feed = block.values["F"] * modal.scale
