"""Programs as text, and on the simulated machine: the ledger's own seconds, no trouble, the same stock."""

from __future__ import annotations

import re
from dataclasses import replace
from datetime import date

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Chapter, Finding, Severity
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.control.offset_words import offset_words
from lean_ledger.core.control.run import run_program
from lean_ledger.core.control.steps import StepKind
from lean_ledger.core.control.watch import watched
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import block, obround, revolved, rod, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, ThreadChoice
from lean_ledger.core.program.agree import agreement, run_of, setting_of
from lean_ledger.core.program.asked import SetupProgram
from lean_ledger.core.program.proof import course_of_programs
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.program.text import Lines, spoken
from lean_ledger.core.program.write import programs_of
from lean_ledger.library.dialects import shipped_dialects
from tests.conftest import built, demo_part, quick
from tests.core.test_indexed import indexed_plan
from tests.core.test_turning import DRIVEN, LATHE, LIB, on_lathe

CLAMPED = next(d for d in shipped_dialects() if d.clamp)
PLAIN = next(d for d in shipped_dialects() if d.id == "mill-plain")


@pytest.fixture(scope="module")
def plate() -> Part:
    """A pocket with round corners, a slot, deep holes, threads and a reamed bore."""
    body = (
        block((0, 0, 0), (90, 60, 20)) - rounded_block((10, 10, 12), (50, 50, 30), 6) - obround((70, 14, 20), 24, 8, 5)
    )
    for x in (60, 80):
        body = body - rod((x, 45, -1), (0, 0, 1), 5, 40)
    return built(body - rod((70, 30, -1), (0, 0, 1), 8, 40))


@pytest.fixture(scope="module")
def plate_plan(plate: Part) -> Plan:
    return replace(quick(plate), threads=(ThreadChoice(5.0, "M6"),))


def programs(plan: Plan, part: Part, *dialects: object) -> tuple[Ledger, tuple[SetupProgram, ...]]:
    ledger = evaluate(plan, part, LIB)
    return ledger, programs_of(ledger, part, "T-1 PLATE", dialects)  # type: ignore[arg-type]


# ---- words


def test_numbers_have_a_point_and_nothing_is_said_twice() -> None:
    lines = Lines(3)
    lines.move("G0", (10, -0.0004, 2.5))
    lines.move("G1", (10, 0, -3), feed=600)
    lines.move("G1", (12, 0, -3), feed=600)
    lines.move("G1", (12, 0, -3), feed=300)
    assert lines.out == ["G0 X10. Y0. Z2.5", "G1 Z-3. F600.", "X12."]


def test_comments_are_plain_capitals() -> None:
    assert spoken("Drill 4 × Ø5,  “through” (M6)") == 'DRILL 4 X D5, "THROUGH" [M6]'


def test_offsets_follow_the_control_s_family() -> None:
    assert list(offset_words("basic")) == ["G54", "G55", "G56", "G57", "G58", "G59"]
    assert list(offset_words("extended-48"))[6:8] == ["G54.1 P1", "G54.1 P2"]
    assert len(list(offset_words("extended-99"))) == 105


def test_each_setup_has_an_offset_and_too_few_are_refused(plate: Part, plate_plan: Plan) -> None:
    ledger = evaluate(plate_plan, plate, LIB)
    assert [o.word for o in offsets_of(ledger, plate)] == ["G54", "G55"]
    many = replace(ledger, loads=ledger.loads * 4)
    basic = tuple(replace(s, machine=replace(s.machine, offsets="basic")) for s in many.loads)
    with pytest.raises(PlanError, match="fewer work offsets"):
        programs_of(replace(many, loads=basic), plate, "T-1")


# ---- programs


