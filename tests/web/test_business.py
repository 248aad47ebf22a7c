"""Quotes, capacity and the floor over the API: one number everywhere, once only, and what is refused."""

from __future__ import annotations

import base64
import csv
from datetime import date, timedelta
from decimal import Decimal
from io import BytesIO, StringIO

import pytest
from flask.testing import FlaskClient
from openpyxl import load_workbook
from PIL import Image
from pypdf import PdfReader

from lean_ledger.core.changes import read_change
from lean_ledger.core.floor.measured import factor_of
from lean_ledger.core.floor.runs import observations
from lean_ledger.library.types import next_spread
from lean_ledger.store import Desk
from tests.conftest import client_of
from tests.store.test_desk import new

NOW = "2026-11-30T08:00:00Z"


@pytest.fixture
def client(desk: Desk) -> FlaskClient:
    return client_of(desk)


@pytest.fixture
def plan_id(desk: Desk) -> int:
    return desk.add_job(new())


def drafted(client: FlaskClient, plan_id: int) -> dict:  # type: ignore[type-arg]
    answer = client.post(
        "/api/quotes",
        json={"customer_name": "Tarnwell", "lines": [{"plan": plan_id, "quantities": [50, 10]}]},
    )
    assert answer.status_code == 201, answer.text
    return dict(answer.json)


def issued_now(client: FlaskClient, id: int) -> dict:  # type: ignore[type-arg]
    mark = client.get(f"/api/quotes/{id}").json["mark"]
    answer = client.post(f"/api/quotes/{id}/issue", json={"mark": mark})
    assert answer.status_code == 200, answer.text
    return dict(answer.json)


def test_draft_that_cannot_be_priced_can_still_be_edited(client: FlaskClient, plan_id: int) -> None:
    draft = drafted(client, plan_id)
    client.put(f"/api/customers/{draft['customer']['id']}", json={"name": "Tarnwell", "currency": "USD"})
    terms = client.get("/api/shop/terms").json
    client.put("/api/shop/terms", json=terms | {"rates": []})
    seen = client.get(f"/api/quotes/{draft['id']}").json
    assert (seen["offer"], seen["trouble"]) == (None, "the shop does not quote in USD; it does in EUR")
    assert "does not quote in USD" in client.post(f"/api/quotes/{draft['id']}/issue", json={"mark": ""}).json["detail"]
    client.put(f"/api/customers/{draft['customer']['id']}", json={"name": "Tarnwell", "currency": ""})
    assert issued_now(client, draft["id"])["state"] == "open"


def test_quote_is_issued_changed_and_won(client: FlaskClient, desk: Desk, plan_id: int) -> None:
    draft = drafted(client, plan_id)
    path = f"/api/quotes/{draft['id']}"
    year = date.today().year
    assert (draft["number"], draft["state"]) == (f"Q-{year}-001", "draft")
    (line,) = draft["offer"]["lines"]
    prices = {p.quantity: p for p in desk.open(plan_id).ledger.prices}
    assert [b["quantity"] for b in line["breaks"]] == [10, 50]
    assert all(Decimal(b["each"]) == prices[b["quantity"]].each for b in line["breaks"])
    assert all(Decimal(b["cost"]) == prices[b["quantity"]].cost for b in line["breaks"])
    customer = draft["customer"]["id"]
    assert client.put(f"/api/customers/{customer}", json={"name": "Tarnwell", "currency": "GBP", "discount": "0.05"})
    stale = client.post(f"{path}/issue", json={"mark": draft["mark"]})
    assert "offers something else since you saw it" in stale.json["detail"]
    issued = issued_now(client, draft["id"])
    first = issued["offer"]["lines"][0]["breaks"][0]
    assert issued["offer"]["currency"] == "GBP"
    assert abs(Decimal(first["each"]) - prices[10].each * Decimal("0.86") * Decimal("0.95")) <= Decimal("0.01")
    paper = client.get(f"{path}/pdf")
    text = PdfReader(BytesIO(paper.data)).pages[0].extract_text()
    assert all(words in text for words in (first["each"], first["lot"], f"Quote {issued['number']}"))
    desk.change(plan_id, 1, read_change({"change": "set-rate", "name": "margin", "value": "0.40"}), "Imke")
    assert client.get(path).json["offer"] == issued["offer"], "what was issued stays"
    assert client.get(f"{path}/pdf").data == paper.data
    assert client.put(path, json=issued["asked"]).status_code == 422
    again = client.post(f"{path}/again").json
    assert (again["version"], again["number"]) == (2, issued["number"])
    assert any("10 pieces" in words and "%" in words for words in again["changed"])
    issued_now(client, again["id"])
    assert client.get(path).json["state"] == "replaced"
    refused = client.post(f"/api/quotes/{again['id']}/decision",
                          json={"state": "won", "ordered": [{"plan": plan_id, "quantity": 3}]})  # fmt: skip
    assert "fewer than the least that is offered, 10" in refused.json["detail"]
    won = client.post(f"/api/quotes/{again['id']}/decision",
                      json={"state": "won", "ordered": [{"plan": plan_id, "quantity": 20}]}).json  # fmt: skip
    assert won["state"] == "won"
    job = desk.open(plan_id).job
    assert (job.status, job.ordered) == ("ordered", 20)
    told = client.get("/api/quotes").json
    (row,) = told["quotes"]
    assert (row["number"], row["version"], row["state"]) == (issued["number"], 2, "won")
    (tally,) = told["customers"]
    assert (tally["won"], tally["rate"]) == (1, 1.0)
    assert 0.3 < tally["margin"] < 0.4, "a margin of 40 %, less the discount"
    client.post(f"/api/quotes/{again['id']}/decision", json={"state": "open"})
    assert (desk.open(plan_id).job.status, desk.open(plan_id).job.ordered) == ("quoting", None)


