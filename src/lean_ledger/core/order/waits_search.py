"""The shortest cycle of paths that wait for one another at marks: best first over what was done, with a bound.

A state is what each path has done, when it is free, which work it has changed to, and what is sure on it. From there
a path starts its work where everything that it asks for is sure, or some meet at a mark. Of two states that differ only
in when the paths are free, one that is nowhere later is kept.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from heapq import heappop, heappush, nsmallest
from itertools import combinations, count, pairwise, product, takewhile
from time import monotonic

from lean_ledger.core.order.marks import marked
from lean_ledger.core.order.marks_put import with_marks
from lean_ledger.core.order.problem import circle_in
from lean_ledger.core.order.waits import Mark, Plan, WaitProblem, run, without_needless
from lean_ledger.core.order.waits_listed import annealed
from lean_ledger.core.order.waits_relaxed import Orders, relaxed

NOTHING = -1  # a path that has ended
MOST_STATES = 3_000_000
PROVEN = 12  # works up to which the search from all beginnings ends by itself, mostly
FOR_LISTS, FOR_BOUND = 0.4, 0.7  # of the time, until when lists are tried, and bounds looked for
WIDTHS = (4, 20, 100, 500)
FOR_BEAMS = 0.12  # of the time


@dataclass(frozen=True, eq=False)
class Node:
    """Of each path: when it is free, the work that it has changed to, what is sure on it, its works so far."""

    free: tuple[int, ...]
    next: tuple[int, ...]
    known: tuple[int, ...]
    left: int  # works that no path has taken
    done: int
    end: int
    step: Mark | tuple[tuple[int, int], ...] | None  # a mark, or (path, work) that started
    parent: Node | None


@dataclass(frozen=True)
class Scheduled:
    """`bound`: no run with marks takes less."""

    plan: Plan
    cycle: int
    bound: int


def scheduled(problem: WaitProblem, seconds: float) -> Scheduled:
    """The best run found in so many seconds: by the search below, which proves small ones; of larger ones by lists and
    by schedules without marks, which give a bound as well, whose orders are given the marks that they need.
    """
    began = monotonic()
    if len(problem.works) <= PROVEN:
        return _Search(problem, began + seconds).found()
    known: dict[Orders, Plan] = {}

    def better(orders: Orders) -> None:
        if orders not in known:
            known[orders] = with_marks(problem, orders)

    for orders in annealed(problem, began + FOR_LISTS * seconds):
        better(orders)
    bound = relaxed(problem, began + FOR_BOUND * seconds, better)
    plan = min(known.values(), key=lambda one: run(problem, one).cycle)
    plan = _swapped(problem, plan, began + seconds)
    plan = min((without_needless(problem, plan), marked(problem, plan.orders)), key=lambda one: run(problem, one).cycle)
    cycle = run(problem, plan).cycle
    return Scheduled(plan, cycle, min(cycle, bound))


def _swapped(problem: WaitProblem, plan: Plan, until: float) -> Plan:
    """With works moved within their paths or to others as long as that is shorter."""
    best, better = run(problem, plan).cycle, True
    while better:
        better = False
        for orders in _moves(problem, plan.orders):
            if monotonic() > until:
                return plan
            other = with_marks(problem, orders)
            cycle = run(problem, other).cycle
            if cycle < best:
                plan, best, better = other, cycle, True
                break
    return plan


def _moves(problem: WaitProblem, orders: Orders) -> Iterator[Orders]:
    """Each work at each other place where no two wait for one another."""
    for p, order in enumerate(orders):
        for i, k in enumerate(order):
            without = [list(one) for one in orders]
            del without[p][i]
            for q in problem.works[k].paths:
                for j in range(len(without[q]) + 1):
                    rows = [tuple(one) for one in without]
                    rows[q] = (*rows[q][:j], k, *rows[q][j:])
                    if (q, j) != (p, i) and _can_run(problem, tuple(rows)):
                        yield tuple(rows)


def _can_run(problem: WaitProblem, orders: Orders) -> bool:
    """Whether the works come to their turn: those that start together count as one."""
    one = {k: (problem.mate[k] & -problem.mate[k]).bit_length() - 1 if k in problem.mate else k
           for k in range(len(problem.works))}  # fmt: skip
    pairs = [*problem.before, *(pair for order in orders for pair in pairwise(order))]
    return not circle_in(len(problem.works), [(one[a], one[b]) for a, b in pairs])


class _Search:
    def __init__(self, problem: WaitProblem, until: float) -> None:
        self._p, self._until = problem, until
        self._count = len(problem.works)
        self._all = (1 << self._count) - 1
        self._paths = range(len(problem.paths))
        self._tail = problem.tail
        self._best: Node | None = None
        self._least: dict[object, list[tuple[int, ...]]] = {}
        self._matters = self._mattering()
        self._wants: dict[int, int] = {}

    def _mattering(self) -> list[int]:
        """Of each work, bits of those for which it matters whether it is over."""
        found = list(self._p.apart)
        for a, b in self._p.before:
            found[a] |= 1 << b
        return found

    # ---- best first

    def found(self) -> Scheduled:
        self._beams(monotonic() + FOR_BEAMS * (self._until - monotonic()))
        by_itself = self._one_after_the_other()
        heap: list[tuple[int, int, int, Node]] = []
        number, bound = count(), self._at_least()
        for node in self._begin():
            heappush(heap, (max(bound, self._bound(node)), -node.done.bit_count(), next(number), node))
            if monotonic() > self._until:  # not all that could begin was looked at: the bound of all of them stands
                heap.clear()
                break
        while heap:
            worth, _, _, node = heappop(heap)
            bound = max(bound, worth)
            if self._best is not None and worth >= self._best.end:
                bound = self._best.end
                break
            if monotonic() > self._until or len(self._least) > MOST_STATES:
                break
            if node.done == self._all:
                self._best = node
                bound = node.end
                break
            for one in self._following(node):
                least = max(worth, self._bound(one))
                if (self._best is None or least < self._best.end) and self._is_new(one):
                    heappush(heap, (least, -one.done.bit_count(), next(number), one))
                    if one.done == self._all and (self._best is None or one.end < self._best.end):
                        self._best = one
        else:
            if self._best is not None and monotonic() <= self._until:
                bound = self._best.end
        plans = [by_itself, *([self._plan_of(self._best)] if self._best is not None else [])]
        plan = min((without_needless(self._p, one) for one in plans), key=lambda one: run(self._p, one).cycle)
        cycle = run(self._p, plan).cycle
        return Scheduled(plan, cycle, min(bound, cycle))

    def _at_least(self) -> int:
        """Of any run: the longest way, all work on all paths evenly."""
        return max(*self._tail, -(-sum(work.seconds for work in self._p.works) // len(self._paths)), 0)

    def _beams(self, until: float) -> None:
        """Wider and wider ones: of what is come to in as many steps the most promising go on."""
        for width in WIDTHS:
            row = nsmallest(width, takewhile(lambda _: monotonic() <= until, self._begin()), key=self._promise)
            while row:
                found: dict[object, Node] = {}
                for one in (one for node in row for one in self._following(node)):
                    if self._best is not None and self._bound(one) >= self._best.end:
                        continue
                    if one.done == self._all:
                        self._best = one
                        continue
                    key = (one.free, *self._key(one))
                    if key not in found:
                        found[key] = one
                    if monotonic() > until:
                        return
                row = nsmallest(width, found.values(), key=self._promise)

    def _key(self, node: Node) -> tuple[object, ...]:
        matters = self._wanted(self._all & ~node.done)
        return node.left, node.done, node.next, tuple(k & matters for k in node.known)

    def _promise(self, node: Node) -> tuple[int, int, int]:
        return self._bound(node), -node.done.bit_count(), node.end

    def _is_new(self, node: Node) -> bool:
        rows = self._least.setdefault(self._key(node), [])
        now = (*node.free, node.end)
        if any(all(a <= b for a, b in zip(row, now, strict=True)) for row in rows):
            return False
        rows[:] = [row for row in rows if not all(a <= b for a, b in zip(now, row, strict=True))]
        rows.append(now)
        return True

    def _begin(self) -> Iterator[Node]:
        """Every choice of what the paths do first."""
        choices = [[k for k in range(self._count) if p in self._p.works[k].paths] + [NOTHING] for p in self._paths]
        for firsts in product(*choices):
            taken = [k for k in firsts if k != NOTHING]
            if len(set(taken)) == len(taken) and taken:
                left = self._all & ~sum(1 << k for k in taken)
                if self._can_be_taken(left, firsts):
                    zero = (0,) * len(firsts)
                    yield Node(zero, firsts, zero, left, 0, 0, None, None)

    def _can_be_taken(self, left: int, following: tuple[int, ...]) -> bool:
        """Whether what is left has a path that has not ended."""
        return all(
            any(following[p] != NOTHING for p in self._p.works[k].paths) for k in range(self._count) if left >> k & 1
        )

    # ---- ways on

    def _following(self, node: Node) -> Iterator[Node]:
        for p in self._paths:
            k = node.next[p]
            if k != NOTHING and k not in self._p.mate and self._may_start(node, p, k):
                yield from self._started(node, ((p, k),))
        for size in range(2, len(self._paths) + 1):
            for met in combinations(self._paths, size):
                marked = self._marked(node, met)
                together = self._together(node, met)
                if together is not None:
                    yield from self._started(marked, together)
                if self._is_worth(node, marked, met):
                    yield marked

    def _may_start(self, node: Node, p: int, k: int) -> bool:
        """Whether all that comes before it, and all that must not run beside it and has begun, is surely over."""
        asked = self._p.needs[k] | (self._p.apart[k] & node.done)
        return not asked & ~node.known[p]

    def _marked(self, node: Node, met: tuple[int, ...]) -> Node:
        when, both = max(node.free[p] for p in met), 0
        for p in met:
            both |= node.known[p]
        free = tuple(when if p in met else t for p, t in enumerate(node.free))
        known = tuple(both if p in met else own for p, own in enumerate(node.known))
        mark = Mark(tuple((p, self._done_by(node, p)) for p in met))
        return Node(free, node.next, known, node.left, node.done, node.end, mark, node)

    def _done_by(self, node: Node, p: int) -> int:
        done, at = 0, node
        while at.parent is not None:
            if isinstance(at.step, tuple):
                done += sum(q == p for q, _ in at.step)
            at = at.parent
        return done

    def _is_worth(self, node: Node, marked: Node, met: tuple[int, ...]) -> bool:
        """A mark that makes something sure on a path that a work which is still to come asks for: it may be met long
        before that work, where nobody has to wait.
        """
        wanted = self._wanted(self._all & ~node.done)
        return any(marked.known[p] & ~node.known[p] & wanted for p in met)

    def _wanted(self, left: int) -> int:
        """Bits of works for which it matters, to one that is left, whether they are over."""
        found = self._wants.get(left)
        if found is None:
            found = self._wants[left] = sum(1 << k for k in range(self._count) if self._matters[k] & left)
        return found

    def _together(self, node: Node, met: tuple[int, ...]) -> tuple[tuple[int, int], ...] | None:
        """Works that are to start at once and stand at the paths that meet; None where that is not so."""
        marked = self._marked(node, met)
        for p in met:
            k = node.next[p]
            if k == NOTHING or k not in self._p.mate:
                continue
            group = self._p.mate[k]
            own = tuple((q, node.next[q]) for q in met if node.next[q] != NOTHING and group >> node.next[q] & 1)
            if len(own) == group.bit_count() and all(self._may_start(marked, q, one) for q, one in own):
                return own
        return None

    def _started(self, node: Node, own: tuple[tuple[int, int], ...]) -> Iterator[Node]:
        """Works begin, and their paths change to each of what they could do next."""
        free, known, done, end = list(node.free), list(node.known), node.done, node.end
        for p, k in own:
            free[p] += self._p.works[k].seconds
            known[p] |= 1 << k
            done |= 1 << k
            end = max(end, free[p])
        choices = [
            [k for k in range(self._count) if node.left >> k & 1 and p in self._p.works[k].paths] + [NOTHING]
            for p, _ in own
        ]
        for chosen in product(*choices):
            taken = [k for k in chosen if k != NOTHING]
            if len(set(taken)) < len(taken):
                continue
            then, when = list(node.next), list(free)
            for (p, k), following in zip(own, chosen, strict=True):
                then[p] = following
                if following != NOTHING and self._p.works[following].tool != self._p.works[k].tool:
                    when[p] += self._p.change
            left = node.left & ~sum(1 << k for k in taken)
            if self._can_be_taken(left, tuple(then)):
                yield Node(tuple(when), tuple(then), tuple(known), left, done, end, own, node)

    # ---- bound

    def _bound(self, node: Node) -> int:
        """No run from here ends sooner: by the end so far, each path's own work, the ways behind each work, and what
        cannot overlap.
        """
        works, least = self._p.works, node.end
        going = [p for p in self._paths if node.next[p] != NOTHING]
        if not going:
            return least
        rest = 0
        own = dict.fromkeys(going, 0)
        tools: dict[int, set[str]] = {p: set() for p in going}
        for p in going:
            k = node.next[p]
            least = max(least, node.free[p] + self._tail[k])
            own[p] += works[k].seconds
            rest += works[k].seconds
        for k in range(self._count):
            if not node.left >> k & 1:
                continue
            able = [p for p in works[k].paths if node.next[p] != NOTHING]
            rest += works[k].seconds
            soonest = min(node.free[p] + works[node.next[p]].seconds for p in able)
            least = max(least, soonest + self._tail[k])
            if len(able) == 1:
                own[able[0]] += works[k].seconds
                if works[k].tool != works[node.next[able[0]]].tool:
                    tools[able[0]].add(works[k].tool)
        for p in going:
            least = max(least, node.free[p] + own[p] + len(tools[p]) * self._p.change)
        least = max(least, -(-(sum(node.free[p] for p in going) + rest) // len(going)))
        return max(least, min(node.free[p] for p in going) + self._alone(node))

    def _alone(self, node: Node) -> int:
        """Of each spindle: works that are alone on it, and of those at each speed the longest, one after the other."""
        most = 0
        left = self._all & ~node.done
        for s in {s for work in self._p.works for s in work.spindles}:
            alone, speeds = 0, dict[str, int]()
            for k, work in enumerate(self._p.works):
                if left >> k & 1 and s in work.spindles:
                    if work.speed is None:
                        alone += work.seconds
                    else:
                        speeds[work.speed] = max(speeds.get(work.speed, 0), work.seconds)
            most = max(most, alone + sum(speeds.values()))
        return most

    # ---- back to a plan

    def _one_after_the_other(self) -> Plan:
        """A run that there always is: all paths meet between any two works, or those that start together."""
        orders: list[list[int]] = [[] for _ in self._paths]
        marks: list[Mark] = []
        left, done = list(range(self._count)), 0
        while left:
            for k in left:
                group = self._p.mate.get(k, 1 << k)
                own = [one for one in left if group >> one & 1]
                if all(not self._p.needs[one] & ~done for one in own):
                    break
            if done:
                marks.append(Mark(tuple((p, len(order)) for p, order in enumerate(orders))))
            elif len(own) > 1:
                marks.append(Mark(tuple((p, 0) for p in self._paths)))
            for one, p in zip(own, _matching([self._p.works[k].paths for k in own]), strict=True):
                orders[p].append(one)
                left.remove(one)
                done |= 1 << one
        return Plan(tuple(map(tuple, orders)), tuple(marks) if len(orders) > 1 else ())

    def _plan_of(self, node: Node) -> Plan:
        orders: list[list[int]] = [[] for _ in self._paths]
        marks: list[Mark] = []
        chain: list[Node] = []
        at: Node | None = node
        while at is not None:
            chain.append(at)
            at = at.parent
        for one in reversed(chain):
            if isinstance(one.step, Mark):
                marks.append(one.step)
            elif one.step is not None:
                for p, k in one.step:
                    orders[p].append(k)
        return Plan(tuple(map(tuple, orders)), tuple(marks))


def _matching(choices: list[tuple[int, ...]]) -> list[int]:
    """A path of its own for each."""
    for paths in product(*choices):
        if len(set(paths)) == len(paths):
            return list(paths)
    raise AssertionError("what starts together was checked to have paths enough")
