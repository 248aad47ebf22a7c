"""What revision B costs beside A: seconds by feature that sum up, prices by line, programs to the byte, and once."""

from __future__ import annotations

from decimal import Decimal
from fractions import Fraction
from io import BytesIO

import pytest
from pypdf import PdfReader

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import read_change
from lean_ledger.core.pricing.price import cents
from lean_ledger.core.revised.note import NoteWords, change_note, note_pdf
from lean_ledger.core.revisions.match import Became
from lean_ledger.store import Desk, JobNew
from lean_ledger.store.revised import RevisionPrice
from tests.store.test_revisions_of_a_job import TAKE, content, revise


@pytest.fixture
def plan_id(desk: Desk) -> int:
    plan = desk.add_job(JobNew("mast.step", content("mast-clamp-half"), "al-6082", (10, 50), machine="mill-762"))
    revise(desk, plan)
    return plan


@pytest.fixture
def taken(desk: Desk, plan_id: int) -> RevisionPrice:
    desk.change(plan_id, 1, read_change(TAKE), "Imke")
    return desk.revised.price(plan_id)


def test_seconds_of_features_and_the_rest_are_those_of_a_piece(desk: Desk, taken: RevisionPrice) -> None:
    found, after = taken.priced, taken.opened.ledger
    assert (found.before, found.after, taken.line) == ("A", "B", 1)
    assert sum(f.after for f in found.features) + found.rest[1] == pytest.approx(after.per_piece)
    # of a feature with operations of its own: their calls, as the operations table shows them
    new = next(f for f in found.features if f.became == Became.NEW)
    own = [call for setup in after.setups for call in setup.rows if new.feature in call.operation.features]
    assert own
    assert new.before == 0
    assert new.after == pytest.approx(sum(call.total / len(call.operation.features) for call in own))
    second = after.second_of(after.setups[0].decision.id)
    up = (1 + float(after.problem.overhead)) / (1 - float(after.problem.margin))
    if {call.operation.setup for call in own} == {after.setups[0].decision.id}:
        assert float(new.each) == pytest.approx(new.after * second * up, abs=0.006)
    assert any(f.became == Became.RESIZED and "→" in f.words for f in found.features)


def test_setups_and_prices_are_those_of_both_plans(desk: Desk, plan_id: int, taken: RevisionPrice) -> None:
    found = taken.priced
    now = desk.open(plan_id)
    desk.undo(plan_id, now.edition)
    before = desk.open(plan_id).ledger
    for (was, then), old, new in zip(found.prices, before.prices, now.ledger.prices, strict=True):
        assert (was, then) == (old, new)
    for k, (was, then) in enumerate(found.prices):
        lines = sum((each for _, each in found.by_line(k)), Decimal(0))
        assert float(lines) == pytest.approx(float(then.cost - was.cost) / then.quantity, abs=0.03), "cent by cent"
    for one in found.setups:
        assert one.seconds[0] == pytest.approx(sum(before.setup(one.setup).seconds.values()))
        assert one.hours[1] == now.ledger.setup(one.setup).setup_hours


def test_setups_in_money_are_the_lines_setup_and_run(taken: RevisionPrice) -> None:
    """Over all setups what they change is what the two lines do, with overhead and margin."""
    priced = taken.priced
    problem = taken.opened.ledger.problem
    up = (1 + problem.overhead) / (1 - problem.margin)
    for k in range(len(priced.prices)):
        lines = dict(priced.by_line(k))
        assert float(sum(one.each[k] for one in priced.setups)) == pytest.approx(
            float((lines["setup"] + lines["run"]) * up), abs=0.03
        )


def test_once_is_programs_fixtures_and_scrap(desk: Desk, plan_id: int, taken: RevisionPrice) -> None:
    """0.06 h for each subprogram that changes, at 70; a fixture for 120; 3 pieces of A at what one of ten costs."""
    made = sum(1 for p in taken.programs if p.stays in ("changed", "new"))
    (programs,) = taken.priced.once
    assert programs.amount == cents(Fraction(6, 100) * made * 70)
    assert f"{made} of {len(taken.programs)} subprograms" in programs.how
    edition = taken.opened.edition
    desk.change(plan_id, edition, read_change({"change": "set-one-off", "fixtures": "120", "on_shelf": 3}), "Imke")
    found = desk.revised.price(plan_id).priced
    was = found.prices[0][0]
    assert [one.amount for one in found.once] == [
        programs.amount, Decimal(120), cents(Fraction(was.cost) / was.quantity * 3)
    ]  # fmt: skip
    assert found.paid_once == sum(one.amount for one in found.once)
    assert [now.each for _, now in found.prices] == [now.each for _, now in taken.priced.prices], "in no price"


@pytest.mark.parametrize(
    ("bad", "words"), [({"fixtures": "-1"}, "from 0"), ({"on_shelf": -2}, "from 0"), ({}, "say what")]
)  # fmt: skip
def test_once_that_cannot_be(desk: Desk, plan_id: int, bad: dict[str, object], words: str) -> None:
    with pytest.raises(PlanError, match=words):
        desk.change(plan_id, 1, read_change({"change": "set-one-off", **bad}), "Imke")


def test_plan_that_has_taken_no_revision_says_so(desk: Desk, plan_id: int) -> None:
    with pytest.raises(PlanError, match="revision A from its first line on"):
        desk.revised.price(plan_id)


def test_papers_of_a_are_superseded_once_b_is_taken_over(desk: Desk, plan_id: int) -> None:
    assert desk.revised.superseded_by(desk.open(plan_id)) == "", "it waits, nobody makes it yet"
    taken = desk.change(plan_id, 1, read_change(TAKE), "Imke")
    assert desk.revised.superseded_by(taken) == ""
    fork = desk.alternatives.fork(plan_id, 1, "still A", "Imke")
    assert desk.revised.superseded_by(desk.open(fork)) == "B"
    back = desk.go_to(plan_id, taken.edition, 1)
    assert desk.revised.superseded_by(back) == "B"


def test_note_for_the_customer_shows_what_changed_and_no_cost_of_ours(taken: RevisionPrice) -> None:
    at = taken.opened.version.at.date()
    note = change_note(taken.priced, NoteWords("MC-104", "Mast clamp half", "Nordlys", 2, at))
    pdf = note_pdf(note)
    assert pdf == note_pdf(note), "the same to the byte"
    text = "\n".join(page.extract_text() for page in PdfReader(BytesIO(pdf)).pages)
    assert "revision B in place of A" in text
    was, now = taken.priced.prices[0]
    assert f"{was.each:.2f}" in text
    assert f"{now.each:.2f}" in text
    for one in taken.priced.features:
        assert (one.title in text) == (one.became != Became.SAME) or one.became == Became.SAME
    (once,) = taken.priced.once
    margin = Fraction(now.price) / Fraction(now.cost)
    assert note.once == (("programs changed", f"{cents(Fraction(once.amount) * margin):.2f}"),)
