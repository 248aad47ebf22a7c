"""Runs a program as a control does, and times every step of it by the rules of `program-time` (docs/formats.md)."""

from __future__ import annotations

from collections.abc import Sequence
from math import inf, pi

from lean_ledger.core.control.arcs import arc_of
from lean_ledger.core.control.blocks import Block, ProgramError, blocks, line_count
from lean_ledger.core.control.counter import CounterSpindle
from lean_ledger.core.control.cycles import cycle_words, drill
from lean_ledger.core.control.modal import CYCLES, LOCAL, MOTIONS, PROBE, THREAD, check_words, set_modes
from lean_ledger.core.control.setting import NOTHING_SET, TURNS, Coordinates, Setting
from lean_ledger.core.control.steps import STOPPED, Angles, Run, RunStep, StepKind
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.timing.chain import NOTHING, Arc, MoveChain
from lean_ledger.core.timing.motion import change_seconds, rapid_seconds, turn_seconds
from lean_ledger.library.machines import Machine, Spindle

MOST_LEVELS = 40
MOST_STEPS = 2_000_000  # of the machine, and lines read, beyond which a program repeats itself too often to be one


def run_program(text: str, machine: Machine, setting: Setting = NOTHING_SET) -> Run:
    """Raises ProgramError, which names the physical line, for what docs/formats.md calls bad input."""
    read = blocks(text, skips=setting.skips)
    if not any(b.values or b.g or b.m for b in read):
        raise ProgramError("no-word", "there is no word in this program", 1)
    control = Control(read, machine, setting)
    control.run()
    return Run(tuple(control.steps), line_count(text), control.bounds, tuple(control.tools))