def test_program_calls_a_subprogram_for_each_operation(plate: Part, plate_plan: Plan) -> None:
    ledger, (first, *_) = programs(plate_plan, plate)
    entries = ledger.loads[0].calls
    lines = first.text.splitlines()
    assert [n for n, _ in first.calls] == [1001 + i for i in range(len(entries))]
    for entry, (number, id) in zip(entries, first.calls, strict=True):
        assert entry.operation.id == id
        assert lines.count(f"M98 P{number}") == 1
        assert f"O{number} (S1.{10 * (entry.position + 1)} {spoken(entry.operation.name)})" in lines
    tools = [line for line in lines if line.endswith(" M6")]
    assert len(tools) == ledger.loads[0].tool_calls
    assert all(lines[lines.index(call) - 2] == "M1" for call in tools), "a stop that can be chosen before each tool"
    assert lines.count("M99") == len(entries)
    assert lines[:2] == ["%", "O1000 (T-1 PLATE S1)"]


def test_holes_are_canned_cycles_and_round_walls_arcs(plate: Part, plate_plan: Plan) -> None:
    _, (first, *_) = programs(plate_plan, plate)
    assert "G99 G83 " in first.text
    tap = next(line for line in first.text.splitlines() if " G84 " in line)
    n = next(line for line in _before(first.text, tap) if line.startswith("S"))
    # M6: the feed is the pitch of 1 mm a turn of the speed that is written
    assert f"F{n.split()[0][1:]}." in tap
    assert any(line.startswith(("G2 ", "G3 ")) for line in first.text.splitlines())


def _before(text: str, line: str) -> list[str]:
    """The main program's blocks before the call of the subprogram that holds a line, the last one first."""
    lines = text.splitlines()
    sub = next(found for found in reversed(lines[: lines.index(line)]) if found.startswith("O")).split()[0][1:]
    return lines[: lines.index(f"M98 P{int(sub)}")][::-1]


@pytest.mark.parametrize("dialects", [(), (PLAIN,), (CLAMPED,)])
def test_machine_takes_what_the_ledger_says(plate: Part, plate_plan: Plan, dialects: tuple[object, ...]) -> None:
    ledger, found = programs(plate_plan, plate, *dialects)
    for program in found:
        setup = ledger.load_of(program.setup)
        run = run_of(program, setup)
        same = agreement(run, setup)
        assert same.machine == pytest.approx(same.ledger, rel=2e-3, abs=0.05)
        assert abs(same.difference) < 1e-3
        tools = frozenset(tool_numbers(setup).values())
        assert watched(run, setup.machine, setting_of(program, setup), tools) == ()


def test_indexed_setup_turns_in_blocks_of_its_own_and_back_at_the_end() -> None:
    part = demo_part("sonde-carrier")
    ledger, (first, *_) = programs(indexed_plan(part), part, CLAMPED)
    lines = first.text.splitlines()
    turns = [i for i, line in enumerate(lines) if line.startswith("G0 A")]
    assert len(turns) > 4
    assert all(lines[i - 1] == "M11" and lines[i + 1] == "M10" for i in turns)
    assert len({o.word for o in first.offsets}) == 1, "the zero is on the axis"
    setup = ledger.loads[0]
    run = run_of(first, setup)
    same = agreement(run, setup)
    assert same.machine["index"] == pytest.approx(same.ledger["index"], rel=1e-3)
    assert abs(same.difference) < 1e-3
    assert watched(run, setup.machine, setting_of(first, setup)) == ()


@pytest.mark.parametrize("machine", [LATHE, DRIVEN])
def test_lathe_keeps_its_surface_speed_and_calls_stations(machine) -> None:  # type: ignore[no-untyped-def]
    part = demo_part("vane-hub")
    ledger, found = programs(on_lathe(part, machine), part)
    first, setup = found[0], ledger.loads[0]
    assert "T0101" in first.text
    assert "G96 S350 M3" in first.text
    same = agreement(run_of(first, setup), setup)
    assert abs(same.difference) < 1e-2
    assert same.machine["cutting"] == pytest.approx(same.ledger["cutting"], rel=1e-3)
    for program in found:
        own = ledger.load_of(program.setup)
        assert watched(run_of(program, own), own.machine, setting_of(program, own)) == ()


