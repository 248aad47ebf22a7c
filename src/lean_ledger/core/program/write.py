"""The program of a setup: a main program that calls one subprogram for each operation at the setup's work offset.

The motion is the ledger's own: what is written here is what was timed there, so that the simulated machine finds the
same seconds. Another piece on the same machine is another work offset and another call.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.timeline import Call
from lean_ledger.core.operations.model import HoleCycle, Operation
from lean_ledger.core.part.model import Part
from lean_ledger.core.program.numbers import Numbers, o_word, program_numbers
from lean_ledger.core.program.offsets import WorkOffset, offsets_of
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.program.text import Lines
from lean_ledger.core.timing.arcs import segments
from lean_ledger.core.timing.chain import Arc
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.dialects import Dialect, dialect_of
from lean_ledger.library.machines import Machine

ABOUT = {"x": "A", "y": "B", "z": "C"}


@dataclass(frozen=True)
class SetupProgram:
    """`calls` names each subprogram's operation; `offsets` are those that the text uses."""

    setup: str
    machine: Machine
    dialect: Dialect
    file: str
    text: str
    calls: tuple[tuple[int, str], ...]
    offsets: tuple[WorkOffset, ...]
    numbers: Numbers

    @property
    def lines_of_numbers(self) -> dict[int, int]:
        """The line, counted from 1, at which each program and subprogram of the text begins."""
        found = (re.match(r"O(\d+)", line) for line in self.text.split("\n"))
        return {int(begins[1]): at for at, begins in enumerate(found, start=1) if begins is not None}


def programs_of(ledger: Ledger, part: Part, words: str, dialects: Sequence[Dialect] = ()) -> tuple[SetupProgram, ...]:
    """One program for each setup that has operations, in their order; `words` name job and revision.

    Raises PlanError where a control has too few work offsets, or there are more subprograms than numbers.
    """
    offsets = offsets_of(ledger, part)
    open_findings = sum(f.severity == Severity.ERROR for f in ledger.findings)
    found = []
    numbers = program_numbers([len(load.calls) for load in ledger.loads])
    for own_numbers, setup in zip(numbers, ledger.loads, strict=True):
        if not setup.calls:
            continue
        dialect = next((d for d in dialects if d.fits(setup.machine)), dialect_of(setup.machine, setup.load.dialect))
        own = tuple(o for o in offsets if o.setup == setup.decision.id)
        if not all(o.word for o in own):
            raise PlanError(
                "too-few-offsets",
                f"{setup.machine.name} has fewer work offsets than the plan asks for; use fewer zeros",
                setup.decision.id,
            )
        _check_motions(setup, dialect)
        writer = _Writer(own_numbers, setup, own, dialect, words)
        writer.open_findings = open_findings
        found.append(writer.program())
    return tuple(found)


def _check_motions(setup: LoadLedger, dialect: Dialect) -> None:
    for entry in setup.calls:
        motion = entry.operation.motion
        if (motion.probes and not dialect.probe) or (motion.lead and not dialect.thread):
            what = "probes" if motion.probes else "turns a thread"
            raise PlanError(
                "no-such-motion",
                f"{dialect.name} has no word for {entry.operation.name}, which {what}; take another control",
                setup.decision.id,
            )


