"""A plan's price problem: stock, times, tool wear and rates put into one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import fields
from decimal import Decimal

from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.loads.load_ledger import LoadLedger, bar_fed
from lean_ledger.core.operations.cutting.wear import tool_uses
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Plan
from lean_ledger.core.pricing.price import MaterialCost, Outside, PriceProblem, PriceSetup
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
    plan: Plan, library: Library, material: Material, stock: tuple[float, float], loads: Sequence[LoadLedger]
) -> tuple[PriceProblem, Figure]:
    """Everything the price is computed from; and how the tool wear came about.

    `stock` is its section, mm², and its length, mm.
    """
    operations = [call.operation for load in loads for share in load.shares for call in share.rows]
    rates = effective_rates(plan, library.rates, material)
    wear, wear_figure = tooling_per_piece(operations, library, material)
    programming = library.rates.programming_hours_per_setup * len(
        plan.setups
    ) + library.rates.programming_hours_per_operation * len(operations)
    found = (bar_fed(one, rates["bar_length"], rates["remnant"]) for one in loads if plan.buy == "bar")
    bar = next((one for one in found if one is not None), None)
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
            section_area=_mm(stock[0]),
            length=_mm(stock[1]) if bar is None else bar.share.quantize(TENTH_CENT),
            kerf=rates["kerf"] if bar is None else NONE,  # the blade's is in the advance
            bar_length=rates["bar_length"],
            remnant=rates["remnant"],
            cut_charge=rates["cut_charge"],
            together=bar.per_advance if bar is not None else 1,
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


def _mm(value: float) -> Decimal:
    return Decimal(str(value)).quantize(HUNDREDTH)
