"""What the demo shop's customers were quoted, what they ordered, and what came back from its floor."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from decimal import Decimal

from lean_ledger.core.floor.book import Event
from lean_ledger.core.papers.package import program_package
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.quoting.asked import AskedLine, CustomerTerms
from lean_ledger.core.quoting.record import Ordered
from lean_ledger.standins.dnc import received
from lean_ledger.store import Desk
from lean_ledger.store.rows import now

NOTE = "demo business"
AUTHOR = "Imke"

CUSTOMERS = (
    ("Hochwart Wind Vanes", CustomerTerms(("Kammweg 3", "6793 Hochwart"), "Ms Ellhorn", discount=Decimal("0.02"))),
    ("Nordlys Field Instruments", CustomerTerms(("Skaergata 21", "9012 Nordlys"), "Mr Tveit", payment="14 days net")),
    ("Tarnwell Observatories", CustomerTerms(("Gale Street 8", "Tarnwell TW4 2RN"), "Stores", currency="GBP")),
)  # fmt: skip


@dataclass(frozen=True)
class DemoQuote:
    """Its parts by number with their quantities; what became of it: ordered by number, or lost for a reason."""

    customer: str
    lines: tuple[tuple[str, tuple[int, ...]], ...]
    ordered: tuple[tuple[str, int], ...] = ()
    lost: tuple[str, str] | None = None


QUOTES = (
    DemoQuote("Hochwart Wind Vanes", (("GL-415", (25, 100)),), ordered=(("GL-415", 25),)),
    DemoQuote("Tarnwell Observatories", (("LB-310", (40, 160)),), lost=("price", "11 % above the one who got it")),
    DemoQuote("Nordlys Field Instruments", (("MC-104", (50, 250, 1000)),), ordered=(("MC-104", 250),)),
    DemoQuote("Hochwart Wind Vanes", (("SB-220", (10, 50, 250)), ("WV-271", (200, 1000)))),
)
IN_WORK = "GL-415"
RUNS = (("AB-118", 24), (IN_WORK, 8))


def load_business(desk: Desk) -> None:
    """After the jobs; once."""
    if desk.note(NOTE) is not None:
        return
    plans = desk.plans_by_number()
    ids = {name: desk.quotes.keep_customer(name, terms, _known(desk, name)) for name, terms in CUSTOMERS}
    quotes = [quote for quote in QUOTES if all(number in plans for number, _ in quote.lines)]
    for quote in quotes[len(desk.quotes.all()) :]:
        id = desk.quotes.begin(
            ids[quote.customer], [AskedLine(plans[number], pieces) for number, pieces in quote.lines], AUTHOR
        )
        desk.quotes.issue(id, desk.quotes.get(id).mark)
        if quote.ordered:
            desk.quotes.win(id, [Ordered(plans[number], pieces) for number, pieces in quote.ordered], AUTHOR)
        if quote.lost is not None:
            desk.quotes.lose(id, *quote.lost)
    if IN_WORK in plans:
        desk.set_job(desk.open(plans[IN_WORK], with_stock=False).job.id, status="in work")
        _ticked(desk, plans[IN_WORK])
    for number, count in RUNS:
        if number in plans and desk.floor.run_count(plans[number]) == 0:
            _run(desk, plans[number], count)
    desk.take_note(NOTE, "loaded")


def _known(desk: Desk, name: str) -> int | None:
    return next((one.id for one in desk.quotes.customers() if one.name == name), None)


def _run(desk: Desk, plan_id: int, count: int) -> None:
    """On the simulated machines, by the programs as they stand."""
    opened = desk.open(plan_id, with_stock=False)
    words = JobWords(opened.job.number, opened.job.name, opened.plan.revision, opened.job.customer)
    sheet = setup_sheet(words, opened.ledger, opened.part, opened.version.seq, opened.version.at.date())
    package = program_package(sheet, b"", checked_programs(opened.ledger, opened.part, opened.job.number))
    machines = {machine.id: machine for machine in desk.library.machines}
    desk.floor.take_runs(plan_id, opened.version.seq, received(package, machines, seed=plan_id, runs=count))


#: Of the first setup: (step, minutes from the first, minutes that it took).
TICKS = (("tools", 0, 9), ("fixture", 9, 6), ("stock", 15, 2), ("zero", 17, 5), ("first", 22, 14))


def _ticked(desk: Desk, plan_id: int) -> None:
    begun = now() - timedelta(hours=3)
    events = []
    for step, after, took in TICKS:
        at = begun + timedelta(minutes=after)
        events.append(Event(f"demo-{step}-a", "start", at, step=step))
        events.append(Event(f"demo-{step}-b", "stop", at + timedelta(minutes=took), step=step))
    later = begun + timedelta(minutes=40)
    events += [
        Event(f"demo-load-{k}", "load", later + timedelta(minutes=8 * k), seconds=seconds)
        for k, seconds in enumerate((52.0, 47.5, 44.0, 45.5, 43.0))
    ]
    events.append(Event("demo-good", "good", later + timedelta(minutes=45), count=5))
    events.append(Event("demo-scrap", "scrap", later + timedelta(minutes=45), count=1, reason="clamped wrong"))
    events.append(
        Event("demo-note", "note", later, step="fixture", text="parallel 34 is worn at one end: turned round")
    )
    setup = desk.open(plan_id, with_stock=False).plan.setups[0].id
    desk.floor.take(plan_id, setup, events, {}, AUTHOR)
