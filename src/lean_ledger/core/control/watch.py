"""What is wrong with a program on a machine: past a travel, spindle off, a tool or an offset that is not there."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from lean_ledger.core.control.offset_words import offset_words
from lean_ledger.core.control.setting import ABOUT, Setting
from lean_ledger.core.control.steps import Run, RunStep, StepKind
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.library.machines import Machine

PAST = 0.01  # mm or degrees that are not worth a word
LINEAR = "XYZ"


@dataclass(frozen=True)
class Trouble:
    """Something that the machine stops at, or should: with the program's line, in words, and what mends it."""

    code: str
    line: int
    sub: int
    title: str
    why: str


def watched(run: Run, machine: Machine, setting: Setting, tools: frozenset[int] | None = None) -> tuple[Trouble, ...]:
    """Each kind of trouble once for each tool and axis that it befalls, at the first line where it does.

    `tools` are the numbers in the magazine; None where that is not known.
    """
    found: dict[tuple[object, ...], Trouble] = {}
    known = frozenset(offset_words(machine.offsets))
    for step in run.steps:
        for key, trouble in _of(step, machine, setting, tools, known):
            found.setdefault(key, trouble)
    return tuple(sorted(found.values(), key=lambda t: t.line))


def _of(
    step: RunStep, machine: Machine, setting: Setting, tools: frozenset[int] | None, known: frozenset[str]
) -> Iterator[tuple[tuple[object, ...], Trouble]]:
    def trouble(code: str, title: str, why: str, *key: object) -> tuple[tuple[object, ...], Trouble]:
        return (code, *key), Trouble(code, step.line, step.sub, title, why)

    if step.kind == StepKind.TOOL_CHANGE and tools is not None and step.tool not in tools:
        yield trouble("no-such-tool", f"T{step.tool} is not in the machine.", "Put it in, or call another.", step.tool)
    moving = step.kind in (StepKind.CUT, StepKind.RAPID, StepKind.PROBE)
    if step.kind == StepKind.CUT and step.n <= 0:
        yield trouble(
            "spindle-off", f"T{step.tool} cuts while the spindle stands.", "Start it by S and M3 before.", step.tool
        )
    if step.kind == StepKind.PROBE and step.n > 0:
        yield trouble(
            "probe-spins", f"T{step.tool} feels the work while the spindle turns.", "Stop it by M5 before.", step.tool
        )
    if moving and not step.direct:
        if step.offset not in known:
            yield trouble(
                "no-such-offset", f"{machine.name} has no {step.offset}.", "Use an offset that it has.", step.offset
            )
        elif setting.offsets and step.offset not in setting.offsets:
            yield trouble(
                "offset-not-set",
                f"{step.offset} is used and not set.",
                "Touch it off, or use one that is.",
                step.offset,
            )
    if step.kind == StepKind.CUT and setting.lengths and step.length not in setting.lengths:
        title = f"T{step.tool} cuts without its length." if step.length is None else f"H{step.length} is not set."
        yield trouble("no-length", title, "Call its length by G43 H before it goes down.", step.tool)
    if step.kind == StepKind.INDEX:
        if setting.clamp and step.clamped:
            yield trouble(
                "turned-clamped", "The rotary turns while it is clamped.", f"M{setting.unclamp:g} before it.", step.line
            )
        yield from _turned_past(step, machine, trouble)
    if step.kind == StepKind.CUT and setting.clamp and machine.rotary is not None and not step.clamped:
        yield trouble(
            "cut-unclamped", "A cut while the rotary is not clamped.", f"M{setting.clamp:g} before it.", step.tool
        )
    if moving and setting.offsets:
        for x, y, z in _extremes(step):
            # X of a lathe is a diameter
            point = (2 * x, y, z + setting.in_front.get(step.tool or 0, 0.0)) if machine.turns_work else (x, y, z)
            for i, (low, high) in enumerate((machine.faced() if step.spindle else machine).travel):
                if not low - PAST <= point[i] <= high + PAST:
                    yield trouble(
                        "past-travel",
                        f"T{step.tool} takes {LINEAR[i]} to {point[i]:.1f}.",
                        f"{machine.name} goes from {low:g} to {high:g}.",
                        step.tool, i,
                    )  # fmt: skip


def _turned_past(
    step: RunStep, machine: Machine, trouble: Callable[..., tuple[tuple[object, ...], Trouble]]
) -> Iterator[tuple[tuple[object, ...], Trouble]]:
    for axis in (machine.rotary, machine.tilt):
        if axis is None or axis.range is None:
            continue
        letter = ABOUT[axis.about]
        value = step.angles["ABC".index(letter)]
        if not axis.range[0] - PAST <= value <= axis.range[1] + PAST:
            low, high = axis.range
            yield trouble("past-turn", f"{letter} turns to {value:g}°.", f"It goes from {low:g}° to {high:g}°.", letter)


def _extremes(step: RunStep) -> Iterator[Vec]:
    """The end of a move, and of an arc where it goes farthest along its plane's axes."""
    yield step.end
    arc = step.arc
    if arc is None:
        return
    yield from (arc.at(k / 8) for k in range(1, 8))
