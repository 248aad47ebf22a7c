"""What an order must still cost at the least, from what is done and what is in.

Let a *run* of a tool be a stretch of a way through the precedences on which it stays in. The tool has to be called as
often as the way with the most of its runs has some; likewise an angle, a piece, and any two or all three of them taken
together as one. With T tool changes, A turns and P hops: T is at least the runs of all tools, T + P those of all
(tool, piece), since whoever comes to one of these changes the tool or the piece; and so on for A, P, T + A, A + P and
T + A + P. The least cost of such T, A and P is the bound.

A run that stays whole brings what it ends with along: whatever comes next may be come to at no cost, once. So as many
calls less are asked for as there are runs left.
"""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.order.model import Model, State, ordered

Vector = tuple[int, ...]


class Bounds:
    def __init__(self, model: Model) -> None:
        self._model = model
        pairs: dict[tuple[int, int], int] = {}
        both = [pairs.setdefault(key, len(pairs)) for key in zip(model.tool, model.angle, strict=True)]
        self._needs_t, self._needs_a = (_runs(model, key, n) for key, n in ((model.tool, model.tools),
                                                                            (model.angle, model.angles)))  # fmt: skip
        self._both, self._both_of = both, pairs
        self._needs_ta = _runs(model, both, len(pairs))
        self._own: list[tuple[list[dict[int, int]], ...]] = []
        for piece in model.pieces:
            inside = set(piece.own)
            self._own.append(tuple(
                _own_runs(model, piece.own, inside, key) for key in (model.tool, model.angle, both)
            ))  # fmt: skip
        self._local_needs = [
            [sum(1 << i for i, a in enumerate(piece.own) if model.needs[k] >> a & 1) for k in piece.own]
            for piece in model.pieces
        ]
        self._rows: dict[tuple[int, int, int, int, bool], tuple[Vector, Vector, Vector, Vector]] = {}

    def least(self, masks: Sequence[int], state: State) -> int:
        """Of what is left; `masks` are bits of the done steps of each piece."""
        tool, angle, at = state
        rows, model = self._rows, self._model
        n_p = n_tp = n_ap = n_tap = 0
        seen = set()
        free = 1 if at < 0 else 0  # the first piece is come to at no cost
        rides = 0
        for p, mask in enumerate(masks):
            piece = model.pieces[p]
            if piece.own and model.whole[piece.own[0]]:
                rides += not mask
                continue
            key = (piece.kind, mask, tool, angle, p == at)
            row = rows.get(key)
            if row is None:
                row = rows[key] = self._row(p, mask, tool, angle, here=p == at)
            own = row[0]
            if own:
                n_p, n_tp, n_ap, n_tap = n_p + own[0], n_tp + own[1], n_ap + own[2], n_tap + own[3]
                seen.add(row[1:])
        if not seen:
            return 0
        if len(seen) == 1:
            ((t, a, ta),) = seen
        else:
            t, a, ta = (tuple(map(max, *parts)) for parts in zip(*seen, strict=True))
        asked = (sum(t), sum(a), n_p - free, sum(ta), n_tp - free, n_ap - free, n_tap - free)
        if rides:
            asked = tuple(max(0, calls - rides) for calls in asked)  # type: ignore[assignment]
        return model.least_of(*asked)

    def _row(self, p: int, mask: int, tool: int, angle: int, *, here: bool) -> tuple[Vector, Vector, Vector, Vector]:
        """Of one piece: its own (P, T+P, A+P, T+A+P), and what the whole has for each tool, angle and both."""
        own = self._model.pieces[p].own
        ready = [i for i, need in enumerate(self._local_needs[p]) if not mask >> i & 1 and not need & ~mask]
        if not ready:
            return (), (), (), ()
        both = self._both_of.get((tool, angle), -1)
        t = _most([self._needs_t[own[i]] for i in ready], [self._model.tool[own[i]] for i in ready], tool)
        a = _most([self._needs_a[own[i]] for i in ready], [self._model.angle[own[i]] for i in ready], angle)
        ta = _most([self._needs_ta[own[i]] for i in ready], [self._both[own[i]] for i in ready], both)
        keys = (self._model.tool, self._model.angle, self._both)
        ins = (tool, angle, both) if here else (-1, -1, -1)
        sums = []
        for table, key, now in zip(self._own[p], keys, ins, strict=True):
            most: dict[int, int] = {}
            for i in ready:
                for value, runs in table[i].items():
                    needed = runs - 1 if value == now and key[own[i]] == now else runs
                    if needed > most.get(value, 0):
                        most[value] = needed
            sums.append(sum(most.values()))
        return (0 if here else 1, *sums), t, a, ta


def _runs(model: Model, key: Sequence[int], values: int) -> list[Vector]:
    """For each step, of every value: the most runs that a way beginning there has, its own first one counted."""
    order = ordered(model)
    place = {k: i for i, k in enumerate(order)}
    own = [-1 if model.whole[k] else key[k] for k in order]
    found = runs_of([[place[b] for b in model.after[k]] for k in order], own, values)
    return [found[place[k]] for k in range(len(key))]


def runs_of(after: Sequence[Sequence[int]], key: Sequence[int], values: int) -> list[Vector]:
    """The same for steps in an order in which each comes after what it needs; a key of -1 is passed over."""
    found: list[Vector] = [()] * len(key)
    for k in reversed(range(len(key))):
        most: Sequence[int] = (0,) * values
        mine, longest = key[k], 0
        for b in after[k]:
            there = found[b]
            most = tuple(map(max, most, there))
            longest = max(longest, there[mine] + (0 if key[b] == mine else 1))
        found[k] = (*most[:mine], max(1, longest), *most[mine + 1 :]) if mine >= 0 else tuple(most)
    return found


def _own_runs(model: Model, own: Sequence[int], inside: set[int], key: Sequence[int]) -> list[dict[int, int]]:
    """The same of ways within one piece, its steps by their place in it."""
    found: dict[int, dict[int, int]] = {}
    for k in reversed([k for k in ordered(model) if k in inside]):
        most: dict[int, int] = {}
        mine, longest = key[k], 0
        for b in model.after[k]:
            if b not in inside:
                continue
            there = found[b]
            for value, runs in there.items():
                if runs > most.get(value, 0):
                    most[value] = runs
            longest = max(longest, there.get(mine, 0) + (0 if key[b] == mine else 1))
        most[mine] = max(1, longest)
        found[k] = most
    return [found[k] for k in own]


def _most(rows: Sequence[Vector], keys: Sequence[int], now: int) -> Vector:
    """The most over the ways that begin at these steps; what is in need not be called for the first run."""
    lowered = [
        (*row[:now], row[now] - 1, *row[now + 1 :]) if key == now and now >= 0 else row
        for row, key in zip(rows, keys, strict=True)
    ]
    return lowered[0] if len(lowered) == 1 else tuple(map(max, *lowered))
