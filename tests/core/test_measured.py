"""From measured times to a factor: by hand, robust, drawn towards 1; and what a factor in use does to a plan."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from math import sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.floor.measured import Observation, factor_of, factors
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.spread import sure
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.library import shipped_library
from lean_ledger.library.types import Judgement, Library, Measured, next_spread
from tests.conftest import built

LIB = shipped_library()
JUDGED = Judgement(machine=0.08, program=0.03, run=0.03, worth=4)
RATIOS = st.lists(st.floats(0.9, 1.2), min_size=1, max_size=12)


def seen(ratios: list[float], program: str = "P1", planned: float = 100.0) -> list[Observation]:
    return [Observation("m", "cutting", program, f"{program} {k}", planned, planned * r) for k, r in enumerate(ratios)]


def test_factor_by_hand() -> None:
    """1.05, 1.07, 1.06, 1.06: mean 1.06, squares 0.0002. Scatter² (4 · 0.0009 + 0.0002) / (4 + 3) = 0.00054286. The
    mean's variance 0.0009 + 0.00054286 / 4 = 0.00103571; believed 0.0064 / (0.0064 + 0.00103571) = 0.86071: the factor
    is 1.05164, its spread √(0.86071 · 0.00103571) = 0.029857.
    """
    found = factor_of(seen([1.05, 1.07, 1.06, 1.06]), JUDGED)
    assert found.mean == pytest.approx(1.06)
    assert found.scatter**2 == pytest.approx(0.00054286, abs=1e-8)
    assert found.drawn == pytest.approx(0.86071, abs=1e-5)
    assert found.factor == pytest.approx(1.05164, abs=1e-5)
    assert found.off == pytest.approx(0.029857, abs=1e-6)
    assert found.in_use == Measured("m", "cutting", Decimal("1.052"), 0.0299, 1, 4)


def test_two_programs_count_by_how_sure_each_is() -> None:
    """One run at 1.10, nine at 1.00: nothing scatters but by judgement, 4 · 0.0009 / 12 = 0.0003. Variances 0.0012 and
    0.00093333: the mean (1.10 / 0.0012 + 1.00 / 0.00093333) / (1 / 0.0012 + 1 / 0.00093333) = 1.04375.
    """
    found = factor_of(seen([1.10]) + seen([1.0] * 9, "P2"), JUDGED)
    assert found.mean == pytest.approx(1.04375, abs=1e-5)
    assert (found.programs, found.runs) == (2, 10)


def test_what_is_unlike_the_others_is_left_out_and_named() -> None:
    plain = factor_of(seen([1.05, 1.06, 1.07, 1.06]), JUDGED)
    found = factor_of(seen([1.05, 1.06, 1.07, 1.06, 1.8]), JUDGED)
    assert [one.run for one in found.outliers] == ["P1 4"]
    assert found.factor == plain.factor
    programs = [one for k, r in enumerate([1.02, 1.03, 1.01, 1.02, 1.6]) for one in seen([r], f"P{k}")]
    assert [one.program for one in factor_of(programs, JUDGED).outliers] == ["P4"]


def test_two_kinds_of_runs_of_a_program_are_not_all_strange() -> None:
    """Half at 1.0, half at 1.3 beside many that agree: none lies near the middle, so none is left out of it."""
    found = factor_of(seen([1.0, 1.0, 1.3, 1.3]) + seen([1.0] * 20, "P2"), JUDGED)
    assert found.runs == 24
    assert found.outliers == ()


def test_what_is_too_short_says_nothing_and_each_machine_has_its_own() -> None:
    short = seen([3.0], planned=0.2)
    other = [replace(one, machine="n", category="loading") for one in seen([1.2])]
    found = factors(short + seen([1.1]) + other, {"run": JUDGED, "loading": replace(JUDGED, machine=0.25)})
    assert [(one.machine, one.category, one.runs) for one in found] == [("m", "cutting", 1), ("n", "loading", 1)]
    assert found[1].drawn > found[0].drawn, "less is known of loading beforehand, so more is believed"


@given(RATIOS)
def test_a_factor_lies_between_1_and_the_mean_and_more_runs_are_believed_more(ratios: list[float]) -> None:
    found = factor_of(seen(ratios), JUDGED)
    assert min(1, found.mean) - 1e-12 <= found.factor <= max(1, found.mean) + 1e-12
    assert 0 < found.off < JUDGED.machine
    same = factor_of(seen([1.05] * 30), JUDGED)
    few = factor_of(seen([1.05]), JUDGED)
    assert 1 < few.factor < same.factor < 1.05


# ---- in use


@pytest.fixture(scope="module")
def part() -> Part:
    return built(block((0, 0, 0), (60, 40, 16)) - rod((12, 12, 0), (0, 0, 1), 5, 16))


def using(machine: str, **factors: str) -> Library:
    measured = [
        Measured(machine, category.replace("_", " "), Decimal(factor), 0.02, 3, 30)
        for category, factor in factors.items()
    ]
    return replace(LIB, measured=tuple(measured))


def test_factors_in_use_are_in_seconds_hours_price_and_trace(part: Part) -> None:
    plan = quick_plan(part, "al-6082", (10,), LIB)
    before = evaluate(plan, part, LIB)
    machine = before.loads[0].machine.id
    library = using(machine, cutting="1.10", rapid="0.95", loading="1.20", setting_up="1.50")
    after = evaluate(plan, part, library)
    for was, now in zip(before.loads, after.loads, strict=True):
        more = 0.10 * was.seconds["cutting"] - 0.05 * was.seconds["rapid"]
        assert now.seconds["as measured"] == pytest.approx(more)
        assert now.cycle == pytest.approx(was.cycle + more)
        assert now.seconds["handling"] == pytest.approx(1.2 * was.seconds["handling"])
        assert now.setup_hours == was.setup_hours * Decimal("1.5")
        labels = {f.label: f for f in now.corrected_figures}
        assert list(labels) == ["cutting, as measured", "rapid, as measured", "loading, as measured",
                                "setting up, as measured"]  # fmt: skip
        assert "· (1.100 − 1) ± 0.020, measured on 30 runs of 3 programs" in labels["cutting, as measured"].formula
        assert "× 1.500 ± 0.020, measured on" in labels["setting up, as measured"].formula
        assert labels["cutting, as measured"].value == pytest.approx(0.10 * was.seconds["cutting"])
    assert sum(after.seconds.values()) == pytest.approx(after.per_piece)
    assert after.prices[0].each > before.prices[0].each
    assert evaluate(plan, part, using("another", cutting="2.00")).prices == before.prices


def test_figures_are_a_piece_s_of_those_that_lie_in_a_cycle(part: Part) -> None:
    plan = quick_plan(part, "al-6082", (10,), LIB)
    first = plan.loads[0]
    two = replace(plan, loads=(replace(first, arrangement=replace(first.arrangement, columns=2)), *plan.loads[1:]))
    library = using(evaluate(plan, part, LIB).loads[0].machine.id, cutting="1.10", rapid="1.20")
    load = evaluate(two, part, library).loads[0]
    assert load.pieces == 2
    added = sum(figure.value for figure in load.corrected_figures)
    assert added == pytest.approx(load.seconds["as measured"] / 2)


def test_what_was_typed_is_not_corrected(part: Part) -> None:
    plan = quick_plan(part, "al-6082", (10,), LIB)
    typed = replace(
        plan, loads=tuple(replace(one, hours=Decimal(1), load_seconds=Decimal(30)) for one in plan.loads)
    )  # fmt: skip
    ledger = evaluate(typed, part, using(LIB.machines[0].id, loading="1.20", setting_up="1.50"))
    assert all(load.setup_hours == 1 and load.load_seconds == 30 for load in ledger.loads)
    assert all(load.corrected_figures == () for load in ledger.loads)


def test_a_price_is_as_sure_as_its_machine_was_measured(part: Part) -> None:
    """The next program of a machine at 1.10 ± 0.02 is off by √(0.02² + 0.03²) / 1.10 = 3.28 %, not the 8 % of what is
    only computed.
    """
    assert next_spread(
        Measured("m", "cutting", Decimal("1.10"), 0.02, 3, 30), JUDGED, Decimal("1.10")
    ) == pytest.approx(sqrt(0.02**2 + 0.03**2) / 1.1)
    plan = quick_plan(part, "al-6082", (1000,), LIB)
    computed = sure(evaluate(plan, part, LIB), LIB)
    machine = evaluate(plan, part, LIB).loads[0].machine.id
    library = using(machine, cutting="1.00", loading="1.00")
    measured = sure(evaluate(plan, part, library), library)
    by = {one.what: one for one in measured.rests}
    assert by["cycle, as measured"].source == by["loading"].source == "measured on the floor"
    assert by["cycle, as measured"].share == pytest.approx(sqrt(0.02**2 + 0.03**2))
    assert by["cycle"].source == "computed", "what was not measured of it"
    assert measured.each == computed.each
    assert measured.off < computed.off
