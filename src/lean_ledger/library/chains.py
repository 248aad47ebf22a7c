"""How features are made: rules that name a chain of steps for each sort of feature. Data, to be read and changed."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal, get_args

Sort = Literal["hole", "recess", "outline", "turned"]
HoleStep = Literal["spot", "drill", "mill bore", "finish bore", "widen", "ream", "bore", "tap", "mill thread"]
RecessStep = Literal["rough", "clean corners", "finish floor", "finish wall"]
OutlineStep = Literal["rough outline", "finish outline"]
TurnedStep = Literal["rough turn", "finish turn"]

STEPS: Mapping[Sort, tuple[str, ...]] = {
    "hole": get_args(HoleStep), "recess": get_args(RecessStep), "outline": get_args(OutlineStep),
    "turned": get_args(TurnedStep),
}  # fmt: skip
#: Conditions with a number, each with its words; "least" and "most" are included.
NUMBERS: Mapping[str, str] = {
    "diameter_from": "Ø{} or wider", "diameter_to": "Ø{} at most",
    "deep_from": "{} × Ø deep or more", "deep_to": "at most {} × Ø deep",
    "corner_from": "inner corners R{} or more", "corner_to": "inner corners R{} at most",
    "tolerance_to": "a tolerance of {} wide at most", "finish_to": "Ra {} or finer", "finish_from": "Ra {} or coarser",
}  # fmt: skip


_DIAMETER, _DEEP = ("diameter_from", "diameter_to"), ("deep_from", "deep_to")
_CORNER, TRUTHS = ("corner_from", "corner_to"), ("threaded", "through")
#: Conditions that a sort of feature cannot meet.
BARRED: Mapping[Sort, tuple[str, ...]] = {
    "hole": _CORNER, "recess": (*_DIAMETER, *_DEEP, *TRUTHS), "outline": (*_DIAMETER, *_DEEP, *_CORNER, *TRUTHS),
    "turned": (*_DEEP, *_CORNER, *TRUTHS),
}  # fmt: skip


@dataclass(frozen=True)
class ChainRule:
    """Conditions that are None say nothing. Lengths mm, `deep` as times the diameter, `finish` Ra in µm."""

    id: str
    name: str
    of: Sort
    steps: tuple[str, ...]
    threaded: bool | None = None
    through: bool | None = None
    diameter_from: float | None = None
    diameter_to: float | None = None
    deep_from: float | None = None
    deep_to: float | None = None
    corner_from: float | None = None
    corner_to: float | None = None
    tolerance_to: float | None = None
    finish_to: float | None = None
    finish_from: float | None = None
    materials: tuple[str, ...] = ()

    @property
    def conditions(self) -> tuple[str, ...]:
        """In words; none where the rule is for every feature of its sort."""
        words = []
        if self.threaded is not None:
            words.append("with a thread" if self.threaded else "without a thread")
        if self.through is not None:
            words.append("through" if self.through else "blind")
        words += [text.format(f"{value:g}") for name, text in NUMBERS.items()
                  if (value := getattr(self, name)) is not None]  # fmt: skip
        if self.materials:
            words.append(f"in {' or '.join(self.materials)}")
        return tuple(words)


@dataclass(frozen=True)
class Facts:
    """What a feature is asked for by the rules' conditions; None where it has no such thing."""

    of: Sort
    material: str
    diameter: float = 0.0
    depth: float = 0.0
    threaded: bool = False
    through: bool = False
    corner: float | None = None
    tolerance: float | None = None  # mm wide
    finish: float | None = None  # Ra


def holds(rule: ChainRule, facts: Facts) -> bool:
    """Whether all of a rule's conditions hold. What is not said of a feature meets no condition on it."""
    deep = facts.depth / facts.diameter if facts.diameter > 0 else None
    limits = (
        (rule.diameter_from, rule.diameter_to, facts.diameter or None),
        (rule.deep_from, rule.deep_to, deep),
        (rule.corner_from, rule.corner_to, facts.corner),
        (None, rule.tolerance_to, facts.tolerance),
        (rule.finish_from, rule.finish_to, facts.finish),
    )
    for least, most, value in limits:
        if (least is not None or most is not None) and value is None:
            return False
        if value is not None and ((least is not None and value < least - 1e-9)
                                  or (most is not None and value > most + 1e-9)):  # fmt: skip
            return False
    return (
        rule.of == facts.of
        and rule.threaded in (None, facts.threaded)
        and rule.through in (None, facts.through)
        and (not rule.materials or facts.material in rule.materials)
    )


@cache
def shipped_chains() -> tuple[ChainRule, ...]:
    text = (files("lean_ledger.library") / "data" / "chains.toml").read_text(encoding="utf-8")
    return tuple(
        ChainRule(**{**row, "steps": tuple(row["steps"]), "materials": tuple(row.get("materials", ()))})
        for row in tomllib.loads(text)["rule"]
    )
