"""Holding and stock over HTTP: grips with reasons, fixtures, indexed setups, and a casting's own model."""

from __future__ import annotations

import json
from io import BytesIO
from pathlib import Path
from typing import Any

import pytest
import sqlalchemy as sa
from alembic import command
from flask.testing import FlaskClient

from lean_ledger.store import Database, Desk
from lean_ledger.store.database import migration_config
from tests.conftest import CASES, DEMO_PARTS, client_of


@pytest.fixture
def client(desk: Desk) -> FlaskClient:
    return client_of(desk)


def job(client: FlaskClient, part: str) -> int:
    data = {"file": (BytesIO((DEMO_PARTS / f"{part}.step").read_bytes()), f"{part}.step"), "quantities": "10"}
    answer = client.post("/api/jobs", data={**data, "material": "al-6082", "machine": "mill-762"})
    assert answer.status_code == 201, answer.json
    return int(answer.json["plan_id"])


def write(client: FlaskClient, plan: int, edition: int, change: dict[str, Any]) -> Any:
    answer = client.post(f"/api/plans/{plan}/changes", json=change, headers={"If-Match": f'"{edition}"'})
    assert answer.status_code == 200, answer.json
    return answer.json


def test_grips_come_with_their_reasons_and_can_be_taken(client: FlaskClient) -> None:
    plan = job(client, "shield-cap")
    grips = client.get(f"/api/plans/{plan}/setups/S2/grips").json["grips"]
    assert grips[0]["holds"]
    assert all(g["reasons"] for g in grips if not g["holds"])
    assert [g["fixture"] for g in grips if g["current"]] == ["vise-125-soft"]
    other = next(g for g in grips if g["holds"] and not g["current"])
    change = {"change": "set-hold", "setup": "S2", "fixture": other["fixture"], "turn": other["turn"]}
    hold = write(client, plan, 1, change)["setups"][1]["hold"]
    assert (hold["fixture"], hold["decided"]) == (other["fixture"], other["fixture"])
    assert client.get(f"/api/plans/{plan}/setups/S9/grips").status_code in (404, 422)


def test_indexed_setup_shows_its_ways_and_its_axis(client: FlaskClient) -> None:
    plan = job(client, "sonde-carrier")
    for edition, change in enumerate(
        (
            {"change": "move-to-machine", "machine": "mill-762-rotary"},
            {"change": "set-allowance", "side": "X-", "value": 30.0},
            {"change": "divide-again"},
        ),
        1,
    ):
        found = write(client, plan, edition, change)
    first = found["setups"][0]
    assert first["hold"]["free"] == "X+"
    assert [(w["side"], w["angle"]) for w in first["hold"]["ways"]] == [("Z+", 0), ("Y+", 90), ("Z-", 180), ("Y-", 270)]
    assert first["zero"]["of"] == "axis"
    assert first["hold"]["axes"][2] == "−X", "the free end looks along the machine's −X"
    assert {s["category"] for s in first["seconds"]} >= {"index"}
    sheet = client.get(f"/api/plans/{plan}/papers/setup-sheet.pdf")
    assert sheet.status_code == 200


def test_casting_is_brought_in_measured_and_moved(client: FlaskClient) -> None:
    plan = job(client, "gauge-base")
    path, casting = f"/api/plans/{plan}/stock-model", (DEMO_PARTS / "gauge-base-casting.step").read_bytes()

    def bring(content: bytes, name: str, edition: int) -> Any:
        return client.post(path, data={"file": (BytesIO(content), name)}, headers={"If-Match": f'"{edition}"'})

    answer = bring(casting, "casting.step", 1)
    assert answer.status_code == 200, answer.json
    choice = answer.json["stock_choice"]
    assert choice["form"] == "near-net"
    over = {one["title"]: one["over"] for one in choice["over"]}
    assert over["face Z+"] == pytest.approx(2.5)
    assert over["blind hole"] is None
    assert answer.json["now"]["words"] == "stock: near-net, by its own model"
    # all but the rim, the underside and the holes stay as they are cast
    assert sum(f["needs_machining"] for f in answer.json["features"]) == len(choice["over"])
    moved = write(client, plan, 2, {"change": "shift-stock-model", "axis": "Z", "value": 1.0})
    assert {o["title"]: o["over"] for o in moved["stock_choice"]["over"]}["face Z+"] == pytest.approx(3.5)
    bad = bring((CASES / "bad/truncated.step").read_bytes(), "bad.step", 3)
    assert bad.status_code == 422
    assert client.get(f"/api/plans/{plan}").json["edition"] == 3, "what could not be read changed nothing"
    assert bring(casting, "casting.step", 1).status_code == 409


