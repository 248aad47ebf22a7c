"""Reading in the background: progress, choosing a solid, stopping, and what it leaves alone."""

from __future__ import annotations

import io
import time
from typing import Any

import ezdxf
import pytest
from flask.testing import FlaskClient

from lean_ledger.store import Desk
from lean_ledger.tasks import Readings
from tests.conftest import CASES, DEMO_PARTS, client_of

ENDED = ("done", "failed", "cancelled", "choose")


@pytest.fixture
def client(desk: Desk) -> FlaskClient:
    return client_of(desk)


def start(client: FlaskClient, name: str, content: bytes, what: str = "job", **form: Any) -> dict[str, Any]:
    form = {"material": "al-6082", "quantities": "10"} | form if what == "job" else form
    answer = client.post(f"/api/readings/{what}", data={"file": (io.BytesIO(content), name), **form})
    assert answer.status_code == 202, answer.json
    assert answer.json is not None
    return answer.json


def wait(client: FlaskClient, id: str, until: tuple[str, ...] = ENDED) -> dict[str, Any]:
    for _ in range(2400):  # a busy machine reads at a low priority
        found = client.get(f"/api/readings/{id}").json
        assert found is not None
        if found["state"] in until:
            return found
        time.sleep(0.05)
    raise AssertionError(found)


def demo(name: str) -> bytes:
    return (DEMO_PARTS / f"{name}.step").read_bytes()


def case(name: str) -> bytes:
    return (CASES / f"features/{name}.step").read_bytes()


def test_reading_ends_in_a_plan(client: FlaskClient) -> None:
    begun = start(client, "arm.step", demo("anemometer-arm-block"))
    assert begun["state"] in ("waiting", "reading")
    ended = wait(client, begun["id"])
    assert (ended["state"], ended["share"]) == ("done", 1.0)
    plan = client.get(f"/api/plans/{ended['plan_id']}").json
    assert plan is not None
    assert plan["form"] == "prismatic"
    assert [r["letter"] for r in plan["revisions"]] == ["A"]


def test_file_with_two_solids_asks_which_one(client: FlaskClient) -> None:
    asked = wait(client, start(client, "pair.step", case("instrument-pair"))["id"])
    assert asked["state"] == "choose"
    assert [round(s["volume"]) for s in asked["solids"]] == [28643, 11142]
    assert [s["name"] for s in asked["solids"]] == ["SOLID", "SOLID"]
    assert asked["solids"][0]["size"] == pytest.approx([60, 40, 15])
    wrong = client.post(f"/api/readings/{asked['id']}/solid", json={"solid": 2})
    assert wrong.status_code == 422
    client.post(f"/api/readings/{asked['id']}/solid", json={"solid": 1})
    ended = wait(client, asked["id"], ("done", "failed"))
    plan = client.get(f"/api/plans/{ended['plan_id']}").json
    assert plan is not None
    assert plan["form"] == "rotational"
    assert plan["axis"]["direction"] == [1.0, 0.0, 0.0]


