"""A plan's price problem: stock, times, tool wear and rates put into one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields
from decimal import Decimal
from math import prod

from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.loads.joined import blank_size
from lean_ledger.core.loads.load_ledger import LoadLedger, bar_fed
from lean_ledger.core.operations.cutting.wear import tool_uses
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Plan
from lean_ledger.core.pricing.price import MaterialCost, Outside, PriceProblem, PriceSetup
from lean_ledger.core.stock import StockState
from lean_ledger.library.types import Library, Material, Rates

MILLISECOND = Decimal("0.001")
TENTH_CENT = Decimal("0.0001")
HUNDREDTH = Decimal("0.01")
NONE = Decimal(0)


def effective_rates(plan: Plan, rates: Rates, material: Material) -> dict[str, Decimal]:
    """The shop's rates with the plan's own over them."""
    found = {f.name: getattr(rates, f.name) for f in fields(rates)}
    found["price_per_kg"] = material.price_per_kg
    for f in fields(plan.rates):
        value = getattr(plan.rates, f.name)
        if value is not None:
            found[f.name] = value
    return found


def tooling_per_piece(operations: Sequence[Operation], library: Library, material: Material) -> tuple[Decimal, Figure]:
    """Σ minutes in cut / tool life × tool price, to a hundredth of a cent."""
    uses = tool_uses(operations, library, material)
    formula = f"Σ minutes in cut / life in {material.name} at its speed and feed × price, of {len(uses)} tools"
    amount = Decimal(str(sum(use.cost for use in uses))).quantize(TENTH_CENT)
    return amount, Figure("tool wear", formula, float(amount), "")


def price_problem(
    plan: Plan, library: Library, material: Material, stock: StockState, loads: Sequence[LoadLedger]
) -> tuple[PriceProblem, Figure]:
    """Everything the price is computed from; and how the tool wear came about. `stock` is a piece's."""
    operations = [call.operation for load in loads for share in load.shares for call in share.rows]
    rates = effective_rates(plan, library.rates, material)
    wear, wear_figure = tooling_per_piece(operations, library, material)
    programming = library.rates.programming_hours_per_setup * len(
        plan.setups
    ) + library.rates.programming_hours_per_operation * len(operations)
    found = (bar_fed(one, rates["bar_length"], rates["remnant"]) for one in loads if plan.buy == "bar")
    bar = next((one for one in found if one is not None), None)
    own = bought(stock, loads[0])
    setups = []
    for one in loads:
        setups.append(
            PriceSetup(
                name=one.words,
                machine_rate=one.load.rate if one.load.rate is not None else one.machine.rate,
                labour_rate=rates["labour_rate"],
                attendance=rates["attendance"],
                setup_hours=one.setup_hours,
                cycle_seconds=Decimal(str(one.cycle)).quantize(MILLISECOND),
                pieces_per_cycle=one.pieces,
                load_seconds=Decimal(str(one.idle)),
                load_during_cycle=False,
            )
        )
    problem = PriceProblem(
        quantities=plan.quantities,
        material=MaterialCost(
            kind=plan.buy,
            price_per_kg=rates["price_per_kg"],
            density=material.density,
            section_area=_mm(own.section),
            length=own.length if bar is None else bar.share.quantize(TENTH_CENT),
            kerf=rates["kerf"] if bar is None else NONE,  # the blade's is in the advance
            bar_length=rates["bar_length"],
            remnant=rates["remnant"],
            cut_charge=rates["cut_charge"],
            together=own.together if bar is None else bar.per_advance,
            sawn_apart=loads[0].where.load.arrangement.in_one,
        ),
        setups=tuple(setups),
        tooling_per_piece=rates.get("tooling_per_piece", wear),
        fixtures=rates["fixtures"],
        fixture_life=rates.get("fixture_life"),
        programming_hours=rates.get("programming_hours", programming),
        programming_rate=rates["programming_rate"],
        outside=(Outside("outside work", rates.get("outside_per_piece", NONE), rates.get("outside_lot", NONE)),),
        inspection_seconds=rates["inspection_seconds"],
        inspection_rate=rates["inspection_rate"],
        scrap=rates["scrap"],
        overhead=rates["overhead"],
        margin=rates["margin"],
    )
    return problem, wear_figure


@dataclass(frozen=True)
class Bought:
    """Section, mm², and length, mm, of what is bought for a piece; `together`: pieces of a bar that go as one."""

    section: float
    length: Decimal
    together: int = 1


def bought(stock: StockState, load: LoadLedger) -> Bought:
    """A piece's stock; where pieces stay in one bar for their first setup the section of that, and of its length each
    one's share.

    Of 6 that are 60 long with a kerf of 3 each is (6 · 60 + 5 · 3) / 6 = 62.5 of the bar.
    """
    (section, length), how = stock.section_and_length, load.where.load.arrangement
    if how.joined == 1:
        return Bought(section, _mm(length))
    size, own, axis = whole_blank(stock, load), stock.bounds.size, stock.length_axis
    wider = prod(size[i] / own[i] for i in range(3) if i != axis)
    share = Decimal(str(size[axis] / how.in_one)).quantize(TENTH_CENT)
    return Bought(section * wider, share, how.in_one)


def whole_blank(stock: StockState, load: LoadLedger) -> tuple[float, float, float]:
    """Along the part's axes, mm: a piece's stock, or the bar of all that stay in one for their first setup."""
    size, how, frame = list(stock.bounds.size), load.where.load.arrangement, load.built.home.frame
    if how.joined > 1:
        for axis, whole in zip((frame.right, frame.back), blank_size(load.built, how), strict=True):
            size[max(range(3), key=lambda i: abs(axis[i]))] = whole
    x, y, z = size
    return x, y, z


def _mm(value: float) -> Decimal:
    return Decimal(str(value)).quantize(HUNDREDTH)
