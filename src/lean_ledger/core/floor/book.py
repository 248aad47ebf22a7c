"""What was ticked at a machine, added up: each event was noted there once, and comes in whatever order.

A step that is started ends the one that runs. What was noted by mistake is taken back by a later event: nothing is
lost.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from statistics import fmean
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.floor.measured import Observation
from lean_ledger.core.floor.steps import STEPS
from lean_ledger.core.loads.load_ledger import LoadLedger

Kind = Literal["start", "stop", "load", "good", "scrap", "note", "photo", "take-back"]

REASONS = (
    "size out of tolerance", "surface", "tool broke", "clamped wrong", "material", "program or plan", "damaged later",
)  # fmt: skip
MOST_AHEAD = timedelta(days=1)
MOST_AT_ONCE = 10_000  # pieces
LONGEST_LOAD = 4 * 3600.0
LONGEST_TEXT = 500


@dataclass(frozen=True)
class Event:
    """Noted on a device at its own time. `seconds` of a load, `count` of pieces, `of` the token of what is taken back,
    `photo` the hash of a picture.
    """

    token: str
    kind: Kind
    at: datetime
    author: str = ""
    step: str = ""
    seconds: float = 0.0
    count: int = 0
    reason: str = ""
    text: str = ""
    photo: str = ""
    of: str = ""


@dataclass(frozen=True)
class StepTime:
    """When a step was worked on: (from, to), the last open while it runs."""

    spans: tuple[tuple[datetime, datetime | None], ...] = ()

    @property
    def runs(self) -> bool:
        return bool(self.spans) and self.spans[-1][1] is None

    @property
    def done(self) -> bool:
        return bool(self.spans) and not self.runs

    @property
    def seconds(self) -> float:
        """Of the spans that ended."""
        return sum((end - begin).total_seconds() for begin, end in self.spans if end is not None)


@dataclass(frozen=True)
class Book:
    steps: dict[str, StepTime]
    loads: tuple[Event, ...]
    good: int
    scrap: dict[str, int]  # by reason
    notes: tuple[Event, ...]  # and photos
    last: tuple[Event, ...] = field(default=())  # all that count, the newest first

    @property
    def setting_up(self) -> float | None:
        """Seconds of all steps, once each was done."""
        done = all(step.done for step in self.steps.values())
        return sum(step.seconds for step in self.steps.values()) if done else None

    @property
    def loading(self) -> float | None:
        """Seconds in the mean; None where no loading was timed."""
        return fmean(e.seconds for e in self.loads) if self.loads else None

    @property
    def scrapped(self) -> int:
        return sum(self.scrap.values())


def book(events: Iterable[Event]) -> Book:
    every = sorted(events, key=lambda e: e.at)
    back = {e.of for e in every if e.kind == "take-back"}
    kept = [e for e in every if e.token not in back and e.kind != "take-back"]
    spans: dict[str, list[tuple[datetime, datetime | None]]] = {step: [] for step in STEPS}
    running = ""
    for e in kept:
        if e.kind == "start" and running != e.step:
            _end(spans, running, e.at)
            spans[e.step].append((e.at, None))
            running = e.step
        elif e.kind == "stop" and running == e.step:
            _end(spans, running, e.at)
            running = ""
    scrap: dict[str, int] = {}
    for e in kept:
        if e.kind == "scrap":
            scrap[e.reason] = scrap.get(e.reason, 0) + e.count
    return Book(
        {step: StepTime(tuple(own)) for step, own in spans.items()},
        tuple(e for e in kept if e.kind == "load"),
        sum(e.count for e in kept if e.kind == "good"),
        scrap,
        tuple(e for e in kept if e.kind in ("note", "photo")),
        tuple(reversed(kept)),
    )


def _end(spans: dict[str, list[tuple[datetime, datetime | None]]], step: str, at: datetime) -> None:
    if step:
        begin, _ = spans[step].pop()
        spans[step].append((begin, at))


def check_event(event: Event, now: datetime) -> None:
    """Raises PlanError with what is wrong of one, and what would be right."""
    if not event.token or len(event.token) > 64:
        raise PlanError("event", "an event needs a token of 1 to 64 characters, that no other has")
    if event.at > now + MOST_AHEAD or event.at.year < 2020:
        raise PlanError("event", f"it was noted at {event.at:%Y-%m-%d %H:%M}; set the device's clock")
    if event.kind in ("start", "stop") and event.step not in STEPS:
        raise PlanError("event", f"there is no step “{event.step}”; there are {', '.join(STEPS)}")
    if event.kind in ("note", "photo") and event.step not in ("", *STEPS):
        raise PlanError("event", f"there is no step “{event.step}”; there are {', '.join(STEPS)}, or none")
    if event.kind == "load" and not 0 < event.seconds <= LONGEST_LOAD:
        raise PlanError("event", f"loading took {event.seconds:g} s; it is more than 0, and at most {LONGEST_LOAD:g}")
    if event.kind in ("good", "scrap") and not 1 <= event.count <= MOST_AT_ONCE:
        raise PlanError("event", f"{event.count} pieces; give 1 to {MOST_AT_ONCE}")
    if event.kind == "scrap" and event.reason not in REASONS:
        raise PlanError("event", f"“{event.reason}” is no reason; there are {', '.join(REASONS)}")
    if event.kind == "note" and not event.text.strip():
        raise PlanError("event", "a note needs words")
    if len(event.text) > LONGEST_TEXT:
        raise PlanError("event", f"a note has {len(event.text)} characters; at most {LONGEST_TEXT} are kept")
    if event.kind == "take-back" and not event.of:
        raise PlanError("event", "what is taken back has to be named by its token")


@dataclass(frozen=True)
class Estimated:
    """What a load was planned at when it was worked on: seconds by the shop's rule, None where they were typed."""

    job: str
    load: str
    machine: str
    loading: float | None
    setting_up: float | None


def estimated(job: str, load: LoadLedger) -> Estimated:
    """Without what was measured before: that is what is measured against."""
    hours = load.setting_up_by_rule
    return Estimated(
        job, load.load.words, load.machine.id, load.loading_by_rule, None if hours is None else 3600 * float(hours)
    )


def observations_of(kept: Book, planned: Estimated) -> Sequence[Observation]:
    """Of loading each time it was taken, of setting up once it was done."""
    name = f"{planned.job} {planned.load}"
    found = []
    if planned.loading:
        found = [
            Observation(planned.machine, "loading", name, f"{name}, loading {k}", planned.loading, event.seconds)
            for k, event in enumerate(kept.loads, start=1)
        ]
    took = kept.setting_up
    if planned.setting_up and took is not None and took > 0:
        found.append(Observation(planned.machine, "setting up", name, f"{name}, setting up", planned.setting_up, took))
    return found
