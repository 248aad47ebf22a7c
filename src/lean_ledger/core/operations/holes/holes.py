"""Round holes by the shop's rules: each step of the chain that makes a group of alike holes."""

from __future__ import annotations

import itertools
from dataclasses import dataclass, replace

from lean_ledger.core.basis.findings import Chapter, Cure, Figure, Severity
from lean_ledger.core.features.tolerance import asks_for, read_tolerance
from lean_ledger.core.operations.chains import choose_rule, facts_of
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import settle_plunge
from lean_ledger.core.operations.depths import depth_of, formula_of
from lean_ledger.core.operations.holes.boring_head import BEYOND, LEFT, bore_to_size, head_for
from lean_ledger.core.operations.holes.drilling import (
    HoleGroup,
    drill_cut,
    drill_operation,
    hop_over,
    opened_beyond,
    pilot_operation,
    spot_operation,
    tap_operation,
    thread_depth,
)
from lean_ledger.core.operations.holes.hole_paths import ream_path
from lean_ledger.core.operations.holes.thread_milling import depth_of_thread, thread_mill_operation
from lean_ledger.core.operations.holes.widening import widenings
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.clearing import Clearing, finish_walls_operation, rough_operation
from lean_ledger.core.operations.milling.helical import RoundHole
from lean_ledger.core.operations.milling.regions import circle
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.library.chains import ChainRule
from lean_ledger.library.types import Thread, Tool, ToolKind

REAM_ALLOWANCE = (0.5, 0.1)  # mm of diameter that a drill leaves to a reamer, at the most and at the least
REAM_USUAL = 0.2  # mm of it that a reamer is best left
SAME = 1e-6
REAM_BEYOND, REAM_SHORT = 2.0, 1.0  # mm beyond a through hole, and off the bottom of a blind one


@dataclass
class _Making:
    """A group of holes on its way through a chain; `opened` is the tool that opened it."""

    place: Workplace
    group: HoleGroup
    rule: ChainRule
    thread: Thread | None
    reamer: Tool | None
    diameter: float  # of what opens it
    opened: Tool | None = None
    milled: Clearing | None = None

    @property
    def drills(self) -> bool:
        return "drill" in self.rule.steps


def hole_operations(place: Workplace, group: HoleGroup) -> None:
    hole = group.first
    name = place.plan.thread_in(hole)
    thread = place.library.thread(name) if name else None
    facts = facts_of(place, hole, depth=hole.depth)
    rule = choose_rule(place, group.ids, facts, lambda one: _lacks(place, group, one, thread))
    reamer = reamer_for(place, group) if "ream" in rule.steps else None
    _say_untrusted(place, group, rule, thread)
    if thread is not None and not {"tap", "mill thread"} & set(rule.steps):
        place.find(
            "thread-not-made", Severity.ERROR, f"“{rule.name}” leaves {group.label} without its thread {thread.name}.",
            "Its chain has no step that cuts one. Take another rule, or the thread off.", features=group.ids,
            cures=(Cure("Let the rules choose", {"change": "make-as", "features": list(group.ids), "rule": None}),),
        )  # fmt: skip
    group = replace(group, beyond=_beyond(place, group, rule, thread))
    diameter = _opened_to(place, group, rule, thread, reamer)
    if _lacks(place, group, rule, thread) in ("drill", "mill bore"):
        _no_drill(place, group, diameter, drill_cut(group, diameter).travel)
        return
    making = _Making(place, group, rule, thread, reamer, diameter)
    before = len(place.operations)
    chain: list[Operation] = []
    for step in rule.steps:
        made = _STEPS[step](making)
        if made is None:
            break
        chain += made
    for first, then in itertools.pairwise(chain):
        place.require(then, first.id, f"{first.kind.value} before {then.kind.value}")
    place.made_by(rule.id, len(place.operations) - before)