def test_taking_back_an_order_leaves_what_was_changed_since_and_the_plan_as_it_was(
    client: FlaskClient, desk: Desk, plan_id: int
) -> None:
    other = desk.alternatives.fork(plan_id, None, "other", "Per")
    quote = issued_now(client, drafted(client, other)["id"])
    path, won = f"/api/quotes/{quote['id']}/decision", {"state": "won", "ordered": [{"plan": other, "quantity": 20}]}
    client.post(path, json=won)
    assert desk.open(other).chosen
    client.post(path, json={"state": "open"})
    assert desk.open(plan_id).chosen
    client.post(path, json=won)
    client.patch(f"/api/jobs/{desk.open(plan_id).job.id}", json={"ordered": 30})
    client.post(path, json={"state": "open"})
    assert (desk.open(plan_id).job.status, desk.open(plan_id).job.ordered) == ("ordered", 30)


def test_version_that_was_drafted_before_another_was_won_is_not_issued(client: FlaskClient, plan_id: int) -> None:
    quote = issued_now(client, drafted(client, plan_id)["id"])
    later = client.post(f"/api/quotes/{quote['id']}/again").json
    client.post(f"/api/quotes/{quote['id']}/decision",
                json={"state": "won", "ordered": [{"plan": plan_id, "quantity": 20}]})  # fmt: skip
    refused = client.post(f"/api/quotes/{later['id']}/issue", json={"mark": later["mark"]})
    assert refused.status_code == 422
    assert "version 1 of" in refused.json["detail"]


def test_shift_of_no_hours_can_be_given_hours_again(client: FlaskClient, desk: Desk, plan_id: int) -> None:
    desk.set_job(desk.open(plan_id).job.id, status="ordered")
    hours = client.get("/api/capacity").json["hours"]
    none = client.put("/api/capacity", json=hours | {"shift": hours["shift"] | {"hours": "0"}})
    assert none.status_code == 200
    (lot,) = none.json["lots"]
    assert "no hours free" in lot["trouble"]
    assert "no hours free" in client.get(f"/api/plans/{plan_id}/lead-time?quantity=5").json["detail"]
    assert client.put("/api/capacity", json=hours).json["lots"][0]["trouble"] == ""


