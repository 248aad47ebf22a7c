"""How many pieces lie in a load and where, on which work offsets, in which order they are come to."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, replace
from itertools import groupby
from math import isfinite
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.in_one import check_jaws, check_joined, with_ends
from lean_ledger.core.changes.scene import Scene, Strict, check_between
from lean_ledger.core.control.offset_words import offset_words
from lean_ledger.core.holding.placement import Bed, stacks
from lean_ledger.core.loads.bars import MOST as MOST_ON_BAR
from lean_ledger.core.loads.bars import why_not_on_bar
from lean_ledger.core.loads.joined import MOST as MOST_JOINED
from lean_ledger.core.loads.joined import goes_on
from lean_ledger.core.loads.kinds import stations_of
from lean_ledger.core.loads.layout import MOST
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.one_pass import once_words, one_pass
from lean_ledger.core.loads.together import BOTH_ENDS, arranged_in_turn, arranged_together, why_not_turned, why_only_one
from lean_ledger.core.plan import Along, Arrangement, Load, Moved, OffsetChoice, Plan, Policy, Turned, Walk

MOST_SIDES = 24
MOST_GAP = 2000.0  # mm


def load_in(plan: Plan, id: str) -> Load:
    """Raises PlanError for a load that there is not."""
    found = next((load for load in plan.loads if load.id == id), None)
    if found is None:
        raise PlanError("no-load", f"there is no load {id}; the plan has {', '.join(load.id for load in plan.loads)}")
    return found


@dataclass(frozen=True)
class SetArrangement(Strict):
    """What is not named stays. `gap`: ("X" or "Y", mm), None for the least; `moved`: (piece, mm along X, along Y) from
    where the rule has it; `turned`: (piece, degrees) with what holds it, counter-clockwise seen from above. `joined`:
    pieces that stay in one bar, `joined_rows` of them behind one another: the stock at their ends grows to what the
    mill between two of them needs.
    """

    load: str
    columns: int | None = None
    rows: int | None = None
    sides: tuple[float, ...] | None = None
    stations: int | None = None
    in_turn: Along | None = None
    on_bar: int | None = None
    joined: int | None = None
    joined_rows: int | None = None
    gap: tuple[tuple[Literal["X", "Y"], float | None], ...] = ()
    moved: tuple[tuple[str, float, float], ...] = ()
    turned: tuple[tuple[str, Turned], ...] = ()
    change: Literal["set-arrangement"] = "set-arrangement"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        ledger = scene.ledger.load_of(load.setups[0])
        was = load.arrangement
        if self.in_turn is not None and self.in_turn != was.in_turn and len(load.setups) > 1:
            was = arranged_in_turn(ledger, self.in_turn)
        how = Arrangement(
            was.columns if self.columns is None else self.columns,
            was.rows if self.rows is None else self.rows,
            was.sides if self.sides is None else _sides(self.sides),
            was.stations if self.stations is None else self.stations,
            self._gap(was),
            self._moved(was),
            self.in_turn or was.in_turn,
            was.on_bar if self.on_bar is None else self.on_bar,
            was.joined if self.joined is None else self.joined,
            self._joined_rows(was),
        )
        if how.in_turn == "spindles" and replace(how, gap=(None, None), moved=()) != BOTH_ENDS:
            raise PlanError("taken-over", "the counter spindle takes one piece a cycle over: take the setups apart to "
                            "arrange more", load.setups[0])  # fmt: skip
        _check(how, ledger, plan)
        how = self._turned(how, ledger)
        kept = {str(k) for k in range(1, how.count + 1)}
        unknown = next((id for id, _ in self.turned if id not in kept), None)
        if unknown is not None:
            raise PlanError("no-such-piece", f"load {load.id} has no piece {unknown!r}", load.setups[0])
        how = replace(how, moved=tuple(m for m in how.moved if m.place in kept and m != Moved(m.place)))
        skipped = tuple(p for p in load.skipped if p in kept)
        changed = replace(
            load, arrangement=how, on=_on(load, how, ledger, scene),
            skipped=skipped if len(skipped) < how.count else (),
            offsets=_offsets(load, how, kept),
        )  # fmt: skip
        longer, more = plan, ""
        if how.joined > 1 and not self.joined is self.joined_rows is None:
            longer, more = with_ends(plan, ledger, scene.library, how)
            check_jaws(longer, plan, ledger, scene.library, how)
        said = self._words or words(how, len(load.setups))
        return longer.with_load(changed), f"load {load.id}: {said}{more}"

    @property
    def _words(self) -> str:
        """Where no count is said: what was moved and which gaps were set."""
        counts = (self.columns, self.rows, self.sides, self.stations, self.on_bar, self.joined, self.joined_rows)
        if any(value is not None for value in counts):
            return ""
        said = [f"gap along {axis} {'by the rule' if gap is None else f'{gap:g}'}" for axis, gap in self.gap]
        back = all(dx == dy == 0 for _, dx, dy in self.moved)
        if self.moved and back:
            said.append("pieces back to their places" if len(self.moved) > 1 else f"piece {self.moved[0][0]} back")
        said += [f"piece {id} moved by {dx:g}, {dy:g}" for id, dx, dy in self.moved if not back]
        for degrees, ids in groupby(sorted(self.turned, key=lambda one: one[1]), key=lambda one: one[1]):
            pieces = [id for id, _ in ids]
            said.append(f"piece{'s' if len(pieces) > 1 else ''} {', '.join(pieces)} "
                        + (f"turned by {degrees}°" if degrees else "as the others"))  # fmt: skip
        return "; ".join(said)

    def _gap(self, was: Arrangement) -> tuple[float | None, float | None]:
        said = {"X": was.gap[0], "Y": was.gap[1]} | dict(self.gap)
        return said["X"], said["Y"]

    def _joined_rows(self, was: Arrangement) -> int:
        """Pieces that are taken apart are in no rows either."""
        if self.joined_rows is not None:
            return self.joined_rows
        return 1 if self.joined == 1 else was.joined_rows

    def _turned(self, how: Arrangement, ledger: LoadLedger) -> Arrangement:
        """Raises PlanError where a piece cannot be turned; what was turned on another machine, or in another way of
        cutting, goes without a word: the finding that it is left out has been read.
        """
        why = why_not_turned(ledger, how) if how.turns else ""
        if not why:
            return how
        if any(turn for _, turn in self.turned) or not ledger.where.left_out:
            raise PlanError("not-turned", why, ledger.decision.id)
        return replace(how, moved=tuple(replace(one, turn=0) for one in how.moved))

    def _moved(self, was: Arrangement) -> tuple[Moved, ...]:
        by = {m.place: m.by for m in was.moved} | {id: (dx, dy) for id, dx, dy in self.moved}
        turns = {m.place: m.turn for m in was.moved} | dict(self.turned)
        return tuple(Moved(id, by.get(id, (0.0, 0.0)), turns.get(id, 0)) for id in dict.fromkeys((*by, *turns)))


def _offsets(load: Load, how: Arrangement, kept: Collection[str]) -> OffsetChoice:
    """Those of pieces that are there. The blade says where the next piece on a bar begins, in one bar the saw: they
    share a zero.
    """
    before = load.offsets
    if how.on_bar > 1 and before == OffsetChoice():
        before = replace(before, policy="load")
    if how.joined > 1 and before == OffsetChoice():
        before = replace(before, policy="group")
    return replace(before, named=tuple(n for n in before.named if n[0] in kept))


def words(how: Arrangement, setups: int = 1) -> str:
    """In the journal: what stands in a cycle."""
    if setups > 1:
        return f"{how.count // setups} of each setup, {how.in_turn} in turn"
    if how.on_bar > 1:
        return f"{how.on_bar} pieces of each advance of the bar"
    if how.count == 1:
        return "one piece"
    parts = [f"{how.columns} × {how.rows}"] if how.columns * how.rows > 1 else []
    parts += [f"{how.stations} stations"] if how.stations > 1 else []
    plate = f"{how.joined} × {how.joined_rows} in one plate"
    parts += [plate if how.joined_rows > 1 else f"{how.joined} in one bar"] if how.joined > 1 else []
    parts += [f"{len(how.sides)} sides"] if how.sides else []
    return f"{how.count} pieces, {', '.join(parts)}"


def _sides(sides: tuple[float, ...]) -> tuple[float, ...]:
    return tuple(round(side % 360, 3) % 360 for side in sides)


def _check(how: Arrangement, ledger: LoadLedger, plan: Plan) -> None:
    """Raises PlanError for what cannot stand on the load's machine at all."""
    setup, machine = ledger.decision, ledger.machine
    for count, what in ((how.columns, "columns"), (how.rows, "rows")):
        check_between(count, 1, MOST, what)
    if how.count > MOST:
        raise PlanError("too-many-pieces", f"{how.count} pieces are more than {MOST} of a load; take fewer", setup.id)
    check_between(how.on_bar, 1, MOST_ON_BAR, "pieces of an advance")
    if how.on_bar > 1:
        not_fed = why_not_on_bar(setup, ledger.built, machine)
        if not_fed or how != Arrangement(on_bar=how.on_bar):
            why = not_fed.removesuffix(".") or "pieces of a bar lie one behind the other, in no columns, rows or sides"
            raise PlanError("not-on-bar", why, setup.id)
        return
    check_between(how.joined, 1, MOST_JOINED, "pieces of one bar")
    check_between(how.joined_rows, 1, MOST_JOINED, "rows of one plate")
    if how.in_one > 1:
        check_joined(how, ledger, plan)
    _, alone = why_only_one(ledger.shares)
    if alone and (how.count > 1 or how.sides):
        raise PlanError("one-piece-only", alone.removesuffix("."), setup.id)
    if len(how.sides) > MOST_SIDES or len(set(how.sides)) < len(how.sides):
        raise PlanError("sides-twice", f"sides are named once each, {MOST_SIDES} at the most", setup.id)
    if how.sides and machine.table is None:
        raise PlanError("no-rotary", f"{machine.name} has no rotary that brings sides up", setup.id)
    least = min(ledger.shares, key=lambda one: stations_of(one.built.hold))
    most, name = stations_of(least.built.hold), least.built.hold.fixture.name
    if not 1 <= how.stations <= most:
        raise PlanError("no-such-station", f"{name} has {most} station{'s' if most > 1 else ''}, not {how.stations}",
                        setup.id)  # fmt: skip
    if not how.takes(len(ledger.shares)):
        raise PlanError("not-in-turn", f"{how.of_turns} {how.in_turn} do not hold {ledger.words} in turn: take a "
                        f"multiple of {len(ledger.shares)}", setup.id)  # fmt: skip
    for gap in how.gap:
        if gap is not None:
            check_between(gap, 0.0, MOST_GAP, "the gap")
    for moved in how.moved:
        if not all(isfinite(v) and abs(v) <= MOST_GAP for v in moved.by):
            raise PlanError("out-of-range", f"piece {moved.place} is moved out of the machine", setup.id)