class Control(Coordinates):
    """Executes blocks; `steps` grow as it goes."""

    def __init__(self, read: Sequence[Block], machine: Machine, setting: Setting) -> None:
        super().__init__(machine, setting)
        self.steps: list[RunStep] = []
        self.tools: dict[int | None, None] = {}
        self._blocks = read
        self._chain = MoveChain()
        self._joined: list[RunStep] = []  # the steps whose moves are in the chain
        self._entered = 0  # subprograms that were called so far
        self._sub = 0  # the O number that is running; 0 in the main program
        self._direct = False
        self._clamped = setting.clamp is not None
        self._waits = setting.waits
        self._counter = CounterSpindle(self)
        self._changes_by_t = self._lathe and not any(6 in b.m for b in read)
        self._subprograms = {int(b.values["O"]): i for i, b in enumerate(read) if "O" in b.values}

    # ---- the way through the blocks

    def run(self) -> None:
        calls: list[tuple[int, int, int, int]] = []  # (block to come back to, block it begins at, times left, caller)
        i = 0
        begun = False
        read = 0
        while i < len(self._blocks):
            block = self._blocks[i]
            read += 1
            if read > MOST_STEPS:
                raise _endless(block.line)
            if "O" in block.values and begun and not self._called(calls, i):
                if calls:
                    raise ProgramError("no-end", "the subprogram before this line has no M99", block.line)
                break
            begun = begun or bool(block.values or block.m or block.g)
            self.execute(block)
            i += 1
            if 2 in block.m or 30 in block.m:
                break
            if 98 in block.m:
                target, times = self._call(block, len(calls))
                if times > 0:
                    calls.append((i, target, times - 1, self._sub))
                    i, self._sub = target, int(block.values["P"])
                    self._entered += 1
            elif 99 in block.m:
                if not calls:
                    break
                back, target, left, caller = calls.pop()
                if left:
                    calls.append((back, target, left - 1, caller))
                    i = target
                else:
                    i, self._sub = back, caller
        else:
            if calls:
                raise ProgramError("no-end", "the subprogram that ends here has no M99", self._blocks[-1].line)
        self.rest()

    @staticmethod
    def _called(calls: Sequence[tuple[int, int, int, int]], i: int) -> bool:
        return bool(calls) and calls[-1][1] == i

    def _call(self, block: Block, level: int) -> tuple[int, int]:
        number = block.values.get("P")
        if number is None:
            raise ProgramError("missing-p", "M98 needs a P that says which subprogram", block.line)
        if int(number) not in self._subprograms:
            raise ProgramError("no-subprogram", f"M98 calls O{number:.0f}, which is not in this file", block.line)
        if level >= MOST_LEVELS:
            raise ProgramError("too-deep", f"more than {MOST_LEVELS} levels of calls", block.line)
        return self._subprograms[int(number)], int(block.values.get("L", 1))

    # ---- one block

    def execute(self, block: Block) -> None:
        """Raises ProgramError, as `run_program` says."""
        modal, g, values = self.modal, block.g, block.values
        if g or block.m:
            check_words(block, self._setting.more_m, self._setting.more_g)
        set_modes(modal, block)
        for code in block.m:
            if code in self._waits:
                self.rest()
                self.add(StepKind.WAIT, block.line, self.at, 0.0)
                self.steps[-1].mark = int(code)
            elif code in (self._setting.clamp, self._setting.unclamp):
                self.rest()
                self._clamped = code == self._setting.clamp
            elif code in self._setting.timed:
                self.rest()
                self.add(self._setting.timed[code][0], block.line, self.at, self._setting.timed[code][1])
        self._counter.block(block)
        self._direct = 53 in g or 28 in g
        self._spindle(block)
        if 4 in g:
            self._dwell(block)
            return
        if 28 in g:
            self._home(block)
            return
        if LOCAL in g:
            self._local(block)
            return
        for code in g:
            if code in CYCLES:
                cycle_words(modal, int(code), self.at[2])
            elif code == 80 or code in MOTIONS or code in self._setting.more_g:
                modal.cycle = None
                modal.motion = modal.motion if code == 80 else int(code)
        if modal.cycle is not None:
            drill(self, block)
        elif values and not self._counter.slides(block):
            target, angles = self.target(block)
            turns = modal.motion in (2, 3) and any(c in values for c in "IJKR")
            if target is not None or angles is not None or turns:
                if angles is not None and self._setting.brings:
                    self._bring(block, target or self.at, angles)  # what turned is brought to its angle, whatever it is
                else:
                    self._move(block, target or self.at, angles or self.angles)
        if 5 in block.m:
            self.rest()
            modal.turning, modal.running = 0, None
            if self._waits:
                self.add(StepKind.SPINDLE, block.line, self.at, 0.0)
                self.steps[-1].asks = STOPPED
        if 0 in block.m or 1 in block.m:
            self.rest()
            self.add(StepKind.STOP, block.line, self.at, 0.0)

    # ---- moves

    def _move(self, block: Block, target: Vec, angles: Angles) -> None:
        if angles != self.angles:
            self.turn(block.line, target, angles, self.feed_at(block.line, target) if self.modal.motion else None)
        elif self.modal.motion == 0:
            self.rapid(block.line, target)
        elif self.modal.motion == 1:
            self.cut(block.line, target, self.feed_at(block.line, target))
        elif self.modal.motion == PROBE:
            self.probe(block.line, target, self.feed_at(block.line, target))
        elif self.modal.motion == THREAD:
            self.rest()
            self.cut(block.line, target, self._thread_feed(block, target))
            self.rest()
        else:
            words = {c: block.values[c] * self.modal.scale for c in "IJKR" if c in block.values}
            clockwise = self.modal.motion == 2
            arc = arc_of(self.at, target, words, self.modal.plane, clockwise=clockwise, line=block.line)
            self.cut(block.line, target, self.feed_at(block.line, target), arc)

    def _bring(self, block: Block, target: Vec, angles: Angles) -> None:
        self.turn(block.line, target, angles, self.feed_at(block.line, target) if self.modal.motion else None)

    def rapid(self, line: int, target: Vec) -> None:
        self.rest()
        if target != self.at:
            self.add(StepKind.RAPID, line, target, rapid_seconds(self.at, target, self.machine))

    def cut(self, line: int, target: Vec, feed: float, arc: Arc | None = None) -> None:
        """Join a feed move to the chain; `feed` mm/min."""
        self._counter.check_cut(line)
        most = self.machine.acceleration
        if arc is not None:
            there = self._chain.arc(arc, feed / 60, most)
        else:
            there = self._chain.line(self.at, target, feed / 60, most)
        if there:
            self.add(StepKind.CUT, line, target, 0.0, feed=feed, arc=arc)
            self._joined.append(self.steps[-1])
        else:
            self.at = target

    def probe(self, line: int, target: Vec, feed: float) -> None:
        """A feed move by itself that ends where something is touched, here where it was told to."""
        self.rest()
        if target != self.at:
            self.add(StepKind.PROBE, line, target, self._alone(target, feed), feed=feed)

    def _thread_feed(self, block: Block, target: Vec) -> float:
        """mm/min of a thread: its lead for each turn of the spindle."""
        lead = block.values.get("K", 0.0) * self.modal.scale
        if lead <= 0:
            raise ProgramError("no-lead", "a thread needs its lead as K above 0", block.line)
        n = self.speed_at(abs(self.at[0]) + abs(target[0]))
        if n <= 0:
            raise ProgramError("no-feed", "a thread while the spindle stands; start it by S and M3", block.line)
        return lead * n

    def rest(self) -> None:
        """The chain of feed moves ends here: now its seconds are known."""
        if not self._joined:
            return
        for step, seconds in zip(self._joined, self._chain.seconds(self.machine.corner_tolerance), strict=True):
            step.seconds = seconds
        self._chain, self._joined = MoveChain(), []

    def turn(self, line: int, target: Vec, angles: Angles, feed: float | None) -> None:
        """Unclamp, turn, clamp; a line in the same block goes on meanwhile. The longer of the two counts."""
        self.rest()
        turns = zip(TURNS, self.angles, angles, strict=True)
        turning = [(self._turning[letter], abs(b - a)) for letter, a, b in turns if a != b]
        if not turning and self.machine.rotary is not None:
            turning = [(self.machine.rotary, 0.0)]
        clamps = max(axis.unclamp for axis, _ in turning) + max(axis.clamp for axis, _ in turning)
        turned = max(turn_seconds(axis, degrees) for axis, degrees in turning)
        along = 0.0
        if target != self.at:
            along = self._alone(target, feed)
            self.add(StepKind.RAPID if feed is None else StepKind.CUT, line, target, along, feed=feed or 0.0)
        self.angles = angles
        self.add(StepKind.INDEX, line, target, clamps + max(0.0, turned - along))

    def _alone(self, target: Vec, feed: float | None) -> float:
        """A line from rest to rest."""
        if feed is None:
            return rapid_seconds(self.at, target, self.machine)
        chain = MoveChain()
        chain.line(self.at, target, feed / 60, self.machine.acceleration)
        return sum(chain.seconds(self.machine.corner_tolerance))

    def feed_at(self, line: int, target: Vec) -> float:
        """Feed of a move in mm/min. Raises ProgramError where there is none."""
        modal = self.modal
        if modal.feed is None or modal.feed <= 0:
            raise ProgramError("no-feed", "a feed move before any feed; give an F above 0", line)
        if not modal.per_turn:
            return modal.feed
        n = self.speed_at(abs(self.at[0]) + abs(target[0]))
        if n <= 0:
            raise ProgramError("no-feed", "a feed per turn while the spindle stands gives no feed; start it", line)
        return modal.feed * n

    def speed_at(self, diameter: float) -> float:
        """rpm of the running spindle, under G96 at a diameter: n = min(cap, 1000·S/(π·D))."""
        modal = self.modal
        if not modal.turning:
            return 0.0
        most = self._fastest()
        if not modal.surface:
            return min(modal.speed, most)
        return min(most, 1000 * modal.surface_speed / (pi * diameter)) if diameter > NOTHING else most

    def _fastest(self) -> float:
        cap = self.modal.cap if self.modal.surface and self.modal.cap is not None else inf
        return min(cap, self.spindle.max_rpm)

    @property
    def spindle(self) -> Spindle:
        """Of the work, that the words are about."""
        own = self.machine.work_spindles
        return own[self.modal.spindle].spindle if own else self.machine.spindle

    def add(
        self, kind: StepKind, line: int, end: Vec, seconds: float, feed: float = 0.0, arc: Arc | None = None
    ) -> None:
        modal = self.modal
        if len(self.steps) >= MOST_STEPS:
            raise _endless(line)
        if modal.tool not in self.tools:
            self.tools[modal.tool] = None
        n = 0.0
        if modal.turning:
            n = modal.running if modal.running is not None else self.speed_at(abs(self.at[0]) + abs(end[0]))
        self.steps.append(
            RunStep(
                kind, line, modal.tool, self.at, end, self.angles, seconds, feed, n, arc, modal.offset, modal.length,
                self._direct, self._clamped, self._sub, self._entered, spindle=modal.spindle,
            )
        )  # fmt: skip
        self.at = end

    # ---- spindle, tools, waiting

    def _spindle(self, block: Block) -> None:
        """T, M6, S, M3 and M4: what a block does before it moves."""
        modal, values = self.modal, block.values
        if "T" in values:
            self._select(block)
        if 6 in block.m:
            if modal.waiting is None:
                raise ProgramError("no-tool", "M6 before any T; say which tool comes in", block.line)
            self._change(block.line, modal.waiting)
        for code in block.g:
            if code in (96, 97):
                modal.surface = code == 96
                if modal.surface and modal.turning:
                    modal.running = None
        caps = 50 in block.g or 92 in block.g
        if "S" in values and not caps:
            if modal.surface:
                modal.surface_speed = values["S"] * (0.3048 if modal.scale != 1.0 else 1.0)  # ft/min with inches
            else:
                modal.speed = values["S"]
        start = next((int(c) for c in block.m if c in (3, 4)), 3 if self._counter.drives(block) else None)
        if start is not None or ("S" in values and modal.turning and not caps):
            self._run_up(block.line, start or modal.turning)

    def _select(self, block: Block) -> None:
        number = int(block.values["T"])
        if not self._changes_by_t:
            self.modal.waiting = number
            return
        tool = number // 100 if number >= 100 else number
        if tool != self.modal.tool:
            self._change(block.line, tool)
        self.modal.length = number % 100 if number >= 100 else number

    def _change(self, line: int, tool: int) -> None:
        self.rest()
        self.modal.tool = tool
        if not self._waits:  # a turret of several indexes while the spindle goes on turning for the others
            self.modal.turning, self.modal.running = 0, None
        self.add(StepKind.TOOL_CHANGE, line, self.at, change_seconds(self.machine))

    def _run_up(self, line: int, turning: int) -> None:
        """A start, a turn the other way or another speed takes the spindle's time; the same again takes none."""
        modal = self.modal
        self.rest()
        wanted = None if modal.surface else min(modal.speed, self.spindle.max_rpm)
        same = turning == modal.turning and (modal.surface or wanted == modal.running)
        modal.turning, modal.running = turning, wanted
        if self._waits:  # whether it has to run up depends on what the other paths asked it for
            self.add(StepKind.SPINDLE, line, self.at, 0.0)
            self.steps[-1].asks = self._asks()
        elif not same:
            self.add(StepKind.SPINDLE, line, self.at, self.spindle.start)

    def _asks(self) -> str:
        modal = self.modal
        how = f"{modal.surface_speed:g} m/min up to {self._fastest():g}" if modal.surface else f"{modal.speed:g} rpm"
        driven = f" by T{modal.tool} at {self.angles[2]:g}" if modal.driven else ""
        return f"M{modal.turning} {how}{driven}"

    def _dwell(self, block: Block) -> None:
        for letter in "PXU":
            if letter in block.values:
                seconds = block.values[letter]
                if letter == "P" and "P" not in block.pointed:
                    seconds /= 1000
                self.rest()
                self.add(StepKind.DWELL, block.line, self.at, seconds)
                return
        raise ProgramError("missing-p", "G4 needs P, X or U: how long to wait", block.line)

    def _home(self, block: Block) -> None:
        """G28: through the point that is given, then the named axes to machine zero."""
        target, angles = self.target(block)
        named = [i for i, letters in enumerate(("XU", "Y", "ZW")) if any(c in block.values for c in letters)]
        line = block.line
        if target is not None:
            self.rapid(line, target)
            home = list(self.at)
            for i in named:
                home[i] = 0.0
            self.rapid(line, (home[0], home[1], home[2]))
        if angles is not None:
            for to in (angles, self._zeroed(block)):
                if to != self.angles:
                    self.turn(line, self.at, to, None)

    def _zeroed(self, block: Block) -> Angles:
        a, b, c = (0.0 if letter in block.values else self.angles[i] for i, letter in enumerate(TURNS))
        return (a, b, c)


def _endless(line: int) -> ProgramError:
    return ProgramError("endless", f"more than {MOST_STEPS} steps; it repeats itself too often", line)
