"""A timeline problem read from JSON text, and its answer: `timeline` of docs/formats.md."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from math import lcm
from time import monotonic
from typing import Any

from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.files.json_input import (
    Reader,
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
from lean_ledger.core.order.waits import Mark, Ran, WaitProblem, Work, check_waits, run
from lean_ledger.core.order.waits_search import scheduled

PROBLEM, ANSWER = "lean-ledger/timeline-problem@1", "lean-ledger/timeline@1"
MOST_WORKS, MOST_PATHS, MOST_SECONDS = 200, 8, 3600


@dataclass(frozen=True)
class TimelineFile:
    problem: WaitProblem
    time_limit: float


def parse_timeline_problem(text: str) -> TimelineFile:
    """Raises ProblemError for anything but a whole and sound problem; `place` is the line or the path in the JSON."""
    data = parse_json(text)
    check_format(data, PROBLEM)
    top = read_object(data, "", _TOP)
    paths, spindles = (_names(top[name], name) for name in ("paths", "spindles"))
    if not 1 <= len(paths) <= MOST_PATHS:
        raise ProblemError("count", f"has {len(paths)} paths; 1 to {MOST_PATHS} are planned", "paths")
    rows = [_row(value, f"operations[{k}]") for k, value in enumerate(top["operations"])]
    if not 1 <= len(rows) <= MOST_WORKS:
        raise ProblemError("count", f"has {len(rows)} operations; 1 to {MOST_WORKS} are planned", "operations")
    known = known_once([row["id"] for row in rows], "operations")
    unit = lcm(*(row["seconds"].denominator for row in rows), top["tool_change"].denominator)
    works = tuple(_work(row, f"operations[{k}]", paths, spindles, unit) for k, row in enumerate(rows))
    problem = WaitProblem(
        tuple(paths), works, _pairs(top["before"], "before", known), _pairs(top["together"], "together", known),
        int(top["tool_change"] * unit), unit,
    )  # fmt: skip
    if not 0 < top["time_limit"] <= MOST_SECONDS:
        raise ProblemError("time-limit", f"must be above 0 and at most {MOST_SECONDS}", "time_limit")
    try:
        check_waits(problem)
    except PlanError as error:
        raise ProblemError(error.code, error.message) from None
    return TimelineFile(problem, top["time_limit"])


def timeline_document(asked: TimelineFile) -> dict[str, Any]:
    """Searches for as long as the file says."""
    started = monotonic()
    problem = asked.problem
    found = scheduled(problem, asked.time_limit)
    ran = run(problem, found.plan)
    where = {k: p for p, order in enumerate(found.plan.orders) for k in order}
    return {
        "format": ANSWER,
        "operations": [
            {"id": work.id, "path": problem.paths[where[k]], "start": _seconds(problem, ran.starts[k]),
             "end": _seconds(problem, ran.ends[k])}
            for k, work in enumerate(problem.works)
        ],
        "waits": _waits(problem, found.plan.orders, found.plan.marks, ran),
        "cycle": _seconds(problem, found.cycle),
        "lower_bound": _seconds(problem, found.bound),
        "proven": found.bound == found.cycle,
        "one_by_one": _seconds(problem, one_by_one(problem, found.plan.orders)),
        "elapsed": round(monotonic() - started, 3),
    }  # fmt: skip


def one_by_one(problem: WaitProblem, orders: tuple[tuple[int, ...], ...]) -> int:
    """All works one after the other, with one change for each change of tool on a path."""
    pairs = [(problem.works[a], problem.works[b]) for order in orders for a, b in pairwise(order)]
    changes = sum(a.tool != b.tool for a, b in pairs)
    return sum(work.seconds for work in problem.works) + changes * problem.change


def _waits(
    problem: WaitProblem, orders: tuple[tuple[int, ...], ...], marks: tuple[Mark, ...], ran: Ran
) -> list[dict[str, Any]]:
    """In the order in which they are met; the order of the plan where that is at the same time."""
    met = sorted(range(len(marks)), key=lambda i: (ran.met[i], i))
    return [
        {"mark": number,
         "after": {problem.paths[p]: problem.works[orders[p][done - 1]].id if done else None
                   for p, done in marks[i].after}}
        for number, i in enumerate(met, start=1)
    ]  # fmt: skip


def _seconds(problem: WaitProblem, value: int) -> float:
    return round(value / problem.unit, 6)


def _names(rows: list[Any], path: str) -> list[str]:
    names = [read_text(name, f"{path}[{k}]") for k, name in enumerate(rows)]
    for k, name in enumerate(names):
        if name in names[:k]:
            raise ProblemError("doubled", f"{name!r} is named twice", f"{path}[{k}]")
    return names


def _row(value: Any, path: str) -> dict[str, Any]:
    return read_object(value, path, _WORK)


def _work(row: dict[str, Any], path: str, paths: list[str], spindles: list[str], unit: int) -> Work:
    if not row["paths"]:
        raise ProblemError("no-path", f"{row['id']!r} has no path to run on", f"{path}.paths")
    where = []
    for name, known, what in (("paths", paths, "path"), ("spindles", spindles, "spindle")):
        own = _names(row[name], f"{path}.{name}")
        unknown = next((one for one in own if one not in known), None)
        if unknown is not None:
            said = f"there is no {what} {unknown!r}; there are {', '.join(known)}"
            raise ProblemError("unknown-name", said, f"{path}.{name}")
        where.append([known.index(one) for one in own])
    return Work(row["id"], tuple(where[0]), frozenset(where[1]), int(row["seconds"] * unit), row["tool"], row["speed"])


def _pairs(rows: list[Any], name: str, known: dict[str, int]) -> tuple[tuple[int, int], ...]:
    return tuple((known[a], known[b]) for a, b in read_pairs(rows, name, known, "operation"))


def _fraction(value: Any, path: str) -> Fraction:
    return Fraction(read_amount(value, path))


_TOP: dict[str, Reader] = {
    "format": read_text, "paths": read_list, "spindles": read_list, "operations": read_list, "before": read_list,
    "together": read_list, "tool_change": _fraction, "time_limit": as_float(read_number),
}  # fmt: skip
_WORK: dict[str, Reader] = {
    "id": read_text, "paths": read_list, "spindles": read_list, "seconds": _fraction, "tool": read_text,
    "speed": nullable(read_text),
}  # fmt: skip
