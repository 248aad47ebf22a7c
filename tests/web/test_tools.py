"""The shop's tools over the API: in, changed, out again; every plan is computed with them at once."""

from __future__ import annotations

import json
from collections.abc import Callable
from io import BytesIO

import pytest
from flask.testing import FlaskClient

from lean_ledger.store import Desk
from tests.conftest import client_of
from tests.web.test_api import upload


@pytest.fixture
def client(desk: Desk) -> FlaskClient:
    return client_of(desk)


def bring(client: FlaskClient, text: str, what: str = "tools", name: str = "mine.csv"):  # type: ignore[no-untyped-def]
    return client.post(f"/api/shop/{what}", data={"file": (BytesIO(text.encode()), name)})


def rough_feed(client: FlaskClient, plan: int) -> float:
    entries = [e for s in client.get(f"/api/plans/{plan}").json["setups"] for e in s["entries"]]
    return float(next(e["vf"] for e in entries if e["kind"] == "face"))


def test_library_goes_out_as_files_and_comes_back(client: FlaskClient) -> None:
    for name, kind in (("tools.csv", "text/csv"), ("tools.json", "application/json")):
        answer = client.get(f"/api/shop/files/{name}")
        assert answer.content_type.startswith(kind)
        again = bring(client, answer.text, name=name)
        assert again.status_code == 200
        assert len(again.json["brought"]) == len(client.get("/api/shop/tools").json["tools"])
    cutting = client.get("/api/shop/files/cutting.csv").text
    assert "rows of cutting data" in bring(client, cutting, "cutting").json["brought"][0]
    assert client.get("/api/shop/files/else.csv").status_code == 422


def test_plans_are_computed_with_what_was_brought_in_and_without_it_again(client: FlaskClient) -> None:
    plan = int(upload(client, material="pom-c").json["plan_id"])
    before = rough_feed(client, plan)
    lines = client.get("/api/shop/files/cutting.csv").text.splitlines()
    faces = next(line for line in lines if line.startswith("face-mill,pom-c,"))
    twice = faces.replace("0.12", "0.24").replace("0.15", "0.3")
    assert bring(client, f"{lines[0]}\n{twice}\n", "cutting").status_code == 200
    assert rough_feed(client, plan) == pytest.approx(2 * before)
    shelf = client.get("/api/shop/tools").json
    assert [c["row"]["MATERIAL"] for c in shelf["cutting"] if c["own"]] == ["pom-c"]
    assert client.delete("/api/shop/own/cutting/face-mill pom-c").status_code == 200
    assert rough_feed(client, plan) == pytest.approx(before)
    refused = client.delete("/api/shop/own/tool/EA10")
    assert refused.status_code == 422
    assert "as it ships" in refused.json["detail"]


def test_one_tool_is_changed_in_place_and_kept(client: FlaskClient, make_desk: Callable[[], Desk]) -> None:
    row = next(t["row"] for t in client.get("/api/shop/tools").json["tools"] if t["row"]["ID"] == "EA10")
    changed = client.put("/api/shop/tools", json={"row": row | {"LPR": "55"}})
    assert changed.json["brought"] == ["EA10"]
    again = make_desk().library.tool("EA10")
    assert again is not None
    assert again.reach == 55
    refused = client.put("/api/shop/tools", json={"row": row | {"LPR": "155"}})
    assert refused.status_code == 422
    assert refused.json["detail"].endswith("is 155; the whole tool is 79 long (OAL). Nothing was taken")


def test_refused_file_takes_nothing(client: FlaskClient) -> None:
    text = "ID,KIND,DC,ZEFP,APMX,LPR\nN1,end_mill,7,3,20,36\nN2,end_mill,seven,3,20,36\n"
    refused = bring(client, text)
    assert refused.status_code == 422
    assert refused.json["detail"] == "mine.csv, line 3, DC: is 'seven'; a number is needed. Nothing was taken"
    assert "N1" not in {t["row"]["ID"] for t in client.get("/api/shop/tools").json["tools"]}
    binary = client.post("/api/shop/tools", data={"file": (BytesIO(b"\xff\xfe\x00"), "x.csv")})
    assert "no text in UTF-8" in binary.json["detail"]


def test_calculator_answers_and_refuses(client: FlaskClient) -> None:
    query = {"tool": "EA10", "material": "al-6082", "machine": "mill-762", "ap": 5, "ae": 2}
    answer = client.get("/api/shop/calculator", query_string=query).json
    assert answer["n"] == 8100
    assert answer["source"] == "tool maker's start values, flood coolant"
    for name in ("tool", "material", "machine"):
        refused = client.get("/api/shop/calculator", query_string=query | {name: "none"})
        assert f"no {name} 'none'" in refused.json["detail"]
    assert client.get("/api/shop/calculator", query_string=query | {"material": "steel-c45"}).status_code == 422
    assert client.get("/api/shop/calculator", query_string=query | {"ap": -1}).status_code == 422


def kinds(client: FlaskClient, plan: int) -> list[str]:
    return [e["kind"] for s in client.get(f"/api/plans/{plan}").json["setups"] for e in s["entries"]]


