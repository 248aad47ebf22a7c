"""Programs over the API: the ledger's seconds, files that are what the screen shows, the stand-in's answer."""

from __future__ import annotations

from collections.abc import Callable
from io import BytesIO
from zipfile import ZipFile

import pytest
from flask.testing import FlaskClient

from lean_ledger.store import Desk
from tests.conftest import client_of
from tests.web.test_api import client, plan_id, write  # noqa: F401


@pytest.fixture
def programs(client: FlaskClient, plan_id: int) -> list[dict]:  # type: ignore[type-arg]  # noqa: F811
    return list(client.get(f"/api/plans/{plan_id}/program").json["setups"])


def test_machine_takes_what_the_ledger_says(desk: Desk, plan_id: int, programs: list[dict]) -> None:  # type: ignore[type-arg]  # noqa: F811
    ledger = desk.open(plan_id).ledger
    assert [p["setup"] for p in programs] == [s.decision.id for s in ledger.loads]
    for shown, setup in zip(programs, ledger.loads, strict=True):
        assert shown["total"] == pytest.approx(setup.cycle, rel=2e-3)
        assert abs(shown["difference"]) < 2e-3
        assert shown["troubles"] == []
        assert shown["cycle"]["machine"] == pytest.approx(sum(c["machine"] for c in shown["seconds"]))


def test_what_the_machine_did_is_without_gaps(programs: list[dict]) -> None:  # type: ignore[type-arg]
    ran = programs[0]["ran"]
    for start, seconds, then in zip(ran["start"], ran["seconds"], ran["start"][1:], strict=False):
        assert start + seconds == pytest.approx(then, abs=2e-4)
    assert ran["start"][-1] + ran["seconds"][-1] == pytest.approx(programs[0]["total"], abs=1e-3)
    lines = programs[0]["text"].split("\n")
    for call in programs[0]["calls"]:
        assert lines[call["line"] - 1].startswith(f"O{call['number']} ")


def test_files_are_what_is_shown(client: FlaskClient, plan_id: int, programs: list[dict]) -> None:  # type: ignore[type-arg]  # noqa: F811
    text = client.get(f"/api/plans/{plan_id}/program/S1/text")
    assert text.data.decode() == programs[0]["text"]
    assert programs[0]["file"] in text.headers["Content-Disposition"]
    package = client.get(f"/api/plans/{plan_id}/program/package")
    assert package.mimetype == "application/zip"
    with ZipFile(BytesIO(package.data)) as zipped:
        assert zipped.read(f"S1-{programs[0]['file']}").decode() == programs[0]["text"]


def test_one_file_for_a_machine_is_what_the_package_holds(client: FlaskClient, plan_id: int) -> None:  # noqa: F811
    assert write(client, plan_id, 1, {"change": "set-issue", "by": "machine"}).status_code == 200
    view = client.get(f"/api/plans/{plan_id}/program").json
    (joined,) = view["joined"]
    assert (view["issued_by"], joined["machine"], joined["refused"]) == ("machine", "mill-762", "")
    assert joined["total"] == pytest.approx(sum(p["total"] for p in view["setups"]), rel=0.01)
    text = client.get(f"/api/plans/{plan_id}/program/machine/mill-762/text")
    assert text.data.decode().startswith("%\nO0001 (SETUPS ")
    with ZipFile(BytesIO(client.get(f"/api/plans/{plan_id}/program/package").data)) as zipped:
        assert zipped.read(f"{'-'.join(joined['setups'])}-O0001.nc") == text.data
    refused = client.get(f"/api/plans/{plan_id}/program/machine/lathe-320/text")
    assert refused.status_code == 422
    assert "does not make more than one setup" in refused.json["detail"]
    assert write(client, plan_id, 2, {"change": "set-issue", "by": "moon"}).status_code == 422


def test_a_change_is_in_the_next_program(client: FlaskClient, plan_id: int, programs: list[dict]) -> None:  # type: ignore[type-arg]  # noqa: F811
    entry = programs[0]["calls"][0]
    change = {"change": "edit-operation", "operation": entry["operation"], "vf": 123}
    assert write(client, plan_id, 1, change).status_code == 200
    again = client.get(f"/api/plans/{plan_id}/program").json["setups"][0]
    assert "F123." in again["text"]
    assert "F123." not in programs[0]["text"]
    assert again["total"] > programs[0]["total"]


def test_sent_package_comes_back_with_run_times(client: FlaskClient, plan_id: int, programs: list[dict]) -> None:  # type: ignore[type-arg]  # noqa: F811
    runs = client.post(f"/api/plans/{plan_id}/program/send").json["runs"]
    assert [r["setup"] for r in runs] == [p["setup"] for p in programs]
    assert all(0 <= r["over"] < 0.15 for r in runs)


def test_setup_that_is_not_there_is_said(client: FlaskClient, plan_id: int) -> None:  # noqa: F811
    answer = client.get(f"/api/plans/{plan_id}/program/S9/text")
    assert answer.status_code in (404, 422)
    assert "S9" in answer.json["detail"]


def test_program_from_elsewhere_is_kept_and_comes_back_after_a_restart(
    client: FlaskClient,  # noqa: F811
    desk: Desk,
    plan_id: int,  # noqa: F811
    make_desk: Callable[[], Desk],
) -> None:
    def attach(text: bytes, edition: int = 1):  # type: ignore[no-untyped-def]
        form = {"file": (BytesIO(text), "proven.nc"), "operation": ""}
        return client.post(f"/api/plans/{plan_id}/program/S1/attached", data=form, headers={"If-Match": f'"{edition}"'})

    refused = attach(b"G21\nG1 X10\nM30\n")
    assert refused.status_code == 422
    assert refused.json["detail"].startswith("proven.nc, line 2: a feed move before any feed")
    assert desk.open(plan_id).edition == 1, "nothing was changed"
    answer = attach(b"G21 G90\nG1 X100 F600\nM30\n")
    assert answer.status_code == 200
    (attached,) = answer.json["setups"][0]["attached"]
    assert (attached["file"], attached["lines"]) == ("proven.nc", 3)
    assert attached["seconds"] == pytest.approx(10.0033, abs=1e-3)
    assert answer.json["now"]["words"] == "setup S1: timed by proven.nc"
    assert attach(b"G21\nM30\n", edition=1).status_code == 409
    again = make_desk()
    assert again.open(plan_id).ledger.loads[0].cycle == pytest.approx(10.0033, abs=1e-3)
    assert client.post(f"/api/plans/{plan_id}/undo", headers={"If-Match": '"2"'}).json["setups"][0]["attached"] == []


@pytest.mark.parametrize(("setup", "which", "status", "words"), [
    ("S9", "own", 404, "no setup S9"),
    ("S1", "attached", 422, "no program from elsewhere"),
])  # fmt: skip
def test_trial_of_a_program_that_is_not_there_says_so(
    desk: Desk, plan_id: int, setup: str, which: str, status: int, words: str  # noqa: F811
) -> None:  # fmt: skip
    answer = client_of(desk).get(f"/api/plans/{plan_id}/program/{setup}/trial/{which}")
    assert answer.status_code == status
    assert words in answer.json["detail"]
