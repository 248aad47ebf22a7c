"""What is wrong with how the pieces of a load stand, and what would help."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.loads.bars import most_by_travel, step_of, whip_finding
from lean_ledger.core.loads.handover import handover_findings
from lean_ledger.core.loads.lanes import carriage_for
from lean_ledger.core.loads.layout import Layout, Placed
from lean_ledger.core.loads.spacing import Clash, clashes
from lean_ledger.core.loads.travel import TOUCH, travel_findings
from lean_ledger.core.loads.turned import turned
from lean_ledger.core.plan import Arrangement, Load
from lean_ledger.library.machines import Machine

Again = Callable[[Load], Layout]
#: What fewer pieces may mend.
BY_COUNT = ("past-travel", "pieces-overlap", "neighbour-too-near", "swing", "no-retract", "past-carrier")
STOOD_BY_HAND = ("pieces-overlap", "neighbour-too-near")
TRIES = 6  # of one column or row less each, beyond what goes on
NEAR = 0.001  # mm within which two shifts from piece to piece are one


def error(setup: str, code: str, title: str, why: str, cures: tuple[Cure, ...] = ()) -> Finding:
    return Finding(code, Severity.ERROR, Chapter.LAYOUT, title, why, setup, cures=cures)


def layout_findings(where: Layout, again: Again) -> list[Finding]:
    """Travels at the outermost pieces, neighbours, sides that there are not, what carries them, and the swing; `again`
    lays the load out with another arrangement.
    """
    if where.left_out:
        return [*_left_out(where), *layout_findings(replace(where, left_out=""), again)]
    found = _found(where)
    by_itself = where.alone or where.handed_over or where.load.arrangement.on_bar > 1
    return found if by_itself else _with_fewer(found, where, again)


def _found(where: Layout) -> list[Finding]:
    if where.alone:
        return _travel_of(where.placed[0], where)
    if where.handed_over:
        first, second = ((one.decision, one.built) for one in where.placed)
        travels = [f for one in where.placed for f in _travel_of(one, where)]
        by = step_of(*first, front=True) if where.pulled else 0.0
        return [*travels, *handover_findings(where.load.id, first, second, where.machine, by)]
    if where.load.arrangement.on_bar > 1:
        return _on_bar(where)
    return [*_travels(where), *_neighbours(where), *_sides(where), *_carried(where)]


def _travel_of(piece: Placed, where: Layout) -> list[Finding]:
    """Each operation within the travels of the carriage that makes it, as its spindle has them."""
    found = []
    machine = where.machine.faced() if piece.stands.nose is not None else where.machine
    for carriage in machine.carriages:
        here = (turned(op, piece.turn, where.machine) for op in piece.built.operations)
        ops = [op for op in here if carriage_for(where.load, machine, op) == carriage.id]
        if ops or carriage is machine.carriages[0]:
            found += travel_findings(piece.decision, piece.stands, machine.on(carriage.id), ops)
    return found


def _on_bar(where: Layout) -> list[Finding]:
    """Of an advance: the outermost piece against the travels, and the bar against its own weight."""
    first, count = where.placed[0], where.load.arrangement.on_bar
    step = step_of(first.decision, first.built)
    most = most_by_travel(first.built, where.machine, step)
    change = {"change": "set-arrangement", "load": where.load.id, "on_bar": most}
    less = (Cure(f"{most} an advance", change),) if most < count else ()
    far = _travel_of(first, where)
    return [
        *(replace(one, title=f"Piece 1: {one.title}", cures=(*one.cures, *less)) for one in far),
        *whip_finding(where.load.id, first.decision, first.built, count, step),
    ]


def _left_out(where: Layout) -> list[Finding]:
    """What was arranged for another machine, another fixture or another way of cutting."""
    how = where.load.arrangement
    change = {"change": "set-arrangement", "load": where.load.id, "columns": how.columns, "rows": how.rows,
              "sides": list(how.sides), "stations": how.stations, "in_turn": how.in_turn,
              "on_bar": how.on_bar, "joined": how.joined,
              "joined_rows": how.joined_rows}  # fmt: skip
    count = f"{how.count} piece{'s' if how.count > 1 else ''}"
    cure = Cure(f"Leave it at {count}", change)
    if where.machine.turns_work and len(where.kinds) > 1:  # two setups in one spindle
        cure = Cure("Each end by itself", {"change": "load-apart", "load": where.load.id})
    return [error(
        where.placed[0].decision.id, "not-as-arranged", f"Load {where.load.id} is not arranged as was said.",
        f"{where.left_out} It is planned with {count}.", (cure,),
    )]  # fmt: skip


def _travels(where: Layout) -> list[Finding]:
    """Of the pieces that stand farthest out: each axis is told once, at the worst of them."""
    alike: dict[tuple[str, int], list[Placed]] = {}
    for piece in where.placed:
        alike.setdefault((piece.decision.id, piece.turn), []).append(piece)
    corners = {
        pick(own, key=lambda p: p.shift[axis]).place.id
        for own in alike.values()
        for axis in (0, 1)
        for pick in (min, max)
    }
    found: dict[str, Finding] = {}
    for piece in where.placed:
        if piece.place.id in corners:
            for one in _travel_of(piece, where):
                said = replace(one, title=f"Piece {piece.place.id}: {one.title}")
                found.setdefault(f"{one.code} {one.title[:2]}", said)
    return list(found.values())


def _neighbours(where: Layout) -> list[Finding]:
    """Each distance from piece to piece once, the nearest of them that do not go clear."""
    told: dict[tuple[str | None, str], Finding] = {}
    for a, b in _pairs(where):
        clash = _clash(where, a, b)
        if clash is not None:
            told.setdefault((clash.operation, clash.what), _clash_finding(where, a, b, clash))
    return list(told.values())


def troubled(where: Layout) -> dict[str, str]:
    """By piece: what is wrong where it stands, in words, as the drawing shows it."""
    found: dict[str, str] = {}
    if where.alone or where.handed_over or where.load.arrangement.on_bar > 1:
        return found
    known: dict[_Way, Clash | None] = {}
    for a in where.placed:
        for b in where.placed:
            if a is not b and a.side == b.side:
                way = _way(a, b)
                if way not in known:
                    known[way] = _clash(where, a, b)
                if known[way] is not None:
                    for one, other in ((a, b), (b, a)):
                        found.setdefault(one.place.id, f"too near to piece {other.place.id}")
    for axis in (0, 1):
        reaches = {(kind.decision.id, kind.turn): kind.reach(axis, where.machine)
                   for kind in (*where.kinds, *where.turned)}  # fmt: skip
        low, high = where.machine.travel[axis]
        for one in where.placed:
            reach, by = reaches[one.decision.id, one.turn], one.shift[axis]
            if reach is not None and not low - TOUCH <= reach[0] + by <= reach[1] + by <= high + TOUCH:
                found.setdefault(one.place.id, f"{'XY'[axis]} runs past its travel")
    return found


_Way = tuple[int, int, bool, str, int, str, int]


def _way(a: Placed, b: Placed) -> _Way:
    """From piece to piece: the same wherever it is the same distance between the same setups, and whether they share a
    fixture.
    """
    return (round((b.shift[0] - a.shift[0]) / NEAR), round((b.shift[1] - a.shift[1]) / NEAR), _one_fixture(a, b),
            a.decision.id, a.turn, b.decision.id, b.turn)  # fmt: skip


def _one_fixture(a: Placed, b: Placed) -> bool:
    return (a.column, a.row, a.side) == (b.column, b.row, b.side)


def _clash(where: Layout, a: Placed, b: Placed) -> Clash | None:
    own, other = where.kind_at(a), where.kind_at(b)
    by = (b.shift[0] - a.shift[0], b.shift[1] - a.shift[1])
    if a.bar:  # what passes between pieces of one bar was asked when they were planned
        return None if a.bar == b.bar else _between_bars(where, a, b)
    on = [one.operation for one in where.in_one if b.place.id in where.made_with(a.place.id, one.operation)]
    return clashes(own.built, own.solids, other.solids, by, same_fixture=_one_fixture(a, b), going_on=on)


def _between_bars(where: Layout, a: Placed, b: Placed) -> Clash | None:
    """What a piece's tools, and its bar with what holds it, meet at the bar of another."""
    unit, there = where.units[0].solids, where.stations[b.station]
    x, y = where.stations[a.station]
    mine = [one.moved(-x, -y) for one in unit]
    by = (b.shift[0] - a.shift[0] - there[0], b.shift[1] - a.shift[1] - there[1])
    return clashes(a.built, mine, unit, by)


