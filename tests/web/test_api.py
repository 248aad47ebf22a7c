"""The API: the same numbers as the core's, problem documents for what goes wrong, and its own description."""

from __future__ import annotations

import json
from io import BytesIO
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient
from pypdf import PdfReader

from lean_ledger.core.geometry.solids import block, write_step
from lean_ledger.core.papers.sheet import clock
from lean_ledger.store import Desk, RevisionNew, Upload
from lean_ledger.web.app import openapi_document
from tests.conftest import CASES, DEMO_PARTS, client_of

JSON = "application/json"
PROBLEM = "application/problem+json"


@pytest.fixture
def client(desk: Desk) -> FlaskClient:
    return client_of(desk)


def upload(client: FlaskClient, name: str = "anemometer-arm-block.step", content: bytes | None = None, **form: str):  # type: ignore[no-untyped-def]
    data = content if content is not None else (DEMO_PARTS / name).read_bytes()
    return client.post(
        "/api/jobs", data={"file": (BytesIO(data), name), "quantities": "10, 50", "machine": "mill-762", **form}
    )


@pytest.fixture
def plan_id(client: FlaskClient) -> int:
    answer = upload(client, material="pom-c", customer="Nordlys")
    assert answer.status_code == 201
    return int(answer.json["plan_id"])


def write(client: FlaskClient, plan_id: int, edition: int, change: dict[str, Any]):  # type: ignore[no-untyped-def]
    return client.post(f"/api/plans/{plan_id}/changes", json=change, headers={"If-Match": f'"{edition}"'})


def test_upload_makes_a_job_with_a_plan(client: FlaskClient, plan_id: int) -> None:
    (row,) = client.get("/api/jobs").json["jobs"]
    assert row["plan_id"] == plan_id
    assert row["job"]["customer"] == "Nordlys"
    assert row["quantities"] == [10, 50]
    picture = client.get(row["picture"])
    assert picture.mimetype == "image/svg+xml"
    assert "<path" in picture.text
    assert row["cycle"] > 0


def test_plan_shows_what_the_core_computed(client: FlaskClient, desk: Desk, plan_id: int) -> None:
    answer = client.get(f"/api/plans/{plan_id}")
    plan, ledger = answer.json, desk.open(plan_id).ledger
    assert answer.headers["ETag"].startswith('"1-')
    assert plan["strip"]["cycle"] == ledger.cycle
    assert plan["strip"]["each"] == str(ledger.prices[0].each)
    assert sum(s["seconds"] for s in plan["strip"]["seconds"]) == pytest.approx(ledger.per_piece)
    assert [e["id"] for s in plan["setups"] for e in s["entries"]] == [op.id for op in ledger.operations]
    assert plan["price"]["quantities"][1]["each"] == str(ledger.prices[1].each)
    assert plan["features"][0]["faces"]
    by_id = {f["id"]: f for f in plan["features"]}
    assert by_id["H1"]["movable_to"] == ["S2"], "a through hole is reached from the other side, too"
    assert by_id["F1"]["movable_to"] == []
    kinds = [e["tool_kinds"] for s in plan["setups"] for e in s["entries"] if e["kind"] == "face"]
    assert kinds[0] == ["face_mill", "end_mill"]
    for setup in plan["setups"]:
        cutting = next(s["seconds"] for s in setup["seconds"] if s["category"] == "cutting")
        assert 60 * sum(t["minutes"] for t in setup["tools"]) == pytest.approx(cutting)


def test_strip_pdf_csv_and_api_say_the_same(client: FlaskClient, plan_id: int) -> None:
    plan = write(client, plan_id, 1, {"change": "set-thread", "diameter": 3.3, "thread": "M4"}).json
    pdf = client.get(f"/api/plans/{plan_id}/papers/setup-sheet.pdf")
    assert pdf.mimetype == "application/pdf"
    text = "".join(page.extract_text() for page in PdfReader(BytesIO(pdf.data)).pages)
    assert f"cycle {clock(plan['strip']['cycle'])}" in text
    assert f"plan version {plan['version']}" in text
    rows = client.get(f"/api/plans/{plan_id}/papers/operations.csv").data.decode("utf-8-sig").splitlines()
    assert len(rows) - 1 == sum(len(s["entries"]) for s in plan["setups"])
    tapped = next(e for s in plan["setups"] for e in s["entries"] if e["kind"] == "tap")
    assert any(f"{tapped['total']:.2f}".rstrip("0") in row for row in rows)
    for paper in ("operations.xlsx", "tools.csv", "tools.xlsx"):
        answer = client.get(f"/api/plans/{plan_id}/papers/{paper}")
        assert answer.status_code == 200
        assert "attachment" in answer.headers["Content-Disposition"]


