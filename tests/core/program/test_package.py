"""The package for the floor, and the stand-in that takes it there."""

from __future__ import annotations

import hashlib
import json
from datetime import date
from io import BytesIO
from xml.etree import ElementTree as ET
from zipfile import ZipFile

import pytest

from lean_ledger.core.basis.errors import FileRefused
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.papers.package import offset_program, program_package
from lean_ledger.core.papers.pdf import sheet_pdf
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.core.program.checked import Checked, checked_programs
from lean_ledger.standins.dnc import RUNS, received
from tests.conftest import demo_part, quick
from tests.core.test_turning import LIB

MACHINES = {m.id: m for m in LIB.machines}


@pytest.fixture(scope="module")
def checked() -> tuple[Checked, ...]:
    part = demo_part("mast-clamp-half")
    return checked_programs(evaluate(quick(part), part, LIB), part, "MC-104 MAST CLAMP")


def packed(checked: tuple[Checked, ...]) -> bytes:
    part = demo_part("mast-clamp-half")
    ledger = evaluate(quick(part), part, LIB)
    job = JobWords("MC-104", "Mast clamp", "A", "Hochwart Wind Vanes")
    sheet = setup_sheet(job, ledger, part, 3, date(2026, 11, 26))
    return program_package(sheet, sheet_pdf(sheet), checked)


def test_package_holds_programs_offsets_lists_sheet_and_manifests(checked: tuple[Checked, ...]) -> None:
    with ZipFile(BytesIO(packed(checked))) as package:
        names = set(package.namelist())
        for one in checked:
            assert {f"{one.program.setup}-{one.program.file}", f"{one.program.setup}-offsets.nc"} <= names
        assert {"tools.csv", "operations.csv", "setup-sheet.pdf", "manifest.json", "manifest.xml"} <= names
        said = json.loads(package.read("manifest.json"))
        assert (said["format"], said["job"], said["plan_version"]) == ("lean-ledger/package@1", "MC-104", 3)
        for row in said["files"]:
            content = package.read(row["name"])
            assert (len(content), hashlib.sha256(content).hexdigest()) == (row["bytes"], row["sha256"])
        for one, row in zip(checked, said["programs"], strict=True):
            assert package.read(row["file"]).decode() == one.program.text
            assert row["seconds"] == round(one.run.total, 3)
            assert row["troubles"] == 0
            assert [o["program"] for o in row["operations"]] == [n for n, _ in one.program.calls]


def test_both_manifests_say_the_same(checked: tuple[Checked, ...]) -> None:
    with ZipFile(BytesIO(packed(checked))) as package:
        said = json.loads(package.read("manifest.json"))
        root = ET.fromstring(package.read("manifest.xml"))
    assert root.findtext("job") == said["job"]
    assert [p.findtext("seconds") for p in root.findall("programs/program")] == [
        str(row["seconds"]) for row in said["programs"]
    ]
    assert [f.findtext("sha256") for f in root.findall("files/file")] == [row["sha256"] for row in said["files"]]


def test_same_plan_gives_the_same_bytes(checked: tuple[Checked, ...]) -> None:
    assert packed(checked) == packed(checked)


def test_offset_program_sets_each_zero_and_length(checked: tuple[Checked, ...]) -> None:
    first, second = (offset_program(one) for one in checked[:2])
    x, y, z = checked[0].setting.offsets["G54"]
    assert f"G10 L2 P1 X{x:.3f} Y{y:.3f} Z{z:.3f}" in first
    assert "G10 L2 P2 " in second
    for number, length in checked[0].setting.lengths.items():
        assert f"G10 L10 P{number} R{length:.3f}" in first


def test_stand_in_answers_with_the_same_scatter_for_the_same_seed(checked: tuple[Checked, ...]) -> None:
    package = packed(checked)
    runs = received(package, MACHINES, 7)
    assert runs == received(package, MACHINES, 7) != received(package, MACHINES, 8)
    for one, run in zip(checked, runs, strict=True):
        assert len(run.seconds) == RUNS
        assert run.planned == round(one.run.total, 3)
        assert all(run.planned - 0.05 <= s <= 1.2 * run.planned for s in run.seconds), "slower, never by much"
        assert run.mean == pytest.approx(run.planned * (1 + run.over))


def test_stand_in_refuses_what_is_no_package(checked: tuple[Checked, ...]) -> None:
    with pytest.raises(FileRefused, match="no program package"):
        received(b"%\nO1\nM30\n%", MACHINES, 1)
    other = BytesIO()
    with ZipFile(other, "w") as zipped:
        zipped.writestr("manifest.json", '{"format": "something"}')
    with pytest.raises(FileRefused, match="another format"):
        received(other.getvalue(), MACHINES, 1)
    with pytest.raises(FileRefused, match="no machine"):
        received(packed(checked), {}, 1)
