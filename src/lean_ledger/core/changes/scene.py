"""What every change is made in, and the checks that several share."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from pydantic import ConfigDict

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.lineage import Revised
from lean_ledger.core.part.model import Part
from lean_ledger.library.types import Library


@dataclass(frozen=True)
class Scene:
    """What a change is made in: the part, the shop, and the plan evaluated as it stands."""

    part: Part
    library: Library
    ledger: Ledger
    compare: Callable[[str], Revised] | None = None  # a revision of the part beside the one before it
    models: frozenset[str] = frozenset()  # keys of the stock models and programs that were brought in

    def known_model(self, key: str) -> None:
        """Raises PlanError for a stock model that nobody brought in."""
        if key not in self.models:
            raise PlanError("no-stock-model", "there is no such model of the stock; bring its STEP file in first")


class Strict:
    """An unknown key of a change is refused: a misspelt one must not be ignored."""

    __pydantic_config__ = ConfigDict(extra="forbid")


def check_between(value: float, least: float, most: float, what: str) -> None:
    if not least <= value <= most:
        raise PlanError("out-of-range", f"{what} is {value:g}; it must be from {least:g} to {most:g}")


def known_features(features: tuple[str, ...], scene: Scene) -> None:
    unknown = [id for id in features if id not in scene.part.by_id]
    if unknown or not features:
        raise PlanError("no-such-feature", f"the part has no feature {', '.join(unknown) or '(none named)'}")


def names_of(features: tuple[str, ...]) -> str:
    """As a line of the journal has room for."""
    return ", ".join(features) if len(features) < 5 else f"{len(features)} features"
