"""The list of jobs: rows from what was kept, in pages, found and sorted; broken ones show as such."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from typing import Any

import pytest
from sqlalchemy import text

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import read_change
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.shop.summary import summary_of, thumb_svg
from lean_ledger.store import Database, Desk, JobQuery, PlanBroken, RevisionNew, Upload
from lean_ledger.store import ledgers as ledgers_module
from lean_ledger.store.aside import Aside
from lean_ledger.store.job_list import keep_summary
from lean_ledger.store.models import JobRow, PlanRow, SummaryRow
from lean_ledger.store.rows import now
from lean_ledger.tasks import Refreshing
from tests.conftest import DEMO_PARTS, client_of, demo_part, journal_words, quick_ledger
from tests.store.test_desk import MARGIN, THREAD, new

CUTTING = "FAMILY,MATERIAL,VC,FZ_3,FZ_6,FZ_10,FZ_20,LIFE_MINUTES,VC_MOST,FZ_MOST,LIFE_VC,LIFE_FZ,SOURCE\n"
FASTER = CUTTING + "face-mill,pom-c,600,0.2,0.2,0.2,0.2,900,700,1.3,4,1.5,trial\n"


@pytest.fixture
def plan_id(desk: Desk) -> int:
    return desk.add_job(
        new(number="AB-1", name="Arm", customer="Łódź Instruments", due=date(2027, 1, 5), machine="mill-762")
    )


def only(desk: Desk, **query: Any) -> Any:
    (line,) = desk.jobs(JobQuery(**query)).lines
    return line


def test_row_is_what_the_ledger_says_after_each_change(desk: Desk, plan_id: int) -> None:
    for step in (lambda: desk.open(plan_id), lambda: desk.change(plan_id, 1, read_change(THREAD), "a"),
                 lambda: desk.change(plan_id, 2, read_change(MARGIN), "a"), lambda: desk.undo(plan_id, 3),
                 lambda: desk.go_to(plan_id, 4, 1)):  # fmt: skip
        opened = step()
        line = only(desk)
        assert line.fresh
        assert line.summary == summary_of(opened.ledger, opened.part)
    assert desk.thumb(*line.thumb) == thumb_svg(opened.part)


def test_list_computes_nothing(make_desk: Callable[[], Desk], monkeypatch: pytest.MonkeyPatch) -> None:
    make_desk().add_job(new())
    again = make_desk()
    monkeypatch.setattr(ledgers_module, "evaluate", None)  # whoever computes fails
    assert only(again).fresh


def test_revision_that_waits_is_in_its_row_at_once(desk: Desk) -> None:
    content = (DEMO_PARTS / "mast-clamp-half.step").read_bytes()
    plan = desk.add_job(new(file_name="mast.step", content=content))
    before = only(desk).summary.errors
    opened = desk.open(plan)
    newer = Upload("b.step", (DEMO_PARTS / "mast-clamp-half-b.step").read_bytes())
    desk.add_revision(RevisionNew(opened.job.id, newer))
    assert only(desk).summary.errors == before + 1


def test_row_from_before_a_change_of_the_library_is_told_and_made_again_beside(desk: Desk, plan_id: int) -> None:
    before = only(desk).summary
    aside = Aside(desk.path)
    refreshing = Refreshing(desk, aside)
    try:
        desk.take_cutting(FASTER, "a")
        line = only(desk)
        assert (line.fresh, line.summary) == (False, before)
        refreshing.start()
        deadline = time.monotonic() + 60
        while not only(desk).fresh and time.monotonic() < deadline:
            time.sleep(0.05)
        line = only(desk)
        assert line.fresh
        opened = desk.open(plan_id)
        assert line.summary == summary_of(opened.ledger, opened.part)
        assert line.summary.cycle < before.cycle
    finally:
        refreshing.close()
        aside.close()


def spoil(desk: Desk, statement: str) -> None:
    with desk._database.writing() as session:
        session.execute(text(statement))


def test_damaged_decisions_show_in_their_row_and_the_others_stand(make_desk: Callable[[], Desk]) -> None:
    desk = make_desk()
    broken = desk.add_job(new(number="BAD"))
    desk.change(broken, 1, read_change(MARGIN), "a")
    desk.add_job(new(number="GOOD"))
    spoil(desk, f"UPDATE version SET decisions = '{{\"material\": 7' WHERE plan = {broken} AND seq = 2")
    again = make_desk()
    with pytest.raises(PlanBroken, match="line 2 of its journal is damaged"):
        again.open(broken)
    again.take_summary(broken, *again.summarised(broken))
    client = client_of(again)
    rows = {row["job"]["number"]: row for row in client.get("/api/jobs").json["jobs"]}  # type: ignore[index]
    assert (rows["GOOD"]["state"], rows["BAD"]["state"]) == ("fresh", "broken")
    assert rows["BAD"]["each"] is None
    assert "damaged" in rows["BAD"]["trouble"]
    answer = client.get(f"/api/plans/{broken}")
    assert (answer.status_code, answer.json["type"]) == (422, "lean-ledger:plan-broken")  # type: ignore[index]
    journal = client.get(f"/api/plans/{broken}/journal").json
    assert journal is not None
    assert journal["current"] == 2
    headers = {"If-Match": f'"{journal["edition"]}"'}
    back = client.post(f"/api/plans/{broken}/version", json={"seq": 1}, headers=headers)
    assert back.status_code == 200, "an earlier line of its journal can be gone back to"
    assert only(again, search="BAD").summary.trouble == ""


def test_damaged_analysis_is_made_again_from_its_file(make_desk: Callable[[], Desk]) -> None:
    desk = make_desk()
    plan = desk.add_job(new())
    before = desk.open(plan).ledger.cycle
    spoil(desk, "UPDATE analysis SET part = x'00ff'")
    assert make_desk().open(plan).ledger.cycle == before


def test_damaged_effect_costs_the_words_of_one_line(make_desk: Callable[[], Desk]) -> None:
    desk = make_desk()
    plan = desk.add_job(new())
    desk.change(plan, 1, read_change(MARGIN), "a")
    spoil(desk, "UPDATE version SET effect = 'x'")
    again = make_desk()
    assert again.open(plan).effect.cycle == 0
    assert journal_words(again, plan)[-1] == "margin 0.4"


@pytest.mark.parametrize(("what", "key", "row", "why"), [
    ("cutting", "face-mill pom-c", '{"family": "face-mill", "material": "pom-c", "vc": null}', "vc"),
    ("cutting", "face-mill pom-c", '{"family":"face-mill","material":"pom-c","vc":500,"fz":[[3,0.1]],"life_minutes":9,'
     '"source":"x","vc_most":600,"fz_most":1.3,"life_vc":4000,"life_fz":1.5}', ""),
    ("tool", "X1", "not json", ""), ("chains", "rules", "[]", ""), ("magazine", "mill-762", '{"a": 1}', ""),
])  # fmt: skip
def test_row_of_the_shop_that_cannot_be_used_is_set_aside_with_a_finding(
    make_desk: Callable[[], Desk], what: str, key: str, row: str, why: str
) -> None:
    desk = make_desk()
    plan = desk.add_job(new())
    cycle = desk.open(plan).ledger.cycle
    with desk._database.writing() as session:
        session.execute(text("INSERT INTO shop VALUES (:what, :key, :row, 'a', '2026-01-01 00:00:00')"),
                        {"what": what, "key": key, "row": row})  # fmt: skip
    again = make_desk()
    (aside,) = again.library.set_aside
    assert (aside.what, aside.key) == (what, key)
    assert why in aside.why
    opened = again.open(plan)
    assert opened.ledger.cycle == cycle, "what ships stands in its place"
    assert any(f.code == "set-aside" and key in f.title for f in opened.ledger.findings)
    again.take_cutting(FASTER, "a")  # other writes are not held up
    if (what, key) != ("cutting", "face-mill pom-c"):
        again.drop_own(what, key)  # type: ignore[arg-type]
    assert again.library.set_aside == ()


def test_change_that_would_leave_a_plan_that_cannot_be_computed_is_refused(
    desk: Desk, plan_id: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    def stumbling(plan: Any, part: Any, library: Any) -> Any:
        if plan.rates.margin is not None:
            raise ZeroDivisionError("a fault of the program's own")
        return evaluate(plan, part, library)

    monkeypatch.setattr(ledgers_module, "evaluate", stumbling)
    with pytest.raises(PlanError, match=r"“margin 0\.4” was not taken: with it the plan cannot be computed"):
        desk.change(plan_id, 1, read_change(MARGIN), "a")
    assert desk.open(plan_id).edition == 1


MANY = 60


def number(i: int) -> str:
    return f"J-{i * 37 % 100:03}"


@pytest.fixture(scope="module")
def many(tmp_path_factory: pytest.TempPathFactory, library: Any, kernel: Any) -> Desk:
    """Sixty jobs by rows alone: the list needs no more."""
    desk = Desk(Database(tmp_path_factory.mktemp("many") / "many.sqlite"), library, kernel)
    part = demo_part("anemometer-arm-block")
    base = summary_of(quick_ledger(part, "pom-c"), part)
    with desk._database.writing() as session:
        for i in range(MANY):
            due = date(2027, 1, 1) + timedelta(days=i * 7 % 50) if i % 5 else None
            status = ("quoting", "ordered", "in work", "done")[i % 4]
            session.add(JobRow(id=i + 1, number=number(i), name=f"Part {i} – Straße", customer=f"Kunde {i % 7}",
                               status=status, due=due, at=now()))  # fmt: skip
            session.add(
                PlanRow(id=i + 1, job=i + 1, name="x", edition=1, current=1, chosen=True, put_away=False, origin="")
            )
            session.flush()
            summary = replace(base, cycle=float(i * 13 % 60), each=Decimal(i * 7 % 60), errors=i % 3, warnings=i % 2,
                              material_name=("Acetal", "Steel")[i % 2])  # fmt: skip
            keep_summary(session, i + 1, 1, desk.made_by, summary)
    return desk


@pytest.mark.parametrize(("sort", "key"), [
    ("added", lambda one: one.job.id), ("number", lambda one: one.job.number.casefold()),
    ("customer", lambda one: one.job.customer.casefold()), ("status", lambda one: one.job.status),
    ("cycle", lambda one: one.summary.cycle), ("each", lambda one: one.summary.each),
    ("material", lambda one: one.summary.material_name),
    ("findings", lambda one: (one.summary.errors, one.summary.warnings)),
])  # fmt: skip
@pytest.mark.parametrize("down", [False, True])
def test_pages_together_are_all_jobs_in_the_order_asked_for(many: Desk, sort: Any, key: Any, down: bool) -> None:
    found: list[Any] = []
    for page in range(1, 6):
        one = many.jobs(JobQuery(sort=sort, down=down, page=page, size=13))
        assert (one.total, one.all) == (MANY, MANY)
        found += one.lines
    assert len({line.plan_id for line in found}) == MANY
    keys = [key(line) for line in found]
    assert keys == sorted(keys, reverse=down)


def test_due_dates_come_in_order_and_jobs_without_one_last(many: Desk) -> None:
    for down in (False, True):
        due = [line.job.due for line in many.jobs(JobQuery(sort="due", down=down, size=200)).lines]
        there = [d for d in due if d is not None]
        assert there == sorted(there, reverse=down)
        assert due[len(there) :] == [None] * (MANY - len(there))


@pytest.mark.parametrize(("query", "wanted"), [
    ({"search": "steel"}, lambda i: i % 2 == 1),
    ({"search": "STRASSE 7"}, lambda i: "7" in f"{number(i)} Part {i} Kunde {i % 7}"),
    ({"status": "ordered"}, lambda i: i % 4 == 1), ({"customer": "Kunde 3"}, lambda i: i % 7 == 3),
    ({"due_to": date(2027, 1, 10)}, lambda i: i % 5 and i * 7 % 50 <= 9), ({"search": "100%"}, lambda i: False),
    ({"due_from": date(2027, 1, 10), "status": "done"}, lambda i: i % 5 and i * 7 % 50 >= 9 and i % 4 == 3),
    ({"search": "x' OR 1=1 --"}, lambda i: False), ({"search": "_"}, lambda i: False),
])  # fmt: skip
def test_what_is_asked_for_is_found_and_nothing_else(many: Desk, query: dict[str, Any], wanted: Any) -> None:
    page = many.jobs(JobQuery(**query, size=200))
    assert {line.job.id for line in page.lines} == {i + 1 for i in range(MANY) if wanted(i)}
    assert page.total == len(page.lines)


def test_page_beyond_the_last_is_empty_and_rows_without_a_summary_wait(many: Desk) -> None:
    assert many.jobs(JobQuery(page=99)).lines == ()
    with many._database.writing() as session:
        session.delete(session.get_one(SummaryRow, (60, 1)))
    try:
        first = many.jobs(JobQuery(size=1)).lines[0]
        assert (first.plan_id, first.summary, first.fresh) == (60, None, False)
        assert many.waiting() == (60,)
    finally:
        with many._database.writing() as session:
            session.execute(text("INSERT INTO summary SELECT plan + 1, seq, made_by, material, cycle, each, errors, "
                                 "warnings, row FROM summary WHERE plan = 59"))  # fmt: skip