class _Writer:
    def __init__(
        self, numbers: Numbers, setup: LoadLedger, offsets: tuple[WorkOffset, ...], dialect: Dialect, words: str
    ) -> None:
        self._setup, self._offsets, self._dialect, self._words = setup, offsets, dialect, words
        self._o = numbers
        self._numbers = tool_numbers(setup)
        self._machine = setup.machine
        self._lathe = setup.machine.turns_work
        self._has_y = not self._lathe or any(self._is_across(e.operation) for e in setup.calls)
        self._main = Lines(dialect.decimals, has_y=self._has_y)
        self.open_findings = 0  # that stop the plan's release: the text says so
        self._subs: list[str] = []
        self._calls: list[tuple[int, str]] = []

    def program(self) -> SetupProgram:
        main, dialect, setup = self._main, self._dialect, self._setup
        self._head()
        before: Operation | None = None
        for entry in setup.calls:
            self._approach(before, entry)
            number = self._o.sub(entry.position)
            main.say(f"M98 P{number}")
            main.forget()
            self._subs += self._sub(number, entry)
            self._calls.append((number, entry.operation.id))
            before = entry.operation
        if before is not None:
            self._away(before)
        main.say(dialect.coolant_off)
        main.say("M5")
        self._turn_back(before)
        main.say(dialect.end)
        text = "\n".join(["%", *main.out, *self._subs, "%"]) + "\n"
        file = f"{o_word(self._o.main)}.{dialect.extension}"
        return SetupProgram(
            setup.decision.id, setup.machine, dialect, file, text, tuple(self._calls), self._offsets, self._o
        )

    # ---- main program

    def _head(self) -> None:
        main, setup = self._main, self._setup
        main.say(o_word(self._o.main), main.comment(f"{self._words} {setup.decision.id}"))
        if self.open_findings:
            main.say(main.comment(f"not released: {self.open_findings} open findings, see the plan"))
        main.say(main.comment(setup.machine.name))
        main.say(main.comment(f"held in {setup.built.hold.fixture.name}, {setup.decision.up} up"))
        for word in dict.fromkeys(o.word for o in self._offsets):
            main.say(main.comment(f"zero {word}: see the setup sheet"))
        for line in self._dialect.safe_start:
            main.say(line)
        if not self._lathe:
            main.say(f"G53 G0 Z{main.number(self._machine.travel[2][1])}")
            self._turn(None, setup.calls[0].operation)

    def _approach(self, before: Operation | None, entry: Call) -> None:
        op, main = entry.operation, self._main
        changes = entry.transition.changes_tool
        turns = before is not None and before.way != op.way
        if before is not None and (changes or turns):
            self._away(before, to_change=changes)
        if changes:
            main.say("M1")
            number = self._numbers[op.tool.id]
            main.say(main.comment(f"T{number} {op.tool.description}"))
            main.say(self._dialect.change.format(tool=number))
        if turns:
            self._turn(before, op)
        self._spin(before, op, changes=changes)
        if changes:
            main.say(self._dialect.coolant_off if op.motion.probes else self._dialect.coolant)
        offset = self._offset(op)
        start = self._words_of(op, op.motion.start)
        word = offset.word if changes or turns else ""
        if self._lathe or not (changes or turns):
            main.move("G0", start, before=word)
            return
        main.stand((None, None, start[2]))
        main.move("G0", start, before=word)
        main.stand((start[0], start[1], None))
        length = self._dialect.length.format(tool=self._numbers[op.tool.id]) if changes else ""
        main.move("G0", start, before=length)

    def _away(self, op: Operation, *, to_change: bool = True) -> None:
        """Up to the change position, or only until the part turns free; a turret to where it turns clear."""
        main, stands = self._main, self._setup.built.stands
        main.forget()
        if self._lathe:
            main.move("G0", self._words_of(op, stands.lathe_clear(op.frame)))
            main.forget()
        elif to_change:
            main.say(f"G53 G0 Z{main.number(self._machine.travel[2][1])}")
        else:
            end = op.motion.end
            up = max(end[2], stands.safe_height(op.frame))
            main.stand((*self._words_of(op, end)[:2], None))
            main.move("G0", self._words_of(op, (end[0], end[1], up)))
            main.forget()

    def _turn(self, before: Operation | None, op: Operation) -> None:
        """Rotary and tilt, each unclamped, turned and clamped in a block of its own."""
        for axis, was, now in (
            (self._machine.rotary, before.way.angle if before else None, op.way.angle),
            (self._machine.tilt, before.way.tilt if before else None, op.way.tilt),
        ):
            if axis is None or was == now or (was is None and self._setup.decision.free is None):
                continue
            self._main.say(self._dialect.unclamp)
            self._main.say(f"G0 {ABOUT[axis.about]}{self._main.number(now)}")
            self._main.say(self._dialect.clamp)

    def _turn_back(self, last: Operation | None) -> None:
        """The next cycle starts as this one did."""
        first = self._setup.calls[0].operation
        if last is not None and last.way != first.way:
            self._turn(last, first)

    def _spin(self, before: Operation | None, op: Operation, *, changes: bool) -> None:
        main, spin = self._main, op.motion.spin
        if op.motion.probes:
            return
        if spin is not None:
            main.say(f"G50 S{spin.cap:.0f}")
            main.say(f"G96 S{spin.vc:.0f} M3")
        elif changes or before is None or before.cutting.n != op.cutting.n or before.motion.spin is not None:
            main.say("G97" if self._lathe else "", f"S{op.cutting.n:.0f} M3")

    # ---- subprograms

    def _sub(self, number: int, entry: Call) -> list[str]:
        op = entry.operation
        lines = Lines(self._dialect.decimals, has_y=self._has_y)
        lines.say(o_word(number), lines.comment(f"{op.setup}.{10 * (entry.position + 1)} {op.name}"))
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
        zero = self._offset(op).zero[2]
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
        return next(o for o in self._offsets if o.way == op.way)

    def _is_across(self, op: Operation) -> bool:
        """Whether a driven tool comes across the spindle's axis of a lathe."""
        return self._lathe and self._setup.built.stands.is_across(op.frame)

    def _words_of(self, op: Operation, point: Vec) -> Vec:
        """X, Y and Z as the program says them: from the zero; X of a lathe as a diameter."""
        zero = self._offset(op).zero
        x, y, z = (point[i] - zero[i] for i in range(3))
        if self._is_across(op):
            return (2 * z, y, x)
        return (2 * x, y, z) if self._lathe else (x, y, z)
