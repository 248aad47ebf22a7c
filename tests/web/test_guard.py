"""Who is let in, and what a request may hold."""

from __future__ import annotations

import logging
from collections.abc import Iterator
from io import BytesIO
from typing import Any

import pytest
from flask.testing import FlaskClient

from lean_ledger.store import Desk
from lean_ledger.web import create_app
from lean_ledger.web.serving.guard import DEEPEST, is_loopback
from tests.conftest import DEMO_PARTS, MARK, client_of
from tests.web.test_api import upload, write

JSON = "application/json"
PROBLEM = "application/problem+json"
ROWS = "FAMILY,MATERIAL\nx,y\n"


@pytest.fixture
def client(desk: Desk) -> FlaskClient:
    return client_of(desk)


def bare(desk: Desk, *hosts: str) -> FlaskClient:
    """A client that sends nothing by itself."""
    return create_app(desk, hosts).test_client()


@pytest.mark.parametrize(("host", "status"), [
    ("localhost", 200), ("127.0.0.1:8321", 200), ("[::1]:8321", 200), ("127.9.9.9", 200), ("shop.example", 421),
    ("localhost.example", 421), ("127.0.0.1.example", 421), ("", 421), ("10.0.0.5", 421), ("a b", 421), ("[", 421),
])  # fmt: skip
def test_host_is_the_loopback_or_a_name_that_was_allowed(desk: Desk, host: str, status: int) -> None:
    answer = bare(desk).get("/api/library", headers={"Host": host})
    assert answer.status_code == status
    assert bare(desk, "shop.example").get("/", headers={"Host": "shop.example:80"}).status_code != 421


def test_what_changes_anything_needs_the_mark_and_the_own_origin(desk: Desk) -> None:
    client = bare(desk)
    paths = [
        ("POST", "/api/jobs"), ("PATCH", "/api/jobs/1"), ("POST", "/api/plans/1/changes"), ("PUT", "/api/shop/tools"),
        ("POST", "/api/shop/cutting"), ("PUT", "/api/shop/chains"), ("DELETE", "/api/shop/own/tool/X"),
        ("POST", "/api/readings/revision"), ("POST", "/api/plans/1/program/send"), ("POST", "/api/plans/1/undo"),
    ]  # fmt: skip
    for method, path in paths:
        assert client.open(path, method=method).json["type"] == "lean-ledger:not-marked", path  # type: ignore[index]
        foreign = client.open(path, method=method, headers={**MARK, "Origin": "http://evil.example"})
        assert (foreign.status_code, foreign.json["type"]) == (403, "lean-ledger:foreign-page"), path  # type: ignore[index]
        neighbour = client.open(path, method=method, headers={**MARK, "Sec-Fetch-Site": "same-site"})
        assert neighbour.status_code == 403, path
        own = client.open(path, method=method, headers={**MARK, "Origin": "http://localhost"})
        assert own.status_code not in (403, 421, 500), path