def test_lists_of_quotes_say_what_the_api_says(client: FlaskClient, plan_id: int) -> None:
    quote = issued_now(client, drafted(client, plan_id)["id"])
    client.post(f"/api/quotes/{quote['id']}/decision", json={"state": "lost", "reason": "price"})
    rows = list(csv.DictReader(StringIO(client.get("/api/quotes/files/quotes.csv").data.decode("utf-8-sig"))))
    breaks = quote["offer"]["lines"][0]["breaks"]
    assert [(r["pieces"], r["each"], r["lot"]) for r in rows] == [
        (str(b["quantity"]), b["each"], b["lot"]) for b in breaks
    ]
    assert {(r["state"], r["reason"]) for r in rows} == {("lost", "price")}
    book = load_workbook(BytesIO(client.get("/api/quotes/files/quotes.xlsx").data)).active
    assert book is not None
    assert [str(cell.value) for cell in book[2]][:3] == [quote["number"], "1", "lost"]


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"lines": [{"plan": 1, "quantities": []}]}, "1 to 12 quantities"),
        ({"lines": [{"plan": 1, "quantities": [0]}]}, "a whole number from 1 to"),
        ({"lines": [{"plan": 1, "quantities": [5]}, {"plan": 1, "quantities": [6]}]}, "stands twice"),
        ({"lines": [{"plan": 99, "quantities": [5]}]}, "no plan 99"),
        ({"customer": 77}, "no customer 77"),
        ({"valid_days": 0}, "how many days the quote is valid is 0; it is a whole number from 1 to 730"),
        ({"words": "\u0007"}, "U+0007"),
    ],
)
def test_draft_that_cannot_be_keeps_as_it_was(client: FlaskClient, plan_id: int, change: dict, words: str) -> None:  # type: ignore[type-arg]
    draft = drafted(client, plan_id)
    answer = client.put(f"/api/quotes/{draft['id']}", json=draft["asked"] | change)
    assert answer.status_code in (404, 422)
    assert words in answer.json["detail"]
    assert client.get(f"/api/quotes/{draft['id']}").json["asked"] == draft["asked"]


def test_customers_and_terms_that_cannot_be_are_refused(client: FlaskClient, plan_id: int) -> None:
    drafted(client, plan_id)
    for body, words in (
        ({"name": ""}, "needs a name"), ({"name": "Tarnwell"}, "already"),
        ({"name": "N", "currency": "NOK"}, "no rate"),
        ({"name": "N", "discount": "2"}, "as a share, is 2; it is from 0 to 0.9"),
        ({"name": "N", "discount": "x"}, "discount"),
    ):  # fmt: skip
        answer = client.post("/api/customers", json=body)
        assert (answer.status_code, words in answer.json["detail"]) == (422, True), body
    terms = client.get("/api/shop/terms").json
    bad = client.put("/api/shop/terms", json=terms | {"step": "0"})
    assert "the step of rounding is 0" in bad.json["detail"]
    assert client.get("/api/shop/terms").json == terms
    kept = client.put("/api/shop/terms", json=terms | {"minimum_lot": "5000", "step": "0.5"}).json
    assert kept["minimum_lot"] == "5000"
    quote = drafted(client, plan_id)
    assert quote["offer"]["lines"][0]["breaks"][0]["raised"]


def test_ordered_job_takes_hours_that_a_quote_s_lead_time_knows(client: FlaskClient, desk: Desk, plan_id: int) -> None:
    before = client.get(f"/api/plans/{plan_id}/lead-time?quantity=2000").json
    other = desk.add_job(new())
    desk.set_job(desk.open(other).job.id, status="ordered", due=None)
    quote = drafted(client, other)
    client.put(f"/api/quotes/{quote['id']}",
               json=quote["asked"] | {"lines": [{"plan": other, "quantities": [3000]}]})  # fmt: skip
    issued_now(client, quote["id"])
    client.post(f"/api/quotes/{quote['id']}/decision",
                json={"state": "won", "ordered": [{"plan": other, "quantity": 3000}]})  # fmt: skip
    told = client.get("/api/capacity").json
    (lot,) = told["lots"]
    hours = {p.quantity: p for p in desk.open(other).ledger.prices}
    assert lot["quantity"] == 3000
    busy = next(one for one in told["machines"] if any(week["booked"] for week in one["weeks"]))
    assert all(week["booked"] <= week["hours"] + 1e-9 for week in busy["weeks"])
    assert hours, "its plan has prices"
    after = client.get(f"/api/plans/{plan_id}/lead-time?quantity=2000").json
    assert after["ready"] > before["ready"]
    wanted = (date.fromisoformat(after["ready"]) - timedelta(days=7)).isoformat()
    rush = client.get(f"/api/plans/{plan_id}/lead-time?quantity=2000&wanted={wanted}").json["rush"]
    assert min(rush["hours"], Decimal(rush["price"])) > 0
    assert rush["first_ready"] == before["ready"]
    shift = told["hours"] | {"shift": {"machine": "", "hours": "16", "days": 5, "available": "0.9"}}
    assert client.put("/api/capacity", json=shift).status_code == 200
    assert client.get(f"/api/plans/{plan_id}/lead-time?quantity=2000").json["ready"] < after["ready"]
    bad = client.put("/api/capacity", json=shift | {"overtime": "30"})
    assert "the overtime a day is 30" in bad.json["detail"]
    strange = {"machine": "mill-0", "hours": "8", "days": 5, "available": "1"}
    assert "no machine 'mill-0'" in client.put("/api/capacity", json=shift | {"shifts": [strange]}).json["detail"]