def test_bad_file_fails_with_its_reason(client: FlaskClient) -> None:
    text = case("louvre-bracket")
    ended = wait(client, start(client, "cut.step", text[: len(text) // 2])["id"])
    assert ended["state"] == "failed"
    assert ended["error"].startswith("cut.step: ")
    assert "ends before END-ISO-10303-21" in ended["error"]
    assert client.get("/api/jobs").json["jobs"] == []


def test_stopped_reading_keeps_nothing_and_the_next_one_is_read(client: FlaskClient) -> None:
    begun = start(client, "plate.step", case("cable-gland-plate"))
    wait(client, begun["id"], ("reading",))
    client.delete(f"/api/readings/{begun['id']}")
    assert wait(client, begun["id"])["state"] == "cancelled"
    assert client.get("/api/jobs").json["jobs"] == []
    assert wait(client, start(client, "arm.step", demo("anemometer-arm-block"))["id"])["state"] == "done"


def test_other_requests_are_answered_while_a_file_is_read(client: FlaskClient) -> None:
    begun = start(client, "plate.step", case("cable-gland-plate"))
    wait(client, begun["id"], ("reading",))
    asked = time.monotonic()
    assert client.get("/api/library").status_code == 200
    assert time.monotonic() - asked < 5  # it would wait for the reading otherwise
    assert client.get(f"/api/readings/{begun['id']}").json["state"] == "reading"  # type: ignore[index]
    client.delete(f"/api/readings/{begun['id']}")


def test_stages_are_told_in_words_and_go_forward(client: FlaskClient) -> None:
    begun = start(client, "plate.step", case("cable-gland-plate"))
    seen: dict[str, float] = {}
    while True:
        now = client.get(f"/api/readings/{begun['id']}").json
        assert now is not None
        seen[now["stage"]] = now["share"]
        if now["state"] in ENDED:
            break
        time.sleep(0.01)
    assert len(seen) >= 3
    assert list(seen.values()) == sorted(seen.values())


def test_revision_is_read_for_its_job_and_compared(client: FlaskClient) -> None:
    first = wait(client, start(client, "mast.step", demo("mast-clamp-half"))["id"])
    plan = client.get(f"/api/plans/{first['plan_id']}").json
    assert plan is not None
    begun = start(client, "mast-b.step", demo("mast-clamp-half-b"), "revision", job_id=plan["job"]["id"])
    assert wait(client, begun["id"])["revision"] == "B"
    view = client.get(f"/api/plans/{first['plan_id']}/revisions/B").json
    assert view is not None
    bore = next(p for p in view["pairs"] if p["old"] == "H7")
    assert (bore["became"], bore["changes"][0]) == ("resized", {"label": "Ø", "before": 42, "after": 45, "unit": "mm"})
    assert len(view["before_faces"]) == len({f for faces in view["before_features"].values() for f in faces})
    assert set(view["after_faces"]) <= {"same", "moved", "resized", "new"}
    meshes = [client.get(f"/api/plans/{first['plan_id']}/mesh?revision={r}").json for r in "AB"]
    assert [round(m["max"][0] - m["min"][0]) for m in meshes if m] == [120, 124]
    assert client.get(f"/api/plans/{first['plan_id']}/revisions/Z").status_code == 404


def flat_drawing(width: float) -> bytes:
    made = ezdxf.new()
    made.header["$INSUNITS"] = 4
    made.modelspace().add_lwpolyline([(0, 0), (width, 0), (width, 60), (0, 60)], close=True)
    made.modelspace().add_circle((20, 30), 4)
    written = io.StringIO()
    made.write(written)
    return written.getvalue().encode()


def test_flat_part_and_its_next_revision_are_read_from_dxf(client: FlaskClient) -> None:
    first = wait(client, start(client, "bracket.dxf", flat_drawing(100), thickness="6")["id"])
    plan = client.get(f"/api/plans/{first['plan_id']}").json
    assert plan is not None
    missing = start(client, "bracket.dxf", flat_drawing(120), "revision", job_id=plan["job"]["id"])
    assert "needs a thickness" in wait(client, missing["id"])["error"]
    read = wait(
        client,
        start(client, "bracket.dxf", flat_drawing(120), "revision", job_id=plan["job"]["id"], thickness="6")["id"],
    )
    assert (read["state"], read["revision"]) == ("done", "B")


def test_measuring_over_the_wire(client: FlaskClient) -> None:
    ended = wait(client, start(client, "mast.step", demo("mast-clamp-half"))["id"])
    url = f"/api/plans/{ended['plan_id']}/measure"
    picks = [{"face": 0, "point": [0, 0, 0]}, {"face": 0, "point": [3, 4, 0]}]
    answer = client.post(url, json={"picks": picks})
    assert answer.json is not None
    assert {"label": "point to point", "value": 5.0, "unit": "mm", "line": [[0, 0, 0], [3, 4, 0]]} in answer.json[
        "readings"
    ]
    assert client.post(url, json={"picks": []}).status_code == 422
    assert client.post(url, json={"picks": [{"face": 9999, "point": [0, 0, 0]}]}).status_code == 422


def test_unknown_reading_is_not_found(client: FlaskClient) -> None:
    assert client.get("/api/readings/none").status_code == 404
    assert client.delete("/api/readings/none").status_code == 404


def test_ended_readings_are_forgotten_in_time(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    from lean_ledger.store import JobNew
    from lean_ledger.tasks import readings as module

    monkeypatch.setattr(module, "KEPT", 3)
    kept = Readings(desk)
    ids = []
    for i in range(5):
        one = kept.start(JobNew(f"{i}.step", b"", "al-6082", (1,)))
        ids.append(one.id)
        while (now := kept.get(one.id)) is not None and now.state not in ENDED:
            time.sleep(0.01)
    kept.close()
    assert [kept.get(id) is None for id in ids] == [True, True, False, False, False]