def test_foreign_page_gets_no_data_and_a_link_is_followed(desk: Desk) -> None:
    client = bare(desk)
    foreign = {"Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "no-cors"}
    assert client.get("/api/jobs", headers=foreign).status_code == 403
    assert client.get("/api/jobs", headers={**foreign, "Sec-Fetch-Mode": "navigate"}).status_code == 200
    assert client.get("/api/jobs", headers={"Sec-Fetch-Site": "same-origin"}).status_code == 200


@pytest.mark.parametrize(("host", "whether"), [
    ("127.0.0.1", True), ("::1", True), ("localhost", True), ("0.0.0.0", False), ("::", False), ("192.168.1.4", False),
    ("no-such-host.invalid", False), ("", False),
])  # fmt: skip
def test_address_of_this_machine_alone(host: str, whether: bool) -> None:
    assert is_loopback(host) is whether


def nested(depth: int) -> bytes:
    return b'{"a":' * depth + b"1" + b"}" * depth


@pytest.mark.parametrize(("body", "status"), [
    (b"[" * 1000 + b"]" * 1000, 422), (nested(1000), 422), (nested(DEEPEST + 1), 422), (b"[" * 100_000, 422),
    (b'{"change": "say-note", "features": ["H1"], "note": "\\ud800"}', 422),
    (b'{"change": "say-note", "features": ["H1"], "note": "\\u0000"}', 422), (b"{" + b" " * 5_000_000 + b"}", 413),
    (b'{"a": "[[[[' + b"[" * 500 + b'"}', 422),
])  # fmt: skip
def test_bodies_that_are_too_deep_or_hold_no_text_are_refused(client: FlaskClient, body: bytes, status: int) -> None:
    plan = int(upload(client).json["plan_id"])
    answer = client.post(f"/api/plans/{plan}/changes", data=body, headers={"If-Match": '"1"', "Content-Type": JSON})
    assert (answer.status_code, answer.mimetype) == (status, PROBLEM), answer.text[:200]
    assert client.get(f"/api/plans/{plan}").json["edition"] == 1  # type: ignore[index]


@pytest.mark.parametrize("spoil", [{"of": []}, {"of": {}}, {"of": None}, {"steps": [{}]}, {"steps": {}}, {"id": []}])
def test_rules_with_an_empty_field_are_refused(client: FlaskClient, spoil: dict[str, Any]) -> None:
    rules = [r["row"] for r in client.get("/api/shop/chains").json["rules"]]  # type: ignore[index]
    answer = client.put("/api/shop/chains", json={"rules": [{**rules[0], **spoil}, *rules[1:]]})
    assert (answer.status_code, answer.mimetype) == (422, PROBLEM)
    assert [r["row"] for r in client.get("/api/shop/chains").json["rules"]] == rules  # type: ignore[index]


@pytest.mark.parametrize("path", [
    "/api/jobs", "/api/readings/job", "/api/readings/revision", "/api/shop/tools", "/api/shop/cutting",
    "/api/shop/chains", "/api/plans/1/stock-model", "/api/plans/1/program/S1/attached",
])  # fmt: skip
def test_file_that_is_sent_as_text_is_refused_in_words(client: FlaskClient, path: str) -> None:
    upload(client)
    answer = client.post(path, data={"file": "just text", "job_id": "1"}, headers={"If-Match": '"1"'})
    assert (answer.status_code, answer.mimetype) == (422, PROBLEM)
    assert "a file is needed here" in answer.json["detail"]  # type: ignore[index]


@pytest.mark.parametrize("path", ["/" + "a" * 300, "/assets/" + "é" * 300, "/%00", "/" + "a" * 1500, "/" + "a" * 3000])
def test_any_address_is_answered(client: FlaskClient, path: str) -> None:
    assert client.get(path).status_code in (200, 404, 414, 503)


def test_downloads_of_a_job_with_any_letters_in_its_number(client: FlaskClient) -> None:
    for number, plain in (("J–101", "J-101"), ("Ł-5", "L-5"), ("№7", "No7"), ("部/品", "_-_"), ('a"b;c', "a-b;c")):
        plan = int(upload(client, number=number).json["plan_id"])
        for path in ("papers/setup-sheet.pdf", "papers/operations.csv", "papers/tools.xlsx", "papers/shopping.csv",
                     "program/S1/text", "program/package"):  # fmt: skip
            answer = client.get(f"/api/plans/{plan}/{path}")
            assert answer.status_code == 200, (number, path, answer.text[:200])
            shown = answer.headers["Content-Disposition"]
            shown.encode("ascii")
            assert plain in shown
        assert client.post(f"/api/plans/{plan}/program/send").status_code == 200
    assert "filename*=UTF-8''%E2%84%967" in client.get("/api/plans/3/papers/tools.csv").headers["Content-Disposition"]


@pytest.mark.parametrize("field", ["number", "name", "customer"])
def test_control_characters_and_long_names_are_refused(client: FlaskClient, field: str) -> None:
    content = (DEMO_PARTS / "anemometer-arm-block.step").read_bytes()
    for odd in ("a\x07b", "a\nb", "x" * 121):
        form = {"file": (BytesIO(content), "arm.step"), field: odd}
        assert client.post("/api/jobs", data=form).status_code == 422, odd
    assert upload(client).status_code == 201
    for odd in ("a\x07b", "a\nb", "x" * 121):
        assert client.patch("/api/jobs/1", json={field: odd}).status_code == 422, odd
    assert client.patch("/api/jobs/1", json={field: "Łódź – 部品"}).status_code == 204


@pytest.mark.parametrize("name", ["a\x07.step", "x" * 121 + ".step"])
def test_file_names_are_names_too(client: FlaskClient, name: str) -> None:
    content = (DEMO_PARTS / "anemometer-arm-block.step").read_bytes()
    answer = client.post("/api/jobs", data={"file": (BytesIO(content), name)})
    assert answer.status_code == 422
    assert "file name" in answer.json["detail"]  # type: ignore[index]


def test_too_many_fields_are_not_called_a_large_file(client: FlaskClient) -> None:
    answer = client.post("/api/jobs", data={f"f{i}": "x" for i in range(1200)}, content_type="multipart/form-data")
    assert answer.status_code == 413
    assert "too many fields" in answer.json["detail"]  # type: ignore[index]


def test_document_says_what_any_address_answers(client: FlaskClient) -> None:
    document = client.get("/openapi.json").json
    assert document is not None
    for path, methods in document["paths"].items():
        for method, operation in methods.items():
            answers = operation["responses"]
            assert {"403", "405", "421", "500", "503"} <= set(answers), path
            for status, answer in answers.items():
                if "$ref" not in answer and int(status) >= 400:
                    assert set(answer["content"]) == {PROBLEM}, (path, method, status)
            if method != "get":
                assert {"$ref": "#/components/parameters/Mark"} in operation["parameters"], path
    papers = document["paths"]["/api/plans/{plan_id}/papers/{paper}"]["get"]["responses"]["200"]["content"]
    assert {"application/pdf", "text/csv"} < set(papers)
    sized = [s for s in _schemas(document) if s.get("type") == "array" and "minItems" in s]
    assert all("prefixItems" in s for s in sized if s["minItems"] == s["maxItems"])
    assert len(sized) > 30


def test_method_that_is_not_answered_says_which_are(client: FlaskClient) -> None:
    answer = client.post("/api/library")
    assert (answer.status_code, answer.mimetype) == (405, PROBLEM)
    assert "GET" in answer.headers["Allow"]
    assert "GET" in answer.json["detail"]  # type: ignore[index]


def test_times_are_told_with_their_zone(client: FlaskClient) -> None:
    plan = int(upload(client).json["plan_id"])
    view = client.get(f"/api/plans/{plan}").json
    assert view is not None
    assert view["now"]["at"].endswith("Z")
    assert view["revisions"][0]["at"].endswith("Z")


def test_one_line_a_request_with_the_id_that_an_error_shows(
    client: FlaskClient, desk: Desk, caplog: pytest.LogCaptureFixture, monkeypatch: pytest.MonkeyPatch
) -> None:
    plan = int(upload(client).json["plan_id"])

    def broken(*_: object) -> None:
        raise RuntimeError("a fault of the program's own")

    with caplog.at_level(logging.INFO):
        caplog.clear()
        client.get(f"/api/plans/{plan}/journal")
        lines = [r for r in caplog.records if r.name == "lean_ledger.requests"]
        assert len(lines) == 1
        monkeypatch.setattr(desk, "state", broken)
        answer = client.get(f"/api/plans/{plan}")
    assert answer.status_code == 500
    shown = answer.json["request"]  # type: ignore[index]
    assert answer.headers["X-Request-Id"] == shown
    assert shown in answer.json["detail"]  # type: ignore[index]
    assert sum(shown in r.getMessage() for r in caplog.records) == 2, "its line, and the traceback"


def test_rate_of_a_million_digits_is_refused_at_once(client: FlaskClient) -> None:
    plan = int(upload(client).json["plan_id"])
    answer = write(client, plan, 1, {"change": "set-rate", "name": "labour_rate", "value": "1e999999"})
    assert answer.status_code == 422
    assert "at most 18 digits" in answer.json["detail"]


def _schemas(value: Any) -> Iterator[dict[str, Any]]:
    if isinstance(value, dict):
        yield value
        for inner in value.values():
            yield from _schemas(inner)
    elif isinstance(value, list):
        for inner in value:
            yield from _schemas(inner)


def test_field_without_a_name_is_refused_and_no_bug(desk: Desk) -> None:
    body = b"--b\r\nContent-Disposition: form-data\r\n\r\n\x01\r\n--b--\r\n"
    client = create_app(desk).test_client()
    answer = client.post("/api/jobs", data=body, headers={**MARK, "Content-Type": "multipart/form-data; boundary=b"})
    assert answer.status_code == 422
    assert "U+0001" in answer.get_data(as_text=True)
