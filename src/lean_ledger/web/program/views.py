"""Programs as the API shows them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lean_ledger.core.control.steps import CATEGORY, Run, StepKind
from lean_ledger.core.control.watch import Trouble
from lean_ledger.core.geometry.vectors import DIRECTION_NAMES, axis_name
from lean_ledger.core.loads.runs import Selection
from lean_ledger.core.program.checked import Checked, checked_programs
from lean_ledger.core.program.joined import Joined, joined_programs
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.library.dialects import dialects_for
from lean_ledger.store import Opened
from lean_ledger.web.program import schemas as s


def checked_of(opened: Opened) -> tuple[Checked, ...]:
    return checked_programs(opened.ledger, opened.part, f"{opened.job.number} {opened.job.name}")


def programs_view(opened: Opened) -> s.ProgramsView:
    programs = checked_of(opened)
    return s.ProgramsView(
        setups=[_program(one, _which(programs, one)) for one in programs],
        issued_by=opened.plan.issued_by,
        joined=[_joined(one) for one in joined_programs(programs)],
    )


def selection_of(query: s.PartQuery) -> Selection:
    return Selection(tuple(query.setups), tuple(query.pieces), tuple(query.sides), tuple(query.positions))


def _which(programs: Sequence[Checked], one: Checked) -> int:
    return [other for other in programs if other.program.setup == one.program.setup].index(one) + 1


def part_view(programs: Sequence[Checked], selection: Selection) -> s.PartProgramView:
    last = max(programs, key=lambda one: one.run.total)
    return s.PartProgramView(
        words=selection.words, files=[one.program.file for one in programs], total=last.run.total,
        difference=last.agreement.difference,
        troubles=[t for one in programs for t in _troubles(one.troubles, dict(one.program.calls))],
    )  # fmt: skip


def _joined(one: Joined) -> s.JoinedView:
    called = {number: id for part in one.parts for number, id in part.program.calls}
    return s.JoinedView(
        machine=one.machine.id,
        name=one.machine.name,
        file=one.file,
        setups=list(one.setups),
        total=one.run.total if one.run is not None else 0.0,
        troubles=_troubles(one.troubles, called),
        refused=one.refused,
    )


def _troubles(troubles: Sequence[Trouble], called: Mapping[int, str]) -> list[s.TroubleView]:
    return [
        s.TroubleView(code=t.code, line=t.line, operation=called.get(t.sub, ""), title=t.title, why=t.why)
        for t in troubles
    ]


def _program(one: Checked, which: int) -> s.SetupProgramView:
    program, same = one.program, one.agreement
    names = {e.operation.id: e.operation.name for e in one.setup.rows}
    called = dict(program.calls)
    lines = program.lines_of_numbers
    numbers = tool_numbers(one.setup)
    tools = {e.operation.tool.id: e.operation.tool for e in one.setup.rows}
    return s.SetupProgramView(
        id=program.setup if which == 1 else f"{program.setup}-{which}",
        which=which,
        carriage=program.carriage,
        setup=program.setup,
        setups=list(program.setups),
        machine=program.machine.name,
        dialect=program.dialect.id,
        dialects=[s.DialectView(id=d.id, name=d.name) for d in dialects_for(program.machine)],
        dialect_decided=one.setup.load.dialect is not None,
        file=program.file,
        text=program.text,
        total=one.run.total,
        difference=same.difference,
        non_cutting=one.non_cutting,
        seconds=[_category(c, same.ledger[c], same.machine[c]) for c in CATEGORY.values()],
        cycle=_category("cycle", sum(same.ledger.values()), sum(same.machine.values())),
        troubles=_troubles(one.troubles, called),
        offsets=[
            s.ProgramOffsetView(
                word=o.word, side=DIRECTION_NAMES.get(o.way.direction, axis_name(o.way.direction)), at=o.machine
            )
            for o in program.offsets
        ],
        tools=[s.ProgramToolView(number=numbers[id], description=tool.description) for id, tool in tools.items()],
        calls=[
            s.CallView(number=number, operation=id, name=names[id], line=lines[number]) for number, id in program.calls
        ],
        ran=_ran(one.run),
    )


def _category(name: str, ledger: float, machine: float) -> s.CategoryView:
    return s.CategoryView(category=name, ledger=ledger, machine=machine, apart=machine - ledger)


def _ran(run: Run) -> s.RanView:
    view = s.RanView(start=[], seconds=[], kind=[], tool=[], call=[], line=[])
    at = 0.0
    for step in run.steps:
        if step.kind == StepKind.STOP:
            continue
        view.start.append(round(at, 4))
        view.seconds.append(round(step.seconds, 4))
        view.kind.append(step.kind.value)
        view.tool.append(step.tool)
        view.call.append(step.sub)
        view.line.append(step.line)
        at += step.seconds
    return view
