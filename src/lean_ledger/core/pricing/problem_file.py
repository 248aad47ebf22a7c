"""Reads a price problem from JSON text; every refusal names the path in the file and the reason."""

from __future__ import annotations

from typing import Any

from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.files.json_input import (
    Reader,
    anything,
    check_format,
    nullable,
    one_of,
    parse_json,
    read_above_zero,
    read_amount,
    read_flag,
    read_list,
    read_object,
    read_share,
    read_text,
    read_whole,
)
from lean_ledger.core.pricing.price import MaterialCost, Outside, PriceProblem, PriceSetup

FORMAT = "lean-ledger/price-problem@1"


def parse_price_problem(text: str) -> PriceProblem:
    """Raises ProblemError for anything but a whole and sound problem; `place` is the line or the path in the JSON."""
    data = parse_json(text)
    check_format(data, FORMAT)
    top = read_object(data, "", _TOP)
    material = MaterialCost(**read_object(top["material"], "material", _MATERIAL))
    if material.kind == "bar" and material.pieces_per_bar < 1:
        raise ProblemError(
            "bar-too-short", f"a bar of {material.bar_length} holds no piece of {material.length}", "material"
        )
    return PriceProblem(
        quantities=top["quantities"],
        material=material,
        setups=tuple(
            PriceSetup(**read_object(row, f"setups[{i}]", _SETUP))
            for i, row in enumerate(read_list(top["setups"], "setups"))
        ),
        outside=tuple(
            Outside(**read_object(row, f"outside[{i}]", _OUTSIDE))
            for i, row in enumerate(read_list(top["outside"], "outside"))
        ),
        **{key: top[key] for key in _TOP if key not in ("format", "quantities", "material", "setups", "outside")},
    )


def _quantities(value: Any, path: str) -> tuple[int, ...]:
    rows = read_list(value, path)
    if not rows:
        raise ProblemError("empty", "at least one quantity is needed", path)
    return tuple(read_whole(row, f"{path}[{i}]") for i, row in enumerate(rows))


_MATERIAL: dict[str, Reader] = {
    "kind": one_of("bar", "blank"),
    "price_per_kg": read_amount,
    "density": read_amount,
    "section_area": read_amount,
    "length": read_above_zero,
    "kerf": read_amount,
    "bar_length": read_amount,
    "remnant": read_amount,
    "cut_charge": read_amount,
}
_SETUP: dict[str, Reader] = {
    "name": read_text,
    "machine_rate": read_amount,
    "labour_rate": read_amount,
    "attendance": read_amount,
    "setup_hours": read_amount,
    "cycle_seconds": read_amount,
    "pieces_per_cycle": read_whole,
    "load_seconds": read_amount,
    "load_during_cycle": read_flag,
}
_OUTSIDE: dict[str, Reader] = {"name": read_text, "per_piece": read_amount, "lot": read_amount}
_TOP: dict[str, Reader] = {
    "format": read_text,
    "quantities": _quantities,
    "material": anything,
    "setups": anything,
    "tooling_per_piece": read_amount,
    "fixtures": read_amount,
    "fixture_life": nullable(read_above_zero),
    "programming_hours": read_amount,
    "programming_rate": read_amount,
    "outside": anything,
    "inspection_seconds": read_amount,
    "inspection_rate": read_amount,
    "scrap": read_share,
    "overhead": read_amount,
    "margin": read_share,
}
