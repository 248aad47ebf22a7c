"""The stock over the wire: followed on demand, its findings among the plan's own, its shape and its height."""

from __future__ import annotations

from typing import Any

import pytest
from flask.testing import FlaskClient

from lean_ledger.core.geometry.solids import block, write_step
from lean_ledger.store import Database, Desk
from lean_ledger.web.shared import works
from tests.conftest import DEMO_PARTS, MARK, client_of


@pytest.fixture
def client(desk: Desk) -> FlaskClient:
    return client_of(desk)


def job(client: FlaskClient, content: bytes, name: str) -> int:
    import io

    answer = client.post(
        "/api/jobs",
        data={"file": (io.BytesIO(content), name), "material": "al-6082", "quantities": "10", "machine": "mill-762"},
    )
    assert answer.status_code == 201, answer.json
    return int(answer.json["plan_id"])  # type: ignore[index]


def got(client: FlaskClient, path: str) -> Any:
    answer = client.get(path)
    assert answer.status_code == 200, answer.json
    return answer.json


def test_stock_is_followed_on_demand_and_told_step_by_step(client: FlaskClient) -> None:
    plan = job(client, (DEMO_PARTS / "anemometer-arm-block.step").read_bytes(), "arm.step")
    before = got(client, f"/api/plans/{plan}")
    assert not before["stock_followed"]
    stock = got(client, f"/api/plans/{plan}/stock")
    assert got(client, f"/api/plans/{plan}")["stock_followed"]
    size = before["stock"]
    assert stock["start"] == pytest.approx(size[0] * size[1] * size[2])
    assert stock["kg"] == pytest.approx(stock["start"] * 2.7 / 1e6, rel=0.01)
    order = [e["id"] for s in before["setups"] for e in s["entries"]]
    assert [step["operation"] for step in stock["steps"]] == order
    assert stock["steps"][-1]["volume"] == pytest.approx(before["part_volume"], rel=0.002)
    solid = got(client, f"/api/plans/{plan}/stock/0")
    assert len(solid["triangles"]) == 36
    point = {"point": [before["stock"][0] / 2, 5, 0], "along": [0, 0, 1]}
    answer = client.post(f"/api/plans/{plan}/stock/0/height", json=point)
    assert answer.json == {"height": pytest.approx(size[2])}
    assert client.get(f"/api/plans/{plan}/stock/-1").status_code == 404
    assert client.get("/api/plans/999/stock").status_code == 404


def test_what_stays_in_sharp_corners_is_said_until_it_may(client: FlaskClient, tmp_path: Any) -> None:
    path = tmp_path / "tray.step"
    write_step(block((0, 0, 0), (80, 60, 25)) - block((20, 15, 15), (60, 45, 25)), path, "tray")
    plan = job(client, path.read_bytes(), "tray.step")
    assert "stock-left" not in {f["code"] for f in got(client, f"/api/plans/{plan}")["findings"]}
    stock = got(client, f"/api/plans/{plan}/stock")
    assert {r["feature"] for r in stock["remainders"]} == {"P1"}
    assert len(stock["remainders"][0]["amounts"]) == len(stock["remainders"][0]["triangles"]) // 3
    shown = got(client, f"/api/plans/{plan}")
    (finding,) = [f for f in shown["findings"] if f["code"] == "stock-left"]
    assert (finding["severity"], shown["strip"]["errors"]) == ("warning", 0)
    headers = {"If-Match": f'"{shown["edition"]}"'}
    answer = client.post(f"/api/plans/{plan}/changes", json=finding["cures"][0]["change"], headers=headers)
    assert answer.status_code == 200, answer.json
    got(client, f"/api/plans/{plan}/stock")
    after = got(client, f"/api/plans/{plan}")
    assert after["stock_followed"]
    assert "stock-left" not in {f["code"] for f in after["findings"]}
    # the journal's effect is of the decision, not of when the stock was looked at
    assert after["now"]["effect"]["cycle"] == 0


def test_division_is_told_with_what_was_asked_of_it(client: FlaskClient) -> None:
    plan = job(client, (DEMO_PARTS / "sensor-base-plate.step").read_bytes(), "plate.step")
    found = got(client, f"/api/plans/{plan}/division")
    assert found == {
        "least": 2, "proven": True, "sides": ["Z+ up", "Z- up"], "clashes": [], "together": [], "before": [],
        "lost": [],
    }  # fmt: skip


def test_papers_wait_for_the_stock_a_while_and_tell_the_work_then(
    client: FlaskClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    plan = job(client, (DEMO_PARTS / "anemometer-arm-block.step").read_bytes(), "arm.step")
    monkeypatch.setattr(works, "FILE_PATIENCE", 0.0)
    marked = {"headers": MARK}
    for ask, path in (("get", "papers/tools.csv"), ("get", "program/package"), ("post", "program/send")):
        first = FlaskClient.open(client, f"/api/plans/{plan}/{path}", method=ask.upper(), **marked)
        if path == "papers/tools.csv":
            assert first.status_code == 202
            assert first.json["title"] == "Following the stock"  # type: ignore[index]
        answer = getattr(client, ask)(f"/api/plans/{plan}/{path}")
        assert answer.status_code == 200, path
    assert client.get(f"/api/plans/{plan}").json["stock_followed"]  # type: ignore[index]


def test_stock_that_was_followed_before_a_start_is_answered_at_once(client: FlaskClient, desk: Desk) -> None:
    plan = job(client, (DEMO_PARTS / "anemometer-arm-block.step").read_bytes(), "arm.step")
    before = got(client, f"/api/plans/{plan}/stock")
    again = Desk(Database(desk.path), desk.library, desk.files._kernel)
    after = FlaskClient.open(client_of(again), f"/api/plans/{plan}/stock")
    assert after.status_code == 200, "no work that stands in line"
    assert after.json == before
    again.stocks.close()
