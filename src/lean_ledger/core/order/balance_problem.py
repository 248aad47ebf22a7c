"""A balance problem read from JSON text, and its answer: `balance` of docs/formats.md."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from time import monotonic
from typing import Any

from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.files.json_input import (
    Reader,
    as_float,
    check_format,
    known_once,
    parse_json,
    read_amount,
    read_list,
    read_number,
    read_object,
    read_pairs,
    read_text,
    read_whole,
)
from lean_ledger.core.order.balance import BalanceProblem, Task, balanced, check_before

PROBLEM, ANSWER = "lean-ledger/balance-problem@1", "lean-ledger/balance@1"
MOST_TASKS, MOST_STATIONS, MOST_SECONDS = 2000, 200, 3600
MAY_BE_LEFT_OUT = ("before", "together", "apart")


@dataclass(frozen=True)
class BalanceFile:
    problem: BalanceProblem
    transfer: Fraction
    time_limit: float


def parse_balance_problem(text: str) -> BalanceFile:
    """Raises ProblemError for anything but a whole and sound problem; `place` is the line or the path in the JSON."""
    data = parse_json(text)
    check_format(data, PROBLEM)
    top = read_object({name: [] for name in MAY_BE_LEFT_OUT} | data, "", _TOP)
    stations = top["stations"]
    if not 1 <= stations <= MOST_STATIONS:
        raise ProblemError("out-of-range", f"is {stations}; it must be 1 to {MOST_STATIONS}", "stations")
    tasks = tuple(_task(row, f"tasks[{k}]", stations) for k, row in enumerate(top["tasks"]))
    if not tasks or len(tasks) > MOST_TASKS:
        raise ProblemError("count", f"has {len(tasks)} tasks; 1 to {MOST_TASKS} are spread", "tasks")
    known = known_once([task.id for task in tasks], "tasks")
    rules = {name: read_pairs(top[name], name, known, "task") for name in MAY_BE_LEFT_OUT}
    if not 0 < top["time_limit"] <= MOST_SECONDS:
        raise ProblemError("time-limit", f"must be above 0 and at most {MOST_SECONDS}", "time_limit")
    problem = BalanceProblem(tasks, rules["before"], rules["together"], rules["apart"], stations)
    try:
        check_before(problem)
    except PlanError as error:
        raise ProblemError("cycle", error.message, "before") from None
    return BalanceFile(problem, top["transfer"], top["time_limit"])


def balance_document(asked: BalanceFile) -> dict[str, Any]:
    """Solves for as long as the file says. Raises ProblemError where no assignment is possible."""
    started = monotonic()
    problem = asked.problem
    try:
        found = balanced(problem, asked.time_limit)
    except PlanError as error:
        raise ProblemError(error.code, error.message) from None
    cycle, total = found.fullest + asked.transfer, sum((task.seconds for task in problem.tasks), Fraction(0))
    idle = 1 - total / (problem.stations * cycle) if cycle else Fraction(0)
    return {
        "format": ANSWER,
        "stations": dict(found.stations),
        "loads": [_plain(load) for load in found.loads(problem)],
        "cycle": _plain(cycle),
        "lower_bound": _plain(found.bound + asked.transfer),
        "proven": found.bound == found.fullest,
        "idle": _plain(idle),
        "elapsed": round(monotonic() - started, 3),
    }


def _plain(value: Fraction) -> float:
    return round(float(value), 6)


def _task(value: Any, path: str, stations: int) -> Task:
    row = read_object({"stations": None} | value if isinstance(value, dict) else value, path, _TASK)
    able = row["stations"]
    if able is not None:
        able = tuple(read_whole(s, f"{path}.stations[{k}]") for k, s in enumerate(able))
        wrong = next((s for s in able if not 1 <= s <= stations), None)
        if wrong is not None:
            raise ProblemError(
                "no-such-station", f"{wrong} is no station: there are 1 to {stations}", f"{path}.stations"
            )
    return Task(row["id"], row["seconds"], able)


def _fraction(value: Any, path: str) -> Fraction:
    return Fraction(read_amount(value, path))


def _stations(value: Any, path: str) -> list[Any] | None:
    return None if value is None else read_list(value, path)


_TOP: dict[str, Reader] = {
    "format": read_text, "tasks": read_list, "before": read_list, "together": read_list, "apart": read_list,
    "stations": read_whole, "transfer": _fraction, "time_limit": as_float(read_number),
}  # fmt: skip
_TASK: dict[str, Reader] = {"id": read_text, "seconds": _fraction, "stations": _stations}