def _on(load: Load, how: Arrangement, ledger: LoadLedger, scene: Scene) -> tuple[str, ...]:
    """What stands under the fixtures: for sides something that has them."""
    if not how.sides or len(ledger.where.faces) > 1:
        return load.on
    machine, fixture = ledger.machine, ledger.built.hold.fixture
    able = []
    for stack in stacks(machine, scene.library):
        bed = Bed(machine, stack)
        seat = bed.seat_of(fixture)
        faces = bed.faces(seat) if seat is not None and seat.is_upright else ()
        if len(faces) > 1:
            able.append((sum(side in faces for side in how.sides), stack))
    if not able:
        raise PlanError(
            "no-tombstone", f"nothing in the shop brings sides of {machine.name} under its spindle that take "
            f"{fixture.name}", ledger.decision.id,
        )  # fmt: skip
    return tuple(c.id for c in max(able, key=lambda one: one[0])[1])


@dataclass(frozen=True)
class SetOffsets(Strict):
    """What is not named stays; `first` "" for the control's first. `named`: (piece, word) by hand, "" by the rule."""

    load: str
    policy: Policy | None = None
    walk: Walk | None = None
    first: str | None = None
    reserved: tuple[str, ...] | None = None
    named: tuple[tuple[str, str], ...] = ()
    change: Literal["set-offsets"] = "set-offsets"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        ledger = scene.ledger.load_of(load.setups[0])
        known, was = tuple(offset_words(ledger.machine.offsets)), load.offsets
        asked = (
            [word for _, word in self.named if word] + list(self.reserved or ()) + ([self.first] if self.first else [])
        )
        for word in asked:
            if word not in known:
                raise PlanError("no-such-offset", f"{ledger.machine.name} has no offset {word!r}; it has {known[0]} to "
                                f"{known[-1]}", ledger.decision.id)  # fmt: skip
        pieces = {placed.place.id for placed in ledger.placed}
        for piece, _ in self.named:
            if piece not in pieces:
                raise PlanError("no-such-piece", f"load {load.id} has no piece {piece!r}", ledger.decision.id)
        changed = replace(
            was,
            policy=self.policy or was.policy,
            walk=self.walk or was.walk,
            first=was.first if self.first is None else self.first or None,
            reserved=was.reserved if self.reserved is None else tuple(dict.fromkeys(self.reserved)),
            named=tuple((piece, word) for piece, word in (dict(was.named) | dict(self.named)).items() if word),
        )
        return plan.with_load(replace(load, offsets=changed)), f"load {load.id}: {self._words}"

    @property
    def _words(self) -> str:
        said = [f"one offset for each {self.policy}" if self.policy != "load" else "one offset for the load"
                ] if self.policy else []  # fmt: skip
        said += [f"numbered by {self.walk}"] if self.walk else []
        said += [f"offsets from {self.first or 'the first'}"] if self.first is not None else []
        said += [f"reserved: {', '.join(self.reserved) or 'none'}"] if self.reserved is not None else []
        said += [f"piece {p} on {w}" if w else f"piece {p} by the rule" for p, w in self.named]
        return "; ".join(said) or "offsets as they were"


