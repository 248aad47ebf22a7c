"""Reads a machine, lean-ledger/machine@1, from JSON text; every refusal names the path in the file and the reason."""

from __future__ import annotations

import itertools
from typing import Any

from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.files.json_input import (
    Reader,
    as_float,
    check_format,
    floats,
    known_once,
    nullable,
    one_of,
    parse_json,
    read_above_zero,
    read_amount,
    read_flag,
    read_list,
    read_number,
    read_object,
    read_text,
    read_whole,
)
from lean_ledger.library.load import machine_of
from lean_ledger.library.machines import Machine

FORMAT = "lean-ledger/machine@1"
FIRST, MOST_CARRIAGES, MOST_POSITIONS = "turret 1", 4, 12


def parse_machine(text: str) -> Machine:
    """Raises ProblemError for anything but a whole and sound machine; `place` is the line or the path in the JSON."""
    data = parse_json(text)
    check_format(data, FORMAT)
    return read_machine(data, "")


def read_machine(value: Any, path: str) -> Machine:
    """The same within another file, at a path of it."""
    given = value if isinstance(value, dict) else {}
    further = "further_carriages" in given
    row = read_object(value, path, _MACHINE | {key: read for key, read in _OPTIONAL.items() if key in given})
    dot = f"{path}." if path else ""
    if row["format"] != FORMAT:
        raise ProblemError("format", f"is {row['format']!r}; this reads {FORMAT}", f"{dot}format")
    if row["tilt"] is not None and row["rotary"] is None:
        raise ProblemError("tilt-alone", "a tilt carries a rotary; give the rotary too", f"{dot}tilt")
    if not row["mounts"]:
        raise ProblemError("empty", "at least one mount is needed: where a fixture sits", f"{dot}mounts")
    if further and row["kind"] != "lathe":
        raise ProblemError(
            "further-carriages", "more than one carriage is planned on lathes", f"{dot}further_carriages"
        )
    for key in ("further_carriages", "counter_spindle") if "drum" in given else ():
        if key in given:
            raise ProblemError("drum-alone", "a machine with a drum has its slides and spindles by it", f"{dot}{key}")
    if "drum" in given and row["kind"] != "lathe":
        raise ProblemError("drum", "a drum of spindles is planned on lathes", f"{dot}drum")
    if "counter_spindle" in given:
        _check_counter(row, f"{dot}counter_spindle")
    return machine_of(row)


def _range(value: Any, path: str) -> tuple[float, ...]:
    low, high = floats(2, read_number)(value, path)
    if low > high:
        raise ProblemError("range", f"goes from {low:g} to {high:g}; the lower one comes first", path)
    return (low, high)


def _xyz(read: Reader) -> Reader:
    return lambda value, path: read_object(value, path, {"x": read, "y": read, "z": read})


def _curve(value: Any, path: str) -> tuple[tuple[float, ...], ...]:
    rows = read_list(value, path)
    points = tuple(floats(2, read_number)(row, f"{path}[{i}]") for i, row in enumerate(rows))
    if not points:
        raise ProblemError("empty", "at least one [rpm, N·m] is needed", path)
    if any(a[0] >= b[0] for a, b in itertools.pairwise(points)):
        raise ProblemError("order", "the speeds must rise", path)
    return points


def _mounts(value: Any, path: str) -> list[dict[str, Any]]:
    return [read_object(row, f"{path}[{i}]", _MOUNT) for i, row in enumerate(read_list(value, path))]


def _carriages(value: Any, path: str) -> list[dict[str, Any]]:
    rows = [read_object(row, f"{path}[{i}]", _CARRIAGE) for i, row in enumerate(read_list(value, path))]
    known = known_once([row["id"] for row in rows], path)
    if FIRST in known:
        raise ProblemError("doubled", f"{FIRST!r} is the one that the machine itself has", f"{path}[{known[FIRST]}].id")
    if len(rows) >= MOST_CARRIAGES:
        raise ProblemError("count", f"has {len(rows)}; up to {MOST_CARRIAGES - 1} more than one are planned", path)
    return rows


