"""One program's text: a main program that calls one subprogram for each operation at the setup's work offset."""

from __future__ import annotations

from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.ledger.offsets import NOWHERE, WorkOffset
from lean_ledger.core.loads.bars import farther_out
from lean_ledger.core.loads.between import Stop, crossing
from lean_ledger.core.loads.lanes import spindle_of, taken_over_in
from lean_ledger.core.loads.speeds import turns_work
from lean_ledger.core.loads.timeline import Call
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import HoleCycle, Operation
from lean_ledger.core.program.asked import Asked, SetupProgram
from lean_ledger.core.program.numbers import o_word, subprograms
from lean_ledger.core.program.spindle_words import go_on, stop, take_over
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.program.text import Lines
from lean_ledger.core.timing.arcs import segments
from lean_ledger.core.timing.chain import Arc
from lean_ledger.core.timing.motion import Stroke

MOST_TOLD = 6  # zeros that a program names one by one
ABOUT = {"x": "A", "y": "B", "z": "C"}


class Writer:
    def __init__(self, asked: Asked) -> None:
        setup, dialect = asked.does, asked.dialect
        self._asked, self._setup, self._dialect = asked, setup, dialect
        self._numbers = tool_numbers(setup)
        self._machine = setup.machine
        self._lathe = setup.machine.turns_work
        self._stands_of = {own[0].decision.id: own[0].stands for own in setup.where.by_setup}
        self._has_y = not self._lathe or any(self._is_across(e.operation) for e in setup.calls)
        self._main = Lines(dialect.decimals, has_y=self._has_y)
        self._stands = {placed.place.id: placed.stands for placed in setup.placed}
        self._of_piece = {(o.place, o.way): o for o in asked.offsets}
        self._zeros = {(o.setup, o.way): o.zero for o in asked.offsets}  # the same for all pieces of a setup
        self._place = setup.calls[0].place if setup.calls else setup.placed[0].place.id
        self._taken_over = taken_over_in(setup.where)
        self._meant = (-1, False)  # the work spindle that the words are about, and whether S is a driven tool's
        self._number_of: dict[tuple[str, int], int] = {}
        self._local: Vec = NOWHERE
        self._skipping = False
        self._subs: list[str] = []
        self._calls: list[tuple[int, str]] = []

    def program(self) -> SetupProgram:
        main, dialect, setup = self._main, self._dialect, self._setup
        self._head()
        shares = self._asked.load.shares
        counted = {row.operation.id: k for share in shares for k, row in enumerate(share.rows)}
        called = {(call.operation.id, call.turn): call.operation for call in reversed(setup.calls)}
        for id, turn in subprograms(setup):
            number = self._asked.numbers.sub(self._asked.positions[id, turn])
            self._number_of[id, turn] = number
            self._subs += self._sub(number, counted[id], called[id, turn], turn)
            self._calls.append((number, id))
        before: Stop | None = None
        for done, entry in enumerate(setup.calls):
            now = Stop(entry.operation, self._stands[entry.place])
            made_with = setup.where.made_with(entry.place, entry.operation.id)
            self._place, self._skipping = entry.place, set(made_with) <= set(setup.where.load.skipped)
            section = setup.load.section_at(entry.place, entry.operation.id)
            if section:
                main.say(main.comment(section.upper()))
            self._approach(before, now, entry, done)
            self._say(f"M98 P{self._number_of[entry.operation.id, entry.turn]}")
            main.forget()
            if entry.transition.handover and self._taken_over is not None:
                main.say(f"G0 W{main.number(self._taken_over.rest)}")
                main.ended()
                now = Stop(now.op, farther_out(now.stands, self._taken_over.by))
            before = now
        self._skipping = False
        if before is not None:
            one = self._taken_over
            out_of_way = one is not None and before.op.id != one.blade and bool(self._asked.carriage)
            self._away(before, beside=one.outside if one is not None and out_of_way else 0.0)
        self._wait(len(setup.calls))
        if before is not None:
            self._back_across(before)
        if self._local != NOWHERE:
            main.say(f"G{self._dialect.local} X0.", "Y0." if self._has_y else "", "Z0.")
        main.say(dialect.coolant_off)
        if self._machine.drum is not None:
            feeds = any(call.operation.kind == OperationKind.CUT_OFF for call in setup.calls)
            busy = sum(1 for lane in self._asked.load.timeline.lanes if lane.calls)
            go_on(main, dialect, feeds=feeds, others=busy > 1)
        elif self._asked.stops:
            stop(main, dialect)
        self._turn_back(before)
        main.say(dialect.end)
        text = "\n".join(["%", *main.out, *self._subs, "%"]) + "\n"
        file = f"{o_word(self._asked.numbers.main)}.{dialect.extension}"
        return SetupProgram(
            setup.decision.id, setup.load.setups, self._asked.load.machine, dialect, file, text, tuple(self._calls),
            self._asked.offsets, self._asked.numbers, self._asked.carriage,
        )  # fmt: skip

    # ---- main program

    def _head(self) -> None:
        main, setup = self._main, self._setup
        main.say(o_word(self._asked.numbers.main), main.comment(f"{self._asked.words} {setup.words}"))
        if self._asked.open_findings:
            main.say(main.comment(f"not released: {self._asked.open_findings} open findings, see the plan"))
        main.say(main.comment(", ".join(word for word in (setup.machine.name, self._asked.carriage) if word)))
        for one in setup.shares:
            which = f"{one.words} " if len(setup.shares) > 1 else ""
            main.say(main.comment(f"{which}held in {one.built.hold.fixture.name}, {one.decision.up} up"))
        words = list(dict.fromkeys(o.word for o in self._asked.offsets))
        if len(words) > MOST_TOLD:
            words = [f"{words[0]} to {words[-1]}"]
        for word in words:
            main.say(main.comment(f"zero {word}: see the setup sheet"))
        for line in self._dialect.safe_start:
            main.say(line)
        if not self._lathe:
            main.say(f"G53 G0 Z{main.number(self._machine.travel[2][1])}")
            self._turn(None, self._first)

    def _wait(self, done: int) -> None:
        """At the marks that a path meets between its calls, for the others."""
        for mark in self._setup.timeline.marks if self._asked.carriage else ():
            if (self._asked.carriage, done) in mark.after:
                self._main.say(f"M{self._dialect.wait + mark.number}")

    def _approach(self, before: Stop | None, now: Stop, entry: Call, done: int) -> None:
        op, main = now.op, self._main
        changes = entry.transition.changes_tool
        brought = self._lathe and entry.transition.index > 0
        turns = brought or (before is not None and before.turns_to(now))
        moves = before is not None and before.stands != now.stands
        if before is not None and (changes or turns):
            self._away(before, to_change=changes)
        if changes:
            main.say("M1")
            number = self._numbers[op.tool.id]
            main.say(main.comment(f"T{number} {op.tool.description}"))
            main.say(self._dialect.change.format(tool=number))
        self._wait(done)
        self._mean(now)
        if turns:
            self._turn(before, now, brought=brought)
        taken = self._taken_over if entry.transition.handover else None
        if taken is not None:
            main.say(self._dialect.eject, main.comment("the finished piece out"))
        # of several paths another may have asked the spindle for something else meanwhile
        self._spin(before.op if before is not None else None, op, changes=changes or bool(self._asked.carriage))
        if changes:
            main.say(self._dialect.coolant_off if op.motion.probes else self._dialect.coolant)
        self._go_to(before, now, changes=changes, turns=turns, moves=moves)
        if taken is not None:
            take_over(main, self._dialect, taken)
            if taken.by:  # the blade follows the bar
                x, y, z = self._local
                self._shift((x, y, round(z + taken.by, 4)))
                main.forget()
                self._move(self._words_of(op, op.motion.start))

    def _mean(self, now: Stop) -> None:
        """Which spindle the words that follow are about, on a machine that has two."""
        codes = self._dialect.spindles
        meant = (spindle_of(now.stands), not turns_work(now.op, now.stands))
        if not codes or meant == self._meant:
            return
        self._main.say(codes[meant[0]])
        self._main.forget()
        self._meant = meant

    def _back_across(self, left: Stop) -> None:
        """From before one spindle to where the cycle begins, before the other."""
        first = self._first
        if left.stands.nose == first.stands.nose:
            return
        self._place = self._setup.calls[0].place
        self._mean(first)
        self._move(self._words_of(first.op, first.stands.lathe_clear(first.op.frame)), before=self._take(first).word)
        self._main.forget()

    def _go_to(self, before: Stop | None, now: Stop, *, changes: bool, turns: bool, moves: bool) -> None:
        """To the start of a call: straight at one piece, down from above after a change or a turn, over all that stands
        to another piece.
        """
        op, main = now.op, self._main
        offset = self._take(now)
        start = self._words_of(op, op.motion.start)
        word = offset.word if changes or turns or moves else ""
        several = len(self._setup.placed) > 1
        if self._lathe or not (changes or turns or moves):
            self._move(start, before=word)
            return
        if moves and before is not None and not (changes or turns):
            over = self._words_of(op, crossing(before, now)[1])
            main.stand((over[0], over[1], None))
            self._move(over, before=word)
            word = ""
            start_over = (start[0], start[1], over[2])
            main.stand((None, None, over[2]))
            self._move(start_over)
        else:
            main.stand((None, None, start[2]))
            self._move(start, before=word)
        main.stand((start[0], start[1], None))
        # where a piece may be skipped, the next has to say the tool's length again
        says_length = changes or (several and bool(self._setup.where.load.skipped))
        length = self._dialect.length.format(tool=self._numbers[op.tool.id]) if says_length else ""
        self._move(start, before=length)

    def _take(self, now: Stop) -> WorkOffset:
        """The offset of a piece, its zero shifted where it shares the word."""
        offset = self._offset(now.op)
        self._shift(offset.local)
        return offset

    def _shift(self, local: Vec) -> None:
        """The zero to so far from its word's own."""
        if local != self._local:
            x, y, z = (self._main.number(v) for v in local)
            self._say(f"G{self._dialect.local} X{x}", f"Y{y}" if self._has_y else "", f"Z{z}")
            self._local = local

    def _say(self, *words: str) -> None:
        """A block of a call, that is skipped with its piece."""
        self._main.say("/" if self._skipping else "", *words)

    def _move(self, target: Vec, before: str = "") -> None:
        self._main.move("G0", target, before=" ".join(w for w in ("/" if self._skipping else "", before) if w))

    def _away(self, left: Stop, *, to_change: bool = True, beside: float = 0.0) -> None:
        """Up to the change position, or only until the part turns free; a turret to where it turns clear, and clear of
        what reaches out so far about the axis.
        """
        main, op, stands = self._main, left.op, left.stands
        main.forget()
        if self._lathe:
            main.move("G0", self._words_of(op, stands.lathe_clear(op.frame, beside)))
            main.forget()
        elif to_change:
            main.say(f"G53 G0 Z{main.number(self._machine.travel[2][1])}")
        else:
            end = op.motion.end
            up = max(end[2], stands.safe_height(op.frame))
            main.stand((*self._words_of(op, end)[:2], None))
            main.move("G0", self._words_of(op, (end[0], end[1], up)))
            main.forget()

    def _turn(self, before: Stop | None, now: Stop, *, brought: bool = False) -> None:
        """Rotary and tilt, each unclamped, turned and clamped in a block of its own; the rotary of a lathe in any case
        where the work has turned.
        """
        setup = self._setup
        indexed = setup.decision.free is not None or bool(setup.where.load.arrangement.sides)
        for axis, was, to in (
            (self._machine.rotary, before.angle if before else None, now.angle),
            (self._machine.tilt, before.op.way.tilt if before else None, now.op.way.tilt),
        ):
            stays = was == to or (was is None and not indexed)
            if axis is None or (stays and not (brought and axis is self._machine.rotary)):
                continue
            self._main.say(self._dialect.unclamp)
            self._main.say(f"G0 {ABOUT[axis.about]}{self._main.number(to)}")
            self._main.say(self._dialect.clamp)

    def _turn_back(self, last: Stop | None) -> None:
        """The next cycle starts as this one did."""
        if last is not None and last.turns_to(self._first):
            self._turn(last, self._first)

    @property
    def _first(self) -> Stop:
        call = self._setup.calls[0]
        return Stop(call.operation, self._stands[call.place])

    def _spin(self, before: Operation | None, op: Operation, *, changes: bool) -> None:
        main, spin = self._main, op.motion.spin
        if op.motion.probes:
            return
        if spin is not None:
            main.say(f"G50 S{spin.cap:.0f}")
            main.say(f"G96 S{spin.vc:.0f} M3")
        elif changes or before is None or before.cutting.n != op.cutting.n or before.motion.spin is not None:
            start = self._dialect.drive if self._meant[1] and self._dialect.drive else "M3"
            main.say("G97" if self._lathe else "", f"S{op.cutting.n:.0f} {start}")

    # ---- subprograms

    def _sub(self, number: int, position: int, op: Operation, turn: int) -> list[str]:
        """From its piece's zero, so that it is the same at all of them."""
        lines = Lines(self._dialect.decimals, has_y=self._has_y)
        at = f", piece turned {turn}" if turn else ""
        lines.say(o_word(number), lines.comment(f"{op.setup}.{10 * (position + 1)} {op.name}{at}"))
        if self._lathe:
            lines.say("G95" if op.motion.spin is not None else "G94")
        start = self._words_of(op, op.motion.start)
        lines.stand((None, None if self._has_y else 0.0, start[2]))
        lines.move("G0", start)
        cycle = op.motion.cycle
        if cycle is not None and cycle.code in self._dialect.cycles and not self._is_across(op):
            self._cycle(lines, op, cycle)
        else:
            self._strokes(lines, op)
        lines.say("M99")
        return lines.out

    def _strokes(self, lines: Lines, op: Operation) -> None:
        spin, tapping = op.motion.spin, op.motion.reversals > 0
        for stroke in op.motion.strokes:
            if stroke.is_rapid:
                if tapping and stroke.points[0] == stroke.points[-1]:
                    lines.say("M4")
                for point in stroke.points[1:]:
                    lines.move("G0", self._words_of(op, point))
                continue
            feed = spin.per_turn if spin is not None else stroke.feed_mm_per_min
            if op.motion.probes or op.motion.lead:
                self._beside(lines, op, stroke)
                continue
            if self._lathe:  # arcs are written in the plane of the tool's own turn only
                for point in stroke.points[1:]:
                    lines.move("G1", self._words_of(op, point), feed=feed)
                continue
            for segment in segments(stroke.points):
                if isinstance(segment, Arc):
                    self._arc(lines, op, segment, feed)
                else:
                    lines.move("G1", self._words_of(op, segment[1]), feed=feed)

    def _beside(self, lines: Lines, op: Operation, stroke: Stroke) -> None:
        """Motions that only some controls have: a probe's, a thread's."""
        lead, dialect = op.motion.lead, self._dialect
        for point in stroke.points[1:]:
            place = self._words_of(op, point)
            if lead:
                lines.move(f"G{dialect.thread}", place, more=(f"K{lines.number(lead)}",))
                lines.ended()
            else:
                lines.move(f"G{dialect.probe}", place, feed=stroke.feed_mm_per_min)

    def _arc(self, lines: Lines, op: Operation, arc: Arc, feed: float) -> None:
        x, y, _ = lines.at
        assert x is not None
        assert y is not None
        end = self._words_of(op, arc.end)
        if all(abs(a - b) < 10**-self._dialect.decimals for a, b in zip(end[:2], (x, y), strict=True)):
            lines.move("G1", end, feed=feed)  # an arc that ends where it starts would be a whole turn
            return
        cx, cy, _ = self._words_of(op, arc.centre)
        more = (f"I{lines.number(cx - x)}", f"J{lines.number(cy - y)}")
        lines.move("G3" if arc.angle > 0 else "G2", end, feed=feed, more=more)

    def _cycle(self, lines: Lines, op: Operation, cycle: HoleCycle) -> None:
        zero = self._zeros[op.setup, op.way][2]
        back = "G98" if cycle.to_clearance else "G99"
        x, y = cycle.points[0]
        here = self._words_of(op, (x, y, 0.0))
        words = [
            back, f"G{cycle.code}", f"X{lines.number(here[0])}", f"Y{lines.number(here[1])}",
            f"Z{lines.number(cycle.bottom - zero)}", f"R{lines.number(cycle.r - zero)}",
        ]  # fmt: skip
        if cycle.code == 83:
            words.append(f"Q{lines.number(cycle.peck)}")
        # a tap's feed is its pitch a turn of the speed that is written, not of the one that was computed
        feed = round(op.cutting.n) * op.tool.pitch if cycle.code == 84 else cycle.feed
        lines.say(*words, lines.fed(feed))
        for x, y in cycle.points[1:]:
            there = self._words_of(op, (x, y, 0.0))
            same = (f"X{lines.number(there[0])}", f"Y{lines.number(there[1])}")
            was = (f"X{lines.number(here[0])}", f"Y{lines.number(here[1])}")
            lines.say(*[w for w, old in zip(same, was, strict=True) if w != old] or [same[0]])
            here = there
        lines.say("G80")
        lines.ended()
        last = cycle.points[-1]
        lines.stand((*self._words_of(op, (*last, 0.0))[:2], None))
        if not cycle.to_clearance:
            lines.move("G0", self._words_of(op, op.motion.end))

    # ---- coordinates

    def _offset(self, op: Operation) -> WorkOffset:
        """Of the piece that is being made."""
        return self._of_piece[self._place, op.way]

    def _is_across(self, op: Operation) -> bool:
        """Whether a driven tool comes across the spindle's axis of a lathe."""
        return self._lathe and self._stands_of[op.setup].is_across(op.frame)

    def _words_of(self, op: Operation, point: Vec) -> Vec:
        """X, Y and Z as the program says them: from the zero; X of a lathe as a diameter."""
        zero = self._zeros[op.setup, op.way]
        x, y, z = (point[i] - zero[i] for i in range(3))
        if self._is_across(op):
            return (2 * z, y, x)
        return (2 * x, y, z) if self._lathe else (x, y, z)