def _pairs(where: Layout) -> Iterator[tuple[Placed, Placed]]:
    """Pieces of one side, each way from one to the other once, the shortest first."""
    ways: dict[_Way, tuple[Placed, Placed]] = {}
    for a in where.placed:
        for b in where.placed:
            if a is not b and a.side == b.side:
                ways.setdefault(_way(a, b), (a, b))
    yield from sorted(
        ways.values(), key=lambda pair: sum(abs(q - p) for p, q in zip(pair[0].shift, pair[1].shift, strict=True))
    )


def _clash_finding(where: Layout, a: Placed, b: Placed, clash: Clash) -> Finding:
    setup, pair = a.decision.id, f"Pieces {a.place.id} and {b.place.id}"
    if clash.operation is None:
        return error(
            setup, "pieces-overlap", f"{pair} stand in one another: {clash.name} in {clash.what}.",
            f"They have to be {clash.lacks:.1f} farther apart.", _by_rule(where),
        )  # fmt: skip
    near = error(
        setup, "neighbour-too-near",
        f"“{clash.name}” on piece {a.place.id} comes too near to the {clash.what} of piece {b.place.id}.",
        f"{clash.lacks:.1f} more between them and its tool goes clear.", _by_rule(where),
    )  # fmt: skip
    return replace(near, operation=clash.operation)


