"""A cell as it runs: machines by themselves, people from one to the next, until it does the same again.

A person who is free goes to the machine that has waited longest of those that are his and can be served: it has
ended, the next pieces lie before it, and there is room for the finished ones behind it. Where no machine waits he
works at a bench, the last one in the line that has a piece. All in whole ms, so that the same state comes again and
the pace is exact.
"""

from __future__ import annotations

from heapq import heappop, heappush
from itertools import pairwise

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.cells.model import Doing, Span, Steady, Tended

MOST_EVENTS = 12_000
MEAN_OF = 400  # pieces, where a cell does not come to the same state again


def steady(cell: Tended) -> Steady:
    """What a cell comes to in the long run. Raises PlanError where nobody tends a station, or it comes to a stand."""
    for k, station in enumerate(cell.stations):
        if not any(k in own for own in cell.tends):
            raise PlanError("nobody-tends", f"nobody tends {station.name}")
    return _Run(cell).steady()


class _Run:
    def __init__(self, cell: Tended) -> None:
        self._cell, count = cell, len(cell.stations)
        self._now, self._finished = 0, 0
        self._before = [0] * count  # pieces that lie before each station; before the first there are always enough
        self._holds = [0] * count  # finished pieces in the machine
        self._until = [0] * count  # that it runs
        self._since = [0] * count  # that it waits
        self._served = [False] * count
        self._inside = [0] * count  # pieces in a machine whose second pallet is served meanwhile
        self._ready = [False] * count  # that pallet
        self._where: list[int] = [-1] * len(cell.tends)
        self._free = [True] * len(cell.tends)
        self._events: list[tuple[int, int, int, int]] = []  # when, number, person, station
        self._number = 0
        self._most = [0] * count
        self._spans: list[Span] = []

    def steady(self) -> Steady:
        seen: dict[object, tuple[int, int]] = {}
        for _ in range(MOST_EVENTS):
            self._change_pallets()
            self._send()
            if not self._events:
                if not self._wait():
                    raise PlanError(
                        "cell-stands", "the cell comes to a stand: there is too little room between stations"
                    )
                continue
            ends = [t for t in self._until if t > self._now]
            if ends and min(ends) < self._events[0][0]:
                self._now = min(ends)
                continue
            when, _, person, k = heappop(self._events)
            self._now = when
            before = self._finished
            if k < 0:
                self._free[person] = True
            else:
                self._end(person, k)
            if self._finished > before:
                state = self._state()
                if state in seen:
                    return self._told(*seen[state])
                seen[state] = (self._now, self._finished)
        times = [*seen.values()]
        return self._told(*times[-min(len(times), MEAN_OF)])

    def _wait(self) -> bool:
        """On to when the next machine ends; whether one does."""
        ends = [t for t in self._until if t > self._now]
        self._now = min(ends, default=self._now)
        return bool(ends)

    def _send(self) -> None:
        """Whoever is free to what is his and can be served."""
        for person, own in enumerate(self._cell.tends):
            if not self._free[person]:
                continue
            able = [k for k in own if self._can_be_served(k)]
            if not able:
                self._go_ahead(person, own)
                continue
            k = min(able, key=self._rank)
            walk = self._cell.walk if self._where[person] not in (k, -1) else 0
            self._begin(person, k, walk)

    def _go_ahead(self, person: int, own: frozenset[int]) -> None:
        """To the machine of his that ends next, where nobody else is."""
        ahead = [k for k in own if self._until[k] > self._now and k not in self._where]
        k = min(ahead, key=lambda k: (self._until[k], k), default=-1)
        there = self._where[person]
        if k < 0 or self._where[person] < 0 or not self._cell.walk:
            return
        if there in own and self._now < self._until[there] <= self._until[k]:
            return  # he stands at one that ends before
        self._free[person], self._where[person] = False, k
        self._span(
            f"operator {person + 1}", "walking", self._now, self._now + self._cell.walk, self._cell.stations[k].id
        )
        self._number += 1
        heappush(self._events, (self._now + self._cell.walk, self._number, person, -1))

    def _rank(self, k: int) -> tuple[bool, int, int]:
        bench = self._cell.stations[k].is_bench
        return bench, 0 if bench else self._since[k], -k

    def _can_be_served(self, k: int) -> bool:
        station = self._cell.stations[k]
        if self._served[k] or self._ready[k] or (self._until[k] > self._now and not station.beside):
            return False
        if k > 0 and self._before[k] < station.pieces:
            return False
        out = station.pieces if station.is_bench else self._holds[k]
        return k + 1 == len(self._cell.stations) or self._before[k + 1] + out <= self._cell.room

    def _begin(self, person: int, k: int, walk: int) -> None:
        station, at = self._cell.stations[k], self._now
        self._free[person], self._served[k] = False, True
        self._before[k] -= station.pieces if k > 0 else 0
        name = f"operator {person + 1}"
        if walk:
            self._span(name, "walking", at, at + walk, station.id)
        self._span(name, "working", at + walk, at + walk + station.served, station.id)
        if not station.is_bench:
            self._span(station.id, "served", at + walk, at + walk + station.served)
        if k + 1 < len(self._cell.stations):  # room is kept for what comes out
            out = station.pieces if station.is_bench else self._holds[k]
            self._before[k + 1] += out
            self._most[k + 1] = max(self._most[k + 1], self._before[k + 1])
            self._before[k + 1] -= out
        self._where[person] = k
        self._number += 1
        heappush(self._events, (at + walk + station.served, self._number, person, k))

    def _end(self, person: int, k: int) -> None:
        station = self._cell.stations[k]
        out = station.pieces if station.is_bench else self._holds[k]
        if k + 1 < len(self._cell.stations):
            self._before[k + 1] += out
        else:
            self._finished += out
        self._free[person], self._served[k] = True, False
        if station.beside:
            self._holds[k], self._ready[k] = 0, True
            self._since[k] = max(self._now, self._until[k])
        elif not station.is_bench:
            self._holds[k] = station.pieces
            self._start(k)

    def _start(self, k: int) -> None:
        station = self._cell.stations[k]
        self._until[k] = self._since[k] = self._now + station.cycle
        self._span(station.id, "running", self._now, self._until[k])

    def _change_pallets(self) -> None:
        """Where a machine has ended and its other pallet is ready, that goes in."""
        for k, station in enumerate(self._cell.stations):
            if station.beside and self._ready[k] and self._until[k] <= self._now:
                self._holds[k], self._inside[k], self._ready[k] = self._inside[k], station.pieces, False
                self._start(k)

    def _span(self, who: str, doing: Doing, start: int, end: int, at: str = "") -> None:
        if end > start:
            self._spans.append(Span(who, doing, start, end, at))

    def _state(self) -> object:
        now = self._now
        return (
            tuple(self._before), tuple(self._holds), tuple(max(0, t - now) for t in self._until),
            tuple(sorted((k for k, t in enumerate(self._since) if t <= now), key=lambda k: (self._since[k], k))),
            tuple(self._served), tuple(self._ready), tuple(self._inside), tuple(self._where),
            tuple(sorted((t - now, p, k) for t, _, p, k in self._events)),
        )  # fmt: skip

    def _told(self, began: int, finished: int) -> Steady:
        period, pieces = self._now - began, self._finished - finished
        spans = [
            Span(s.who, s.doing, max(s.start, began) - began, min(s.end, self._now) - began, s.at)
            for s in self._spans if s.end > began and s.start < self._now
        ]  # fmt: skip
        names = [s.id for s in self._cell.stations if not s.is_bench]
        names += [f"operator {n + 1}" for n in range(len(self._cell.tends))]
        found: list[Span] = []
        shares: dict[str, dict[Doing, float]] = {}
        for who in names:
            own = _filled(who, sorted((s for s in spans if s.who == who), key=lambda s: s.start), period)
            found += own
            shares[who] = {}
            for span in own:
                shares[who][span.doing] = shares[who].get(span.doing, 0.0) + (span.end - span.start) / period
        return Steady(period, pieces, tuple(found), shares, tuple(self._most[1:]))


def _filled(who: str, own: list[Span], period: int) -> list[Span]:
    """With what is between: a machine waits, a person is idle."""
    rest: Doing = "idle" if who.startswith("operator") else "waiting"
    ends = [Span(who, rest, 0, 0), *own, Span(who, rest, period, period)]
    gaps = [Span(who, rest, a.end, b.start) for a, b in pairwise(ends) if b.start > a.end]
    return sorted([*own, *gaps], key=lambda s: s.start)
