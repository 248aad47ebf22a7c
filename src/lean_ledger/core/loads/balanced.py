"""What of a load runs at the same time: the least cycle over a machine's carriages, found, with a bound on all of them.

An arrangement says for each operation which carriage makes it, which operations turn at one speed so that they can
run beside one another, and the order on each carriage. One is judged by the cycle that it makes, marks and all.
Neighbours are tried until none is shorter, then from some arbitrary steps away again, always the same ones.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations, pairwise
from random import Random
from time import monotonic

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.holding.standing import Standing
from lean_ledger.core.loads.both_sides import of_the_other, why_not_both
from lean_ledger.core.loads.lanes import carriage_for, spindle_of, taken_over_in, timeline_of, usual_carriage
from lean_ledger.core.loads.layout import Placed
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.meeting import disturbs, met, taken_by
from lean_ledger.core.loads.parts import part_id, whole_id
from lean_ledger.core.loads.speeds import can_share, most_speed, turns_work
from lean_ledger.core.loads.steps import in_rows, own_operations, steps_of
from lean_ledger.core.loads.timeline import Timeline
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.timed import on_path
from lean_ledger.core.plan import AtOneSpeed, Load

TRIED = 3000  # arrangements
KICKS = 12
LEAST_GAIN = 1e-3  # s


@dataclass(frozen=True)
class Arranged:
    """`on`: of each operation that is not on its usual carriage; groups at one speed; the order of all."""

    on: tuple[tuple[str, str], ...]
    groups: tuple[frozenset[str], ...]
    order: tuple[str, ...]


@dataclass(frozen=True)
class Balanced:
    """`cycle` and `bound` in seconds: no arrangement has less than the bound; `one_by_one` is all on one carriage."""

    arranged: Arranged
    load: Load
    cycle: float
    now: float
    one_by_one: float
    bound: float

    @property
    def proven(self) -> bool:
        return self.cycle <= self.bound + LEAST_GAIN


@dataclass(frozen=True)
class Gain:
    """A single step from what is decided now, and the seconds of a cycle that it saves."""

    load: Load
    saves: float
    operations: tuple[str, ...]
    carriage: str
    at: float | None  # rpm that two of them then share


def timeline_with(load: LoadLedger, decided: Load) -> Timeline:
    """The cycle of a load with other decisions on carriages, speeds and order; where pieces stand stays."""
    foreign = {call.operation.id: call.foreign for call in load.timeline.calls if call.foreign is not None}
    where = replace(load.where, load=decided, in_one=())
    where, own, _ = in_rows(where, own_operations(where, decided), decided, foreign)
    return timeline_of(steps_of(where, own, decided), where, load.machine, foreign)


class Finder:
    """Of one load. `best` goes on as long as it is told."""

    def __init__(self, load: LoadLedger) -> None:
        if not load.machine.works_at_once:
            raise PlanError("one-carriage", f"{load.machine.name} has one carriage: one operation runs after the other",
                            load.decision.id)  # fmt: skip
        self.load = load
        self._carriages = [one.id for one in load.machine.carriages]
        self._taken_over = taken_over_in(load.where)
        self._known: dict[Arranged, float] = {}

    @cached_property
    def operations(self) -> dict[str, Operation]:
        """As they run by themselves, at their own speeds."""
        alone = replace(self.load.load, at_one_speed=())
        return {call.operation.id: call.operation for call in timeline_with(self.load, alone).calls}

    @cached_property
    def _most(self) -> Mapping[str, float]:
        """rpm of those that can share a speed; what cuts a piece off into the counter spindle has both to itself."""
        blade = self._taken_over.blade if self._taken_over is not None else ""
        return {
            id: most_speed(op)
            for id, op in self.operations.items()
            if id != blade and can_share(op, self._placed[op.setup].stands)
        }

    @cached_property
    def _placed(self) -> Mapping[str, Placed]:
        """The first piece of each setup."""
        return {own[0].decision.id: own[0] for own in self.load.where.by_setup}

    @cached_property
    def _before(self) -> Mapping[str, Collection[str]]:
        """What each operation waits for, whatever carriage makes it."""
        found = {op.id: {before for before, _ in op.after} for op in self.operations.values()}
        if self._taken_over is not None and self._taken_over.blade in found:
            there = self.load.load
            found[self._taken_over.blade] |= {op.id for op in self.operations.values() if there.at_counter(op.setup)}
        return found

    def _spindle(self, id: str) -> int:
        return spindle_of(self._placed[self.operations[id].setup].stands)

    def _usual(self, id: str) -> str:
        return usual_carriage(self.load.load, self.load.machine, self.operations[id])

    def _on(self, one: Arranged, id: str) -> str:
        if self._is_pass(id):
            return carriage_for(self.load.load, self.load.machine, self.operations[id])
        return dict(one.on).get(id) or self._usual(id)

    def whole(self, id: str) -> tuple[Operation, Standing]:
        """An operation as it was built, before it is taken apart, and where its first piece stands. Raises PlanError
        no-such-operation.
        """
        for first in self._placed.values():
            for op in first.built.operations:
                if op.id == id:
                    return op, first.stands
        raise PlanError("no-such-operation", f"load {self.load.load.id} has no operation {id!r}")

    def as_decided(self, decided: Load) -> Finder:
        """Of the same load with other decisions."""
        where = replace(self.load.where, load=decided)
        timeline = timeline_with(replace(self.load, where=where), decided)
        return type(self)(replace(self.load, load=decided, where=where, timeline=timeline))

    @cached_property
    def from_one_side(self) -> Finder:
        """With nothing made from both sides."""
        decided = self.load.load
        return self if not decided.both_sides else self.as_decided(replace(decided, both_sides=()))

    def _is_pass(self, id: str) -> bool:
        """Whether it is one of those that two carriages make together: they stay as they are."""
        return whole_id(id) in self.load.load.both_sides and part_id(whole_id(id), 2) in self.operations

    def both_gains(self, most: int = 3) -> list[tuple[str, float]]:
        """(operation, seconds saved) of each that two carriages could make together, the best first."""
        now, load, found = self.load.timeline.makespan, self.load.load, list[tuple[str, float]]()
        for first in self._placed.values():
            for op in first.built.operations:
                if op.id in load.both_sides or why_not_both(op, first.stands, self.load.machine, load):
                    continue
                saves = now - self.as_decided(load.from_both(op.id, on=True)).load.timeline.makespan
                found += [(op.id, saves)] if saves > LEAST_GAIN else []
        return sorted(found, key=lambda one: -one[1])[:most]

    def operation(self, id: str) -> Operation:
        """Raises PlanError no-such-operation."""
        if id not in self.operations:
            raise PlanError("no-such-operation", f"load {self.load.load.id} has no operation {id!r}")
        return self.operations[id]

    def known_carriage(self, id: str) -> None:
        """Raises PlanError for one that the machine has not."""
        if id not in self._carriages:
            names = ", ".join(self._carriages)
            raise PlanError("no-such-carriage", f"{self.load.machine.name} has no {id!r}; it has {names}")

    def allows(self, op: Operation, carriage: str) -> None:
        """Raises PlanError where a carriage's tools do not come to an operation."""

    def check_sharing(self, id: str) -> None:
        """Raises PlanError for an operation that has the spindle to itself."""
        if self.operation(id).id not in self._most:
            raise PlanError(
                "alone-on-spindle", f"“{self.operations[id].name}” has the spindle to itself: it reverses, follows a "
                "thread, its tool is driven, or it cuts off into the counter spindle", self.operations[id].setup,
            )  # fmt: skip

    def check_one_spindle(self, ids: Sequence[str]) -> None:
        """Raises PlanError other-spindle for operations that share no spindle."""
        if len({self._spindle(id) for id in ids}) > 1:
            names = ", ".join(f"“{self.operation(id).name}”" for id in ids)
            raise PlanError("other-spindle", f"{names} turn in two spindles: each has its speed there",
                            self.load.decision.id)  # fmt: skip

    def most(self, id: str) -> float | None:
        """rpm at which an operation that can share a speed can run; None of one that cannot."""
        return self._most.get(id)

    @cached_property
    def now(self) -> Arranged:
        own, load = self.operations, self.load.load
        on = tuple(
            (id, c)
            for id in own
            if (c := carriage_for(load, self.load.machine, self.operations[id])) != self._usual(id)
            and not (self._is_pass(id) and of_the_other(id))
        )
        groups = tuple(frozenset(id for id in one.operations if id in self._most) for one in load.at_one_speed)
        order = tuple(dict.fromkeys(call.operation.id for call in self.load.timeline.calls))
        return Arranged(on, tuple(g for g in groups if len(g) > 1), order)

    def as_load(self, one: Arranged) -> Load:
        """The decision that an arrangement is."""
        load = replace(self.load.load, carriage_of=one.on, at_one_speed=self._speeds(one), sequence=())
        return self.ordered(load, one.order)

    def ordered(self, load: Load, order: tuple[str, ...]) -> Load:
        """With its operations in an order; where a counter spindle has pieces too, that of the whole cycle."""
        if self._taken_over is None:
            return load.with_order(self.load.decision.id, order)
        at = {setup: one.place.id for setup, one in self._placed.items()}
        return replace(load, by="hand", sequence=tuple((at[self.operations[id].setup], id) for id in order))

    def _speeds(self, one: Arranged) -> tuple[AtOneSpeed, ...]:
        """Each group as fast as its slowest goes."""
        return tuple(
            AtOneSpeed(tuple(id for id in one.order if id in group), self.shared(group)) for group in one.groups
        )

    def shared(self, group: frozenset[str]) -> float:
        return float(int(min(self._most[id] for id in group)))

    def seconds(self, one: Arranged) -> float:
        found = self._known.get(one)
        if found is None:
            found = self._known[one] = timeline_with(self.load, self.as_load(one)).makespan
        return found

    @property
    def one_by_one(self) -> float:
        """Seconds of the cycle with all on the first carriage, each operation at its own speed."""
        one = self.from_one_side
        return one.seconds(one.plain)

    @property
    def plain(self) -> Arranged:
        """All on the first carriage, each operation at its own speed."""
        first, now = self._carriages[0], self.now
        order = tuple(sorted(now.order, key=lambda id: -self._spindle(id)))  # what is in the counter spindle goes first
        return Arranged(tuple((id, first) for id in order if self._usual(id) != first), (), order)

    # ---- search

    def best(self, seconds: float, report: Report = silent) -> Balanced:
        """The shortest that is found in so many seconds, or in so many arrangements."""
        began, bound = monotonic(), self.bound
        until = began + seconds
        best, random = min(self._starts(), key=self.seconds), Random(1)
        start = best
        for kick in range(KICKS):
            found = self._descended(start, until)
            if self.seconds(found) < self.seconds(best) - LEAST_GAIN:
                best = found
            words = f"{self.seconds(best):.1f} s found, none has less than {bound:.1f}"
            report(words, min(0.99, max((kick + 1) / KICKS, (monotonic() - began) / seconds)))
            if self._over(until) or self.seconds(best) <= bound + LEAST_GAIN:
                break
            start = best
            for _ in range(2):
                start = random.choice(list(self._neighbours(start)) or [start])
        load = self.as_load(best)
        return Balanced(best, load, self.seconds(best), self.load.timeline.makespan, self.one_by_one, bound)

    def _starts(self) -> list[Arranged]:
        """What is decided, all by the rule, and one after the other."""
        return [self.now, replace(self.now, on=(), groups=()), self.plain]

    def _over(self, until: float) -> bool:
        return monotonic() > until or len(self._known) > TRIED

    def _descended(self, one: Arranged, until: float) -> Arranged:
        better = True
        while better and not self._over(until):
            better = False
            for other in self._neighbours(one):
                if self._over(until):
                    break
                if self.seconds(other) < self.seconds(one) - LEAST_GAIN:
                    one, better = other, True
                    break
        return one

    def _neighbours(self, one: Arranged) -> Iterator[Arranged]:
        """Pairs beside one another, operations on another carriage, groups taken apart, neighbours swapped."""
        for a, b in combinations(one.order, 2):
            yield from self._paired(one, a, b)
            yield from self._paired(one, b, a)
        for id in (id for id in one.order if not self._is_pass(id)):
            for carriage in self._carriages:
                if carriage != self._on(one, id):
                    yield self._moved(one, id, carriage)
        for group in one.groups:
            yield replace(one, groups=tuple(g for g in one.groups if g != group))
            if len(group) > 2:
                for id in group:
                    yield replace(one, groups=tuple(g - {id} if g == group else g for g in one.groups))
        yield from self._swapped(one)

    def _paired(self, one: Arranged, stays: str, goes: str) -> Iterator[Arranged]:
        """One of two goes to another carriage than the other's, and shares its speed."""
        if self._is_pass(stays) or self._is_pass(goes) or not {stays, goes} <= self._most.keys():
            return
        if self._spindle(stays) != self._spindle(goes):
            return
        for carriage in self._carriages:
            if carriage != self._on(one, stays):
                beside = self._moved(one, goes, carriage)
                group = next((g for g in one.groups if stays in g), frozenset({stays})) | {goes}
                rest = [g - {goes} for g in one.groups if stays not in g]
                yield replace(beside, groups=(*(g for g in rest if len(g) > 1), group))

    def _moved(self, one: Arranged, id: str, carriage: str) -> Arranged:
        on = dict(one.on) | {id: carriage}
        return replace(one, on=tuple((op, on[op]) for op in sorted(on) if on[op] != self._usual(op)))

    def _swapped(self, one: Arranged) -> Iterator[Arranged]:
        """Next to one another on their carriage: the later one goes before, or the earlier one behind it."""
        for carriage in self._carriages:
            own = [id for id in one.order if self._on(one, id) == carriage]
            for a, b in pairwise(own):
                rest = [[id for id in one.order if id != moved] for moved in (b, a)]
                i, j = rest[0].index(a), rest[1].index(b)
                for order in ([*rest[0][:i], b, *rest[0][i:]], [*rest[1][: j + 1], a, *rest[1][j + 1 :]]):
                    if self._keeps(order):
                        yield replace(one, order=tuple(order))
                        break

    def _keeps(self, order: Sequence[str]) -> bool:
        """Whether every operation comes behind those that it waits for."""
        at = {id: k for k, id in enumerate(order)}
        return all(at.get(before, -1) < at[id] for id in order for before in self._before[id])

    # ---- what the next second is in

    def gains(self, most: int = 3) -> list[Gain]:
        """Single steps that shorten the cycle, the best first, each operation in one of them. What shares a speed that
        was set slower than it can go comes before all others.
        """
        now, found = self.load.timeline.makespan, list[Gain]()
        if now - self.seconds(self.now) > LEAST_GAIN:
            return [self._step_to(self.now, now - self.seconds(self.now))]
        for other in dict.fromkeys(self._neighbours(self.now)):
            saves = now - self.seconds(other)
            if saves > LEAST_GAIN and other.order == self.now.order:
                found.append(self._step_to(other, saves))
        taken: set[str] = set()
        best: list[Gain] = []
        for one in sorted(found, key=lambda g: -g.saves):
            if not taken & set(one.operations) and len(best) < most:
                best.append(one)
                taken |= set(one.operations)
        return best

    def _step_to(self, other: Arranged, saves: float) -> Gain:
        now = self.now
        moved = {id for id in now.order if self._on(other, id) != self._on(now, id)}
        group = next((g for g in other.groups if g not in now.groups), frozenset[str]())
        apart = frozenset[str]().union(*(g for g in now.groups if g not in other.groups))
        if other == now:  # the same groups, as fast as they go
            slow = [frozenset(g.operations) for g in self.load.load.at_one_speed]
            group = next((g for g in slow if g in other.groups), frozenset[str]())
        names = tuple(id for id in now.order if id in (moved | group or apart))
        carriage = next((self._on(other, id) for id in sorted(moved)), "")
        return Gain(self.as_load(other), saves, names, carriage, self.shared(group) if group else None)

    # ---- bound

    @cached_property
    def bound(self) -> float:
        """No arrangement has a shorter cycle: of all that never runs at the same time, whatever carriages make it, the
        most; and all of it spread evenly. Ways and changes of tools are left out, so the bound is not reached.
        """
        calls = timeline_with(self.load, replace(self.load.load, at_one_speed=())).calls
        seconds = [self._least(call.operation) if call.foreign is None else call.foreign.total for call in calls]
        never = self._never_at_once([call.operation for call in calls])
        return max(heaviest_clique(seconds, never), sum(seconds) / len(self._carriages))

    def _least(self, op: Operation) -> float:
        """Seconds of its own motion on the carriage that is quickest with it."""
        timed = [on_path(op, op.motion, self.load.machine.on(carriage)) for carriage in self._carriages]
        own = min(one.time.cut + one.time.rapid + one.reversal_seconds for one in timed)
        taken = self._taken_over
        return own if taken is None or taken.blade != op.id else own + taken.before + taken.away

    def _never_at_once(self, ops: Sequence[Operation]) -> list[int]:
        """Of each, bits of those that run before it, after it, alone on the spindle, or whose tools meet it."""
        after = {id: set(before) for id, before in self._before.items()}
        for _ in after:
            for id, before in after.items():
                after[id] = before.union(*(after.get(one, set()) for one in before))
        sides = [one.side for one in self.load.machine.carriages]
        placed = [self._placed[op.setup] for op in ops]
        taken = [{side: taken_by(op, at.stands, side) for side in dict.fromkeys(sides)}
                 for op, at in zip(ops, placed, strict=True)]  # fmt: skip
        found = [0] * len(ops)
        for (i, a), (k, b) in combinations(enumerate(ops), 2):
            one_spindle = self._spindle(a.id) == self._spindle(b.id)
            steady = a.id in self._most and b.id in self._most
            driven = not turns_work(a, placed[i].stands) and not turns_work(b, placed[k].stands)
            alone = one_spindle and not steady and not driven
            ways = [(s, t) for n, s in enumerate(sides) for m, t in enumerate(sides) if n != m]
            touch = all(met(taken[i][s], taken[k][t]) for s, t in ways)
            shakes = disturbs((placed[i], a), (placed[k], b))
            if a.id == b.id or a.id in after[b.id] or b.id in after[a.id] or alone or touch or shakes:
                found[i] |= 1 << k
                found[k] |= 1 << i
        return found


MOST_LOOKED_AT = 200_000


def heaviest_clique(weights: Sequence[float], linked: Sequence[int]) -> float:
    """The most that a set of mutually linked things weighs; of very many the best that is found, which is no more.

    >>> heaviest_clique([3.0, 2.0, 4.0], [0b010, 0b101, 0b010])  # 0-1 and 1-2, not 0-2
    6.0
    """
    order = sorted(range(len(weights)), key=lambda k: -weights[k])
    best, looked = 0.0, 0

    def grow(able: list[int], weight: float) -> None:
        nonlocal best, looked
        best, looked = max(best, weight), looked + 1
        rest = sum(weights[k] for k in able)
        for n, k in enumerate(able):
            if weight + rest <= best or looked > MOST_LOOKED_AT:
                return
            grow([one for one in able[n + 1 :] if linked[k] >> one & 1], weight + weights[k])
            rest -= weights[k]

    grow(order, 0.0)
    return best