def _lacks(place: Workplace, group: HoleGroup, rule: ChainRule, thread: Thread | None) -> str:
    """The first step of a chain that no tool of the shop does; a tool set by hand is there."""
    reamer = reamer_for(place, group)
    for step in rule.steps:
        if (step == "ream" and reamer is None) or (step == "bore" and head_for(place, group) is None):
            return step
        if step in ("tap", "mill thread") and (thread is None or not _threads(place, group, step, thread)):
            return step
        diameter = _opened_to(place, group, rule, thread, reamer)
        if step == "drill" and _drill(place, group, diameter) is None:
            return step
        if step == "mill bore" and _mill(place, group, diameter) is None:
            return step
    return ""


def _opened_to(
    place: Workplace, group: HoleGroup, rule: ChainRule, thread: Thread | None, reamer: Tool | None
) -> float:
    """What is drilled or milled: the tap drill's size, less than the hole by what a reamer or a boring head takes, else
    the hole's own.
    """
    if thread is not None and ("tap" in rule.steps or "mill thread" in rule.steps):
        return thread.tap_drill
    size, left, wanted = group.first.diameter, LEFT, LEFT[1]
    if "bore" not in rule.steps:
        if reamer is None or "ream" not in rule.steps:
            return size
        size, left, wanted = reamer.diameter, REAM_ALLOWANCE, REAM_USUAL
    low, high = (size - part for part in left)
    if "mill bore" in rule.steps:
        return high
    drills = choose.usable(place.library, place.material, [ToolKind.DRILL])
    near = [d for d in drills if low - SAME <= d.diameter <= high + SAME]
    fitting = choose.best(near, lambda d: -abs(round(size - wanted - d.diameter, 6)))
    return fitting.diameter if fitting else high


def _beyond(place: Workplace, group: HoleGroup, rule: ChainRule, thread: Thread | None) -> float:
    """How far a through hole is opened beyond its exit, for what follows in its chain."""
    hole = group.first
    if not hole.through:
        return group.beyond
    later = [REAM_BEYOND] if "ream" in rule.steps else []
    later += [BEYOND] if "bore" in rule.steps else []
    if thread is not None and "tap" in rule.steps:
        later.append(thread_depth(thread, 0.0, through=True))
    if thread is not None and "mill thread" in rule.steps:
        later.append(depth_of_thread(hole, thread) - hole.depth)
    below = group.entry - hole.depth - place.stock.min[2]
    return opened_beyond(below, max(later, default=0.0))


def _threads(place: Workplace, group: HoleGroup, step: str, thread: Thread) -> bool:
    kind = OperationKind.TAP if step == "tap" else OperationKind.THREAD_MILL
    if place.edit(place.id_of(group.first.id, kind)).tool is not None:
        return True
    if step == "tap":
        return choose.tap_for(thread.pitch, thread.major, place.library, place.material) is not None
    depth = depth_of_thread(group.first, thread)
    if depth < thread.pitch:
        return False
    return choose.thread_mill_for(thread, depth, place.library, place.material) is not None


def _drill(place: Workplace, group: HoleGroup, diameter: float) -> Tool | None:
    travel = drill_cut(group, diameter).travel
    chosen = choose.drill_for(diameter, travel, place.library, place.material)
    set_by_hand = place.edit(place.id_of(group.first.id, OperationKind.DRILL)).tool
    return chosen or (place.library.tool(set_by_hand) if set_by_hand else None)


def _mill(place: Workplace, group: HoleGroup, diameter: float) -> Tool | None:
    return choose.boring_mill(
        diameter, group.entry - _bottom(group), place.library, place.material, place.machine, place.hand
    )  # fmt: skip


def _bottom(group: HoleGroup) -> float:
    """Level to which a bore is milled: through ones to below the far face."""
    return round(group.entry - group.first.depth - (group.beyond if group.first.through else 0.0), 5)


# ---- the steps; None ends the chain: what is lacking has been said


def _spot_step(making: _Making) -> list[Operation]:
    return [spot_operation(making.place, making.group, making.diameter)]


