"""The best order: a beam first, for a good one at once; then best first with bounds, until it is proven or time is up.

What could be done now at no cost is done now: to do it later costs no less, since no change between two states is
dearer than the way over a third one. So a state is left only for another tool, angle or piece, and pieces of one kind
that stand alike are one.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from heapq import heappop, heappush, nsmallest
from math import inf
from time import monotonic

from lean_ledger.core.order.bounds import Bounds
from lean_ledger.core.order.calls import CallBounds
from lean_ledger.core.order.model import Model, State
from lean_ledger.core.order.plain import plain_orders
from lean_ledger.core.order.problem import COUNTS, Count

MOST_KEPT = 1_500_000  # states that are remembered
MOST_COUNTED = 160  # steps whose calls are counted exactly; of more their runs
AT_ONCE = 40  # of a search by states, that somebody waits for
FIRST_WIDTH, WIDER = 4, 3
LIKELY = 12  # ways on from a state
CALLS_WEIGH = 10  # times what runs take, to count calls
FOR_BEAMS, FOR_RUNS, FOR_MANY = 0.12, 0.4, 0.85  # of the time, where nothing is proven before

Masks = tuple[int, ...]


@dataclass(frozen=True, eq=False)
class Node:
    """`masks`: done steps of each piece; `done`: all of them; `steps` were done to come here from `parent`."""

    masks: Masks
    done: int
    state: State
    cost: int
    steps: tuple[int, ...]
    parent: Node | None

    def order(self) -> list[int]:
        found: list[tuple[int, ...]] = []
        at: Node | None = self
        while at is not None:
            found.append(at.steps)
            at = at.parent
        return [k for steps in reversed(found) for k in steps]


@dataclass(frozen=True)
class Found:
    """`bound`: no order costs less; both in the model's whole numbers."""

    order: tuple[int, ...]
    cost: int
    bound: int


def always(_search: Search) -> bool:
    return True