def test_casting_is_there_again_after_a_restart(make_desk: Any) -> None:
    first = client_of(make_desk())
    plan = job(first, "gauge-base")
    casting = (DEMO_PARTS / "gauge-base-casting.step").read_bytes()
    before = first.post(
        f"/api/plans/{plan}/stock-model", data={"file": (BytesIO(casting), "casting.step")}, headers={"If-Match": '"1"'}
    ).json
    after = client_of(make_desk()).get(f"/api/plans/{plan}").json
    assert after["stock_choice"] == before["stock_choice"]
    assert after["strip"]["each"] == before["strip"]["each"]


def test_plan_written_when_only_vises_held_is_read_again(tmp_path: Path, library: Any, kernel: Any) -> None:
    path = tmp_path / "old.sqlite"
    desk = Desk(Database(path), library, kernel)
    client = client_of(desk)
    plan = job(client, "anemometer-arm-block")
    write(client, plan, 1, {"change": "set-fixture", "setup": "S1", "fixture": "vise-160"})
    desk.stocks.close()
    with sa.create_engine(f"sqlite:///{path}").connect() as connection:
        command.downgrade(migration_config(connection), "0002")
        connection.commit()
        rows = connection.execute(sa.text("SELECT decisions FROM version ORDER BY seq")).all()
    old = [json.loads(row[0]) for row in rows]
    assert old[-1]["setups"][0]["vise"] == "vise-160"
    assert "fixture" not in old[-1]["setups"][0]
    again = Desk(Database(path), library, kernel)
    assert again.open(plan).plan.setups[0].fixture == "vise-160"
    again.stocks.close()


def test_pieces_of_a_load_are_told_with_what_more_of_them_would_cost(client: FlaskClient) -> None:
    plan = job(client, "cable-saddle")
    write(client, plan, 1, {"change": "set-arrangement", "load": "L1", "columns": 3})
    load = client.get(f"/api/plans/{plan}/layout").json["loads"][0]
    assert [piece["offset"] for piece in load["pieces"]] == ["G54", "G55", "G56"]
    assert load["pieces"][2]["zero"][0] - load["pieces"][0]["zero"][0] == pytest.approx(2 * load["pitch"][0])
    assert load["least"][0]["most"] >= 3
    view = client.get(f"/api/plans/{plan}").json
    assert view["setups"][0]["pieces"] == 3
    assert view["setups"][0]["load_cycle"] == pytest.approx(3 * view["setups"][0]["cycle"])
    counts = client.get(f"/api/plans/{plan}/layout/L1/counts").json
    now = next(point for point in counts["points"] if point["pieces"] == 3)
    assert now["cutting"] + now["between"] == pytest.approx(view["setups"][0]["cycle"])
    assert len(now["each"]) == len(counts["quantities"])


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"change": "set-arrangement", "load": "L9", "columns": 2}, "there is no load L9"),
        ({"change": "set-arrangement", "load": "L1", "columns": 1000}, "columns is 1000"),
        ({"change": "set-arrangement", "load": "L1", "gap": [["Z", 2]]}, "gap"),
        ({"change": "set-offsets", "load": "L1", "first": "G99"}, "no offset 'G99'"),
        ({"change": "set-offsets", "load": "L1", "named": [["7", "G55"]]}, "no piece '7'"),
        ({"change": "skip-pieces", "load": "L1", "pieces": ["1"]}, "one piece at least"),
    ],
)
def test_what_no_load_can_be_is_refused_with_its_reason(
    client: FlaskClient, change: dict[str, Any], words: str
) -> None:
    plan = job(client, "cable-saddle")
    answer = client.post(f"/api/plans/{plan}/changes", json=change, headers={"If-Match": '"1"'})
    assert answer.status_code == 422
    assert words in answer.json["detail"]


def test_counts_of_a_load_that_there_is_not(client: FlaskClient) -> None:
    plan = job(client, "cable-saddle")
    assert client.get(f"/api/plans/{plan}/layout/L9/counts").status_code in (404, 422)
