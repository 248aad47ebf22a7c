"""What the checks found: each names its place, says why, and offers what can be done about it."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any


class Severity(StrEnum):
    ERROR = "error"  # stops release
    WARNING = "warning"


class Chapter(StrEnum):
    PART = "part"
    SETUPS = "setups"
    LAYOUT = "layout"
    OPERATIONS = "operations"
    ORDER = "order"
    BALANCE = "balance"
    PRICE = "price"


@dataclass(frozen=True)
class Cure:
    """Something that would mend a finding: a change of the plan, ready to be made, as changes.py words it."""

    label: str
    change: dict[str, Any]


@dataclass(frozen=True)
class Finding:
    code: str
    severity: Severity
    chapter: Chapter
    title: str
    why: str
    setup: str = ""
    features: tuple[str, ...] = ()
    operation: str = ""
    cures: tuple[Cure, ...] = field(default=())
    wanted: str = ""  # the tool that would be needed, in words


@dataclass(frozen=True)
class Figure:
    """A number and where it came from: the formula with its values put in."""

    label: str
    formula: str
    value: float
    unit: str
