"""Where paths wait for one another, their works and orders given: the marks with which the cycle is shortest.

A state is how many works of each path have begun, when each is ready for its next, and what is sure on it; what must
not run at the same time runs in the order that is shorter. Best first, with each path's own rest as bound; beyond so
many states marks are put in one by one (`marks_put.py`), so that the same problem always gives the same marks.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from heapq import heappop, heappush
from itertools import combinations, count

from lean_ledger.core.order.marks_put import with_marks
from lean_ledger.core.order.waits import Mark, Plan, WaitProblem, without_needless

STATES = 4000


@dataclass(frozen=True, eq=False)
class Node:
    """Of each path: works that it has begun, when it is ready for the next, bits of what is sure on it."""

    begun: tuple[int, ...]
    at: tuple[int, ...]
    known: tuple[int, ...]
    marks: int
    step: Mark | None
    parent: Node | None


def marked(problem: WaitProblem, orders: Sequence[Sequence[int]]) -> Plan:
    """The orders with the marks that they need, and no other. No work may wait for one behind it on its own path."""
    search = _Marking(problem, tuple(tuple(order) for order in orders))
    return without_needless(problem, Plan(search.orders, search.found()))


class _Marking:
    def __init__(self, problem: WaitProblem, orders: tuple[tuple[int, ...], ...]) -> None:
        self._p, self.orders = problem, orders
        self._paths = range(len(orders))
        self._rest = [self._rests(order) for order in orders]
        self._asked = [self._asks(order) for order in orders]

    def _rests(self, order: Sequence[int]) -> list[int]:
        """From each work on: seconds of the path to its end, the way to that work left out."""
        found, rest = [0], 0
        for k, before in reversed([*zip(order, (None, *order), strict=False)]):
            rest += self._p.works[k].seconds
            found.append(rest)
            rest += self._p.to(k, before)
        return found[::-1]

    def _asks(self, order: Sequence[int]) -> list[int]:
        """From each work on: bits of works of which it matters whether they are over."""
        found, asked = [0], 0
        for k in reversed(order):
            asked |= self._p.needs[k] | self._p.apart[k]
            found.append(asked)
        return found[::-1]

    def _first(self) -> Node:
        at = tuple(self._p.to(order[0] if order else None, None) for order in self.orders)
        zero = (0,) * len(self.orders)
        return Node(zero, at, zero, 0, None, None)

    def found(self) -> tuple[Mark, ...]:
        heap: list[tuple[int, int, int, Node]] = []
        number, least = count(), dict[object, list[tuple[int, ...]]]()
        first = self._first()
        heappush(heap, (self._bound(first), 0, next(number), first))
        for _ in range(STATES):
            *_, node = heappop(heap)
            if self._is_over(node):
                return _marks_of(node)
            for one in self._following(node):
                if self._is_new(least, one):
                    heappush(heap, (self._bound(one), one.marks, next(number), one))
        return with_marks(self._p, self.orders).marks

    def _is_over(self, node: Node) -> bool:
        return all(done == len(order) for done, order in zip(node.begun, self.orders, strict=True))

    def _bound(self, node: Node) -> int:
        return max(at + rest[done] for at, done, rest in zip(node.at, node.begun, self._rest, strict=True))

    def _is_new(self, least: dict[object, list[tuple[int, ...]]], node: Node) -> bool:
        sure = tuple(k & asked[done] for k, done, asked in zip(node.known, node.begun, self._asked, strict=True))
        rows, now = least.setdefault((node.begun, sure), []), (*node.at, node.marks)
        if any(all(a <= b for a, b in zip(row, now, strict=True)) for row in rows):
            return False
        rows[:] = [row for row in rows if not all(a <= b for a, b in zip(now, row, strict=True))]
        rows.append(now)
        return True

    def _next(self, node: Node, p: int) -> int | None:
        done = node.begun[p]
        return self.orders[p][done] if done < len(self.orders[p]) else None

    def _following(self, node: Node) -> Iterator[Node]:
        begun = sum(1 << k for p in self._paths for k in self.orders[p][: node.begun[p]])
        for p in self._paths:
            k = self._next(node, p)
            if k is not None and k not in self._p.mate and self._may_start(node, p, k, begun):
                yield self._started(node, (p,))
        for size in range(2, len(self.orders) + 1):
            for met in combinations(self._paths, size):
                marked_ = self._met(node, met)
                if any(marked_.known[p] & ~node.known[p] & self._asked[p][node.begun[p]] for p in met):
                    yield marked_
                mates = self._mates(marked_, met, begun)
                if mates:
                    yield self._started(marked_, mates)

    def _may_start(self, node: Node, p: int, k: int, begun: int) -> bool:
        return not (self._p.needs[k] | (self._p.apart[k] & begun)) & ~node.known[p]

    def _mates(self, node: Node, met: tuple[int, ...], begun: int) -> tuple[int, ...]:
        """Paths of works that start at once, where all of them are next and may."""
        following = {p: self._next(node, p) for p in met}
        for k in following.values():
            if k is None or k not in self._p.mate:
                continue
            group = self._p.mate[k]
            own = tuple(p for p, one in following.items() if one is not None and group >> one & 1)
            ready = all(self._may_start(node, p, self.orders[p][node.begun[p]], begun) for p in own)
            if len(own) == group.bit_count() and ready:
                return own
        return ()

    def _met(self, node: Node, met: tuple[int, ...]) -> Node:
        when, both = max(node.at[p] for p in met), 0
        for p in met:
            both |= node.known[p]
        at = tuple(when if p in met else t for p, t in enumerate(node.at))
        known = tuple(both if p in met else own for p, own in enumerate(node.known))
        return Node(node.begun, at, known, node.marks + 1, Mark(tuple((p, node.begun[p]) for p in met)), node)

    def _started(self, node: Node, paths: tuple[int, ...]) -> Node:
        at, known, begun = list(node.at), list(node.known), list(node.begun)
        for p in paths:
            k = self.orders[p][begun[p]]
            begun[p] += 1
            following = self.orders[p][begun[p]] if begun[p] < len(self.orders[p]) else None
            at[p] += self._p.works[k].seconds + self._p.to(following, k)
            known[p] |= 1 << k
        return Node(tuple(begun), tuple(at), tuple(known), node.marks, None, node)


def _marks_of(node: Node) -> tuple[Mark, ...]:
    found: list[Mark] = []
    at: Node | None = node
    while at is not None:
        if at.step is not None:
            found.append(at.step)
        at = at.parent
    return tuple(reversed(found))