@dataclass(frozen=True)
class SetPieceOrder(Strict):
    """What is done at all pieces before the next: a tool's work, an operation, or all of one piece."""

    load: str
    by: Literal["tool", "operation", "piece"]
    change: Literal["set-piece-order"] = "set-piece-order"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        how = {"tool": "tool by tool over all pieces", "operation": "operation by operation over all pieces",
               "piece": "piece by piece"}[self.by]  # fmt: skip
        return plan.with_load(replace(load, by=self.by, sequence=())), f"load {load.id}: {how}"


@dataclass(frozen=True)
class SkipPieces(Strict):
    """Pieces whose calls are written as blocks that the control can be told to skip."""

    load: str
    pieces: tuple[str, ...]
    change: Literal["skip-pieces"] = "skip-pieces"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        there = [placed.place.id for placed in scene.ledger.load_of(load.setups[0]).placed]
        unknown = [piece for piece in self.pieces if piece not in there]
        if unknown:
            raise PlanError("no-such-piece", f"load {load.id} has no piece {unknown[0]!r}")
        if len(set(self.pieces)) >= len(there):
            raise PlanError("all-skipped", "one piece at least is made when blocks are skipped")
        skipped = tuple(piece for piece in there if piece in self.pieces)
        if load.arrangement.in_turn == "spindles" and there[0] in skipped:
            raise PlanError(
                "not-cut-off", "skipped, the piece in the main spindle is not cut off, and the counter spindle takes it"
                " over all the same: run the other one alone as a part of the load", load.setups[0],
            )  # fmt: skip
        if load.arrangement.on_bar > 1 and skipped != tuple(there[len(there) - len(skipped) :]):
            raise PlanError("behind-others", "on a bar a piece is come to once those in front of it are cut off: skip "
                            "the last ones")  # fmt: skip
        said = f"pieces {', '.join(skipped)} can be skipped" if skipped else "no piece is skipped"
        return plan.with_load(replace(load, skipped=skipped)), f"load {load.id}: {said}"


