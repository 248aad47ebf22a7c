"""What runs at the same time, over HTTP: a machine of one carriage, and what is asked wrongly."""

from __future__ import annotations

import pytest
from flask.testing import FlaskClient

from tests.web.test_api import client, plan_id, write  # noqa: F401
from tests.web.test_order import ended


def test_mill_has_one_carriage_and_nothing_to_balance(client: FlaskClient, plan_id: int) -> None:  # noqa: F811
    (load, *_) = client.get(f"/api/plans/{plan_id}/balance").get_json()["loads"]
    setup = client.get(f"/api/plans/{plan_id}").get_json()["setups"][0]
    assert load["at_once"] is False
    assert load["able"] == []  # no mill has two
    assert load["cycle"] == pytest.approx(setup["load_cycle"])
    assert load["one_by_one"] == load["cycle"]


@pytest.mark.parametrize("what", ["gains", "best?seconds=1"])
def test_asked_of_one_carriage_or_of_no_load_it_is_told(client: FlaskClient, plan_id: int, what: str) -> None:  # noqa: F811
    base = f"/api/plans/{plan_id}/balance"
    status, told = ended(client, f"{base}/L1/{what}")
    assert status == 422
    assert "has one carriage" in told["detail"]
    status, told = ended(client, f"{base}/L9/{what}")
    assert status == 422
    assert "there is no load L9" in told["detail"]
