"""The order of a load, and a part of its program, over HTTP: what is there, and what is asked wrongly is told."""

from __future__ import annotations

import time
from itertools import pairwise
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.web.test_api import client, plan_id, write  # noqa: F401


def ended(client: FlaskClient, path: str) -> tuple[int, dict[str, Any]]:  # noqa: F811
    """What a work comes to, asked until it is done."""
    deadline = time.monotonic() + 60
    while True:
        answer = client.get(path)
        if answer.status_code != 202 or time.monotonic() > deadline:
            return answer.status_code, answer.get_json()
        time.sleep(0.1)


def test_cycle_tells_each_step_and_the_plain_orders(client: FlaskClient, plan_id: int) -> None:  # noqa: F811
    cycle = client.get(f"/api/plans/{plan_id}/order/L1").get_json()
    setup = client.get(f"/api/plans/{plan_id}").get_json()["setups"][0]
    assert [step["operation"] for step in cycle["steps"]] == [entry["id"] for entry in setup["entries"]]
    assert [one["name"] for one in cycle["orders"]] == ["now", "piece", "step", "tool"]
    assert cycle["orders"][0]["counts"]["cycle"] == pytest.approx(setup["load_cycle"])
    assert sum(step["own"] + step["way"] for step in cycle["steps"]) == pytest.approx(setup["load_cycle"], rel=0.05)


def test_wrong_load_goal_and_time_are_told(client: FlaskClient, plan_id: int) -> None:  # noqa: F811
    base = f"/api/plans/{plan_id}/order"
    missing = client.get(f"{base}/L9")
    assert missing.status_code == 422
    assert "there is no load L9" in missing.get_json()["detail"]
    wrong = client.get(f"{base}/L1/best?goal=minutes&seconds=1")
    assert wrong.status_code == 422
    assert "minutes" in wrong.get_json()["detail"]
    assert client.get(f"{base}/L1/best?seconds=100000").status_code == 422


def test_part_of_a_load_that_has_nothing_to_run_is_told(client: FlaskClient, plan_id: int) -> None:  # noqa: F811
    base = f"/api/plans/{plan_id}/program/S1/part"
    whole = client.get(base).get_json()
    assert whole["words"] == "the whole load"
    refused = client.get(f"{base}?pieces=99")
    assert refused.status_code == 422
    assert "nothing to run" in refused.get_json()["detail"]


def test_wrong_change_of_an_order_changes_nothing(client: FlaskClient, plan_id: int) -> None:  # noqa: F811
    before = client.get(f"/api/plans/{plan_id}").get_json()["edition"]
    for change in (
        {"change": "move-steps", "load": "L1", "steps": [["1", "no such"]], "to": 0},
        {"change": "lock-steps", "load": "L1", "steps": []},
        {"change": "come-before", "load": "L1", "first": "a", "then": "b"},
        {"change": "sort-steps", "load": "L1", "keys": [{"by": "colour"}]},
    ):
        assert write(client, plan_id, before, change).status_code in (400, 422)
    assert client.get(f"/api/plans/{plan_id}").get_json()["edition"] == before


def test_best_tells_how_far_it_is_and_its_runs(client: FlaskClient, plan_id: int) -> None:  # noqa: F811
    status, best = ended(client, f"/api/plans/{plan_id}/order/L1/best?seconds=2")
    assert status == 200
    runs = best["found"]["runs"]
    assert len(runs) == best["found"]["counts"]["tool"]
    for run, following in pairwise(runs):
        assert run["start"] + run["change"] + run["seconds"] == pytest.approx(following["start"])
    status, ways = ended(client, f"/api/plans/{plan_id}/order/L1/again/1/no-such")
    assert status == 422
    assert "no-such" in ways["detail"]