@dataclass(frozen=True)
class SetScope(Strict):
    """Where an operation runs in a load: on each piece, on the first only, or once over each row of pieces."""

    load: str
    operation: str
    scope: Literal["each", "first", "row"]
    change: Literal["set-scope"] = "set-scope"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        ledger = scene.ledger.load_of(load.setups[0])
        op = next((op for one in ledger.shares for op in one.built.operations if op.id == self.operation), None)
        if op is None:
            raise PlanError("no-such-operation", f"load {load.id} has no operation {self.operation!r}")
        if self.scope == "first" and not op.motion.probes:
            raise PlanError(
                "cuts-each", f"“{op.name}” cuts: the other pieces would be left without it. Only what feels a piece "
                "can run on the first alone", op.setup,
            )  # fmt: skip
        if self.scope != "row" and op.id in goes_on(ledger.placed[0].built):
            raise PlanError("goes-on", f"“{op.name}” comes into the next piece of its bar: it runs {load.in_one_words}",
                            op.setup)  # fmt: skip
        if self.scope == "row" and (why := one_pass(ledger.where, op, ledger.machine).words):
            raise PlanError("not-in-one-pass", f"“{op.name}” cannot run {once_words(load, op)}: {why}", op.setup)
        first, rows = (tuple(id for id in ids if id != op.id) for ids in (load.first_only, load.in_rows))
        changed = replace(
            load, first_only=(*first, op.id) if self.scope == "first" else first,
            in_rows=(*rows, op.id) if self.scope == "row" else rows,
            both_sides=tuple(id for id in load.both_sides if id != op.id or self.scope != "row"),
        )  # fmt: skip
        scopes = {"each": "on each piece", "first": "on the first piece only", "row": once_words(load, op)}
        return plan.with_load(changed), f"load {load.id}: “{op.name}” {scopes[self.scope]}"


