"""What holds: vises, chucks, collets, plates and toe clamps, and the carriers that they are stacked on.

Lengths mm, forces kN, times s. Each fixture stands in its own axes, z away from its mount, on the mount that it names.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable
from dataclasses import dataclass
from typing import ClassVar, Literal, get_args


@dataclass(frozen=True)
class Mount:
    """A named place that something sits on: where, mm, and how it is turned about x, y, z, degrees."""

    name: str
    at: tuple[float, float, float]
    rotation: tuple[float, float, float]


@dataclass(frozen=True)
class Vise:
    """Two jaws along x that close along y. With soft jaws the part's outline is cut into them."""

    id: str
    name: str
    jaw_width: float
    opening: float  # of a station
    jaw_height: float  # from the bed to the jaws' tops
    jaw_thickness: float
    bed_height: float  # from the mount to the bed
    least_grip: float
    force_kn: float
    load_seconds: float
    parallels: tuple[float, ...]
    mount: str = "table"  # that it sits on
    jaws: Literal["ground", "soft"] = "ground"
    stations: int = 1
    kind: Literal["vise"] = "vise"

    def grips(self) -> tuple[float, ...]:
        """Heights that a part can be gripped over: jaw height less each parallel, least first."""
        return tuple(sorted(self.jaw_height - p for p in self.parallels))


class Around(ABC):
    """What holds around z: there is no turn of it that would hold otherwise."""

    id: str
    name: str
    kind: str
    least_grip: float
    force_kn: float
    load_seconds: float
    takes_flats: ClassVar[bool] = False

    @property
    @abstractmethod
    def deepest(self) -> float:
        """Length along z that it can close on."""


class Nose(Around):
    """A collet's, which closes on what stands in it all round."""

    nose_diameter: float
    nose_height: float


@dataclass(frozen=True)
class Chuck(Around):
    """Jaws about z: three for what is round, four for what has two pairs of parallel sides."""

    id: str
    name: str
    jaw_count: Literal[3, 4]
    jaws: Literal["hard", "soft"]  # soft ones are bored to the part
    least: float  # diameter or width that it holds
    most: float
    jaw_length: float  # along z, from the body's face to the jaws' ends
    jaw_thickness: float
    body_diameter: float
    body_height: float  # from the mount to the body's face
    least_grip: float
    force_kn: float  # of all jaws together
    load_seconds: float
    mount: str = "spindle nose"
    kind: Literal["chuck"] = "chuck"

    @property
    def deepest(self) -> float:
        return self.jaw_length

    @property
    def takes_flats(self) -> bool:  # type: ignore[override]
        return self.jaw_count == 4


@dataclass(frozen=True)
class Collet(Nose):
    """Holds a cylinder all round; each size closes by `closes`."""

    id: str
    name: str
    sizes: tuple[float, ...]  # diameters, open
    closes: float
    depth: float  # that stock goes in at the most
    nose_diameter: float
    nose_height: float  # from the mount to the nose
    least_grip: float
    force_kn: float
    load_seconds: float
    mount: str = "spindle nose"
    kind: Literal["collet"] = "collet"

    @property
    def deepest(self) -> float:
        return self.depth


@dataclass(frozen=True)
class BarCollet(Nose):
    """Grips a bar that comes through the spindle, over the whole of its land: what is held belongs to later pieces.

    Loading a piece is opening, feeding the bar to its stop and closing.
    """

    id: str
    name: str
    rounds: tuple[float, ...]  # diameters of the collets, open
    hexagons: tuple[float, ...]  # across flats
    closes: float
    land: float
    nose_diameter: float
    nose_height: float  # from the mount to the nose
    force_kn: float
    load_seconds: float
    mount: str = "spindle nose"
    least_grip: float = 0.0  # of the piece's own stock
    kind: Literal["bar collet"] = "bar collet"

    @property
    def deepest(self) -> float:
        return self.land


@dataclass(frozen=True)
class Plate:
    """A flat plate that the part is screwed to, through its own holes from above or into its threads from below."""

    id: str
    name: str
    size: tuple[float, float, float]
    screw: float  # thread's diameter
    head_diameter: float
    head_height: float
    screw_kn: float  # that one screw presses with
    dowel: float
    least_screws: int  # that hold a part
    lift: float  # of the rests that the part lies on, so that drills run out below it
    load_seconds: float
    screw_seconds: float  # each, to drive in and out
    mount: str = "table"
    kind: Literal["plate"] = "plate"


@dataclass(frozen=True)
class ToeClamps:
    """Low clamps on a plate that bite into two sides of the stock and press it down; the top stays free."""

    id: str
    name: str
    size: tuple[float, float, float]  # of the plate
    bite: float  # mm of the sides that they reach up
    clamp: tuple[float, float]  # length along the side, depth away from it
    pairs: int
    pair_kn: float
    lift: float  # of the rests below the stock
    load_seconds: float
    mount: str = "table"
    kind: Literal["toe clamps"] = "toe clamps"


@dataclass(frozen=True)
class Carrier:
    """A riser, a base plate or a tombstone: sits on one mount and offers others, given from its own."""

    id: str
    name: str
    kind: Literal["riser", "base plate", "tombstone"]
    size: tuple[float, float, float]
    mount: str
    offers: tuple[Mount, ...]


Fixture = Vise | Chuck | Collet | Plate | ToeClamps | BarCollet

#: By the name of its kind. A new one is a value here and a module in `core/holding`, each named once in a list.
FIXTURES: dict[str, Callable[..., Fixture]] = {kind.kind: kind for kind in get_args(Fixture)}
