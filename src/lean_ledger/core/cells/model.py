"""What a cell is made of, and what it comes to."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

Doing = Literal["running", "served", "waiting", "working", "walking", "idle"]


@dataclass(frozen=True)
class Station:
    """A machine that runs `cycle` ms by itself once it was served, or a bench where only people work (`cycle` 0).

    A service takes `served` ms of a person and moves `pieces`: finished ones out, the next ones in. With a second
    pallet (`beside`) the machine runs on meanwhile.
    """

    id: str
    name: str
    cycle: int
    served: int
    pieces: int
    beside: bool = False

    @property
    def is_bench(self) -> bool:
        return self.cycle == 0

    @property
    def each(self) -> float:
        """ms a piece that the station alone takes."""
        return (max(self.cycle, self.served) if self.beside else self.cycle + self.served) / self.pieces


@dataclass(frozen=True)
class Tended:
    """The stations in the order in which a piece comes to them, `tends` by index for each person, ms of a walk, and
    pieces that lie between two stations at the most.
    """

    stations: tuple[Station, ...]
    tends: tuple[frozenset[int], ...]
    walk: int
    room: int

    @property
    def bound(self) -> float:
        """ms a piece that no way of tending goes below: the slowest station; of any people all that only they do."""
        found = max(one.each for one in self.stations)
        for group in {frozenset().union(*some) for some in _subsets(self.tends)}:
            own = [own for own in self.tends if own & group]
            only = [k for k in group if all(k not in other for other in self.tends if not other & group)]
            work = sum(self.stations[k].served / self.stations[k].pieces for k in only)
            found = max(found, work / len(own))
        return found


def _subsets(tends: tuple[frozenset[int], ...]) -> list[tuple[frozenset[int], ...]]:
    return [tuple(own for n, own in enumerate(tends) if some >> n & 1) for some in range(1, 1 << len(tends))]


@dataclass(frozen=True)
class Span:
    """What a station or a person does from when to when, ms; `at` is the station where a person is."""

    who: str
    doing: Doing
    start: int
    end: int
    at: str = ""


@dataclass(frozen=True)
class Steady:
    """How a cell goes on for ever: the same again after `period` ms and `pieces`. `spans` are of one period, from 0;
    `shares` of it by who and what; `most` pieces that lay before each station but the first.
    """

    period: int
    pieces: int
    spans: tuple[Span, ...]
    shares: Mapping[str, Mapping[Doing, float]]
    most: tuple[int, ...]

    @property
    def pace(self) -> float:
        """ms a piece."""
        return self.period / self.pieces

    @property
    def bottleneck(self) -> str:
        """Who is busy for the greatest share of the time."""
        busy: dict[str, float] = {who: sum(share for doing, share in own.items() if doing not in ("waiting", "idle"))
                                  for who, own in self.shares.items()}  # fmt: skip
        return max(busy, key=lambda who: busy[who])