class Search:
    """By seconds, or by states that are looked at: such a search gives the same on every machine. `go_on` is asked
    again and again, and may look at how far it is.
    """

    def __init__(self, model: Model, go_on: Callable[[Search], bool] = always, *, by_states: bool) -> None:
        self._model, self._go_on = model, go_on
        self._looked, self._by_states, self._began = 0, by_states, monotonic()
        self._runs = Bounds(model)
        self._calls: CallBounds | None = None
        self._all = (1 << len(model.tool)) - 1
        self._only_tools = model.angles == 1 and len(model.pieces) == 1
        self._of_tool = [sum(1 << k for k, own in enumerate(model.tool) if own == t) for t in range(model.tools)]
        self._kinds = [piece.kind for piece in model.pieces]
        first = Node((0,) * len(model.pieces), 0, model.start, 0, (), None)
        self._first = self._rest_of(first)
        self.best: Node | None = None
        self.bound = self._root

    def _least(self, node: Node) -> int:
        """That is still to come."""
        self._looked += 1 if self._calls is None else CALLS_WEIGH
        least = self._runs.least(node.masks, node.state)
        return least if self._calls is None else max(least, self._calls.least(node.done, node.state))

    def calls_say_more(self) -> bool:
        return self._first.cost + CallBounds(self._model).least(self._first.done, self._first.state) > self._root

    def count_calls(self) -> None:
        """From now on with the dearer and closer bound."""
        self._calls = CallBounds(self._model)
        self.bound = max(self.bound, self._root)

    @property
    def _root(self) -> int:
        return self._least(self._first) + self._first.cost

    # ---- states

    def _rest_of(self, node: Node) -> Node:
        """With all that costs nothing where the node stands."""
        done, masks, steps = self._settled(node.done, node.masks, node.state)
        return Node(masks, done, node.state, node.cost, (*node.steps, *steps), node.parent) if steps else node

    def _settled(self, done: int, masks: Masks, state: State) -> tuple[int, Masks, list[int]]:
        model, (tool, angle, p) = self._model, state
        if p < 0 or p >= len(model.pieces):
            return done, masks, []
        mask, made, more = masks[p], [], True
        while more:
            more = False
            for i, k in enumerate(model.pieces[p].own):
                if (
                    not mask >> i & 1
                    and model.tool[k] == tool
                    and model.angle[k] == angle
                    and not model.needs[k] & ~done
                ):
                    mask, done, more = mask | 1 << i, done | 1 << k, True
                    made.append(k)
        return (done, (*masks[:p], mask, *masks[p + 1 :]), made) if made else (done, masks, made)

    def _following(self, node: Node) -> list[Node]:
        """Each other tool, angle and piece at which something can be done."""
        model, at = self._model, node.state[2]
        found, seen = [], set()
        for p, mask in enumerate(node.masks):
            kind = (self._kinds[p], mask, p == at)
            if kind in seen:
                continue
            seen.add(kind)
            there = set()
            own = model.pieces[p].own
            if own and model.whole[own[0]]:
                if not mask and not model.needs[own[0]] & ~node.done:
                    found.append(self._run(node, p, own[0]))
                continue
            for i, k in enumerate(own):
                if not mask >> i & 1 and not model.needs[k] & ~node.done:
                    there.add((model.tool[k], model.angle[k]))
            for t, a in there:
                state = (t, a, p)
                cost = node.cost + model.step_cost(node.state, state)
                done, masks, steps = self._settled(node.done, node.masks, state)
                on = Node(masks, done, state, cost, tuple(steps), node)
                if self._only_tools and not self._of_tool[t] & ~done:
                    return [on]  # it has to be called once more in any case, and later it could not do more
                found.append(on)
        return found

    def _run(self, node: Node, p: int, k: int) -> Node:
        """A run that stays whole, and what can be done at no cost where it ends."""
        cost = node.cost + self._model.step_cost(node.state, self._model.enters(k)) + self._model.inner[k]
        masks = (*node.masks[:p], 1, *node.masks[p + 1 :])
        state = self._model.leaves[k]
        done, masks, steps = self._settled(node.done | 1 << k, masks, state)
        return Node(masks, done, state, cost, (k, *steps), node)

    def _key(self, node: Node) -> object:
        tool, angle, at = node.state
        here = (self._kinds[at], node.masks[at]) if 0 <= at < len(node.masks) else None
        return tool, angle, here, tuple(sorted(zip(self._kinds, node.masks, strict=True)))

    def _better(self, node: Node) -> bool:
        if self.best is None or node.cost < self.best.cost:
            self.best = node
            return True
        return False

    def _spent(self) -> float:
        return float(self._looked) if self._by_states else monotonic() - self._began

    def _over(self, until: float) -> bool:
        return self._spent() >= until or not self._go_on(self)

    def weight_of(self, count: Count) -> int:
        """What one of a count weighs, where counts are the goal."""
        return self._model.weights[COUNTS.index(count)]

    @property
    def proven(self) -> bool:
        return self.best is not None and self.bound >= self.best.cost

    # ---- beams

    def _likely(self, following: list[Node]) -> list[Node]:
        """Of many steps a beam looks at the cheapest ways on, and at those that do the most."""
        if len(self._model.tool) <= MOST_COUNTED or len(following) <= 2 * LIKELY:
            return following
        cheap = nsmallest(LIKELY, following, key=lambda one: (one.cost, -len(one.steps)))
        much = nsmallest(LIKELY // 2, following, key=lambda one: (-len(one.steps), one.cost))
        return [*cheap, *(one for one in much if one not in cheap)]

    def beams(self, until: float) -> None:
        """Wider and wider ones, until one proves itself or time is up."""
        width = FIRST_WIDTH
        while not self.proven and not self._over(until):
            started = self._spent()
            # without one beam to its end there would be nothing but plain orders
            whole = self._beam(width, inf if self._by_states and width == FIRST_WIDTH else until)
            if whole or self._spent() + WIDER * (self._spent() - started) > until:
                return
            width *= WIDER

    def _beam(self, width: int, until: float) -> bool:
        """Whether nothing was left out. Rows by how many steps are done; of each row the most promising go on."""
        rows: list[dict[object, tuple[int, Node]]] = [{} for _ in range(self._all.bit_length() + 1)]
        rows[self._first.done.bit_count()][self._key(self._first)] = (self.bound, self._first)
        whole = True
        for row in rows:
            own = list(row.values())
            if len(own) > width:
                whole = False
                own = nsmallest(width, own, key=lambda pair: (pair[0], pair[1].cost))
            row.clear()
            for _, node in own:
                if node.done == self._all:
                    self._better(node)
                    continue
                for one in self._likely(self._following(node)):
                    worth = one.cost + self._least(one)
                    if self.best is not None and worth >= self.best.cost:
                        continue
                    key, there = self._key(one), rows[one.done.bit_count()]
                    known = there.get(key)
                    if known is None or one.cost < known[1].cost:
                        there[key] = (worth, one)
            if self._over(until):
                return False
        return whole

    # ---- best first

    def prove(self, until: float) -> None:
        """Until the bound meets the best, or time or room is up; the bound grows on the way."""
        heap: list[tuple[int, int, int, Node]] = [(self._root, 0, 0, self._first)]
        least = {self._key(self._first): self._first.cost}
        number = 0
        while heap and not self.proven:
            worth, _, _, node = heap[0]
            self.bound = max(self.bound, worth)
            if self.best is not None and worth >= self.best.cost:
                break
            if self._over(until) or len(least) > MOST_KEPT:
                return
            heappop(heap)
            if node.cost > least.get(self._key(node), node.cost):
                continue
            if node.done == self._all:
                self._better(node)
                continue
            for one in self._following(node):
                key = self._key(one)
                known = least.get(key)
                if known is not None and known <= one.cost:
                    continue
                bound = max(worth, one.cost + self._least(one))
                if self.best is not None and bound >= self.best.cost:
                    continue
                least[key] = one.cost
                number += 1
                heappush(heap, (bound, -one.done.bit_count(), number, one))
        if self.best is not None:
            self.bound = self.best.cost if not heap or heap[0][0] >= self.best.cost else self.bound


def searched(
    model: Model, limit: float, known: Sequence[int] | None = None, go_on: Callable[[Search], bool] = always, *,
    by_states: bool = False,
) -> Found:  # fmt: skip
    """The best order found in so many seconds or states, never worse than a plain one or than `known`, which keeps all
    precedences.
    """
    search = Search(model, go_on, by_states=by_states)
    begin = [*plain_orders(model.problem).values(), *([known] if known is not None else [])]
    search.best = _as_node(model, min(begin, key=model.worth))
    counted = len(model.tool) <= (AT_ONCE if by_states else MOST_COUNTED)
    search.beams((FOR_BEAMS if counted else FOR_MANY) * limit)
    # runs are quicker to count than calls: where they say as much at the start they are tried first
    if not search.proven and not (counted and search.calls_say_more()):
        search.prove((FOR_RUNS if counted else 1) * limit)
    if not search.proven and counted:
        search.count_calls()
        search.prove(limit)
    assert search.best is not None, "it began with one"
    return Found(model.problem.expanded(search.best.order()), search.best.cost, min(search.bound, search.best.cost))


def _as_node(model: Model, order: Sequence[int]) -> Node:
    """The end of an order of the problem's steps."""
    problem = model.problem
    units = [problem.unit_of[k] for k in order if problem.units[problem.unit_of[k]][0] == k]
    masks = tuple((1 << len(piece.own)) - 1 for piece in model.pieces)
    return Node(masks, (1 << len(units)) - 1, model.leaves[units[-1]], model.worth_of(units), tuple(units), None)
