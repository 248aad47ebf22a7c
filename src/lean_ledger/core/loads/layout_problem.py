"""A layout problem read from JSON text, and its answer: `layout` of docs/formats.md."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.control.offset_words import offset_words
from lean_ledger.core.files.json_input import (
    Reader,
    anything,
    as_float,
    check_format,
    floats,
    nullable,
    one_of,
    parse_json,
    read_above_zero,
    read_amount,
    read_list,
    read_number,
    read_object,
    read_text,
    read_whole,
)
from lean_ledger.core.files.machine_file import read_machine
from lean_ledger.core.geometry.model import Bounds, Vec
from lean_ledger.core.loads.arranged import (
    MOST_PIECES,
    NEGLIGIBLE,
    Bar,
    MountAxes,
    Piece,
    Row,
    Spot,
    most_in_travel,
    past_travel,
    swing,
    walked,
)
from lean_ledger.core.loads.numbered import Numbered, numbered, setting_lines
from lean_ledger.core.plan import Policy, Walk
from lean_ledger.library.machines import Machine

PROBLEM, ANSWER = "lean-ledger/layout-problem@1", "lean-ledger/layout@1"


@dataclass(frozen=True)
class LayoutProblem:
    """Rows of pieces in the order of the walk, as `spots`; or a bar, and none of the rest."""

    machine: Machine
    clearance: float
    rows: tuple[Row, ...] = ()
    spots: tuple[Spot, ...] = ()
    policy: Policy = "piece"
    first: str = ""
    reserved: tuple[str, ...] = ()
    sides: int = 0  # of a rotary; 0 for what lies on the table
    axis_height: float = 0.0
    seat: float = 0.0
    is_grid: bool = False
    bar: Bar | None = None


def parse_layout_problem(text: str) -> LayoutProblem:
    """Raises ProblemError for anything but a whole and sound problem; `place` is the line or the path in the JSON."""
    data = parse_json(text)
    check_format(data, PROBLEM)
    top = read_object(data, "", _TOP)
    machine = read_machine(top["machine"], "machine")
    kind = _kind(top["arrangement"])
    row = read_object(top["arrangement"], "arrangement", _ARRANGEMENTS[kind])
    if kind == "bar":
        return _bar(machine, top, row)
    for name in ("piece", "offsets"):
        if top[name] is None:
            raise ProblemError("missing", f"is null; a {kind} arrangement needs it", name)
    piece = _piece(top["piece"])
    offsets = read_object(top["offsets"], "offsets", _OFFSETS)
    known = list(offset_words(machine.offsets))
    for path, word in [("offsets.first", offsets["first"]), *(
        (f"offsets.reserved[{i}]", w) for i, w in enumerate(offsets["reserved"])
    )]:  # fmt: skip
        if word not in known:
            raise ProblemError(
                "no-such-offset", f"{machine.name} has no {word}; it has {known[0]} to {known[-1]}", path
            )
    found = _ARRANGED[kind](machine, piece, row, top["clearance"], offsets["walk"])
    return LayoutProblem(machine, top["clearance"], policy=offsets["policy"], first=offsets["first"],
                         reserved=offsets["reserved"], **found)  # fmt: skip


def layout_document(problem: LayoutProblem) -> dict[str, Any]:
    """The answer, as plain data."""
    if problem.bar is not None:
        return _answer(bar=_bar_answer(problem.bar))
    made = numbered(problem.spots, problem.policy, problem.machine.offsets, problem.first, problem.reserved)
    pieces = [
        {"name": str(i + 1), "group": spot.group, "at": _numbers(spot.at), "angle": spot.angle, "offset": word}
        for i, (spot, word) in enumerate(zip(problem.spots, made.of_spots, strict=True))
    ]
    row = problem.rows[0]
    most = None
    if problem.is_grid:
        most = most_in_travel(row, problem.machine)
    elif problem.sides:
        most = problem.sides * most_in_travel(row, problem.machine, one_row=True)
    return _answer(
        pieces=pieces,
        offsets=[{"name": o.name, "zero": _numbers(o.zero), "angle": o.angle} for o in made.offsets],
        program=setting_lines(made.offsets),
        extent=_numbers(row.extent) if problem.is_grid else None,
        most=most,
        findings=_findings(problem, made),
    )


def _answer(**values: Any) -> dict[str, Any]:
    empty: dict[str, Any] = {
        "pieces": [], "offsets": [], "program": [], "extent": None, "most": None, "bar": None, "findings": [],
    }  # fmt: skip
    return {"format": ANSWER, **empty, **values}


def _bar_answer(bar: Bar) -> dict[str, Any]:
    return {
        "advance": _number(bar.advance), "pieces": bar.pieces, "reach": _number(bar.reach),
        "free": None if bar.free is None else _number(bar.free), "fronts": _numbers(bar.fronts),
    }  # fmt: skip


def _findings(problem: LayoutProblem, made: Numbered) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = []
    for i, spot in enumerate(problem.spots):
        for axis, by in past_travel(spot, problem.machine):
            found.append({"code": "travel", "piece": str(i + 1), "axis": axis, "by": _number(by)})
    for row in problem.rows:
        needs = row.piece.least_gap(problem.clearance)
        for count, gap in ((row.columns, row.gap[0]), (row.rows, row.gap[1])):
            if count > 1 and gap <= needs - NEGLIGIBLE:
                found.append({"code": "gap", "needs": _number(needs), "has": _number(gap)})
    if problem.sides:
        needs = swing(problem.rows[0].piece, problem.seat) + problem.clearance
        if needs >= problem.axis_height + NEGLIGIBLE:
            found.append({"code": "swing", "needs": _number(needs), "has": _number(problem.axis_height)})
    if made.needs > made.has:
        found.append({"code": "offsets", "needs": made.needs, "has": made.has})
    return found


def _number(value: float) -> float:
    return round(value, 6) + 0.0


def _numbers(values: Sequence[float]) -> list[float]:
    return [_number(v) for v in values]


# ---- reading


def _kind(arrangement: Any) -> str:
    if not isinstance(arrangement, dict):
        raise ProblemError("not-an-object", "an object is needed here", "arrangement")
    return str(one_of(*_ARRANGEMENTS)(arrangement.get("kind"), "arrangement.kind"))


def _piece(value: Any) -> Piece:
    row = read_object(value, "piece", _PIECE)
    sweep = read_object(row["sweep"], "piece.sweep", {"min": floats(3, read_number), "max": floats(3, read_number)})
    for axis, low, high in zip("xyz", sweep["min"], sweep["max"], strict=True):
        if low > high:
            words = f"goes from {low:g} to {high:g} in {axis}; the lower one comes first"
            raise ProblemError("range", words, "piece.sweep")
    return Piece(row["size"], row["zero"], Bounds(sweep["min"], sweep["max"]), row["radius"])


def _turn(value: Any, path: str) -> int:
    number = read_number(value, path)
    if number not in (0, 90, 180, 270):
        raise ProblemError("turn", f"is {number}; a piece is turned by 0, 90, 180 or 270", path)
    return int(number)


def _reserved(value: Any, path: str) -> tuple[str, ...]:
    return tuple(read_text(word, f"{path}[{i}]") for i, word in enumerate(read_list(value, path)))


def _sides(value: Any, path: str) -> tuple[float, ...]:
    rows = read_list(value, path)
    if not rows:
        raise ProblemError("empty", "at least one angle is needed", path)
    sides = [float(read_number(row, f"{path}[{i}]")) + 0.0 for i, row in enumerate(rows)]
    for i, side in enumerate(sides):
        if any(abs((side - other + 180) % 360 - 180) < 1e-9 for other in sides[:i]):
            raise ProblemError("twice", f"{side:g}° is there twice: one piece would stand in another", f"{path}[{i}]")
    return tuple(sides)


def _mount(machine: Machine, name: str, path: str) -> MountAxes:
    mount = machine.mount(name)
    if mount is None:
        known = ", ".join(m.name for m in machine.mounts)
        raise ProblemError("no-such-mount", f"{machine.name} has no mount {name!r}; it has {known}", path)
    if mount.rotation[0] or mount.rotation[1]:
        raise ProblemError(
            "tilted-mount", f"mount {name!r} is tilted; pieces stand on mounts turned about Z only", path
        )
    return MountAxes(mount.at, mount.rotation[2])


def _check_count(count: int, path: str) -> None:
    if count > MOST_PIECES:
        raise ProblemError("too-many", f"{count} pieces; a load of at most {MOST_PIECES} is computed with", path)


def _grid(machine: Machine, piece: Piece, row: dict[str, Any], clearance: float, walk: Walk) -> dict[str, Any]:
    _check_count(row["columns"] * row["rows"], "arrangement.columns")
    turned = piece.turned(row["turn"])
    least = piece.least_gap(clearance)
    placed = Row(_mount(machine, row["mount"], "arrangement.mount"), turned, row["at"], row["columns"], row["rows"],
                 row["gap"] or (least, least))  # fmt: skip
    spots = tuple(placed.spot(c, r, str(r + 1)) for c, r in walked(row["columns"], row["rows"], walk))
    return {"rows": (placed,), "spots": spots, "is_grid": True}


def _stations(machine: Machine, piece: Piece, row: dict[str, Any], clearance: float, _walk: Walk) -> dict[str, Any]:
    rows: list[Row] = []
    spots: list[Spot] = []
    names: set[str] = set()
    for i, value in enumerate(read_list(row["stations"], "arrangement.stations")):
        path = f"arrangement.stations[{i}]"
        one = read_object(value, path, _STATION)
        if one["name"] in names:
            raise ProblemError("twice", f"there is another station {one['name']!r}", f"{path}.name")
        names.add(one["name"])
        count, along_x = one["pieces"], one["along"] == "x"
        _check_count(len(spots) + count, f"{path}.pieces")
        gap = piece.least_gap(clearance) if one["gap"] is None else one["gap"]
        placed = Row(_mount(machine, one["mount"], f"{path}.mount"), piece.turned(one["turn"]), one["at"],
                     count if along_x else 1, 1 if along_x else count, (gap, gap))  # fmt: skip
        rows.append(placed)
        spots += [placed.spot(k if along_x else 0, 0 if along_x else k, one["name"]) for k in range(count)]
    if not rows:
        raise ProblemError("empty", "at least one station is needed", "arrangement.stations")
    return {"rows": tuple(rows), "spots": tuple(spots)}


def _rotary(machine: Machine, piece: Piece, row: dict[str, Any], clearance: float, walk: Walk) -> dict[str, Any]:
    if machine.table is None or machine.table.about != "x":
        words = f"{machine.name} has no rotary about x; pieces on its sides need one"
        raise ProblemError("no-rotary", words, "arrangement.kind")
    _check_count(len(row["sides"]) * row["per_side"], "arrangement.per_side")
    gap = piece.least_gap(clearance) if row["gap"] is None else row["gap"]
    mount = _mount(machine, row["mount"], "arrangement.mount")
    at: Vec = (row["start"], -piece.size[1] / 2, row["seat"])
    placed = Row(mount, piece, at, row["per_side"], 1, (gap, gap))
    spots = tuple(
        placed.spot(c, 0, _angle_text(row["sides"][side]), row["sides"][side])
        for c, side in walked(row["per_side"], len(row["sides"]), walk)
    )
    return {"rows": (placed,), "spots": spots, "sides": len(row["sides"]), "axis_height": row["axis_height"],
            "seat": row["seat"]}  # fmt: skip


def _angle_text(angle: float) -> str:
    return f"{angle:.6f}".rstrip("0").rstrip(".")


def _bar(machine: Machine, top: dict[str, Any], row: dict[str, Any]) -> LayoutProblem:
    for name in ("piece", "offsets"):
        if top[name] is not None:
            raise ProblemError("not-null", "must be null with a bar: its pieces lie one behind the other", name)
    _check_count(row["per_advance"], "arrangement.per_advance")
    bar = Bar(**{key: value for key, value in row.items() if key != "kind"})
    if bar.pieces < 1:
        words = f"a bar of {bar.bar:g} less {bar.remnant:g} of remnant is shorter than one advance of {bar.advance:g}"
        raise ProblemError("bar-too-short", words, "arrangement.bar")
    return LayoutProblem(machine, top["clearance"], bar=bar)


_TOP: dict[str, Reader] = {
    "format": read_text,
    "machine": anything,
    "piece": anything,
    "clearance": as_float(read_amount),
    "arrangement": anything,
    "offsets": anything,
}
_PIECE: dict[str, Reader] = {
    "size": floats(3, read_above_zero),
    "zero": floats(3, read_number),
    "sweep": anything,
    "radius": as_float(read_amount),
}
_OFFSETS: dict[str, Reader] = {
    "policy": one_of("piece", "group", "load"),
    "first": read_text,
    "reserved": _reserved,
    "walk": one_of("rows", "columns", "snake"),
}
_STATION: dict[str, Reader] = {
    "name": read_text,
    "mount": read_text,
    "at": floats(3, read_number),
    "turn": _turn,
    "pieces": read_whole,
    "along": one_of("x", "y"),
    "gap": nullable(as_float(read_amount)),
}
_ARRANGEMENTS: dict[str, dict[str, Reader]] = {
    "grid": {
        "kind": read_text, "mount": read_text, "at": floats(3, read_number), "turn": _turn, "columns": read_whole,
        "rows": read_whole, "gap": nullable(floats(2, read_amount)),
    },
    "stations": {"kind": read_text, "stations": anything},
    "rotary": {
        "kind": read_text, "mount": read_text, "sides": _sides, "per_side": read_whole, "seat": as_float(read_number),
        "start": as_float(read_number), "gap": nullable(as_float(read_amount)),
        "axis_height": as_float(read_above_zero),
    },
    "bar": {
        "kind": read_text, "length": as_float(read_above_zero), "cut_off": as_float(read_amount),
        "front": as_float(read_amount), "back": as_float(read_amount), "per_advance": read_whole,
        "bar": as_float(read_above_zero), "remnant": as_float(read_amount), "grip": nullable(as_float(read_amount)),
    },
}  # fmt: skip
_ARRANGED = {"grid": _grid, "stations": _stations, "rotary": _rotary}
