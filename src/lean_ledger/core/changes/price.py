"""Rates, hours and how the material is bought."""

from __future__ import annotations

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any, Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict
from lean_ledger.core.plan import Plan

RateName = Literal[
    "labour_rate", "attendance", "programming_hours", "programming_rate", "inspection_seconds", "inspection_rate",
    "fixtures", "fixture_life", "tooling_per_piece", "outside_per_piece", "outside_lot", "price_per_kg", "kerf",
    "bar_length", "remnant", "cut_charge", "scrap", "overhead", "margin",
]  # fmt: skip

RATE_WORDS: dict[RateName, str] = {
    "margin": "margin",
    "overhead": "overhead",
    "scrap": "scrap",
    "price_per_kg": "material per kg",
    "kerf": "saw kerf",
    "bar_length": "bar length",
    "remnant": "bar remnant",
    "cut_charge": "charge per cut",
    "labour_rate": "labour rate",
    "attendance": "attendance",
    "programming_hours": "programming hours",
    "programming_rate": "programming rate",
    "tooling_per_piece": "tools per piece",
    "fixtures": "fixtures",
    "fixture_life": "fixtures spread over",
    "outside_per_piece": "outside work per piece",
    "outside_lot": "outside work per lot",
    "inspection_seconds": "inspection seconds",
    "inspection_rate": "inspection rate",
}
#: Shares: of a lot that is all scrap, or a price that is all margin, nothing is left to divide by.
_MOST = {
    "scrap": Decimal("0.95"), "margin": Decimal("0.95"), "overhead": Decimal(10), "attendance": Decimal(10),
}  # fmt: skip
_ABOVE_ZERO = {"fixture_life", "bar_length"}


@dataclass(frozen=True)
class SetRate(Strict):
    name: RateName
    value: Decimal | None
    change: Literal["set-rate"] = "set-rate"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        words = RATE_WORDS[self.name]
        if self.value is not None:
            if self.value < 0:
                raise PlanError("negative", f"{words} is {self.value}; it must not be negative")
            if self.name in _ABOVE_ZERO and self.value == 0:
                raise PlanError("not-positive", f"{words} must be above 0; clear it to leave it to the rule")
            most = _MOST.get(self.name)
            if most is not None and self.value > most:
                shown = f"{self.value * 100:g} %; it must be at most {float(most * 100):g} %"
                raise PlanError("share", f"{words} is {shown}")
        rates = replace(plan.rates, **{self.name: self.value})
        shown = "by the shop's rate" if self.value is None else f"{self.value.normalize():f}"
        return replace(plan, rates=rates), f"{words} {shown}"


@dataclass(frozen=True)
class SetSetupCost(Strict):
    """Machine rate, setting-up hours and load time of one setup."""

    setup: str
    machine_rate: Decimal | None = None
    hours: Decimal | None = None
    load_seconds: Decimal | None = None
    clear: tuple[Literal["machine_rate", "hours", "load_seconds"], ...] = ()
    change: Literal["set-setup-cost"] = "set-setup-cost"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        names = ("machine_rate", "hours", "load_seconds")
        given = {name: value for name in names if (value := getattr(self, name)) is not None}
        for name, value in given.items():
            if value < 0:
                raise PlanError("negative", f"{name.replace('_', ' ')} is {value}; it must not be negative", self.setup)
        cleared: dict[str, Any] = dict.fromkeys(self.clear)
        fields = {"machine_rate": "rate"}
        decided = replace(
            plan.load_of(self.setup), **{fields.get(name, name): value for name, value in (given | cleared).items()}
        )
        words = [f"{name.replace('_', ' ')} {value.normalize():f}" for name, value in given.items()]
        words += [f"{name.replace('_', ' ')} by the rule" for name in self.clear]
        return plan.with_load(decided), f"setup {self.setup}: {', '.join(words)}"


@dataclass(frozen=True)
class SetBuy(Strict):
    buy: Literal["blank", "bar"]
    change: Literal["set-buy"] = "set-buy"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        words = {"blank": "sawn blanks", "bar": "whole bars"}[self.buy]
        return replace(plan, buy=self.buy), f"material bought as {words}"
