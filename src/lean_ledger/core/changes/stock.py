"""What is bought for the part."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict, check_between
from lean_ledger.core.plan import Plan, Sizing, StockForm

MOST_SIZE = 4000.0
LEAST_SIZE = 1.0


@dataclass(frozen=True)
class SetStock(Strict):
    """Only what is given changes. Sizes that are fixed begin as they are now."""

    form: StockForm | None = None
    along: Literal["X", "Y", "Z", "by the rule"] | None = None
    sizing: Sizing | None = None
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
        if not words:
            raise PlanError("nothing-said", "say a form, an axis or how its sizes come about")
        return replace(plan, stock=stock), f"stock: {', '.join(words)}"


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
