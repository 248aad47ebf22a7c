"""Core's values of the floor as the pages are told them."""

from __future__ import annotations

from collections.abc import Iterable

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.floor.book import REASONS, Book, Event
from lean_ledger.core.floor.measured import Factor
from lean_ledger.core.floor.runs import Beside, RunRecord, by_category, by_load, by_tool
from lean_ledger.core.floor.steps import Step
from lean_ledger.core.papers.code import code_of
from lean_ledger.library.types import Library
from lean_ledger.store.floor import AtMachine
from lean_ledger.web.floor import schemas as s

LAST = 12  # events that can be taken back on the page


def floor_view(there: AtMachine) -> s.FloorView:
    opened, load = there.opened, there.load
    titles = {step.id: step.title for step in there.steps}
    return s.FloorView(
        plan_id=opened.plan_id, setup=load.load.setups[0], setups=list(load.load.setups), job=opened.job.number,
        name=opened.job.name, revision=opened.plan.revision, version=opened.version.seq, machine=load.machine.name,
        pieces=load.pieces, quantity=opened.job.ordered or opened.plan.quantities[0],
        findings=sum(f.severity == Severity.ERROR for f in opened.ledger.findings),
        setup_hours=float(load.whole_setup_hours), load_seconds=load.whole_load_seconds, cycle=load.cycle,
        steps=_steps(there.steps, there.book), book=_book(there.book),
        last=[
            s.FloorEventView(token=e.token, at=e.at, author=e.author, words=_words(e, titles))
            for e in there.book.last[:LAST]
        ],
        reasons=list(REASONS),
    )  # fmt: skip


def plan_floor_view(loads: Iterable[AtMachine], runs: tuple[RunRecord, ...], base: str) -> s.PlanFloorView:
    return s.PlanFloorView(
        loads=[_load(one, base) for one in loads],
        runs=len(runs),
        by_category=[_beside(one) for one in by_category(runs)],
        by_program=[_beside(one) for one in by_load(runs)],
        by_tool=[_beside(one) for one in by_tool(runs)],
    )


def factors_view(found: Iterable[Factor], library: Library) -> s.FactorsView:
    used = {(one.machine, one.category): one for one in library.measured}
    rows = []
    for one in found:
        machine = library.machine(one.machine)
        now = used.pop((one.machine, one.category), None)
        rows.append(s.FactorView(
            machine=one.machine, machine_name=machine.name if machine else one.machine, category=one.category,
            factor=one.factor, off=one.off, mean=one.mean, drawn=one.drawn, scatter=one.scatter,
            programs=one.programs, runs=one.runs,
            outliers=[s.ObservationView(words=o.run, ratio=o.ratio) for o in one.outliers],
            used=float(now.factor) if now else None, used_words=now.words if now else "",
        ))  # fmt: skip
    return s.FactorsView(factors=rows)


def _load(there: AtMachine, base: str) -> s.FloorLoadView:
    load, setup = there.load, there.load.load.setups[0]
    address = f"{base}/floor/{there.opened.plan_id}/{setup}?v={there.opened.version.seq}"
    code = code_of(address)
    return s.FloorLoadView(
        setup=setup, setups=list(load.load.setups), machine=load.machine.name, address=address, code=code.path,
        code_size=code.size, setup_seconds=3600 * float(load.whole_setup_hours), load_seconds=load.whole_load_seconds,
        steps=_steps(there.steps, there.book), book=_book(there.book),
    )  # fmt: skip


def _steps(steps: Iterable[Step], kept: Book) -> list[s.FloorStepView]:
    found = []
    for step in steps:
        time = kept.steps[step.id]
        since = time.spans[-1][0] if time.runs else None
        view = s.FloorStepView(
            id=step.id, title=step.title, lines=list(step.lines), runs=time.runs, done=time.done, seconds=time.seconds,
            since=since,
        )  # fmt: skip
        found.append(view)
    return found


def _book(kept: Book) -> s.BookView:
    return s.BookView(
        setting_up=kept.setting_up, loads=len(kept.loads), loading=kept.loading, good=kept.good,
        scrap=[s.ScrapView(reason=reason, count=count) for reason, count in kept.scrap.items()],
        notes=[
            s.FloorNoteView(token=e.token, kind=e.kind, at=e.at, author=e.author, step=e.step, text=e.text,
                            photo=e.photo)
            for e in kept.notes
        ],
    )  # fmt: skip


def _words(e: Event, titles: dict[str, str]) -> str:
    step = titles.get(e.step, "")
    match e.kind:
        case "start":
            return f"{step}: begun"
        case "stop":
            return f"{step}: ended"
        case "load":
            return f"loading took {e.seconds:.1f} s"
        case "good":
            return f"{e.count} good"
        case "scrap":
            return f"{e.count} scrap: {e.reason}"
        case "photo":
            return f"photo{f' to {step}' if step else ''}"
        case _:
            return f"note{f' to {step}' if step else ''}: {e.text[:60]}"


def _beside(one: Beside) -> s.BesideView:
    return s.BesideView(what=one.what, planned=one.planned, actual=one.actual, count=one.count, over=one.over)