def test_change_undo_redo_and_journal(client: FlaskClient, plan_id: int) -> None:
    changed = write(client, plan_id, 1, {"change": "set-rate", "name": "margin", "value": "0.4"})
    assert changed.status_code == 200
    assert changed.headers["ETag"].startswith('"2-')
    assert changed.json["strip"]["last"]["words"] == "margin 0.4"
    assert float(changed.json["strip"]["last"]["each"]) > 0
    undone = client.post(f"/api/plans/{plan_id}/undo", headers={"If-Match": '"2"'}).json
    assert undone["can_redo"]
    assert [line["ahead"] for line in client.get(f"/api/plans/{plan_id}/journal").json["lines"]] == [False, True]
    redone = client.post(f"/api/plans/{plan_id}/redo", headers={"If-Match": '"3"'}).json
    assert redone["strip"]["each"] == changed.json["strip"]["each"]
    back = client.post(f"/api/plans/{plan_id}/version", json={"seq": 1}, headers={"If-Match": '"4"'}).json
    assert back["version"] == 1


def test_author_is_signed(client: FlaskClient, plan_id: int) -> None:
    client.post(
        f"/api/plans/{plan_id}/changes",
        json={"change": "set-buy", "buy": "bar"},
        headers={"If-Match": '"1"', "Lean-Ledger-Author": "Imke%20S%C3%B8rby"},
    )
    assert client.get(f"/api/plans/{plan_id}").json["now"]["author"] == "Imke Sørby"


def test_stale_write_gets_409_with_both_sides(client: FlaskClient, plan_id: int) -> None:
    write(client, plan_id, 1, {"change": "set-allowance", "side": "Z+", "value": 3})
    answer = write(client, plan_id, 1, {"change": "set-buy", "buy": "bar"})
    assert answer.status_code == 409
    assert answer.json["plan"]["edition"] == 2
    assert [line["words"] for line in answer.json["since"]] == ["allowance Z+ 3"]
    assert client.get(f"/api/plans/{plan_id}").json["price"]["buy"] == "blank"


@pytest.mark.parametrize(
    ("file", "status", "code"),
    [
        ("empty.step", 422, "file-empty"),
        ("truncated.step", 422, "file-truncated"),
        ("letter.step", 422, "file-not-step"),
        ("blob.step", 422, "file-not-step"),
        ("wireframe.step", 422, "file-no-solid"),
        ("shell-only.step", 422, "file-no-solid"),
    ],
)
def test_bad_file_is_refused_with_a_problem(client: FlaskClient, file: str, status: int, code: str) -> None:
    answer = upload(client, file, (CASES / "bad" / file).read_bytes())
    assert (answer.status_code, answer.mimetype) == (status, PROBLEM)
    assert answer.json["type"] == f"lean-ledger:{code}"
    assert file in answer.json["detail"]
    assert client.get("/api/jobs").json["jobs"] == []


def test_file_of_200_mb_is_refused_unread(client: FlaskClient) -> None:
    answer = upload(client, "huge.step", b"ISO-10303-21;" + b" " * (200 * 1024 * 1024))
    assert answer.status_code == 413
    assert "100 MB" in answer.json["detail"]


def test_other_ending_is_refused(client: FlaskClient) -> None:
    answer = upload(client, "part.stl", b"solid")
    assert answer.status_code == 422
    assert "only .step, .stp and .dxf" in answer.json["detail"]


@pytest.mark.parametrize(
    ("form", "words"),
    [
        ({"quantities": "ten"}, "“ten” is no quantity"),
        ({"quantities": "10, 0"}, "“0” is no quantity"),
        ({"quantities": " "}, "at least one quantity"),
        ({"due": "soon"}, "“soon” is no date"),
        ({"material": "cheese"}, "no material 'cheese'"),
        ({"solid": "3"}, "there is no solid 3"),
        ({"number": "x" * 80}, "number"),
    ],
)
def test_bad_form_is_refused_in_words(client: FlaskClient, form: dict[str, str], words: str) -> None:
    answer = upload(client, **form)
    assert (answer.status_code, answer.mimetype) == (422, PROBLEM)
    assert words in answer.json["detail"]