def _drill_step(making: _Making) -> list[Operation] | None:
    place, group = making.place, making.group
    id = place.id_of(group.first.id, OperationKind.DRILL)
    travel = drill_cut(group, making.diameter).travel
    rule = choose.drill_for(making.diameter, travel, place.library, place.material, place.hand)
    making.opened = place.tool(id, OperationKind.DRILL, rule)
    if making.opened is None:  # one set by hand that will not do: that has been said
        return None
    pilot = pilot_operation(place, group, making.opened) if choose.needs_pilot(making.opened) else None
    drilled = drill_operation(place, group, making.opened, making.diameter)
    return [drilled] if pilot is None else [pilot, drilled]


def _mill_step(making: _Making) -> list[Operation] | None:
    """Clear a round hole with an end mill, leaving the walls' allowance where they are finished."""
    place, group = making.place, making.group
    id = place.id_of(group.first.id, OperationKind.MILL_BORE)
    tool = place.tool(id, OperationKind.MILL_BORE, _mill(place, group, making.diameter))
    if tool is None:
        return None
    edit = place.edit(id)
    usual = place.material.wall_allowance if "finish bore" in making.rule.steps else 0.0
    allowance = edit.allowance if edit.allowance is not None else usual
    regions = tuple(circle(point, making.diameter) for point in group.points)
    making.opened = tool
    deep = depth_of(
        place,
        id,
        OperationKind.MILL_BORE,
        group.entry,
        group.entry - _bottom(group),
        group.ids,
        deeper=group.first.through,
    )
    bottom = round(group.entry - deep, 5)
    making.milled = Clearing(regions, group.entry, bottom, group.ids, group.first.id)
    hole = RoundHole(group.points, making.diameter, group.entry, bottom, hop_over(place, group))
    name = f"Mill bore {group.label}"
    return [rough_operation(place, id, OperationKind.MILL_BORE, name, tool, making.milled, allowance, hole=hole)]


def _finish_step(making: _Making) -> list[Operation]:
    place, group = making.place, making.group
    id = place.id_of(group.first.id, OperationKind.FINISH_WALL)
    if making.opened is None or making.milled is None:
        return []
    tool = place.tool(id, OperationKind.FINISH_WALL, making.opened)
    edit = place.edit(place.id_of(group.first.id, OperationKind.MILL_BORE))
    allowance = edit.allowance if edit.allowance is not None else place.material.wall_allowance
    if tool is None:
        return []
    name = f"Finish bore {group.label}"
    return [finish_walls_operation(place, id, name, tool, making.milled, allowance, before=making.opened)]


def _widen_step(making: _Making) -> list[Operation]:
    return widenings(making.place, making.group, making.opened if making.drills else None)


def _ream_step(making: _Making) -> list[Operation]:
    return [_ream(making.place, making.group, making.reamer)] if making.reamer is not None else []


def _bore_step(making: _Making) -> list[Operation]:
    head = head_for(making.place, making.group)
    return [bore_to_size(making.place, making.group, head)] if head is not None else []


def _tap_step(making: _Making) -> list[Operation]:
    made = tap_operation(making.place, making.group, making.thread) if making.thread is not None else None
    return [made] if made is not None else []


def _thread_mill_step(making: _Making) -> list[Operation]:
    place, group = making.place, making.group
    made = None
    if making.thread is not None:
        made = thread_mill_operation(place, group, making.thread, hop_over(place, group))
    return [made] if made is not None else []


_STEPS = {
    "spot": _spot_step, "drill": _drill_step, "mill bore": _mill_step, "finish bore": _finish_step,
    "widen": _widen_step, "ream": _ream_step, "bore": _bore_step, "tap": _tap_step, "mill thread": _thread_mill_step,
}  # fmt: skip


