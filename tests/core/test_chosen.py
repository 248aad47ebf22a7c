"""Which of the plans on several machines a new job gets: the first that the solids find nothing against."""

from __future__ import annotations

from math import inf

import pytest

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.first.machine import Begun, begun
from lean_ledger.core.followed.chosen import MOST, Chosen, Outcome, chosen, is_harmed
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.papers.plan_document import followed_plan
from lean_ledger.core.part.model import Part
from lean_ledger.library import shipped_library
from tests.conftest import built

BROKEN = LedgerError("kernel", "it failed")


@pytest.fixture(scope="module")
def part() -> Part:
    return built(block((0, 0, 0), (60, 40, 20)) - rod((30, 20, 0), (0, 0, 1), 6, 20))


@pytest.fixture(scope="module")
def plans(part: Part) -> tuple[Begun, ...]:
    return begun(part, "al-6082", (10,), shipped_library()).plans


@pytest.fixture(scope="module")
def clean(part: Part, plans: tuple[Begun, ...]) -> Outcome:
    return followed_plan(part, plans[0].ledger).outcome


def taken(part: Part, plans: tuple[Begun, ...], outcomes: list[Outcome], until: float = inf) -> tuple[Chosen, int]:
    """What is chosen where following gives these outcomes in turn, and how many plans were followed."""
    asked: list[Ledger] = []

    def follow(ledger: Ledger) -> Outcome:
        asked.append(ledger)
        return outcomes[len(asked) - 1]

    return chosen(plans, part, follow, until), len(asked)


def test_first_that_comes_out_is_taken(part: Part, plans: tuple[Begun, ...], clean: Outcome) -> None:
    best, asked = taken(part, plans, [clean] * MOST)
    assert (best.begun, asked) == (plans[0], 1)
    assert best.words == ""


def test_one_that_does_not_come_out_is_passed_over_and_named(
    part: Part, plans: tuple[Begun, ...], clean: Outcome
) -> None:
    best, asked = taken(part, plans, [BROKEN, clean])
    assert (best.begun, asked) == (plans[1], 2)
    assert best.words == f"passed over, since their stock did not come out: {plans[0].name} ({plans[0].each:.2f})"


def test_none_that_comes_out_is_the_first(part: Part, plans: tuple[Begun, ...]) -> None:
    best, asked = taken(part, plans, [BROKEN] * MOST)
    assert (best.begun, asked, best.passed_over) == (plans[0], MOST, ())
    assert is_harmed(part, best.begun.ledger, BROKEN)


def test_after_the_time_is_up_no_further_one_is_followed(part: Part, plans: tuple[Begun, ...]) -> None:
    best, asked = taken(part, plans, [BROKEN], until=0.0)
    assert (best.begun, asked) == (plans[0], 1)


def test_harm_is_not_made_up_for_by_a_finding_that_went(
    part: Part, plans: tuple[Begun, ...], clean: Outcome, monkeypatch: pytest.MonkeyPatch
) -> None:
    """As many errors as before, but one of them is a cut into the part in place of a guess that the solids dropped."""
    from lean_ledger.core.followed import chosen as module

    monkeypatch.setattr(module, "is_harmed", lambda _part, ledger, _outcome: ledger.prices == plans[0].ledger.prices)
    best, asked = taken(part, plans, [clean] * MOST)
    assert (best.begun, asked) == (plans[1], 2)
