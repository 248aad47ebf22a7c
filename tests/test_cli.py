"""The command line: one JSON document and exit 0, or one line on standard error and exit 2."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

import pytest

from tests.called import called
from tests.conftest import CASES, DEMO_PARTS


def run(*args: str, timeout: float = 90) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "lean_ledger.cli", *args], capture_output=True, text=True, timeout=timeout, check=False
    )


def test_features_of_a_part() -> None:
    done = run("features", str(DEMO_PARTS / "mast-clamp-half.step"))
    assert (done.returncode, done.stderr) == (0, "")
    document = json.loads(done.stdout)
    assert document["format"] == "lean-ledger/features@1"
    assert document["source"] == {"file": "mast-clamp-half.step", "length_unit": "mm"}
    assert document["unassigned"] == []
    holes = [f for f in document["features"] if f["kind"] == "hole"]
    assert len(holes) == 7
    assert {
        "id",
        "kind",
        "faces",
        "access",
        "volume",
        "position",
        "axis",
        "diameter",
        "depth",
        "through",
        "segments",
    } <= set(holes[0])


def test_features_of_a_chosen_solid() -> None:
    done = called("features", str(CASES / "features/instrument-pair.step"), "--solid", "1")
    assert json.loads(done.stdout)["solid"] == 1


def test_price_of_a_problem() -> None:
    done = called("price", str(CASES / "price/price-plain.json"))
    expect = json.loads((CASES / "price/price-plain.expect.json").read_text(encoding="utf-8"))["expect"]
    assert (done.returncode, done.stderr) == (0, "")
    assert json.loads(done.stdout)["quantities"][0]["each"] == expect["quantities"][0]["each"]


PLATE, MILL = str(CASES / "features/sensor-base-plate.step"), str(CASES / "features/mill-3axis.json")


def test_setups_of_a_part() -> None:
    done = called("setups", PLATE, "--machine", MILL, "--allowance", "X-=0,X+=0,Y-=0,Y+=0,Z-=0,Z+=0")
    assert (done.returncode, done.stderr) == (0, "")
    document = json.loads(done.stdout)
    assert {k: document[k] for k in ("format", "count", "lower_bound", "proven", "unreachable")} == {
        "format": "lean-ledger/setups@1", "count": 1, "lower_bound": 1, "proven": True, "unreachable": [],
    }  # fmt: skip


@pytest.mark.parametrize(
    ("args", "words"),
    [
        (["features", str(CASES / "bad/truncated.step")], "truncated.step: line"),
        (["features", str(CASES / "bad/empty.step")], "empty.step"),
        (["features", str(CASES / "bad/letter.step")], "not a STEP file"),
        (["features", str(CASES / "bad/wireframe.step")], "no solid"),
        (["features", str(CASES / "bad/shell-only.step")], "no solid"),
        (["features", "no-such-file.step"], "no-such-file.step"),
        (["features", str(CASES / "features/instrument-pair.step"), "--solid", "5"], "no solid 5"),
        (["features", str(CASES / "features/instrument-pair.step"), "--solid", "x"], "--solid"),
        (["features"], "PART"),
        (["features", "a.step", "--colour"], "--colour"),
        (["setups", str(CASES / "bad/truncated.step"), "--machine", MILL], "truncated.step: line"),
        (
            ["setups", PLATE, "--machine", str(CASES / "bad/misspelt-key.json")],
            "misspelt-key.json: accelaration: unknown key",
        ),
        (["setups", PLATE, "--machine", str(CASES / "bad/malformed.json")], "malformed.json: line"),
        (["setups", PLATE, "--machine", "not-there.json"], "not-there.json: No such file"),
        (["setups", PLATE, "--machine", PLATE], "sensor-base-plate.step: line 1"),
        (["setups", PLATE, "--machine", MILL, "--allowance", "Q-=2"], "write X-=2, one of X-, X+"),
        (["setups", PLATE, "--machine", MILL, "--allowance", "Z+=much"], "no amount of mm"),
        (["setups", PLATE], "--machine"),
        (["price", str(CASES / "price/bad-key.json")], "marginn"),
        (["price", str(CASES / "price/bad-quantity.json")], "quantities[1]"),
        (["price", str(CASES / "bad/letter.step")], "line 1"),
        (["price", "no-such-file.json"], "no-such-file.json"),
        (["fly"], "fly"),
    ],
)
def test_bad_input_is_one_line_and_exit_2(args: list[str], words: str) -> None:
    done = called(*args)
    assert done.returncode == 2
    assert done.stdout == ""
    assert len(done.stderr.strip().splitlines()) == 1
    assert words in done.stderr
    assert "Traceback" not in done.stderr


def test_demo_parts_are_what_their_script_makes(tmp_path: Path) -> None:
    from lean_ledger.demo.make_parts import PARTS, main

    main(tmp_path)
    for name in PARTS:
        assert (tmp_path / f"{name}.step").read_text() == (DEMO_PARTS / f"{name}.step").read_text(), name


def test_help_names_the_commands() -> None:
    text = called("--help").stdout
    for command in ("serve", "demo", "features", "setups", "price", "layout", "sequence", "balance", "timeline"):
        assert command in text


# ---- the plan of a new job


def test_plan_of_a_part_with_its_stock_followed() -> None:
    part = str(CASES / "features/hex-standoff-inch.step")
    done = called("plan", part, "--material", "steel-c45", "--quantities", "10,50")
    assert (done.returncode, done.stderr) == (0, "")
    plan = json.loads(done.stdout)
    assert (plan["format"], plan["material"]) == ("lean-ledger/plan@1", "steel-c45")
    assert [row["quantity"] for row in plan["prices"]] == [10, 50]
    assert plan["prices"][0]["each"] > plan["prices"][1]["each"] > 0
    assert plan["part"]["volume"] < plan["stock"]["volume"]
    assert sum(row["operations"] for row in plan["setups"]) == len(plan["operations"])
    # a cycle is its operations and the way back to where it starts
    for setup in plan["setups"]:
        own = sum(row["total"] for row in plan["operations"] if row["setup"] == setup["id"])
        assert own <= setup["cycle"] + 1e-6 <= own + 20
    loads = sum(row["load"] for row in plan["setups"])
    assert plan["with_handling"] == pytest.approx(plan["cycle"] + loads)
    assert set(plan["into"]) == set(plan["left"]) == {"volume", "most"}


def test_plan_on_a_machine_that_is_named() -> None:
    part = str(CASES / "features/hex-standoff-inch.step")
    done = called("plan", part, "--machine", "mill-500")
    assert json.loads(done.stdout)["machines"] == ["Mill 2, travel 500, quick"]


@pytest.mark.parametrize(
    ("options", "said"),
    [
        (("--machine", "mill-9"), "there is no machine 'mill-9'"),
        (("--material", "gold"), "there is no material 'gold'"),
        (("--quantities", "ten"), "'ten' are not whole numbers"),
        (("--quantities", "0"), "at least one quantity"),
    ],
)
def test_plan_that_cannot_be_is_one_line(options: tuple[str, ...], said: str) -> None:
    done = called("plan", str(CASES / "features/hex-standoff-inch.step"), *options)
    assert (done.returncode, done.stdout) == (2, "")
    assert said in done.stderr
    assert len(done.stderr.strip().splitlines()) == 1


def test_plan_of_what_is_no_step_file_is_one_line(tmp_path: Path) -> None:
    (tmp_path / "letter.step").write_text("Dear customer", encoding="utf-8")
    done = called("plan", str(tmp_path / "letter.step"))
    assert (done.returncode, done.stdout) == (2, "")
    assert "letter.step" in done.stderr
    assert len(done.stderr.strip().splitlines()) == 1