def _check_counter(row: dict[str, Any], path: str) -> None:
    """It faces the first mount of a lathe, on a mount of its own where it stands back."""
    if row["kind"] != "lathe":
        raise ProblemError("counter-spindle", "a counter spindle is planned on lathes", path)
    own = row["counter_spindle"]
    mount = next((one for one in row["mounts"][1:] if one["name"] == own["mount"]), None)
    if mount is None:
        raise ProblemError("counter-mount", f"no mount after the first is named {own['mount']!r}", f"{path}.mount")
    if tuple(mount["rotation"]) != (0, 180, 0):
        raise ProblemError(
            "counter-mount", "its mount has to look at the first one: rotation [0, 180, 0]", f"{path}.mount"
        )
    if abs(mount["at"][2] - own["travel"][1]) > 1e-6:
        raise ProblemError(
            "counter-travel", f"ends at {own['travel'][1]:g}; it works at its mount, at Z {mount['at'][2]:g}",
            f"{path}.travel",
        )  # fmt: skip


def _whole_or_none(value: Any, path: str) -> int:
    number = read_amount(value, path)
    if number != int(number):
        raise ProblemError("not-whole", f"is {number}; a whole number is needed", path)
    return int(number)


def _positions(value: Any, path: str) -> int:
    number = read_whole(value, path)
    if not 1 <= number <= MOST_POSITIONS:
        raise ProblemError("out-of-range", f"is {number}; it must be 1 to {MOST_POSITIONS}", path)
    return number


def _part(readers: dict[str, Reader]) -> Reader:
    return lambda value, path: read_object(value, path, readers)


_ROTARY: dict[str, Reader] = {
    "about": one_of("x", "y", "z"),
    "rate": as_float(read_above_zero),
    "acceleration": as_float(read_above_zero),
    "clamp": as_float(read_amount),
    "unclamp": as_float(read_amount),
    "range": nullable(_range),
}
_MOUNT: dict[str, Reader] = {"name": read_text, "at": floats(3, read_number), "rotation": floats(3, read_number)}
_SPINDLE: dict[str, Reader] = {
    "max_rpm": as_float(read_above_zero),
    "start": as_float(read_amount),
    "power": as_float(read_above_zero),
    "torque": _curve,
}
_MOVING: dict[str, Reader] = {
    "travel": _xyz(_range),
    "rapid": _xyz(as_float(read_above_zero)),
    "acceleration": _xyz(as_float(read_above_zero)),
    "tool_change": as_float(read_amount),
    "tool_pockets": _whole_or_none,
}
_CARRIAGE: dict[str, Reader] = {"id": read_text, "side": one_of("behind", "front"), **_MOVING}
_MACHINE: dict[str, Reader] = {
    "format": read_text,
    "name": read_text,
    "kind": one_of("mill", "lathe"),
    **_MOVING,
    "corner_tolerance": as_float(read_amount),
    "rotary": nullable(_part(_ROTARY)),
    "tilt": nullable(_part(_ROTARY)),
    "spindle": _part(_SPINDLE),
    "offsets": one_of("basic", "extended-48", "extended-99"),
    "mounts": _mounts,
}
_COUNTER: dict[str, Reader] = {
    "mount": read_text,
    "spindle": _part(_SPINDLE),
    "rotary": nullable(_part(_ROTARY)),
    "travel": _range,
    "rapid": as_float(read_above_zero),
    "acceleration": as_float(read_above_zero),
    "synchronise": as_float(read_amount),
    "close": as_float(read_amount),
    "eject": as_float(read_amount),
}
_DRUM: dict[str, Reader] = {
    "positions": _positions,
    "index": as_float(read_amount),
    "feed": as_float(read_amount),
    "tools": _positions,
    "end_slide": _part({key: _MOVING[key] for key in ("travel", "rapid", "acceleration")}),
}


def _with(always: dict[str, Reader], may: dict[str, Reader]) -> Reader:
    def read(value: Any, path: str) -> dict[str, Any]:
        given = value if isinstance(value, dict) else {}
        return read_object(value, path, always | {key: one for key, one in may.items() if key in given})

    return read


_OPTIONAL: dict[str, Reader] = {
    "further_carriages": _carriages,
    "counter_spindle": _with(_COUNTER, {"collet": as_float(read_amount)}),
    "drum": _with(_DRUM, {"one_feed": read_flag}),
}
