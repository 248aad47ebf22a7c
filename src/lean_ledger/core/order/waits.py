"""What paths of a machine do beside one another, and where they wait for one another.

Each path does its operations one after the other, and changes to its next tool as soon as it has ended one. A *mark* is
met by two paths or more: each waits there until the others have come, then all go on at once. What is sure to be over
when an operation starts is what its path has done, and what the others had done at the marks that they shared.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.order.problem import circle_in


@dataclass(frozen=True)
class Work:
    """An operation: paths that it may run on, spindles that it needs, at a speed; None: alone on them."""

    id: str
    paths: tuple[int, ...]
    spindles: frozenset[int]
    seconds: int  # in units of the problem
    tool: str
    speed: str | None


@dataclass(frozen=True)
class WaitProblem:
    """`unit`: of a second that whole numbers count; pairs are indexes of works. `meet` are works whose tools would
    meet, so that they never run at the same time. `leads`: where the orders are known, of each work what its path
    does before it may have to wait for it (going away, changing tool), in place of one `change` for all.
    """

    paths: tuple[str, ...]
    works: tuple[Work, ...]
    before: tuple[tuple[int, int], ...]
    together: tuple[tuple[int, int], ...]
    change: int
    unit: int
    meet: tuple[tuple[int, int], ...] = ()
    leads: tuple[int, ...] = ()

    def to(self, following: int | None, left: int | None) -> int:
        """What a path does between two works before it may wait, or before its first."""
        if following is None:
            return 0
        if self.leads:
            return self.leads[following]
        return self.change if left is not None and self.works[left].tool != self.works[following].tool else 0

    @cached_property
    def apart(self) -> tuple[int, ...]:
        """Of each work, bits of those that must not run at the same time."""
        found = []
        for a in self.works:
            found.append(sum(1 << k for k, b in enumerate(self.works) if b is not a and not may_overlap(a, b)))
        for k, other in self.meet:
            found[k] |= 1 << other
            found[other] |= 1 << k
        return tuple(found)

    @cached_property
    def needs(self) -> tuple[int, ...]:
        """Of each work, bits of those that come before it."""
        found = [0] * len(self.works)
        for a, b in self.before:
            found[b] |= 1 << a
        return tuple(found)

    @cached_property
    def tail(self) -> tuple[int, ...]:
        """From the start of each work to the end of all that has to come after it."""
        found = [work.seconds for work in self.works]
        for _ in found:
            for a, b in self.before:
                found[a] = max(found[a], self.works[a].seconds + found[b])
        return tuple(found)

    @cached_property
    def mate(self) -> Mapping[int, int]:
        """Works that start together, as bits of all of such a group, by each."""
        group: dict[int, int] = {}
        for a, b in self.together:
            both = group.get(a, 1 << a) | group.get(b, 1 << b)
            for k in range(len(self.works)):
                if both >> k & 1:
                    group[k] = both
        return group


def may_overlap(a: Work, b: Work) -> bool:
    return not a.spindles & b.spindles or (a.speed is not None and a.speed == b.speed)


def check_waits(problem: WaitProblem) -> None:
    """Raises PlanError for what no run could keep: a circle, together where that cannot be."""
    circle = circle_in(len(problem.works), problem.before)
    if circle:
        names = " → ".join(problem.works[k].id for k in (*circle, circle[0]))
        raise PlanError("precedence-cycle", f"before: these operations wait for one another: {names}")
    after = _all_after(problem)
    for group in dict.fromkeys(problem.mate.values()):
        own = [k for k in range(len(problem.works)) if group >> k & 1]
        names = " and ".join(problem.works[k].id for k in own)
        for a, b in combinations(own, 2):
            if after[a] >> b & 1 or after[b] >> a & 1:
                raise PlanError("together", f"together: {names} cannot start at once, one comes before the other")
            if problem.apart[a] >> b & 1:
                raise PlanError("together", f"together: {names} must not run at the same time: their speeds differ, or "
                                "one is alone on its spindle")  # fmt: skip
        if not _matched([problem.works[k].paths for k in own]):
            raise PlanError("together", f"together: {names} ask for {len(own)} paths at once and have fewer")


def _all_after(problem: WaitProblem) -> list[int]:
    after = [0] * len(problem.works)
    for _ in problem.works:
        for a, b in problem.before:
            after[a] |= 1 << b | after[b]
    return after


def _matched(choices: Sequence[Sequence[int]], taken: frozenset[int] = frozenset()) -> bool:
    """Whether each gets a path of its own."""
    if not choices:
        return True
    return any(_matched(choices[1:], taken | {p}) for p in choices[0] if p not in taken)


# ---- a run


@dataclass(frozen=True)
class Mark:
    """`after`: of each path that meets it, how many of its works it has done by then."""

    after: tuple[tuple[int, int], ...]


@dataclass(frozen=True)
class Plan:
    """Works of each path in their order, and marks in an order in which they can be met."""

    orders: tuple[tuple[int, ...], ...]
    marks: tuple[Mark, ...]


@dataclass(frozen=True)
class Ran:
    starts: tuple[int, ...]
    ends: tuple[int, ...]
    met: tuple[int, ...]  # when each mark is
    sure: tuple[int, ...]  # of each work, bits of what is surely over when it starts

    @property
    def cycle(self) -> int:
        return max(self.ends)


def run(problem: WaitProblem, plan: Plan) -> Ran:
    """What the marks and the given seconds make of a plan: every start, and what is sure at each.

    Face 1 and turn 10 above, drill 5 and bore 6 below, a mark after face and before drill: drill 1 to 6, bore 6 to 12.
    """
    count = len(problem.works)
    starts, ends, sure = [0] * count, [0] * count, [0] * count
    at = [problem.to(order[0] if order else None, None) for order in plan.orders]
    done, known = [0] * len(problem.paths), [0] * len(problem.paths)
    met: list[int] = []

    def go(p: int, upto: int) -> None:
        order = plan.orders[p]
        while done[p] < upto:
            k = order[done[p]]
            starts[k], sure[k] = at[p], known[p]
            ends[k] = at[p] = at[p] + problem.works[k].seconds
            done[p] += 1
            known[p] |= 1 << k
            at[p] += problem.to(order[done[p]] if done[p] < len(order) else None, k)

    for mark in plan.marks:
        for p, upto in mark.after:
            go(p, upto)
        when, both = max(at[p] for p, _ in mark.after), 0
        for p, _ in mark.after:
            both |= known[p]
        for p, _ in mark.after:
            at[p], known[p] = when, both
        met.append(when)
    for p, order in enumerate(plan.orders):
        go(p, len(order))
    return Ran(tuple(starts), tuple(ends), tuple(met), tuple(sure))


def holds(problem: WaitProblem, plan: Plan) -> bool:
    """Whether every order is kept whatever anything takes, and what starts together has its mark."""
    ran = run(problem, plan)
    where = {k: p for p, order in enumerate(plan.orders) for k in order}
    if any(not ran.sure[b] >> a & 1 for a, b in problem.before):
        return False
    for a, others in enumerate(problem.apart):
        for b in range(a + 1, len(problem.works)):
            if others >> b & 1 and where[a] != where[b] and not (ran.sure[a] >> b & 1 or ran.sure[b] >> a & 1):
                return False
    last = {k: _last_mark(plan, where[k], plan.orders[where[k]].index(k)) for k in problem.mate}
    return all(last[a] is not None and last[a] == last[b] for a, b in problem.together)


def _last_mark(plan: Plan, path: int, done: int) -> int | None:
    """The mark that a path meets directly before its next work."""
    found = [i for i, mark in enumerate(plan.marks) if (path, done) in mark.after]
    return found[-1] if found else None


def without_needless(problem: WaitProblem, plan: Plan) -> Plan:
    """Without marks, and without paths at them, that nothing needs. Fewer marks make less sure, so what is needed now
    is needed when others are gone: once through is enough, and once more finds nothing.
    """
    changed = True
    while changed:
        changed, i = False, 0
        while i < len(plan.marks):
            tried = (
                Plan(plan.orders, (*plan.marks[:i], *less, *plan.marks[i + 1 :])) for less in _lesser(plan.marks[i])
            )
            lesser = next((one for one in tried if holds(problem, one)), None)
            if lesser is None:
                i += 1
            else:
                plan, changed = lesser, True
    return plan


def _lesser(mark: Mark) -> list[tuple[Mark, ...]]:
    found: list[tuple[Mark, ...]] = [()]
    if len(mark.after) > 2:
        found += [(Mark(tuple(row for row in mark.after if row is not gone)),) for gone in mark.after]
    return found
