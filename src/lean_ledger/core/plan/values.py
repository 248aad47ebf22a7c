"""The values of an operation that can be set by hand.

The one table of them: the decision, the change and its schema, what is carried over from other jobs, and the table on
the page follow it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields
from types import MappingProxyType
from typing import Any, Literal

from lean_ledger.core.basis.bounds import Bounds

Strategy = Literal["in steps", "constant engagement", "in a helix", "in rows", "in levels"]
Direction = Literal["climb", "conventional"]
ValueName = Literal["tool", "speed", "feed", "n", "vf", "ap", "ae", "passes", "allowance", "strategy", "direction"]


@dataclass(frozen=True, kw_only=True)
class OperationValues:
    """None stands for the rule. Lengths mm."""

    tool: str | None = None
    speed: float | None = None  # times the library's vc
    feed: float | None = None  # times the rule's feed per tooth
    n: float | None = None  # rpm
    vf: float | None = None  # mm/min
    ap: float | None = None
    ae: float | None = None
    passes: int | None = None
    allowance: float | None = None
    strategy: Strategy | None = None  # of roughing
    direction: Direction | None = None  # that an end mill goes along its walls in; None climbs

    @property
    def given(self) -> dict[ValueName, Any]:
        """What is set, by name."""
        return {name: value for name in SETTABLE if (value := getattr(self, name)) is not None}


@dataclass(frozen=True)
class Settable:
    """`carried`: goes on from one job to the next; a tool is the rules' to choose, and depths are the part's."""

    bounds: Bounds | None = None
    carried: bool = True
    share: bool = False  # of the usual: said in percent


SETTABLE: Mapping[ValueName, Settable] = MappingProxyType({
    "tool": Settable(carried=False),
    "speed": Settable(Bounds(0.01, 20), share=True),
    "feed": Settable(Bounds(0.01, 20), share=True),
    "n": Settable(Bounds(1, 200_000)),
    "vf": Settable(Bounds(0.1, 100_000)),
    "ap": Settable(Bounds(0.01, 500)),
    "ae": Settable(Bounds(0.01, 500)),
    "passes": Settable(Bounds(1, 500, whole=True), carried=False),
    "allowance": Settable(Bounds(0, 50)),
    "strategy": Settable(),
    "direction": Settable(),
})  # fmt: skip

assert tuple(SETTABLE) == tuple(f.name for f in fields(OperationValues)), "the table and the fields are one"


def value_words(name: ValueName, value: float | str) -> str:
    """As the journal says them: "speed 110 %", "ae 3.2", "in steps"."""
    if isinstance(value, str):
        return value
    return f"{name} {100 * value:.0f} %" if SETTABLE[name].share else f"{name} {value:g}"