@dataclass(frozen=True)
class LoadTogether(Strict):
    """Another setup's pieces lie beside those of a load, so that each cycle makes both; `in_turn`: what holds them in
    turn.
    """

    load: str
    setup: str
    in_turn: Along = "columns"
    change: Literal["load-together"] = "load-together"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        there, other = scene.ledger.load_of(load.setups[0]), scene.ledger.setup(plan.setup(self.setup).id)
        how = arranged_together(there, other, self.in_turn)
        plan = plan.apart(self.setup)
        own = plan.load_of(self.setup)
        order = sorted((*load.setups, self.setup), key=[setup.id for setup in plan.setups].index)
        joined = load.beside_setup(own, how) if order[0] == load.setups[0] else own.beside_setup(load, how)
        joined = replace(joined, machine=load.machine, on=load.on or own.on)
        mine = [replace(one, load=joined) if one.setup.id in joined.setups else one for one in plan.clamped]
        words = f"{' and '.join(order)} in one load, {self.in_turn} in turn, {how.count // len(order)} of each"
        return plan.clamped_as(mine), words


@dataclass(frozen=True)
class LoadApart(Strict):
    """Each setup of a load in a load of its own again, with as many pieces of it as before."""

    load: str
    change: Literal["load-apart"] = "load-apart"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        if len(load.setups) == 1:
            raise PlanError("one-setup", f"load {load.id} has one setup", load.setups[0])
        return plan.apart(load.setups[0]), f"{' and '.join(load.setups)} in loads of their own"


@dataclass(frozen=True)
class LoadBeside(Strict):
    """The next load is laid in while this one is made, on a second pallet or the other side of a table that turns."""

    load: str
    on: bool
    change: Literal["load-beside"] = "load-beside"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        words = "loaded beside the running cycle" if self.on else "the machine stands while it is loaded"
        return plan.with_load(replace(load, beside=self.on)), f"load {load.id}: {words}"
