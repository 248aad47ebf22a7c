"""The demo shop, and the API under inputs that nobody thought of."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
import schemathesis
from flask.testing import FlaskClient
from hypothesis import HealthCheck, Phase, given, settings

from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.host import KernelHost
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.program.proof import course_of_programs
from lean_ledger.demo import shop as demo_shop
from lean_ledger.demo.shop import JOBS, load_demo
from lean_ledger.library import shipped_library
from lean_ledger.store import Database, Desk
from lean_ledger.store.opened import STATUSES
from lean_ledger.web import create_app
from tests.conftest import MARK, client_of, opened_jobs
from tests.kept import copy_of_demo


@pytest.fixture(scope="module")
def demo_desk(tmp_path_factory: pytest.TempPathFactory, kernel: KernelHost) -> Desk:
    path = copy_of_demo(tmp_path_factory.mktemp("demo") / "demo.sqlite")
    return Desk(Database(path), shipped_library(), kernel)


def test_demo_has_jobs_in_all_states_two_of_them_to_solve(demo_desk: Desk) -> None:
    jobs = opened_jobs(demo_desk)
    assert len(jobs) == len(JOBS) >= 4
    assert {o.job.status for o in jobs} == set(STATUSES)
    with_errors = [o.job.number for o in jobs if any(f.severity == "error" for f in o.ledger.findings)]
    assert sorted(with_errors) == ["LB-310", "MC-104"]
    assert all(o.job.due for o in jobs)
    assert any(o.lines > 1 for o in jobs)


def test_demo_numbers_are_of_a_plausible_size(demo_desk: Desk) -> None:
    for opened in opened_jobs(demo_desk):
        assert 5 < opened.ledger.cycle < 30 * 60, opened.job.number
        assert 3 < opened.ledger.prices[0].each < 200, opened.job.number
        for op in opened.ledger.operations:
            assert 100 <= op.cutting.n <= 16_000, op.id
            assert 20 <= op.cutting.vf <= 6_000, op.id
            assert op.power <= op.power_limit * 1.001, op.id
            assert 0 < op.time.cut < 600, op.id


def test_demo_programs_take_what_the_ledger_says_and_run_without_trouble(demo_desk: Desk) -> None:
    for opened in opened_jobs(demo_desk):
        for one in checked_programs(opened.ledger, opened.part, opened.job.number):
            print(f"{opened.job.number} {one.program.setup}: {one.run.total:.1f} s, {one.agreement.difference:+.4%}")
            assert abs(one.agreement.difference) < 0.01, (opened.job.number, one.program.setup)
            assert one.troubles == (), (opened.job.number, one.program.setup)


#: A rotary, a lathe whose spindles hand over, several pieces: what programs differ by.
KINDS = ("SC-512", "VH-333", "CS-224")


def test_demo_programs_leave_the_part(demo_desk: Desk) -> None:
    kinds = [opened for opened in opened_jobs(demo_desk) if opened.job.number in KINDS]
    assert len(kinds) == len(KINDS)
    for opened in kinds:
        ran = [(c.program, c.setting, c.run) for c in checked_programs(opened.ledger, opened.part, opened.job.number)]
        cut = followed(course_of_programs(opened.part, opened.ledger, ran))
        assert len(cut.steps) == len(opened.ledger.operations), opened.job.number
        assert abs(cut.over_share) < 0.006, opened.job.number
        assert all(r.amount < 0.15 for r in cut.remainders if r.cut_into), opened.job.number
        assert [c for c in cut.collisions if c.what == "rapid"] == [], opened.job.number


def test_demo_is_loaded_once_and_keeps_what_was_entered(
    make_desk: Callable[[], Desk], monkeypatch: pytest.MonkeyPatch
) -> None:
    from lean_ledger.core.changes import read_change

    monkeypatch.setattr(demo_shop, "JOBS", tuple(job for job in JOBS if job.number in ("RC-608", "MC-104")))
    desk = make_desk()
    assert load_demo(desk) == 2
    plan_id = opened_jobs(desk)[0].plan_id
    desk.change(plan_id, desk.open(plan_id).edition, read_change({"change": "set-buy", "buy": "bar"}), "Ole")
    again = make_desk()
    assert load_demo(again) == 0
    assert again.open(plan_id).plan.buy == "bar"
    assert again.open(plan_id).version.author == "Ole"


def test_demo_that_was_cut_off_is_gone_on_with(make_desk: Callable[[], Desk], monkeypatch: pytest.MonkeyPatch) -> None:
    """Cut off between any two steps: each is made once, in its order."""
    few = tuple(job for job in JOBS if job.number in ("RC-608", "MC-104"))
    monkeypatch.setattr(demo_shop, "JOBS", few)
    steps = sum(len(job.changes) + len(job.revisions) for job in few)
    for cut in range(steps + len(few)):
        desk = make_desk()
        made = 0

        def cutting(make: Callable[..., Any], at: int = cut % 3 + 1) -> Callable[..., Any]:
            def step(*args: Any, **more: Any) -> Any:
                nonlocal made
                made += 1
                if made > at:
                    raise KeyboardInterrupt
                return make(*args, **more)

            return step

        for name in ("add_job", "change", "add_revision"):
            monkeypatch.setattr(desk, name, cutting(getattr(desk, name)))
        try:
            load_demo(desk)
            break
        except KeyboardInterrupt:
            continue
    whole = make_desk()
    assert load_demo(whole) == 0
    by_number = {opened.job.number: opened for opened in opened_jobs(whole)}
    assert {number: o.lines - 1 for number, o in by_number.items()} == {j.number: len(j.changes) for j in few}
    assert {number: len(o.revisions) - 1 for number, o in by_number.items()} == {
        j.number: len(j.revisions) for j in few
    }


GENTLY = settings(
    max_examples=4,
    deadline=None,
    derandomize=True,
    phases=[Phase.explicit, Phase.generate],
    suppress_health_check=list(HealthCheck),
)


def test_no_request_that_the_description_allows_ends_in_a_bug(demo_desk: Desk) -> None:
    app = create_app(demo_desk)
    app.config["PROPAGATE_EXCEPTIONS"] = False
    described = schemathesis.openapi.from_wsgi("/openapi.json", app)
    tried = 0
    for result in described.get_all_operations():
        operation = result.ok()

        @GENTLY
        @given(case=operation.as_strategy())
        def try_one(case) -> None:  # type: ignore[no-untyped-def]
            answer = case.call(headers=MARK)
            assert answer.status_code < 500, (case.operation.label, answer.text)
            if answer.status_code >= 400:
                assert answer.headers["content-type"][0].startswith("application/problem+json"), answer.text

        try_one()
        tried += 1
    assert tried >= 10


@pytest.mark.parametrize(
    "body",
    [b"", b"{", b"null", b"[]", b"7", b'"text"', b'{"change": null}', b'{"change": "set-grip", "setup": 3}',
     b'{"change":"set-allowance","side":"Z+","value":1e999}', b'{"change":"set-allowance","side":"Z+","value":"NaN"}',
     b'{"change":"set-rate","name":"margin","value":"Infinity"}', b"\xff\xfe"],
)  # fmt: skip
def test_odd_bodies_are_refused_and_nothing_changes(demo_desk: Desk, body: bytes) -> None:
    client: FlaskClient = client_of(demo_desk)
    plan_id = opened_jobs(demo_desk)[0].plan_id
    before = demo_desk.open(plan_id).edition
    answer = client.post(
        f"/api/plans/{plan_id}/changes",
        data=body,
        headers={"If-Match": f'"{before}"', "Content-Type": "application/json"},
    )
    assert 400 <= answer.status_code < 500, answer.data
    assert answer.mimetype == "application/problem+json"
    assert demo_desk.open(plan_id).edition == before