def reamer_for(place: Workplace, group: HoleGroup) -> Tool | None:
    hole = group.first
    fitting = [
        t for t in choose.usable(place.library, place.material, [ToolKind.REAMER])
        if abs(t.diameter - hole.diameter) < 1e-3 and t.reach >= hole.depth
    ]  # fmt: skip
    set_by_hand = place.edit(place.id_of(hole.id, OperationKind.REAM)).tool
    return (place.library.tool(set_by_hand) if set_by_hand else None) or choose.best(fitting, lambda t: t.reach)


def _say_untrusted(place: Workplace, group: HoleGroup, rule: ChainRule, thread: Thread | None) -> None:
    """A tolerance that the chain is not trusted to hold."""
    hole = group.first
    said = place.plan.said_of(hole.id)
    asked = asks_for(hole, said.tolerance)
    if not asked or thread is not None or {"ream", "bore"} & set(rule.steps):
        return
    width = read_tolerance(said.tolerance, hole.diameter).width
    lacking = asked == "reaming" and reamer_for(place, group) is None
    place.lack(
        "tolerance-not-made",
        f"{group.label} ({', '.join(group.ids)}) asks for {asked}: {said.tolerance} is {width * 1000:.0f} µm wide.",
        f"The library has no reamer of {hole.diameter:g} that is long enough."
        if lacking
        else f"“{rule.name}” is not trusted with it."
        if asked == "reaming"
        else f"A bore milled in circles holds about 50 µm; the library has no boring head for Ø{hole.diameter:g} that "
        f"reaches {hole.depth:g}."
        if head_for(place, group) is None
        else f"“{rule.name}” is not trusted with it: a bore milled in circles holds about 50 µm.",
        severity=Severity.WARNING,
        chapter=Chapter.PART,
        features=group.ids,
        cures=(
            Cure(
                "Leave to another shop",
                {"change": "leave-out", "features": list(group.ids), "reason": "made elsewhere"},
            ),
            Cure("Take the tolerance off", {"change": "say-tolerance", "features": list(group.ids), "tolerance": None}),
        ),
        wanted=f"reamer Ø{hole.diameter:g} {said.tolerance} that reaches {hole.depth:g}"
        if lacking
        else ""
        if head_for(place, group) is not None
        else f"boring head for Ø{hole.diameter:g} that reaches {hole.depth:g}",
    )


def _ream(place: Workplace, group: HoleGroup, tool: Tool) -> Operation:
    id = place.id_of(group.first.id, OperationKind.REAM)
    hole = group.first
    depth = round(hole.depth + REAM_BEYOND if hole.through else hole.depth - REAM_SHORT, 5)
    depth = depth_of(place, id, OperationKind.REAM, group.entry, depth, group.ids, deeper=hole.through, shorter=True)
    data = place.library.data(tool, place.material)
    assert data is not None
    settled = settle_plunge(tool, data, place.material, place.machine, place.edit(id), depth)
    motion = ream_path(group.points, group.entry, depth, settled.cutting.vf, hop_over(place, group), place.clearance)
    formula = f"{hole.depth:g} + {REAM_BEYOND:g}" if hole.through else f"{hole.depth:g} − {REAM_SHORT:g}"
    tolerance = place.plan.said_of(hole.id).tolerance
    return place.add(
        Named(id, OperationKind.REAM, f"Ream {group.label} {tolerance}", group.ids, hole.id),
        tool,
        settled,
        motion,
        depth=depth,
        figures=(Figure("depth", formula_of(place, id, formula), depth, "mm"),),
    )


def _no_drill(place: Workplace, group: HoleGroup, diameter: float, travel: float) -> None:
    place.lack(
        "no-drill",
        f"No tool makes {group.label} ({', '.join(group.ids)}).",
        f"The library has no drill of {diameter:g} that reaches {travel:.1f}, and no end mill that fits inside. "
        "Add one to the library, or leave the holes to another shop.",
        features=group.ids,
        cures=(
            Cure(
                "Leave to another shop",
                {"change": "leave-out", "features": list(group.ids), "reason": "made elsewhere"},
            ),
        ),
        wanted=f"drill Ø{diameter:g} that reaches {travel:.1f}",
    )
