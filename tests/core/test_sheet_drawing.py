"""The drawings of a setup sheet: every operation's number stands where it works, sizes are the stock's."""

from __future__ import annotations

from datetime import date
from io import BytesIO

import pytest
from pypdf import PdfReader

from lean_ledger.core.features import Hole
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.papers.pdf import sheet_pdf
from lean_ledger.core.papers.sheet import JobWords, SheetSetup, setup_sheet
from tests.conftest import demo_part, quick_ledger
from tests.core.test_many_alike import plate
from tests.core.test_turning import LIB, on_lathe

JOB = JobWords("SB-220", "Sensor base plate", "A", "Hochwart Wind Vanes")
NAMES = ("sensor-base-plate", "vane-hub", "sonde-carrier")


def made(name: str) -> tuple[Ledger, tuple[SheetSetup, ...]]:
    part = demo_part(name)
    ledger = evaluate(on_lathe(part), part, LIB) if name == "vane-hub" else quick_ledger(part)
    return ledger, setup_sheet(JOB, ledger, part, 3, date(2026, 11, 25)).setups


@pytest.mark.parametrize("name", NAMES)
def test_each_operation_is_told_once(name: str) -> None:
    for setup in made(name)[1]:
        main, second = setup.views
        told = [int(n) for one in main.callouts for n in one.words.split()] + list(main.over_all)
        assert sorted(told) == [o.number for o in setup.operations]
        assert not second.callouts


def test_numbers_of_holes_stand_at_the_first_of_them() -> None:
    ledger, setups = made("sensor-base-plate")
    part = demo_part("sensor-base-plate")
    row = next(e for e in ledger.setups[0].rows if e.operation.name.startswith("Drill 6 × Ø4.2"))
    first = part.by_id[row.operation.features[0]]
    assert isinstance(first, Hole)
    x, y, _ = ledger.setups[0].built.hold.frame.point(first.position)
    one = next(c for c in setups[0].views[0].callouts if str(10 * (row.position + 1)) in c.words.split())
    assert one.at == pytest.approx((x, y), abs=0.01)
    # what goes round the whole part is at no one place
    over_all = {o.name.split(",")[0] for o in setups[0].operations if o.number in setups[0].views[0].over_all}
    assert {"Face side Z+", "Rough outline", "Finish outline", "Chamfer 0.8 × 45°"} <= over_all


def test_sizes_are_stock_zero_and_grip() -> None:
    # 140 × 90 × 16 with 2 around it, its zero in the middle of the stock's top
    _, setups = made("sensor-base-plate")
    main, second = setups[0].views
    assert [(s.words, s.upright, s.row) for s in main.sizes] == [
        ("72.00", False, 1), ("144.00", False, 2), ("47.00", True, 1), ("94.00", True, 2),
    ]  # fmt: skip
    assert [s.words for s in second.sizes] == ["20.00", "grip 6.0"]
    assert all(s.high - s.low == pytest.approx(float(s.words.split()[-1])) for s in (*main.sizes, *second.sizes))


def test_what_a_spindle_turns_is_drawn_lying() -> None:
    ledger, setups = made("vane-hub")
    lathe = next(i for i, s in enumerate(ledger.setups) if s.machine.turns_work)
    one, hold = ledger.setups[lathe], ledger.setups[lathe].built.hold
    assert one.decision.is_horizontal
    main, second = setups[lathe].views
    stock = [b for b in main.boxes if b.what == "stock"]
    # along the axis to the right, what holds it at the left
    assert min(b.x for b in stock) == pytest.approx(hold.stock.min[2])
    assert max(b.x + b.width for b in stock) == pytest.approx(hold.stock.max[2])
    assert min(b.x for b in main.boxes if b.what in ("chuck", "jaw")) < min(b.x for b in stock)
    words = [s.words for s in main.sizes]
    out = hold.stock.max[2] - hold.jaw_top
    assert words[:3] == [f"grip {hold.grip:.1f}", f"out {out:.1f}", f"{hold.grip + out:.2f}"]
    assert second.view.name == "top"


def test_long_words_of_what_holds_stay_in_their_column() -> None:
    part = demo_part("louvre-bracket")
    ledger = quick_ledger(part)
    sheet = setup_sheet(JOB, ledger, part, 3, date(2026, 11, 25))
    text = PdfReader(BytesIO(sheet_pdf(sheet))).pages[0].extract_text()
    long = next(words for _, words in sheet.setups[0].fixture if len(words) > 40)
    assert long not in text.splitlines(), "broken over lines"
    assert all(word in text for word in long.split())
    assert "all over or outside: " in text


def test_numbers_of_many_alike_pockets_stand_at_the_first_of_them() -> None:
    part = plate(3, 2)
    ledger = quick_ledger(part)
    setup = setup_sheet(JOB, ledger, part, 3, date(2026, 11, 25)).setups[0]
    alike = {str(o.number) for o in setup.operations if "6 pockets P1 to P6" in o.name}
    assert len(alike) >= 3
    (one,) = [c for c in setup.views[0].callouts if alike & set(c.words.split())]
    assert set(one.words.split()) == alike
    # P1 from 10 to 34 each way
    first = ledger.setups[0].built.hold.frame.point((22.0, 22.0, 20.0))
    assert part.by_id["P1"].kind == "pocket"
    assert one.at == pytest.approx(first[:2], abs=0.01)