def test_driven_tool_goes_on_turning_while_the_part_is_turned_under_it() -> None:
    body = revolved([(0, 0), (15, 0), (15, 40), (0, 40)])
    for axis in ((1, 0, 0), (0, 1, 0), (-1, 0, 0), (0, -1, 0)):
        body = body - rod((0, 0, 30), axis, 5, 20)
    part = built(body)
    ledger, found = programs(on_lathe(part, DRIVEN), part)
    setup = ledger.load_of(found[0].setup)
    turns = [line for line in found[0].text.splitlines() if line.startswith("G0 C")]
    assert len(turns) >= 3
    assert watched(run_of(found[0], setup), setup.machine, setting_of(found[0], setup)) == ()
    same = agreement(run_of(found[0], setup), setup)
    assert same.machine["index"] == pytest.approx(same.ledger["index"], rel=1e-3)
    assert same.machine["spindle"] == pytest.approx(same.ledger["spindle"], rel=1e-3)


def test_program_removes_what_the_plan_says(plate: Part, plate_plan: Plan) -> None:
    ledger, found = programs(plate_plan, plate)
    ran = [(p, setting_of(p, ledger.load_of(p.setup)), run_of(p, ledger.load_of(p.setup))) for p in found]
    planned = followed(course_of(plate, ledger))
    cut = followed(course_of_programs(plate, ledger, ran))
    assert [s.operation for s in cut.steps] == [s.operation for s in planned.steps]
    assert cut.steps[-1].volume == pytest.approx(planned.steps[-1].volume, rel=2e-4)
    assert [r for r in cut.remainders if r.cut_into] == []


def test_wrong_depth_in_a_program_shows_in_the_solids(plate: Part, plate_plan: Plan) -> None:
    ledger, (first, *_) = programs(plate_plan, plate)
    setup = ledger.loads[0]
    number, id = next((n, id) for n, id in first.calls if "rough-pocket" in id)
    head = next(line for line in first.text.splitlines() if line.startswith(f"O{number:04d} "))
    # from 5 above the stock down to 3 above the table, through the pocket's floor
    wrong = replace(first, text=first.text.replace(head, f"{head}\nG91 G1 Z-24. F300.\nG0 Z24.\nG90"))
    cut = followed(course_of_programs(plate, ledger, [(wrong, setting_of(wrong, setup), run_of(wrong, setup))]))
    assert id in {r.operation for r in cut.remainders if r.cut_into and r.amount > 5}


# ---- what the simulated machine stops at


def troubles(program: SetupProgram, ledger: Ledger, text: str, **more: object) -> list[str]:
    setup = ledger.load_of(program.setup)
    setting = replace(setting_of(program, setup), **more)  # type: ignore[arg-type]
    run = run_program(text, setup.machine, setting)
    return [t.code for t in watched(run, setup.machine, setting, frozenset(tool_numbers(setup).values()))]


@pytest.mark.parametrize(
    ("was", "now", "code"),
    [
        (" M3\n", "\n", "spindle-off"),
        ("T{tool} M6", "T77 M6", "no-such-tool"),
        ("G54", "G57", "offset-not-set"),
        ("G54", "G154 P3", "no-such-offset"),
        ("G43 H{tool} ", "", "no-length"),
        ("G43 H{tool} Z", "G43 H{tool} Z40", "past-travel"),
    ],
)
def test_each_trouble_is_seen_and_a_sound_program_has_none(
    plate: Part, plate_plan: Plan, was: str, now: str, code: str
) -> None:
    ledger, (first, *_) = programs(plate_plan, plate)
    tool = ledger.loads[0].calls[0].operation.tool.number
    assert troubles(first, ledger, first.text) == []
    was, now = was.format(tool=tool), now.format(tool=tool)
    assert was in first.text
    assert code in troubles(first, ledger, first.text.replace(was, now))


