"""Fills a fresh database with the demo shop's jobs, by the same way as a planner would."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor, wait
from dataclasses import dataclass
from datetime import date
from importlib.resources import files
from typing import Any

from lean_ledger.core.alternatives.grid import change_of
from lean_ledger.core.changes import read_change
from lean_ledger.demo.business import load_business
from lean_ledger.store import Desk, JobNew, JobQuery, RevisionNew, Upload


@dataclass(frozen=True)
class DemoJob:
    part: str
    number: str
    name: str
    customer: str
    material: str
    quantities: tuple[int, ...]
    due: date
    status: str
    changes: tuple[dict[str, Any], ...] = ()
    revisions: tuple[str, ...] = ()  # parts that came in later and wait to be taken
    casting: str = ""  # the part that its stock is
    machine: str = "mill-762"  # that it begins on; "" is the one of the least price
    alternatives: tuple[tuple[str, tuple[dict[str, Any], ...]], ...] = ()  # other plans: name, what is changed

    @property
    def parts(self) -> tuple[str, ...]:
        """All files that it is made from."""
        return tuple(part for part in (self.part, self.casting, *self.revisions) if part)


JOBS = (
    DemoJob(
        "bearing-spacer", "WV-271", "Wind vane bearing spacer", "Hochwart Wind Vanes", "al-6082", (200, 1000, 5000),
        date(2027, 3, 19), "quoting",
        ({"change": "set-stock", "form": "round bar"},
         {"change": "set-stock", "sizing": "next size up"},
         {"change": "move-to-machine", "machine": "lathe-320"},
         {"change": "set-cut-off", "setup": "S1", "left": 0.3},
         {"change": "set-fixture", "setup": "S1", "fixture": "bar-collet-65"},
         {"change": "set-buy", "buy": "bar"},
         {"change": "set-arrangement", "load": "L1", "on_bar": 5},
         {"change": "set-scope", "load": "L1", "operation": "S1.outside.rough-turn", "scope": "row"},
         {"change": "set-scope", "load": "L1", "operation": "S1.outside.finish-turn", "scope": "row"},
         {"change": "set-scope", "load": "L1", "operation": "S1.H1.drill", "scope": "row"}),
    ),
    DemoJob(
        "mast-socket", "MS-418", "Mast socket", "Tarnwell Observatories", "steel-c45", (100, 500, 2000),
        date(2027, 3, 26), "quoting",
        ({"change": "set-stock", "form": "round bar"},
         {"change": "set-stock", "sizing": "next size up"},
         {"change": "move-to-machine", "machine": "lathe-twin"},
         {"change": "set-cut-off", "setup": "S1", "left": 0.3},
         {"change": "set-allowance", "side": "Z-", "value": 9.0},
         {"change": "set-fixture", "setup": "S1", "fixture": "bar-collet-65"},
         {"change": "set-buy", "buy": "bar"},
         {"change": "run-beside", "load": "L1",
          "on": [["S1.end.cut-off", "turret 2"], ["S1.outside.rough-turn", "turret 2"]],
          "at_one_speed": [{"n": 1141.0, "operations": [
              "S1.end.face-in-the-lathe", "S1.outside.rough-turn", "S1.H1.spot", "S1.H1.drill"]}],
          "order": ["S1.end.face-in-the-lathe", "S1.outside.rough-turn", "S1.H1.spot", "S1.H1.drill",
                    "S1.outside.finish-turn", "S1.T6.groove", "S1.end.cut-off"]}),
    ),
    DemoJob(
        "guide-bush", "GB-207", "Anemometer guide bush", "Hochwart Wind Vanes", "al-6082", (2000, 20000),
        date(2027, 4, 2), "quoting",
        ({"change": "set-stock", "form": "round bar"},
         {"change": "set-stock", "sizing": "next size up"},
         {"change": "move-to-machine", "machine": "drum-six"},
         {"change": "set-cut-off", "setup": "S1", "left": 0.0},
         {"change": "set-allowance", "side": "Z-", "value": 4.0},
         {"change": "set-allowance", "side": "Z+", "value": 0.5},
         {"change": "set-fixture", "setup": "S1", "fixture": "bar-collet-65"},
         {"change": "set-buy", "buy": "bar"},
         {"change": "remove-setup", "setup": "S2"},
         {"change": "spread-out", "load": "L1"}),
    ),
    DemoJob(
        "sensor-foot", "SF-162", "Sensor foot", "Nordlys Field Instruments", "al-6082", (60, 240), date(2027, 3, 12),
        "quoting",
        ({"change": "set-fixture", "setup": "S1", "fixture": "vise-125-double"},
         {"change": "set-fixture", "setup": "S2", "fixture": "vise-125-double"},
         {"change": "load-together", "load": "L1", "setup": "S2", "in_turn": "stations"},
         {"change": "set-arrangement", "load": "L1", "columns": 3},
         {"change": "group-by-tool", "setup": "S1"}),
    ),
    DemoJob(
        "shield-cap", "RC-608", "Radiation shield cap", "Tarnwell Observatories", "al-6082", (60, 300),
        date(2027, 2, 19), "quoting", machine="",
    ),
    DemoJob(
        "cable-saddle", "CS-224", "Cable saddle", "Tarnwell Observatories", "al-6082", (160, 800),
        date(2027, 3, 5), "quoting",
        ({"change": "set-thread", "diameter": 3.3, "thread": "M4"},
         {"change": "set-machine", "setup": "S1", "machine": "mill-762-rotary"},
         {"change": "set-carriers", "setup": "S1", "carriers": ["bar-480"]},
         {"change": "set-fixture", "setup": "S1", "fixture": "vise-60-low"},
         {"change": "set-arrangement", "load": "L1", "columns": 4, "sides": [0, 90, 180, 270]},
         {"change": "set-fixture", "setup": "S2", "fixture": "plate-640"},
         {"change": "set-arrangement", "load": "L2", "columns": 5, "rows": 8},
         {"change": "set-offsets", "load": "L2", "policy": "group"},
         {"change": "group-by-tool", "setup": "S1"}),
    ),
    DemoJob(
        "vane-hub", "VH-333", "Wind vane hub", "Hochwart Wind Vanes", "al-6082", (150, 600),
        date(2027, 2, 26), "quoting",
        ({"change": "set-stock", "form": "round bar"},
         {"change": "set-stock", "sizing": "next size up"},
         {"change": "set-thread", "diameter": 5.0, "thread": "M6"},
         {"change": "hand-over", "machine": "lathe-both"},
         {"change": "move-feature", "features": ["H1"], "setup": "S2"},
         {"change": "run-beside", "load": "L1", "on": [["S1.outside.rough-turn", "turret 2"]],
          "at_one_speed": [{"n": 2853.0, "operations": ["S1.outside.rough-turn", "S1.H2.spot", "S1.H2.drill"]}],
          "order": ["S1.end.face-in-the-lathe", "S2.end.face-in-the-lathe", "S2.outside.rough-turn",
                    "S1.outside.rough-turn", "S1.H2.spot", "S2.H1.spot", "S1.H2.drill", "S2.H1.drill", "S2.H1.tap",
                    "S1.H2.bore", "S2.outside.finish-turn", "S1.outside.finish-turn", "S1.T6.groove",
                    "S1.end.cut-off"]}),
    ),
    DemoJob(
        "gauge-base", "RG-550", "Rain gauge base, cast", "Hochwart Wind Vanes", "al-6082", (80, 400),
        date(2027, 2, 12), "quoting",
        ({"change": "set-thread", "diameter": 5.0, "thread": "M6"},
         {"change": "divide-again"},
         {"change": "set-fixture", "setup": "S1", "fixture": "toe-400"},
         {"change": "set-fixture", "setup": "S2", "fixture": "plate-300"},
         {"change": "set-machine", "setup": "S2", "machine": "mill-500"},
         {"change": "add-hand-work", "setup": "S2", "kind": "deburr", "during": True},
         {"change": "set-cell", "operators": 1, "walk": 5.0, "room": None, "shift_hours": 8.0, "availability": 0.85}),
        casting="gauge-base-casting",
    ),
    DemoJob(
        "sonde-carrier", "SC-512", "Sonde carrier", "Nordlys Field Instruments", "al-6082", (30, 120),
        date(2027, 2, 5), "quoting",
        ({"change": "set-thread", "diameter": 5.0, "thread": "M6"},
         {"change": "set-thread", "diameter": 6.8, "thread": "M8"},
         {"change": "move-to-machine", "machine": "mill-762-rotary"},
         {"change": "set-allowance", "side": "X-", "value": 30.0},
         {"change": "divide-again"},
         {"change": "group-by-tool", "setup": "S1"}),
    ),
    DemoJob(
        "anemometer-arm-block", "AB-118", "Anemometer arm block", "Nordlys Field Instruments", "pom-c", (200, 1000),
        date(2026, 12, 4), "done",
        ({"change": "set-thread", "diameter": 3.3, "thread": "M4"},
         {"change": "say-tolerance", "features": ["H3"], "tolerance": "H7"},
         {"change": "group-by-tool", "setup": "S1"},
         {"change": "set-machine", "setup": "S1", "machine": "mill-500"},
         {"change": "set-machine", "setup": "S2", "machine": "mill-500"}),
    ),
    DemoJob(
        "gear-housing-lid", "GL-415", "Gear housing lid", "Hochwart Wind Vanes", "steel-c45", (25, 100),
        date(2026, 12, 18), "in work",
        ({"change": "set-thread", "diameter": 5.0, "thread": "M6"}, {"change": "group-by-tool", "setup": "S1"}),
    ),
    DemoJob(
        "mast-clamp-half", "MC-104", "Mast clamp half", "Nordlys Field Instruments", "al-6082", (50, 250, 1000),
        date(2027, 1, 15), "ordered",
        ({"change": "set-thread", "diameter": 5.0, "thread": "M6"},
         {"change": "say-note", "features": ["H7"], "note": "mating half is bored together with this one"},
         {"change": "set-rate", "name": "margin", "value": "0.22"}),
        revisions=("mast-clamp-half-b",),
    ),
    DemoJob(
        "louvre-bracket", "LB-310", "Louvre bracket", "Tarnwell Observatories", "al-6082", (40, 160),
        date(2027, 1, 22), "quoting",
        ({"change": "set-thread", "diameter": 6.8, "thread": "M8"},),
    ),
    DemoJob(
        "sensor-base-plate", "SB-220", "Sensor base plate", "Hochwart Wind Vanes", "al-6082", (10, 50, 250),
        date(2027, 1, 29), "quoting", alternatives=(
            ("Mill 2", ({"change": "begin-again", "machines": ["mill-500"]},)),
            ("Mill 2, six a cycle", (
                {"change": "begin-again", "machines": ["mill-500"]},
                {"change": "set-arrangement", "load": "L1", "columns": 2, "rows": 3},
                {"change": "set-arrangement", "load": "L2", "columns": 2, "rows": 3},
            )),
        ),
    ),
)  # fmt: skip


STATE, LOADING, LOADED = "demo", "loading", "loaded"
READERS = 2  # kernel processes that read what the next jobs need, while plans are made


def load_demo(desk: Desk) -> int:
    """Adds the demo's jobs unless there are jobs already; returns how many were added.

    One that was cut off is gone on with where it stopped.
    """
    state = desk.note(STATE)
    if state is None and desk.jobs(JobQuery(size=1)).all > 0:
        return 0
    if state == LOADED:
        return 0
    desk.take_note(STATE, LOADING)
    there = desk.plans_by_number()
    added = 0
    beside = ThreadPoolExecutor(READERS)
    try:
        parts = dict.fromkeys(part for job in JOBS if job.number not in there for part in job.parts)
        read = {part: beside.submit(desk.read_ahead, _upload(part)) for part in parts}
        for job in JOBS:
            added += job.number not in there
            wait([read[part] for part in job.parts if part in read])
            _load(desk, job, there.get(job.number))
    finally:
        beside.shutdown(cancel_futures=True)
    load_business(desk)
    desk.take_note(STATE, LOADED)
    return added


def _load(desk: Desk, job: DemoJob, plan_id: int | None) -> None:
    """Each step of a job that was not made yet: each makes one line of the journal, or one revision."""
    if plan_id is None:
        plan_id = desk.add_job(
            JobNew(
                file_name=f"{job.part}.step",
                content=_content(job.part),
                material=job.material,
                quantities=job.quantities,
                number=job.number,
                name=job.name,
                customer=job.customer,
                due=job.due,
                machine=job.machine,
                status=job.status,
                author="Imke",
            )
        )
    opened = desk.open(plan_id)
    done = opened.lines - 1
    if job.casting and done == 0:
        opened = desk.take_stock_model(plan_id, opened.edition, _upload(job.casting), "Imke")
    changed = max(0, done - bool(job.casting))
    for change in job.changes[changed:]:
        opened = desk.change(plan_id, opened.edition, read_change(change), "Imke")
    for part in job.revisions[len(opened.revisions) - 1 :]:
        desk.add_revision(RevisionNew(opened.job.id, _upload(part), "Imke"))
    known = {plan.name for plan in desk.alternatives.of(plan_id)}
    for name, changes in job.alternatives:
        if name not in known:
            desk.alternatives.fork(plan_id, None, name, "Imke", [change_of(change) for change in changes])


def _upload(part: str) -> Upload:
    return Upload(f"{part}.step", _content(part))


def _content(part: str) -> bytes:
    return (files("lean_ledger.demo") / "parts" / f"{part}.step").read_bytes()
