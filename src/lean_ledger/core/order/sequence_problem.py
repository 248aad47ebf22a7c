"""A sequence problem read from JSON text, and its answer: `sequence` of docs/formats.md."""

from __future__ import annotations

from dataclasses import dataclass
from time import monotonic
from typing import Any

from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.files.json_input import (
    anything,
    as_float,
    check_format,
    known_once,
    nullable,
    parse_json,
    read_amount,
    read_list,
    read_number,
    read_object,
    read_pairs,
    read_text,
)
from lean_ledger.core.order.model import Model, modelled
from lean_ledger.core.order.problem import (
    COUNTS,
    GRAIN,
    Cost,
    Count,
    OrderProblem,
    Start,
    Step,
    Times,
    check_order_problem,
)
from lean_ledger.core.order.search import searched

PROBLEM, ANSWER = "lean-ledger/sequence-problem@1", "lean-ledger/sequence@1"
MOST_STEPS, MOST_SECONDS = 5000, 3600
ROUNDED = 1e-9


@dataclass(frozen=True)
class SequenceProblem:
    order: OrderProblem
    time_limit: float


def parse_sequence_problem(text: str) -> SequenceProblem:
    """Raises ProblemError for anything but a whole and sound problem; `place` is the line or the path in the JSON."""
    data = parse_json(text)
    check_format(data, PROBLEM)
    top = read_object(data, "", _TOP)
    steps = tuple(_step(row, f"operations[{k}]") for k, row in enumerate(top["operations"]))
    if not steps or len(steps) > MOST_STEPS:
        raise ProblemError("count", f"has {len(steps)} operations; 1 to {MOST_STEPS} are put in order", "operations")
    known = known_once([step.id for step in steps], "operations")
    pairs = read_pairs(top["before"], "before", known, "operation")
    times, start = (read_object(top[name], name, readers) for name, readers in (("times", _TIMES), ("start", _START)))
    problem = OrderProblem(
        steps, pairs,
        Times(*(times[name] for name in ("tool_change", "index", "index_per_degree", "piece"))),
        Start(start["tool"], start["angle"], start["piece"]), _goal(top["goal"]),
    )  # fmt: skip
    try:
        check_order_problem(problem)
    except PlanError as error:
        raise ProblemError("cycle", error.message, "before") from None
    limit = top["time_limit"]
    if not 0 < limit <= MOST_SECONDS:
        raise ProblemError("time-limit", f"is {limit:g}; it must be above 0 and at most {MOST_SECONDS}", "time_limit")
    return SequenceProblem(problem, limit)


def sequence_document(problem: SequenceProblem) -> dict[str, Any]:
    """Searches for as long as the problem says."""
    started = monotonic()
    order = problem.order
    model = modelled(order)
    given = list(range(len(order.steps)))
    as_given = order.cost(given) if order.keeps(given) else None
    found = searched(model, problem.time_limit, given if as_given is not None else None)
    cost = order.cost(found.order)
    bound, proven = bound_in(model, found.bound, cost)
    return {
        "format": ANSWER,
        "order": [order.steps[k].id for k in found.order],
        "given": _counts(as_given),
        "found": _counts(cost),
        "lower_bound": bound,
        "proven": proven,
        "elapsed": round(monotonic() - started, 3),
    }


def bound_in(model: Model, bound: int, cost: Cost) -> tuple[float | list[int], bool]:
    """A bound in the goal's terms, and whether it is what was found."""
    goal = model.problem.goal
    if goal is None:
        # a whole number of millionths, and costs are shown to thousandths: never above what was found
        seconds = min(round(bound / GRAIN, 3), round(cost.seconds, 3))
        return seconds, seconds >= round(cost.seconds, 3) - ROUNDED
    weights = dict(zip(COUNTS, model.weights, strict=True))
    counts = []
    for name in goal:
        counts.append(bound // weights[name])
        bound %= weights[name]
    return counts, counts == [cost.count(name) for name in goal]


def _counts(cost: Cost | None) -> dict[str, float] | None:
    if cost is None:
        return None
    return {"tool": cost.tool, "index": cost.index, "piece": cost.piece, "seconds": round(cost.seconds, 3)}


def _step(value: Any, path: str) -> Step:
    row = read_object(value, path, _STEP)
    return Step(row["id"], row["piece"], row["tool"], row["angle"], row["seconds"])


def _goal(value: Any) -> tuple[Count, ...] | None:
    if value == "seconds":
        return None
    if not isinstance(value, list) or sorted(map(str, value)) != sorted(COUNTS):
        raise ProblemError("goal", f'is neither "seconds" nor a ranking of {", ".join(COUNTS)}, each once', "goal")
    return tuple(name for wanted in value for name in COUNTS if name == wanted)


NUMBER, AMOUNT = as_float(read_number), as_float(read_amount)
_TOP = {
    "format": read_text, "operations": read_list, "before": read_list, "times": anything, "start": anything,
    "goal": anything, "time_limit": NUMBER,
}  # fmt: skip
_STEP = {"id": read_text, "piece": read_text, "tool": read_text, "angle": NUMBER, "seconds": AMOUNT}
_TIMES = {"tool_change": AMOUNT, "index": AMOUNT, "index_per_degree": AMOUNT, "piece": AMOUNT}
_START = {"tool": nullable(read_text), "angle": NUMBER, "piece": nullable(read_text)}
