"""What is bought for the part."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict, check_between
from lean_ledger.core.part.bodies import planned_part
from lean_ledger.core.plan import Allowances, Plan, Sizing, StockChoice, StockForm
from lean_ledger.core.stock.sizes import asked_on, listed_sides, without

MOST_SIZE = 4000.0
LEAST_SIZE = 1.0


@dataclass(frozen=True)
class SetStock(Strict):
    """Only what is given changes. Sizes that are fixed begin as they are now. `stay`: sides on which the part is as
    large as a listed size stay as they are bought.
    """

    form: StockForm | None = None
    along: Literal["X", "Y", "Z", "by the rule"] | None = None
    sizing: Sizing | None = None
    stay: bool = False
    change: Literal["set-stock"] = "set-stock"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        stock = plan.stock
        if self.form == "near-net" and not stock.model:
            raise PlanError("no-stock-model", "near-net stock needs its own model: bring its STEP file in first")
        words: list[str] = []
        if self.form is not None:
            sizing: Sizing = "over the part" if self.form == "near-net" else stock.sizing
            stock = replace(stock, form=self.form, sizing=sizing)
            words.append(self.form)
        if self.along is not None:
            stock = replace(stock, along=None if self.along == "by the rule" else self.along)
            words.append(f"along {stock.along}" if stock.along else "along the axis that the rule takes")
        if self.sizing is not None:
            stock = replace(stock, sizing=self.sizing)
            words.append({"over the part": "sizes follow the part", "next size up": "the next size up of the list",
                          "fixed": "sizes fixed"}[self.sizing])  # fmt: skip
        if stock.sizing == "fixed" and plan.stock.sizing != "fixed":
            size = scene.ledger.stock.bounds.size
            stock = replace(stock, fixed=tuple(round(v, 3) for v in size))  # type: ignore[arg-type]
        if not words and not self.stay:
            raise PlanError("nothing-said", "say a form, an axis or how its sizes come about")
        plan, again = _covered_again(plan, stock, scene)
        words += again
        if self.stay:
            plan, sides = _staying(plan, scene)
            words.append(f"{told(sides)} as bought")
        return plan, f"stock: {', '.join(words)}"


def _covered_again(plan: Plan, stock: StockChoice, scene: Scene) -> tuple[Plan, list[str]]:
    """The plan with other stock. Sides that stayed as the bar or plate before was bought get the usual stock on them:
    nothing of what is bought now is as large as they are.
    """
    if (stock.form, stock.along) == (plan.stock.form, plan.stock.along) or plan.stock.sizing != "next size up":
        return replace(plan, stock=stock), []
    before = listed_sides(plan, planned_part(scene.part, plan), scene.library.stock)
    stayed = [side for side in before if plan.allowances.on(side) == 0]
    usual, allowances = Allowances(), plan.allowances
    for side in stayed:
        allowances = allowances.with_side(side, usual.on(side))
    words = [f"{usual.on(stayed[0]):g} over {told(stayed)} again"] if stayed else []
    return replace(plan, stock=stock, allowances=allowances), words


def _staying(plan: Plan, scene: Scene) -> tuple[Plan, tuple[str, ...]]:
    part = planned_part(scene.part, plan)
    sides = listed_sides(plan, part, scene.library.stock)
    if plan.stock.sizing != "next size up":
        what = "a side stays as bought where its size is one of the list's: take the next size up"
        raise PlanError("not-a-listed-size", what)
    if not sides:
        what = "no side of the part is as large as a listed size of that: leave stock on it"
        raise PlanError("not-a-listed-size", what)
    asked = asked_on(sides, plan, part)
    if asked is not None:
        what = asked.tolerance or f"Ra {asked.finish:g}"
        raise PlanError("side-has-a-finish", f"{asked.feature} is to have {what}, which no bar or plate comes with")
    return replace(plan, allowances=without(plan.allowances, sides)), sides


def told(sides: Sequence[str]) -> str:
    """Both sides of an axis as one: X and Z+."""
    axes = [a for a in "XYZ" if f"{a}-" in sides and f"{a}+" in sides]
    return " and ".join([*axes, *(side for side in sides if side[0] not in axes)])


@dataclass(frozen=True)
class SetStockSize(Strict):
    """One of the sizes that do not follow the part, mm."""

    axis: Literal["X", "Y", "Z"]
    value: float
    change: Literal["set-stock-size"] = "set-stock-size"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        check_between(self.value, LEAST_SIZE, MOST_SIZE, f"the stock's size along {self.axis}")
        if plan.stock.sizing != "fixed":
            raise PlanError("size-follows", "the stock's sizes follow the part; fix them first")
        fixed = list(plan.stock.fixed)
        fixed["XYZ".index(self.axis)] = self.value
        if plan.stock.form in ("round bar", "hexagonal bar") and scene.ledger.sized.along != "XYZ".index(self.axis):
            fixed = [f if i == scene.ledger.sized.along else self.value for i, f in enumerate(fixed)]
        stock = replace(plan.stock, fixed=tuple(fixed))  # type: ignore[arg-type]
        return replace(plan, stock=stock), f"stock {self.value:g} along {self.axis}"


@dataclass(frozen=True)
class TakeStockModel(Strict):
    """Near-net stock: the key of a model that was brought in, laid on the part as it counts."""

    model: str
    change: Literal["take-stock-model"] = "take-stock-model"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        scene.known_model(self.model)
        stock = replace(plan.stock, form="near-net", model=self.model, shift=(0.0, 0.0, 0.0))
        return replace(plan, stock=stock), "stock: near-net, by its own model"


@dataclass(frozen=True)
class ShiftStockModel(Strict):
    """Moves the near-net stock's model on the part, mm from where its own file has it."""

    axis: Literal["X", "Y", "Z"]
    value: float
    change: Literal["shift-stock-model"] = "shift-stock-model"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        check_between(self.value, -MOST_SIZE, MOST_SIZE, f"the shift along {self.axis}")
        if plan.stock.form != "near-net":
            raise PlanError("no-stock-model", "only near-net stock has a model that could be moved")
        shift = list(plan.stock.shift)
        shift["XYZ".index(self.axis)] = self.value
        stock = replace(plan.stock, shift=tuple(shift))  # type: ignore[arg-type]
        return replace(plan, stock=stock), f"stock's model at {self.axis} {self.value:g}"