def test_turn_while_clamped_and_cut_while_not_are_seen() -> None:
    part = demo_part("sonde-carrier")
    ledger, (first, *_) = programs(indexed_plan(part), part, CLAMPED)
    assert troubles(first, ledger, first.text) == []
    assert "turned-clamped" in troubles(first, ledger, first.text.replace("M11\n", ""))
    assert "cut-unclamped" in troubles(first, ledger, first.text.replace("M10\n", ""))


def test_steps_know_the_subprogram_that_they_stand_in(plate: Part, plate_plan: Plan) -> None:
    ledger, (first, *_) = programs(plate_plan, plate)
    run = run_of(first, ledger.loads[0])
    cut = {step.sub for step in run.steps if step.kind == StepKind.CUT}
    assert cut == {n for n, _ in first.calls}
    by_sub = {n: sum(s.seconds for s in run.steps if s.sub == n and s.kind == StepKind.CUT) for n in cut}
    for entry, (number, _) in zip(ledger.loads[0].calls, first.calls, strict=True):
        assert by_sub[number] == pytest.approx(entry.operation.time.cut, rel=3e-3, abs=0.02)


def test_sheet_calls_tools_as_the_program_does() -> None:
    part = demo_part("vane-hub")
    ledger, found = programs(on_lathe(part), part)
    job = JobWords("VH-333", "Wind vane hub", "A", "Hochwart Wind Vanes")
    sheet = setup_sheet(job, ledger, part, 1, date(2026, 11, 26))
    for paper, program in zip(sheet.setups, found, strict=True):
        called = re.findall(r"^\(T(\d+) ", program.text, re.MULTILINE)
        assert {t.number for t in paper.tools} == {o.tool for o in paper.operations} == {int(n) for n in called}
    # what stands in the turret keeps its station, the others take the free ones
    standing = LIB.in_machine(ledger.loads[0].machine)
    stations = tool_numbers(ledger.loads[0])
    kept = {id: standing.index(id) + 1 for id in stations if id in standing}
    assert kept
    assert kept.items() <= stations.items()
    others = sorted(n for id, n in stations.items() if id not in standing)
    assert others == list(range(len(standing) + 1, len(standing) + 1 + len(others)))
    assert [s.offset for s in sheet.setups] == [p.offsets[0].word for p in found]


def test_dialect_is_chosen_for_a_setup_and_refused_for_another_kind(plate: Part, plate_plan: Plan) -> None:
    scene = Scene(plate, LIB, evaluate(plate_plan, plate, LIB))
    chosen, words = read_change({"change": "set-dialect", "setup": "S1", "dialect": "mill-plain"}).apply(
        plate_plan, scene
    )
    assert words == "setup S1: program in Milling control without canned cycles but drilling"
    first, second = programs_of(evaluate(chosen, plate, LIB), plate, "x")
    assert (first.dialect.id, second.dialect.id) == ("mill-plain", "mill")
    usual = programs_of(evaluate(plate_plan, plate, LIB), plate, "x")[0]
    assert "G83" not in first.text
    assert first.text != usual.text
    with pytest.raises(PlanError, match="is none that Mill 1, travel 762 reads; it reads mill, mill-clamped"):
        read_change({"change": "set-dialect", "setup": "S1", "dialect": "lathe"}).apply(plate_plan, scene)


def test_program_of_a_plan_that_is_not_released_says_so(plate: Part, plate_plan: Plan) -> None:
    ledger = evaluate(plate_plan, plate, LIB)
    assert "NOT RELEASED" not in programs_of(ledger, plate, "x")[0].text
    wrong = Finding("power", Severity.ERROR, Chapter.OPERATIONS, "too much", "")
    text = programs_of(replace(ledger, findings=(wrong,)), plate, "x")[0].text
    assert "(NOT RELEASED: 1 OPEN FINDINGS, SEE THE PLAN)" in text.splitlines()[2]