def _by_rule(where: Layout) -> tuple[Cure, ...]:
    how = where.load.arrangement
    if how.gap == (None, None) and all(m.by == (0.0, 0.0) for m in how.moved):
        return ()
    change = {"change": "set-arrangement", "load": where.load.id, "gap": [["X", None], ["Y", None]],
              "moved": [[m.place, 0.0, 0.0] for m in how.moved if m.by != (0.0, 0.0)]}  # fmt: skip
    return (Cure("Stand apart by the rule", change),)


def _with_fewer(found: Sequence[Finding], where: Layout, again: Again) -> list[Finding]:
    """Each of the findings with as many pieces as go without it, as a cure where fewer do at all."""
    return [
        replace(one, cures=(*one.cures, *_fewer(one.code, where, again))) if one.code in BY_COUNT else one
        for one in found
    ]


def _fewer(code: str, where: Layout, again: Again) -> tuple[Cure, ...]:
    how, setups = where.load.arrangement, len(where.load.setups)
    if code in STOOD_BY_HAND and (how.gap != (None, None) or how.moved):
        return ()  # they stand as was said: that is what is wrong
    less = _as_go_on(where)
    if less == how:
        less = _one_less(how, setups)
    if less == how:
        less = _shorter(where, how)
    for _ in range(TRIES):
        if less == how:
            break
        how = less
        tried = again(replace(where.load, arrangement=how, skipped=()))
        if all(f.code != code for f in _found(tried)):
            change = {"change": "set-arrangement", "load": where.load.id, "columns": how.columns, "rows": how.rows}
            if how.in_one != where.load.arrangement.in_one:
                change |= {"joined": how.joined, "joined_rows": how.joined_rows}
            return (Cure(f"{how.count} piece{'s' if how.count > 1 else ''}", change),)
        less = _one_less(how, setups)
        if less == how:
            less = _shorter(where, how)
    return ()


