"""What is set by hand for operations, and for how features are made."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lean_ledger.core.plan.values import OperationValues


@dataclass(frozen=True)
class OperationEdit(OperationValues):
    """What was set by hand for one operation."""

    operation: str

    @property
    def is_empty(self) -> bool:
        return not self.given


@dataclass(frozen=True)
class DepthChoice:
    """How deep an operation goes: mm down from where it begins, or to one end of a feature as the tool comes to it.

    `beyond` is what it goes farther than that end; less than 0 stays short of it.
    """

    operation: str
    depth: float | None = None
    feature: str = ""
    end: Literal["top", "bottom"] = "bottom"
    beyond: float = 0.0

    @property
    def words(self) -> str:
        if self.depth is not None:
            return f"{self.depth:g} deep, by hand"
        beyond = f" and {self.beyond:g} beyond" if self.beyond > 0 else f", {-self.beyond:g} short of it"
        return f"to the {self.end} of {self.feature}{beyond if self.beyond else ''}"


@dataclass(frozen=True)
class ChainChoice:
    """A feature that is made by a chain of the shop's rules that was chosen by hand."""

    feature: str
    rule: str


@dataclass(frozen=True)
class AttachedProgram:
    """A program from elsewhere that a setup, or one operation of it, is timed by."""

    setup: str
    operation: str  # empty: the whole setup
    file: str
    key: str