def test_rules_go_out_are_changed_and_put_back(client: FlaskClient) -> None:
    plan = int(upload(client).json["plan_id"])
    before = kinds(client, plan)
    file = client.get("/api/shop/files/chains.json")
    rules = file.json["rules"]
    for rule in rules:
        rule["steps"] = [step for step in rule["steps"] if step != "spot"]
    answer = bring(client, json.dumps({**file.json, "rules": rules}), "chains", "chains.json")
    assert answer.status_code == 200
    assert answer.json["own"]
    assert "spot" in before
    assert "spot" not in kinds(client, plan)
    assert client.delete("/api/shop/own/chains/rules").status_code == 200
    assert kinds(client, plan) == before


@pytest.mark.parametrize(("text", "words"), [
    ("{", "chains.json, line 1"),
    ('{"format": "lean-ledger/tools@1"}', "this reads lean-ledger/chains@1"),
    ('{"format": "lean-ledger/chains@1", "rules": [{"id": "x"}]}', "rule 1, name: every rule has one"),
])  # fmt: skip
def test_rules_that_will_not_do_are_refused_and_nothing_is_taken(client: FlaskClient, text: str, words: str) -> None:
    before = client.get("/api/shop/chains").json
    answer = bring(client, text, "chains", "chains.json")
    assert answer.status_code == 422
    assert words in answer.json["detail"]
    assert "Nothing was taken" in answer.json["detail"]
    assert client.get("/api/shop/chains").json == before


def test_rule_for_a_material_that_is_not_there_is_refused(client: FlaskClient) -> None:
    rules = client.get("/api/shop/files/chains.json").json["rules"]
    rules[0]["materials"] = ["unobtainium"]
    answer = client.put("/api/shop/chains", json={"rules": rules})
    assert answer.status_code == 422
    assert "rule 1 (reamed), materials: there is no material 'unobtainium'" in answer.json["detail"]


def hours(client: FlaskClient, plan: int) -> list[str]:
    return [s["setup_hours"] for s in client.get(f"/api/plans/{plan}").json["setups"]]


def test_tool_put_into_a_machine_is_not_set_up_again(client: FlaskClient) -> None:
    plan = int(upload(client).json["plan_id"])
    before = hours(client, plan)
    mill = next(m for m in client.get("/api/shop/tools").json["magazines"] if m["machine"] == "mill-762")
    assert (mill["pockets"], mill["places"], mill["own"]) == (20, "pockets", False)
    assert "EA10" in mill["tools"]
    assert "EA5" in mill["others"]
    assert "TR08" not in mill["others"], "an insert for a lathe"
    first = client.get(f"/api/plans/{plan}").json["setups"][0]
    to_set = [t["description"] for t in first["tools"] if t["where"] == "to set up"]
    assert first["in_machine"] == mill["tools"]
    needed = next(t["row"]["ID"] for t in client.get("/api/shop/tools").json["tools"]
                  if t["row"]["DESCRIPTION"] == to_set[0])  # fmt: skip
    answer = client.put("/api/shop/magazines/mill-762", json={"tools": [*mill["tools"], needed]})
    assert answer.status_code == 200
    assert next(m for m in answer.json["magazines"] if m["machine"] == "mill-762")["own"]
    assert float(hours(client, plan)[0]) == pytest.approx(float(before[0]) - 0.05)
    assert client.delete("/api/shop/own/magazine/mill-762").status_code == 200
    assert hours(client, plan) == before


@pytest.mark.parametrize(("machine", "tools", "reason"), [
    ("mill-762", ["EA6", "nothing"], "there is no tool 'nothing'"),
    ("mill-762", ["EA6", "EA6"], "a second time"),
    ("mill-9", [], "there is no machine 'mill-9'"),
    ("lathe-320", ["D2", "D3", "D4", "D5", "D6", "D8", "D9", "D10", "D11", "D12", "D14", "TR08", "TR04"], "12 pockets"),
])  # fmt: skip
def test_magazine_that_cannot_be_is_refused_and_all_stays(
    client: FlaskClient, machine: str, tools: list[str], reason: str
) -> None:
    before = client.get("/api/shop/tools").json["magazines"]
    answer = client.put(f"/api/shop/magazines/{machine}", json={"tools": tools})
    assert answer.status_code == 422
    assert reason in answer.json["detail"]
    assert client.get("/api/shop/tools").json["magazines"] == before
    assert client.put("/api/shop/magazines/mill-762", json={"tools": [7]}).status_code == 422


def test_tool_that_leaves_the_library_leaves_the_machine(client: FlaskClient) -> None:
    row = next(t["row"] for t in client.get("/api/shop/tools").json["tools"] if t["row"]["ID"] == "EA10")
    own = {**row, "ID": "OWN10", "NUMBER": "900"}
    assert client.put("/api/shop/tools", json={"row": own}).status_code == 200
    assert client.put("/api/shop/magazines/mill-762", json={"tools": ["EA6", "OWN10"]}).status_code == 200
    assert client.delete("/api/shop/own/tool/OWN10").status_code == 200
    mill = next(m for m in client.get("/api/shop/tools").json["magazines"] if m["machine"] == "mill-762")
    assert mill["tools"] == ["EA6"]
