"""What is ticked at a machine: added up in whatever order it comes, taken back, refused with a reason."""

from __future__ import annotations

from datetime import datetime, timedelta
from io import BytesIO

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.floor.book import Estimated, Event, book, check_event, observations_of
from lean_ledger.core.floor.photo import checked_photo
from lean_ledger.core.floor.runs import RunRecord, Section, by_category, by_load, by_tool, observations
from lean_ledger.core.floor.steps import STEPS
from lean_ledger.core.papers.code import QUIET, code_of

BEGUN = datetime(2026, 11, 30, 8)
PLANNED = Estimated("J-1", "S1", "mill-762", 40.0, 1800.0)


def at(minutes: float, kind: str, token: str = "", **more: object) -> Event:
    return Event(token or f"{kind}{minutes}", kind, BEGUN + timedelta(minutes=minutes), **more)  # type: ignore[arg-type]


def whole_setup() -> list[Event]:
    """Each step takes 5 minutes; the next is begun where the one before is still open."""
    events = [at(5 * k, "start", step=step) for k, step in enumerate(STEPS)]
    return [*events, at(5 * len(STEPS), "stop", step=STEPS[-1])]


def test_steps_follow_one_another_and_add_up() -> None:
    found = book(whole_setup())
    assert all(step.done and step.seconds == 300 for step in found.steps.values())
    assert found.setting_up == 5 * 300
    (one,) = observations_of(found, PLANNED)
    assert (one.category, one.planned, one.actual) == ("setting up", 1800, 1500)


def test_step_that_is_begun_again_counts_both_times_and_one_that_runs_none() -> None:
    ticked = (("start", 0, "tools"), ("stop", 3, "tools"), ("start", 10, "tools"), ("stop", 12, "tools"))
    later = (("start", 20, "zero"), ("stop", 21, "tools"))
    found = book([at(minutes, kind, step=step) for kind, minutes, step in (*ticked, *later)])
    assert found.steps["tools"].seconds == 300
    assert found.steps["zero"].runs
    assert found.setting_up is None


def test_pieces_loads_and_notes_and_what_is_taken_back() -> None:
    events = [at(1, "good", "a", count=5), at(2, "good", "b", count=4), at(3, "scrap", count=1, reason="surface"),
              at(4, "scrap", count=2, reason="surface"), at(5, "load", seconds=44.0), at(6, "note", text="worn"),
              at(7, "take-back", of="b")]  # fmt: skip
    found = book(events)
    assert (found.good, found.scrap, found.scrapped) == (5, {"surface": 3}, 3)
    assert [one.text for one in found.notes] == ["worn"]
    assert [one.kind for one in found.last] == ["note", "load", "scrap", "scrap", "good"]
    (one,) = observations_of(found, PLANNED)
    assert (one.category, one.actual) == ("loading", 44)


def test_typed_estimates_teach_nothing() -> None:
    found = book([*whole_setup(), at(60, "load", seconds=50.0)])
    assert observations_of(found, Estimated("J-1", "S1", "mill-762", None, None)) == []


@given(st.permutations(whole_setup()))
def test_order_in_which_they_come_does_not_matter(events: list[Event]) -> None:
    assert book(events) == book(whole_setup())


@pytest.mark.parametrize(
    ("event", "words"),
    [
        (at(0, "start", step="coffee"), "there is no step “coffee”"),
        (at(0, "load", seconds=0.0), "more than 0"),
        (at(0, "good", count=0), "0 pieces; give 1 to"),
        (at(0, "scrap", count=1, reason="bad luck"), "“bad luck” is no reason; there are size out of tolerance"),
        (at(0, "note", text=" "), "a note needs words"),
        (at(0, "take-back"), "named by its token"),
        (at(3 * 24 * 60, "good", count=1), "set the device's clock"),
    ],
)
def test_what_cannot_be_is_refused_with_its_reason(event: Event, words: str) -> None:
    with pytest.raises(PlanError, match=words):
        check_event(event, BEGUN)


def test_a_photo_is_a_picture() -> None:
    content = BytesIO()
    Image.new("RGB", (8, 6), "red").save(content, "PNG")
    assert checked_photo(content.getvalue()).name == "photo.png"
    huge = BytesIO()
    Image.new("1", (8000, 6000)).save(huge, "PNG")
    with pytest.raises(PlanError, match="48 million pixels; at most 40"):
        checked_photo(huge.getvalue())
    for bad in (b"", b"GIF89a", content.getvalue()[:40]):
        with pytest.raises(PlanError, match="no JPEG or PNG"):
            checked_photo(bad)


def run(program: str, k: int, sections: list[tuple[str, str, float, float]]) -> RunRecord:
    rows = tuple(Section(*one) for one in sections)
    return RunRecord("J-1", 1, 1, "S1", "mill-762", program, f"run {k}", BEGUN, rows)


def test_runs_beside_their_estimates_by_hand() -> None:
    """Two cycles of a program: 10 s planned took 11 and 12, 4 s of rapids 4 and 5, at another tool 6 s took 6."""
    runs = [run("O1", 1, [("T1", "cutting", 10, 11), ("T1", "rapid", 4, 4), ("T2", "cutting", 6, 6)]),
            run("O1", 2, [("T1", "cutting", 10, 12), ("T1", "rapid", 4, 5), ("T2", "waiting", 6, 6)])]  # fmt: skip
    cutting, rapid, waiting = by_category(runs)
    assert (cutting.what, cutting.planned, cutting.actual, cutting.count) == ("cutting", 13, 14.5, 2)
    assert (rapid.planned, rapid.actual) == (4, 4.5)
    assert rapid.over == pytest.approx(0.125)
    assert [one.what for one in by_tool(runs)] == ["T1", "T2"]
    (whole,) = by_load(runs)
    assert (whole.planned, whole.actual) == (20, 22)
    seen = observations(runs)
    assert [(one.category, one.planned, one.actual) for one in seen] == [
        ("cutting", 16, 17), ("rapid", 4, 4), ("cutting", 10, 12), ("rapid", 4, 5),
    ]  # fmt: skip
    assert waiting.what == "waiting", "shown, and no factor is made of it"


def test_code_has_its_finders_and_its_quiet_edge() -> None:
    found = code_of("http://127.0.0.1:8321/floor/12/S1?v=3")
    modules = found.size - 2 * QUIET
    assert modules % 4 == 1, "17 + 4 · version modules a side"
    first = found.rows[0]
    assert first[0] == (QUIET, QUIET + 7)
    assert first[-1] == (QUIET + modules - 7, QUIET + modules)
    assert found.path.startswith(f"M{QUIET} {QUIET}h7v1H{QUIET}z")