def _shorter(where: Layout, how: Arrangement) -> Arrangement:
    """With fewer pieces in one bar or plate: rows where those are what does not go in."""
    if how.joined_rows > 1 and where.limit(1).most < how.rows:
        return replace(how, joined_rows=how.joined_rows - 1)
    if how.joined > 2 or how.in_one == 2:
        return replace(how, joined=how.joined - 1)
    return replace(how, joined_rows=how.joined_rows - 1) if how.joined_rows > 1 else how


def _as_go_on(where: Layout) -> Arrangement:
    """No more columns and rows than the travels, and what carries them, have room for."""
    how, setups = where.load.arrangement, len(where.load.setups)
    counts = []
    for axis, (name, count) in enumerate((("columns", how.columns), ("rows", how.rows))):
        together = setups if how.in_turn == name else 1  # what holds the setups in turn goes together
        most = max(together, where.limit(axis).most // together * together)
        counts.append(min(count, most))
    return replace(how, columns=counts[0], rows=counts[1])


def _one_less(how: Arrangement, setups: int) -> Arrangement:
    """One column or row less, whichever there are more of; what holds the setups in turn goes together."""
    by_x, by_y = (setups if how.in_turn == name else 1 for name in ("columns", "rows"))
    if (how.columns >= how.rows and how.columns > by_x) or how.rows <= by_y:
        return replace(how, columns=max(by_x, how.columns - by_x))
    return replace(how, rows=how.rows - by_y)


def _sides(where: Layout) -> list[Finding]:
    sides, setup = where.load.arrangement.sides, where.placed[0].decision.id
    missing = [side for side in sides if all(abs((side - face + 180) % 360 - 180) > NEAR for face in where.faces)]
    if missing:
        there = ", ".join(f"{face:g}°" for face in where.faces) or "none"
        change = {"change": "set-arrangement", "load": where.load.id, "sides": list(where.faces)}
        return [error(
            setup, "no-such-side", f"{where.machine.name} has no side at {', '.join(f'{s:g}°' for s in missing)}.",
            f"What stands on its rotary has sides at: {there}.",
            (Cure("Take those", change),) if where.faces else (),
        )]  # fmt: skip
    return _swing(where, where.machine) if sides else []


def _swing(where: Layout, machine: Machine) -> list[Finding]:
    """The way round: clear of the table below, and of the tool that has gone up."""
    setup = where.placed[0].decision.id
    axis = where.axis_level
    assert axis is not None, "sides are on an axis"
    swing = where.free_above - axis
    found = []
    if not machine.spindle_lies and swing > axis:
        found.append(error(
            setup, "swing", f"The load swings {swing:.0f}, the axis is {axis:g} high.",
            "What turns would hit the table. Take a smaller fixture or fewer rows, or another machine.",
        ))  # fmt: skip
    top = machine.travel[2][1]
    for op in (op for kind in where.kinds for op in kind.built.operations):
        if where.free_above + op.tool.gauge > top + NEAR:
            past = where.free_above + op.tool.gauge - top
            found.append(replace(error(
                setup, "no-retract", f"{op.tool.description} cannot go up clear of what turns on {machine.name}.",
                f"Z would have to go {past:.0f} past its travel. Take a shorter tool, or fewer rows.",
            ), operation=op.id))  # fmt: skip
            break
    return found


def _carried(where: Layout) -> list[Finding]:
    """Pieces beyond the plate or the tombstone that carries them."""
    found, how = [], where.load.arrangement
    for axis, count, what in ((0, how.columns, "columns"), (1, how.rows, "rows")):
        limit = where.limit(axis)
        if count > max(1, limit.most) and "too short" in limit.why and where.machine.name not in limit.why:
            found.append(error(
                where.placed[0].decision.id, "past-carrier", f"{count} {what} do not go on: {limit.why}.",
                f"{limit.most} go on with these gaps. Take fewer, or a larger one.",
            ))  # fmt: skip
    return found
