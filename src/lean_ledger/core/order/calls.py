"""How often tools, angles or pieces have to be come to at the least: counted exactly for parts of a problem.

Of a set of steps with a key each (a tool, an angle, a piece), and the precedences among them: once a key is in, all
that it can do is done, which never costs a call. What is left depends on what is done alone, and is searched for the
fewest calls; a key that can end all its work at once is called at once, since it has to be called in any case.
"""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.order.bounds import Vector, runs_of
from lean_ledger.core.order.model import Model, State, bits, ordered

EFFORT = 400  # states of one question; beyond it the answer is a bound that holds, no longer the most


class Calls:
    """Of the steps `own`; bits are those of the whole problem, restricted to these."""

    def __init__(self, model: Model, own: Sequence[int], key: Sequence[int]) -> None:
        values: dict[int, int] = {}
        self.mask = sum(1 << k for k in own)
        self._value = values
        order = [k for k in ordered(model) if self.mask >> k & 1]
        # precedences that go through steps of others hold as well
        above: dict[int, int] = {}
        for k in ordered(model):
            above[k] = model.needs[k]
            for a in bits(model.needs[k]):
                above[k] |= above[a]
        self._steps = [(1 << k, above[k] & self.mask, values.setdefault(key[k], len(values))) for k in order]
        self._of = [sum(bit for bit, _, v in self._steps if v == value) for value in range(len(values))]
        index = {k: i for i, k in enumerate(order)}
        after: list[list[int]] = [[] for _ in order]
        for k in order:
            for a in bits(above[k] & self.mask):
                after[index[a]].append(index[k])
        self._runs = runs_of(after, [v for _, _, v in self._steps], len(values))
        self._exact: dict[int, int] = {}
        self._not_in: dict[int, int] = {}
        self._bounds: dict[int, int] = {}
        self._left = 0

    def least(self, done: int, now: int = -1) -> int:
        """Calls that are left, with a key in that need not be called."""
        done &= self.mask
        if done == self.mask:
            return 0
        value = self._value.get(now, -1)
        if value >= 0:
            done = self._with(done, value)
        known = self._exact.get(done)
        if known is not None:
            return known
        self._left = EFFORT
        calls = max(self._at_least(done), self._not_in.get(done, -1) + 1)
        while self._left > 0 and not self._goes(done, calls):
            if self._left > 0:
                calls += 1
        self._exact[done] = calls
        return calls

    def _with(self, done: int, value: int) -> int:
        """All done that one key can do, its own work making more of it ready."""
        for bit, need, v in self._steps:  # each comes after what it needs, so once through is enough
            if v == value and not done & bit and not need & ~done:
                done |= bit
        return done

    def _at_least(self, done: int) -> int:
        known = self._bounds.get(done)
        if known is None:
            rows: list[Vector] = [
                self._runs[i] for i, (bit, need, _) in enumerate(self._steps) if not done & bit and not need & ~done
            ]
            known = 0 if not rows else sum(rows[0]) if len(rows) == 1 else sum(map(max, *rows))
            self._bounds[done] = known
        return known

    def _goes(self, done: int, calls: int) -> bool:
        if done == self.mask:
            return True
        if self._at_least(done) > calls or self._not_in.get(done, -1) >= calls:
            return False
        self._left -= 1
        if self._left <= 0:
            return True  # not refuted: what was refuted before is the bound
        following = []
        for value, whole in enumerate(self._of):
            if not whole & ~done:
                continue
            then = self._with(done, value)
            if then == done:
                continue
            if not whole & ~then:
                following = [then]
                break
            following.append(then)
        if any(self._goes(then, calls - 1) for then in following):
            return True
        self._not_in[done] = calls
        return False


class CallBounds:
    """The bound of `bounds.py`, with calls in place of runs."""

    def __init__(self, model: Model) -> None:
        self._model = model
        every = [k for k in range(len(model.tool)) if not model.whole[k]]
        self._whole = sum(1 << k for k, whole in enumerate(model.whole) if whole)
        both: dict[tuple[int, int], int] = {}
        self._ta = [both.setdefault(pair, len(both)) for pair in zip(model.tool, model.angle, strict=True)]
        self._both = both
        self._tools = Calls(model, every, model.tool)
        self._angles = Calls(model, every, model.angle)
        self._pieces = Calls(model, every, model.piece)
        self._of_angle = _by(model, model.angle, model.tool)
        own = [[k for k in piece.own if not model.whole[k]] for piece in model.pieces]
        self._of_piece = [Calls(model, steps, model.tool) for steps in own]
        self._of_piece_a = [Calls(model, steps, model.angle) for steps in own]
        self._of_piece_ta = [Calls(model, steps, self._ta) for steps in own]
        self._several = len({*model.angle}) > 1

    def least(self, done: int, state: State) -> int:
        tool, angle, at = state
        free = 1 if at < 0 else 0
        t = self._tools.least(done, tool)
        a = self._angles.least(done, angle) if self._several else (0 if done == self._tools.mask else self._off(angle))
        p = self._pieces.least(done, at) - free
        ta = sum(calls.least(done, tool if own == angle else -1) for own, calls in self._of_angle)
        tp = sum(calls.least(done, tool if own == at else -1) for own, calls in enumerate(self._of_piece)) - free
        if self._several:
            both = self._both.get((tool, angle), -1)
            ap = sum(c.least(done, angle if own == at else -1) for own, c in enumerate(self._of_piece_a)) - free
            tap = sum(c.least(done, both if own == at else -1) for own, c in enumerate(self._of_piece_ta)) - free
        else:
            ap, tap = p, tp
        asked = (t, a, p, ta, tp, ap, tap)
        if rides := (self._whole & ~done).bit_count():
            asked = tuple(max(0, calls - rides) for calls in asked)  # type: ignore[assignment]
        return self._model.least_of(*asked)

    def _off(self, angle: int) -> int:
        return int(angle != self._model.angle[0])


def _by(model: Model, group: Sequence[int], key: Sequence[int]) -> list[tuple[int, Calls]]:
    of: dict[int, list[int]] = {}
    for k, value in enumerate(group):
        if not model.whole[k]:
            of.setdefault(value, []).append(k)
    return [(value, Calls(model, own, key)) for value, own in of.items()]
