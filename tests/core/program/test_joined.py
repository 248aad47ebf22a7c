"""All setups of a machine in one file: called one after the other, with a stop between them."""

from __future__ import annotations

import json
import re
from dataclasses import replace
from datetime import date
from io import BytesIO
from zipfile import ZipFile

import pytest

from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.control.steps import StepKind
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.papers.package import files_of, program_package
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.core.program.checked import Checked, checked_programs
from lean_ledger.core.program.joined import joined_programs
from lean_ledger.library import shipped_library
from lean_ledger.standins.dnc import received
from tests.conftest import demo_part, quick, quick_ledger

LIB = shipped_library()


def checked(name: str = "sensor-base-plate") -> tuple[Checked, ...]:
    part = demo_part(name)
    return checked_programs(quick_ledger(part), part, "SB-220 SENSOR BASE PLATE")


@pytest.mark.parametrize("name", ["sonde-carrier", "mast-clamp-half"])
def test_one_file_runs_as_its_setups_do(name: str) -> None:
    """The same cuts and changes; only the way from the end of one setup to the begin of the next is another."""
    programs = checked(name)
    (joined,) = joined_programs(programs)
    assert joined.setups == tuple(one.program.setup for one in programs)
    assert joined.troubles == ()
    assert joined.run is not None
    for kind in (StepKind.CUT, StepKind.TOOL_CHANGE, StepKind.SPINDLE):
        apart = sum(one.run.seconds(kind) for one in programs)
        assert joined.run.seconds(kind) == pytest.approx(apart, abs=1e-6), kind
    total = sum(one.run.total for one in programs)
    assert joined.run.total == pytest.approx(total, rel=0.01)


def test_main_program_stops_where_the_piece_is_turned_over() -> None:
    (joined,) = joined_programs(checked())
    lines = joined.text.split("\n")
    assert lines[:7] == [
        "%", "O0001 (SETUPS S1, S2 ON MILL 1, TRAVEL 762)", "M98 P1000",
        "M0 (SETUP S2: Z- UP, IN VISE 100)", "M98 P2000", "M30", lines[6],
    ]  # fmt: skip
    assert lines[6].startswith("O1000 ")
    assert lines.count("M30") == 1
    numbers = [line.split()[0] for line in lines if re.match(r"O\d", line)]
    assert len(set(numbers)) == len(numbers)
    assert joined.run is not None
    assert sum(step.kind == StepKind.STOP for step in joined.run.steps) > sum(
        step.kind == StepKind.STOP for one in joined.parts for step in one.run.steps
    )


def test_setups_for_different_controls_or_tools_keep_their_own_files() -> None:
    programs = checked()
    plain = read_change({"change": "set-dialect", "setup": "S2", "dialect": "mill-plain"})
    part = demo_part("sensor-base-plate")
    ledger = quick_ledger(part)
    plan, _ = plain.apply(ledger.plan, Scene(part, LIB, ledger))
    (apart,) = joined_programs(checked_programs(evaluate(plan, part, LIB), part, "x"))
    assert apart.refused.startswith("they are written for different controls: Milling control, ")
    assert apart.run is None
    lathe = LIB.machine("lathe-320")
    # a turret whose first station holds another tool in the second setup
    turned = [replace(one, setup=replace(one.setup, machine=lathe, in_machine=())) for one in programs]
    (apart,) = joined_programs(turned)
    assert re.fullmatch(r"T\d+ is another tool in setup S2 than before it", apart.refused)
    assert set(files_of(turned, by_machine=True).values()) == set(files_of(turned, by_machine=False).values())


def test_package_by_machine_has_one_file_that_the_stand_in_takes() -> None:
    part = demo_part("sensor-base-plate")
    ledger = quick_ledger(part)
    job = JobWords("SB-220", "Sensor base plate", "A", "Tarnwell Observatories")
    sheet = setup_sheet(job, ledger, part, 1, date(2026, 11, 26))
    package = program_package(sheet, b"%PDF", checked(), by_machine=True)
    with ZipFile(BytesIO(package)) as zipped:
        programs = [n for n in zipped.namelist() if n.endswith(".nc") and "offsets" not in n]
        assert programs == ["S1-S2-O0001.nc"]
        said = json.loads(zipped.read("manifest.json"))
    assert [(p["setup"], p["file"], p["main"]) for p in said["programs"]] == [
        ("S1", "S1-S2-O0001.nc", 1000), ("S2", "S1-S2-O0001.nc", 2000),
    ]  # fmt: skip
    runs = received(package, {m.id: m for m in LIB.machines}, seed=1)
    assert [r.setup for r in runs] == ["S1", "S2"]


def test_how_it_is_issued_is_a_decision() -> None:
    part = demo_part("sensor-base-plate")
    plan, ledger = quick(part), quick_ledger(part)
    changed, words = read_change({"change": "set-issue", "by": "machine"}).apply(plan, Scene(part, LIB, ledger))
    assert (plan.issued_by, changed.issued_by) == ("setup", "machine")
    assert words == "a program file for each machine"