def test_upload_without_a_file_is_refused(client: FlaskClient) -> None:
    assert client.post("/api/jobs", data={"quantities": "10"}).status_code == 422


@pytest.mark.parametrize(
    ("change", "status", "words"),
    [
        ({"change": "set-thread", "diameter": 3.3, "thread": "M12"}, 422, "cannot carry M12"),
        ({"change": "set-grip", "setup": "S9", "grip": 5}, 404, "no setup S9"),
        ({"change": "fly"}, 422, "fly"),
        ({}, 422, "change"),
    ],
)
def test_bad_change_is_refused_in_words(
    client: FlaskClient, plan_id: int, change: dict[str, Any], status: int, words: str
) -> None:
    answer = write(client, plan_id, 1, change)
    assert (answer.status_code, answer.mimetype) == (status, PROBLEM)
    assert words in answer.json["detail"]


@pytest.mark.parametrize("header", [{}, {"If-Match": '"abc"'}])
def test_write_without_an_edition_is_refused(client: FlaskClient, plan_id: int, header: dict[str, str]) -> None:
    answer = client.post(f"/api/plans/{plan_id}/undo", headers=header)
    assert answer.status_code == 422
    assert "If-Match" in answer.json["detail"]


@pytest.mark.parametrize(
    "path", ["/api/plans/99", "/api/plans/99/mesh", "/api/plans/99/papers/tools.csv", "/api/nothing"]
)
def test_what_is_not_there_is_404_with_a_problem(client: FlaskClient, path: str) -> None:
    answer = client.get(path)
    assert (answer.status_code, answer.mimetype) == (404, PROBLEM)


def test_unknown_paper_is_refused(client: FlaskClient, plan_id: int) -> None:
    assert client.get(f"/api/plans/{plan_id}/papers/invoice.doc").status_code == 422


def test_a_bug_is_logged_and_shows_no_traceback(client: FlaskClient, plan_id: int, monkeypatch: Any) -> None:
    def broken(*_: Any) -> None:
        raise RuntimeError("inner secret")

    monkeypatch.setattr(Desk, "open", broken)
    answer = client.get(f"/api/plans/{plan_id}")
    assert (answer.status_code, answer.mimetype) == (500, PROBLEM)
    assert "secret" not in answer.get_data(as_text=True)


def test_mesh_and_drawings(client: FlaskClient, plan_id: int) -> None:
    mesh = client.get(f"/api/plans/{plan_id}/mesh").json
    assert len(mesh["triangles"]) == 3 * len(mesh["faces"])
    assert max(mesh["triangles"]) < len(mesh["vertices"]) / 3
    assert mesh["max"] == [44, 26, 12]
    for view in ("top", "end", "iso"):
        drawing = client.get(f"/api/plans/{plan_id}/setups/S1/drawing?view={view}").json
        assert drawing["visible"]
    assert client.get(f"/api/plans/{plan_id}/setups/S9/drawing").status_code == 404


def test_library_offers_what_screens_choose_from(client: FlaskClient) -> None:
    library = client.get("/api/library").json
    assert {"machines", "fixtures", "materials", "threads", "tools", "statuses"} <= set(library)
    assert any(t["name"] == "1/4-28 UNF" for t in library["threads"])


def test_job_can_be_edited(client: FlaskClient, plan_id: int) -> None:
    job = client.get("/api/jobs").json["jobs"][0]["job"]["id"]
    assert client.patch(f"/api/jobs/{job}", json={"due": "2027-02-01", "status": "ordered"}).status_code == 204
    assert client.get("/api/jobs").json["jobs"][0]["job"]["due"] == "2027-02-01"
    assert client.patch(f"/api/jobs/{job}", json={"due": None}).status_code == 204
    assert client.get("/api/jobs").json["jobs"][0]["job"]["due"] is None
    assert client.patch(f"/api/jobs/{job}", json={"status": "lost"}).status_code == 422
    assert client.patch(f"/api/jobs/{job}", json={"name": None}).status_code == 422
    assert client.patch("/api/jobs/77", json={"status": "done"}).status_code == 404


