"""The setups of the cases: as many as their expect files say, each feature in one of them."""

from __future__ import annotations

import json
from typing import Any

import pytest

from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.features import recognise
from lean_ledger.core.features.contract import features_document
from lean_ledger.core.files.machine_file import parse_machine
from lean_ledger.core.setups.contract import read_allowances, setups_document
from tests.conftest import CASES, case_model

FILES = sorted((CASES / "features").glob("*.expect.json"))
WANTED = [
    pytest.param(case["part"].removesuffix(".step"), wanted, id=f"{case['case']}-{wanted['machine']}-{n}")
    for case in (json.loads(file.read_text(encoding="utf-8")) for file in FILES)
    for n, wanted in enumerate(case.get("setups", []))
]
REMOVES = ("hole", "pocket", "slot", "step")


@pytest.mark.parametrize(("name", "wanted"), WANTED)
def test_case_divides_as_expected(name: str, wanted: dict[str, Any]) -> None:
    model = case_model(name)
    found = recognise(model.solid)
    text = ",".join(f"{side}={mm}" for side, mm in wanted.get("allowance", {}).items())
    machine = parse_machine((CASES / "features" / wanted["machine"]).read_text(encoding="utf-8"))
    document = setups_document(model, found, machine, read_allowances(text))
    count = wanted["count"]
    assert document["count"] == count if isinstance(count, int) else document["count"] >= count["min"], document
    assert document["proven"]
    assert document["count"] == document["lower_bound"] == len(document["setups"])
    features = {f["id"]: f for f in features_document(model, found)["features"]}
    placed = [id for s in document["setups"] for id in s["features"]] + document["unreachable"]
    assert len(placed) == len(set(placed))
    assert {id for id, f in features.items() if f["kind"] in REMOVES} <= set(placed)
    lost = [features[id] for id in document["unreachable"]]
    assert {f["kind"] for f in lost} <= set(wanted["unreachable_kinds"])
    assert len(lost) == wanted.get("unreachable_count", len(lost))
    for match in wanted.get("unreachable_includes", []):
        assert any(all(f[key] == pytest.approx(value, abs=0.01) if key != "kind" else f[key] == value
                       for key, value in match.items()) for f in lost)  # fmt: skip
    if not machine.turns_work:
        for setup in document["setups"]:
            for id in setup["features"]:
                near = [d for d in setup["directions"] for a in features[id]["access"] if _dot(a, d) > 0.9999]
                assert near, (id, setup["directions"])


def _dot(a: list[float], b: list[float]) -> float:
    return sum(x * y for x, y in zip(a, b, strict=True))


def test_lathe_with_driven_tools_makes_the_cross_holes_too() -> None:
    model = case_model("spindle-bushing")
    row = json.loads((CASES / "features/lathe.json").read_text(encoding="utf-8"))
    row["rotary"] = {"about": "z", "rate": 60, "acceleration": 400, "clamp": 0.6, "unclamp": 0.4, "range": None}
    document = setups_document(model, recognise(model.solid), parse_machine(json.dumps(row)), read_allowances(""))
    assert (document["count"], document["unreachable"]) == (2, [])
    assert max(len(s["directions"]) for s in document["setups"]) >= 2


@pytest.mark.parametrize(
    ("change", "place", "words"),
    [
        ({"format": "lean-ledger/machine@2"}, "format", "this reads lean-ledger/machine@1"),
        ({"kind": "saw"}, "kind", "mill or lathe"),
        ({"travel": {"x": [10, 0], "y": [0, 1], "z": [0, 1]}}, "travel.x", "the lower one comes first"),
        ({"tilt": {"about": "y", "rate": 1, "acceleration": 1, "clamp": 0, "unclamp": 0, "range": [0, 90]}}, "tilt",
         "give the rotary too"),
        ({"mounts": []}, "mounts", "where a fixture sits"),
        ({"mounts": [{"name": "table", "at": [0, 0], "rotation": [0, 0, 0]}]}, "mounts[0].at", "3 are needed"),
        ({"tool_pockets": 2.5}, "tool_pockets", "whole number"),
        ({"spindle": {"max_rpm": 1, "start": 0, "power": 1, "torque": [[5, 1], [5, 2]]}}, "spindle.torque", "rise"),
        ({"rapid": {"x": 0, "y": 1, "z": 1}}, "rapid.x", "above 0"),
        ({"colour": "grey"}, "colour", "unknown key"),
    ],
)  # fmt: skip
def test_machine_that_breaks_its_format_is_refused_with_the_place(
    change: dict[str, Any], place: str, words: str
) -> None:
    row = json.loads((CASES / "features/mill-3axis.json").read_text(encoding="utf-8")) | change
    with pytest.raises(ProblemError, match=words) as refused:
        parse_machine(json.dumps(row))
    assert refused.value.place == place
