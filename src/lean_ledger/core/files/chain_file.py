"""Rules of chains as JSON: how the shop makes its features, in and out."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import fields, replace
from decimal import Decimal
from typing import Any

from lean_ledger.core.basis.bounds import Bounds
from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.basis.plain_text import check_name
from lean_ledger.core.files.json_input import check_format, parse_json
from lean_ledger.library.chains import BARRED, NUMBERS, STEPS, TRUTHS, ChainRule, Sort

FORMAT = "lean-ledger/chains@1"
MOST_RULES = 200
_LIMIT = Bounds(0.001, 100_000)


def chains_json(rules: Sequence[ChainRule]) -> str:
    data = {"format": FORMAT, "rules": [rule_row(rule) for rule in rules]}
    return json.dumps(data, indent=1, ensure_ascii=False) + "\n"


def read_chains(text: str, standing: Sequence[ChainRule] = ()) -> tuple[ChainRule, ...]:
    """Rules from JSON text; for a sort of feature that the text says nothing of, those that stand.

    Raises ProblemError, which names the rule, the field and the reason; all or none.
    """
    data = parse_json(text)
    check_format(data, FORMAT)
    return read_rules(data.get("rules"), standing)


def read_rules(rows: Any, standing: Sequence[ChainRule] = ()) -> tuple[ChainRule, ...]:
    """As `read_chains`, from plain data."""
    if not isinstance(rows, list) or not rows:
        raise ProblemError("no-rules", "a list of at least one rule is needed", "rules")
    if len(rows) > MOST_RULES:
        raise ProblemError("too-many", f"{len(rows)} rules; at most {MOST_RULES} are kept", "rules")
    found: dict[str, ChainRule] = {}
    for i, row in enumerate(rows):
        rule = _rule(row, f"rule {i + 1}")
        if rule.id in found:
            raise ProblemError("twice", f"{rule.id} stands here a second time", f"rule {i + 1}, id")
        found[rule.id] = rule
    said = {rule.of for rule in found.values()}
    for rule in standing:
        if rule.of not in said:
            found.setdefault(rule.id, rule)
    for sort, threaded, words in (
        ("hole", False, "hole without a thread"), ("hole", True, "hole with a thread"), ("recess", None, "recess"),
        ("outline", None, "outline"), ("turned", None, "turned feature"),
    ):  # fmt: skip
        if not any(_is_last(rule, sort, threaded=threaded) for rule in found.values()):
            raise ProblemError(
                "no-last-rule", f"no rule is for every {words}: some would have none. Add one without more conditions",
                "rules",
            )  # fmt: skip
    return tuple(found.values())


def _is_last(rule: ChainRule, sort: str, *, threaded: bool | None) -> bool:
    """Whether a rule takes all of its sort."""
    free = replace(rule, threaded=None) if threaded is not None and rule.threaded == threaded else rule
    return rule.of == sort and not free.conditions


def _rule(row: Any, place: str) -> ChainRule:
    if not isinstance(row, dict):
        raise ProblemError("not-an-object", "an object is needed here", place)
    known = {f.name for f in fields(ChainRule)}
    for field in row:
        if field not in known:
            raise ProblemError("unknown", f"there is no condition {field!r}", f"{place}, {field}")
    for field in ("id", "name"):
        if not isinstance(row.get(field), str) or not row[field].strip():
            raise ProblemError("missing", "every rule has one", f"{place}, {field}")
    place = f"{place} ({row['id']})"
    if not isinstance(row.get("of"), str) or row["of"] not in STEPS:
        raise ProblemError("sort", f"is {row.get('of')!r}; it must be {' or '.join(STEPS)}", f"{place}, of")
    of: Sort = row["of"]
    steps = row.get("steps")
    if not isinstance(steps, list | tuple) or not steps:
        raise ProblemError("no-steps", "a chain has at least one step", f"{place}, steps")
    for step in steps:
        if step not in STEPS[of]:
            raise ProblemError("step", f"{step!r} is no step of {_a(of)}; there are {', '.join(STEPS[of])}",
                               f"{place}, steps")  # fmt: skip
    if list(steps) != sorted(steps, key=STEPS[of].index) or len(set(steps)) != len(steps):
        ordered = ", ".join(s for s in STEPS[of] if s in steps)
        raise ProblemError("order", f"each step once, in this order: {ordered}", f"{place}, steps")
    _check_whole(of, steps, place)
    values: dict[str, Any] = {}
    for field in NUMBERS:
        value = row.get(field)
        if value is None:
            continue
        if isinstance(value, bool) or not isinstance(value, int | float | Decimal) or not _LIMIT.hold(value):
            raise ProblemError("not-positive", f"is {_shown(value)}; a number {_LIMIT.words} is needed",
                               f"{place}, {field}")  # fmt: skip
        values[field] = float(value)
    for field in TRUTHS:
        value = row.get(field)
        if value is not None and not isinstance(value, bool):
            raise ProblemError("not-a-truth", f"is {value!r}; it must be true or false", f"{place}, {field}")
        values[field] = value
    for field in BARRED[of]:
        if values.get(field) is not None:
            raise ProblemError("of-another", f"is no condition on {_a(of)}", f"{place}, {field}")
    for low, high in (("diameter_from", "diameter_to"), ("deep_from", "deep_to"), ("corner_from", "corner_to")):
        if values.get(low) and values.get(high) and values[low] > values[high]:
            raise ProblemError("never", f"{values[low]:g} is more than {high} {values[high]:g}: it never holds",
                               f"{place}, {low}")  # fmt: skip
    materials = row.get("materials", ())
    if not isinstance(materials, list | tuple) or not all(isinstance(m, str) for m in materials):
        raise ProblemError("materials", "a list of materials' ids is needed", f"{place}, materials")
    for field in ("id", "name"):
        check_name(row[field].strip(), f"{place}, {field}")
    return ChainRule(row["id"].strip(), row["name"].strip(), of, tuple(steps), materials=tuple(materials), **values)


def _shown(value: Any) -> str:
    return str(value)[:24]


def _a(of: Sort) -> str:
    return {"outline": "an outline", "turned": "a turned feature"}.get(of, f"a {of}")


def _check_whole(of: Sort, steps: list[str] | tuple[str, ...], place: str) -> None:
    """What opens a hole, and only one thing that ends it."""
    if of != "hole":
        first = STEPS[of][0]
        if first not in steps:
            raise ProblemError("not-open", f"{_a(of)} is roughed first: {first}", f"{place}, steps")
        return
    if ("drill" in steps) == ("mill bore" in steps):
        raise ProblemError("not-open", "a hole is opened by either drill or mill bore", f"{place}, steps")
    if sum(step in steps for step in ("ream", "bore", "tap", "mill thread")) > 1:
        raise ProblemError("two-ends", "only one of ream, bore, tap and mill thread ends a hole", f"{place}, steps")


def rule_row(rule: ChainRule) -> dict[str, Any]:
    """A rule as plain data, without the conditions that say nothing."""
    row: dict[str, Any] = {"id": rule.id, "name": rule.name, "of": rule.of}
    for field in (*TRUTHS, *NUMBERS):
        if (value := getattr(rule, field)) is not None:
            row[field] = value
    if rule.materials:
        row["materials"] = list(rule.materials)
    return {**row, "steps": list(rule.steps)}