def test_pages_come_with_safe_headers(client: FlaskClient) -> None:
    answer = client.get("/plans/1/part")
    assert answer.status_code in (200, 503), "the page itself where it is built"
    assert "default-src 'self'" in answer.headers["Content-Security-Policy"]
    assert answer.headers["X-Content-Type-Options"] == "nosniff"


def test_openapi_document_in_docs_is_what_the_application_serves(client: FlaskClient) -> None:
    kept = (Path(__file__).parents[2] / "docs/openapi.json").read_text(encoding="utf-8")
    assert kept == openapi_document(), "run “make api”"
    assert json.loads(kept)["paths"].keys() == client.get("/openapi.json").json["paths"].keys()


def test_plan_that_has_not_changed_is_not_made_again(
    client: FlaskClient, desk: Desk, plan_id: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = client.get(f"/api/plans/{plan_id}")
    monkeypatch.setattr(desk, "open", None)  # whoever evaluates or serialises fails
    tag = {"If-None-Match": first.headers["ETag"]}
    again = client.get(f"/api/plans/{plan_id}", headers=tag)
    assert (again.status_code, again.data, again.headers["ETag"]) == (304, b"", first.headers["ETag"])
    assert client.get(f"/api/plans/{plan_id}").data == first.data, "who has nothing yet gets what was made before"


@pytest.mark.parametrize("what", ["change", "words", "revision", "library", "stock"])
def test_etag_is_another_after_whatever_is_shown_differently(client: FlaskClient, desk: Desk, what: str) -> None:
    plan_id = int(upload(client, "mast-clamp-half.step").json["plan_id"])
    first = client.get(f"/api/plans/{plan_id}")
    if what == "change":
        write(client, plan_id, 1, {"change": "set-rate", "name": "margin", "value": "0.4"})
    elif what == "words":
        client.patch(f"/api/jobs/{first.json['job']['id']}", json={"due": "2027-03-01"})
    elif what == "revision":
        newer = Upload("b.step", (DEMO_PARTS / "mast-clamp-half-b.step").read_bytes())
        desk.add_revision(RevisionNew(first.json["job"]["id"], newer))
    elif what == "library":
        desk.take_magazine("mill-762", ["EA6"], "a")
    else:
        assert client.get(f"/api/plans/{plan_id}/stock").status_code == 200
    second = client.get(f"/api/plans/{plan_id}", headers={"If-None-Match": first.headers["ETag"]})
    assert second.status_code == 200
    assert second.headers["ETag"] != first.headers["ETag"]
    assert second.data != first.data


def test_journal_has_its_own_address_in_pages_and_an_answer_does_not_grow(client: FlaskClient, plan_id: int) -> None:
    before = len(client.get(f"/api/plans/{plan_id}").data)
    for k in range(25):
        write(client, plan_id, 1 + k, {"change": "set-allowance", "side": "Z+", "value": 2 + k / 100})
    assert len(client.get(f"/api/plans/{plan_id}").data) < before * 1.02
    last = client.get(f"/api/plans/{plan_id}/journal?count=10").json
    assert [line["seq"] for line in last["lines"]] == list(range(17, 27))
    assert (last["current"], last["edition"], last["earlier"]) == (26, 26, True)
    rest = client.get(f"/api/plans/{plan_id}/journal?count=50&before=17").json
    assert [line["seq"] for line in rest["lines"]] == list(range(1, 17))
    assert not rest["earlier"]
    client.post(f"/api/plans/{plan_id}/version", json={"seq": 20}, headers={"If-Match": '"26"'})
    gone = client.get(f"/api/plans/{plan_id}/journal?count=10").json
    assert [line["ahead"] for line in gone["lines"]] == [False] * 4 + [True] * 6


def test_file_of_several_solids_is_refused_until_one_is_named(client: FlaskClient) -> None:
    content = (CASES / "features/instrument-pair.step").read_bytes()
    refused = upload(client, "pair.step", content)
    assert (refused.status_code, refused.json["type"]) == (422, "lean-ledger:file-several-solids")
    assert "0 " in refused.json["detail"]
    assert upload(client, "pair.step", content, solid="1").status_code == 201


def test_odd_size_is_asked_about_and_taken_when_it_is_meant(client: FlaskClient, tmp_path: Path) -> None:
    path = tmp_path / "foot.step"
    write_step(block((0, 0, 0), (1400, 60, 20)), path, "foot")
    asked = upload(client, "foot.step", path.read_bytes())
    assert (asked.status_code, asked.json["type"]) == (422, "lean-ledger:size-asked")
    assert client.get("/api/jobs").json["all"] == 0
    assert upload(client, "foot.step", path.read_bytes(), size_meant="true").status_code == 201


def test_drawing_is_engraved_and_what_is_none_is_refused(client: FlaskClient, plan_id: int) -> None:
    face = client.get(f"/api/plans/{plan_id}").json["setups"][0]["engravable"][0]
    drawing = b"0\nSECTION\n2\nENTITIES\n0\nLINE\n8\n0\n10\n0\n20\n0\n11\n8\n21\n0\n0\nENDSEC\n0\nEOF\n"

    def send(content: bytes, on: str) -> Any:
        data = {"file": (BytesIO(content), "logo (2).dxf"), "face": on}
        return client.post(f"/api/plans/{plan_id}/engraving", data=data, headers={"If-Match": '"1"'})

    refused = send(b"Dear customer", face)
    assert (refused.status_code, refused.json["type"]) == (422, "lean-ledger:file-not-dxf")
    elsewhere = send(drawing, "F99")
    assert (elsewhere.status_code, elsewhere.json["type"]) == (422, "lean-ledger:no-flat-side")
    taken = send(drawing, face)
    assert taken.status_code == 200
    (mark,) = taken.json["setups"][0]["engravings"]
    assert (mark["words"], mark["lines"]) == ("logo (2).dxf", [[[-4, 0], [4, 0]]])
    text = client.get(f"/api/plans/{plan_id}/program/S1/text").text
    comments = [line for line in text.splitlines() if "LOGO" in line.upper()]
    assert comments
    assert all(line.count("(") == line.count(")") == 1 for line in comments)


def test_begun_on_a_machine_and_again_on_another(client: FlaskClient) -> None:
    refused = upload(client, machine="mill-9")
    assert refused.status_code == 422
    assert "there is no machine 'mill-9'" in refused.json["detail"]
    assert client.get("/api/jobs").json["jobs"] == []

    plan = upload(client).json["plan_id"]
    path, first = f"/api/plans/{plan}/begin-again", {"If-Match": '"1"'}
    for machines, words in (
        (["mill-9"], "there is no machine 'mill-9'"), (["lathe-320"], "not round about an axis"), ([], "machines"),
    ):  # fmt: skip
        answer = client.post(path, json={"machines": machines}, headers=first)
        assert answer.status_code == 422, machines
        assert words in answer.text
    assert client.get(f"/api/plans/{plan}").json["edition"] == 1, "nothing was changed by what was refused"
    answer = client.post(path, json={"machines": ["mill-500"]}, headers=first)
    assert {s["machine"] for s in answer.json["setups"]} == {"mill-500"}
    assert client.post(path, json={"machines": ["mill-762"]}, headers=first).status_code == 409


@pytest.mark.parametrize(
    ("method", "path", "body", "status", "words"),
    [
        ("post", "", {"changes": [{"change": "nonsense"}]}, 422, "change"),
        ("post", "", {"seq": 99}, 422, "no line 99"),
        ("post", "", {"name": "x" * 81}, 422, "80"),
        ("patch", "", {"name": " "}, 422, "needs a name"),
        ("patch", "", {"put_away": True}, 422, "choose another plan first"),
        ("get", "/compared?plans=1", None, 422, "2 to 5 plans"),
        ("get", "/compared?plans=1,x", None, 422, "plans"),
        ("get", "/compared?plans=1,777", None, 404, "777"),
    ],
)
def test_alternatives_that_cannot_be_are_refused_with_the_reason(
    client: FlaskClient, plan_id: int, method: str, path: str, body: object, status: int, words: str
) -> None:
    answer = getattr(client, method)(f"/api/plans/{plan_id}/alternatives{path}", json=body)
    assert answer.status_code == status, answer.json
    assert words in answer.json["detail"]
    assert len(client.get(f"/api/plans/{plan_id}/alternatives").json["plans"]) == 1


def test_revision_that_was_not_taken_has_no_price_and_no_note(client: FlaskClient, plan_id: int) -> None:
    for path in ("revision-price", "papers/change-note.pdf"):
        answer = client.get(f"/api/plans/{plan_id}/{path}")
        assert answer.status_code == 422
        assert "revision A from its first line on" in answer.json["detail"]