def test_job_in_work_takes_the_hours_that_are_left_of_it(client: FlaskClient, desk: Desk, plan_id: int) -> None:
    job = desk.open(plan_id).job.id
    client.patch(f"/api/jobs/{job}", json={"status": "ordered", "ordered": 400})
    (ordered,) = client.get("/api/capacity").json["lots"]
    assert (ordered["quantity"], ordered["made"]) == (400, 0)
    client.patch(f"/api/jobs/{job}", json={"status": "in work"})
    client.post(f"/api/floor/{plan_id}/S1/events", json={"events": [event("g", "good", count=100)]})
    (begun,) = client.get("/api/capacity").json["lots"]
    load = desk.open(plan_id).ledger.problem.setups[0]
    done = -(-100 // load.pieces_per_cycle) * float(load.cycle_seconds + load.load_seconds) / 3600
    assert begun["made"] == pytest.approx(done, abs=0.02)
    assert begun["hours"] == pytest.approx(ordered["hours"] - begun["made"])
    assert begun["begins"] == client.get("/api/capacity").json["today"], "its stock is here"
    assert client.patch(f"/api/jobs/{job}", json={"ordered": 0}).status_code == 422


def event(token: str, kind: str, **more: object) -> dict[str, object]:
    return {"token": token, "kind": kind, "at": NOW, **more}


def test_what_a_device_notes_is_taken_once_and_what_cannot_be_is_told(client: FlaskClient, plan_id: int) -> None:
    path = f"/api/floor/{plan_id}/S1"
    picture = BytesIO()
    Image.new("RGB", (8, 6), "red").save(picture, "JPEG")
    events = [
        event("a", "start", step="tools"), event("b", "good", count=4), event("c", "load", seconds=41.5),
        event("d", "photo", text="burr", picture=base64.b64encode(picture.getvalue()).decode()),
        event("e", "scrap", count=1, reason="bad luck"), event("f", "photo", picture="no picture"),
    ]  # fmt: skip
    first = client.post(f"{path}/events", json={"events": events}).json
    assert (first["new"], [one["token"] for one in first["refused"]]) == (4, ["e", "f"])
    again = client.post(f"{path}/events", json={"events": events[:4]}).json
    assert again["new"] == 0
    kept = client.get(path).json
    assert (kept["book"]["good"], kept["book"]["loads"], kept["book"]["loading"]) == (4, 1, 41.5)
    assert kept["steps"][0]["runs"]
    note = next(one for one in kept["book"]["notes"] if one["kind"] == "photo")
    assert client.get(f"/api/floor/{plan_id}/photos/{note['photo']}").mimetype == "image/jpeg"
    assert client.get(f"/api/floor/{plan_id}/photos/{'0' * 64}").status_code == 404
    client.post(f"{path}/events", json={"events": [event("g", "take-back", of="b")]})
    assert client.get(path).json["book"]["good"] == 0
    gone = client.get(f"/api/floor/{plan_id}/S9")
    assert (gone.status_code, gone.json["detail"][:34]) == (404, "the plan has no setup 'S9' any mor")


def test_thirty_runs_make_a_factor_by_the_formula_and_estimates_take_it(
    client: FlaskClient, desk: Desk, plan_id: int
) -> None:
    before = desk.follow_stock(plan_id).ledger
    sent = client.post(f"/api/plans/{plan_id}/program/send?runs=30").json
    assert all(len(one["seconds"]) == 30 for one in sent["runs"])
    assert len({tuple(one["seconds"]) for one in sent["runs"]}) == len(sent["runs"])
    rows = client.get("/api/shop/factors").json["factors"]
    seen = [o for o in observations(desk.floor.runs(plan_id)) if o.category == "cutting"]
    wanted = factor_of(seen, desk.library.judged("cutting"))
    row = next(one for one in rows if one["category"] == "cutting")
    assert row["factor"] == pytest.approx(wanted.factor)
    assert (row["runs"] + len(row["outliers"]), row["programs"]) == (len(seen), len(sent["runs"]))
    machine = row["machine"]
    assert client.put(f"/api/shop/factors/{machine}/cutting").status_code == 200
    after = desk.open(plan_id).ledger
    share = round(wanted.factor, 3) - 1
    assert after.seconds["as measured"] == pytest.approx(share * before.seconds["cutting"])
    plan = client.get(f"/api/plans/{plan_id}").json
    assert "− 1) ± " in plan["setups"][0]["measured"][0]["formula"]
    floor = client.get(f"/api/plans/{plan_id}/floor").json
    cutting = next(one for one in floor["by_category"] if one["what"] == "cutting")
    assert cutting["planned"] == pytest.approx(sum(l.seconds["cutting"] for l in before.loads), rel=2e-3)
    assert client.delete(f"/api/shop/factors/{machine}/cutting").status_code == 200
    assert desk.open(plan_id).ledger.cycle == before.cycle
    assert client.delete(f"/api/shop/factors/{machine}/cutting").status_code == 422
    refused = client.put(f"/api/shop/factors/{machine}/pick-off")
    assert "nothing was measured of pick-off" in refused.json["detail"]


def test_price_s_range_follows_what_came_back_from_the_floor(client: FlaskClient, desk: Desk, plan_id: int) -> None:
    """Thirty runs and a setup that took twice as long, none of it in use: the price stays, how sure it is does not; a
    piece that is counted changes nothing of the plan.
    """
    path, address = f"/api/floor/{plan_id}/S1", f"/api/plans/{plan_id}"
    desk.follow_stock(plan_id)
    first = client.get(address)

    def asked(etag: str) -> int:
        return client.get(address, headers={"If-None-Match": etag}).status_code

    client.post(f"{path}/events", json={"events": [event("g", "good", count=3)]})
    assert asked(first.headers["ETag"]) == 304
    client.post(f"{address}/program/send?runs=30")
    assert asked(first.headers["ETag"]) == 200
    runs = client.get(address)
    client.post(f"{path}/events", json={"events": [event("l", "load", seconds=200.0)]})
    assert asked(runs.headers["ETag"]) == 200
    last = client.get(address)
    before, after = (answer.json["price"]["sure"][0] for answer in (first, last))
    assert last.json["price"]["quantities"] == first.json["price"]["quantities"]
    rests = {rest["what"]: rest for rest in after["rests"]}
    known = {one.category: one for one in desk.floor.seen().measured}
    assert rests["loading"]["share"] == pytest.approx(
        next_spread(known["loading"], desk.library.judged("loading"), Decimal(1)), rel=1e-6
    )
    assert "from the floor" in rests["cycle"]["source"]
    assert after["low"] != before["low"]
    every = observations(desk.floor.runs())
    assert factor_of([o for o in every if o.category == "cutting"], desk.library.judged("cutting")) in (
        desk.floor.seen().factors
    )
    edited = client.post(f"{address}/changes", headers={"If-Match": last.headers["ETag"]},
                         json={"change": "set-quantities", "quantities": [7]})  # fmt: skip
    assert edited.status_code == 200, edited.text


def test_loading_and_setting_up_are_measured_against_the_rule(client: FlaskClient, desk: Desk, plan_id: int) -> None:
    """Twice as long as planned, ticked five times; with the factor in use it is measured against the rule still."""
    path, planned = f"/api/floor/{plan_id}/S1", desk.open(plan_id).ledger.loads[0].load_seconds
    client.post(f"{path}/events",
                json={"events": [event(f"l{k}", "load", seconds=2 * planned) for k in range(5)]})  # fmt: skip
    (row,) = client.get("/api/shop/factors").json["factors"]
    assert (row["category"], row["runs"], row["mean"]) == ("loading", 5, pytest.approx(2))
    assert 1.5 < row["factor"] < 2
    client.put(f"/api/shop/factors/{row['machine']}/loading")
    assert desk.open(plan_id).ledger.loads[0].load_seconds == pytest.approx(planned * round(row["factor"], 3))
    client.post(f"{path}/events", json={"events": [event("late", "load", seconds=2 * planned)]})
    (later,) = client.get("/api/shop/factors").json["factors"]
    assert later["mean"] == pytest.approx(2)
