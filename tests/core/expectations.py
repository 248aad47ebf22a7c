"""Compares recognised features with the expect files of tests/cases/features (see the README there)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

LENGTH, POSITION, ANGLE, DIRECTION, RELATIVE = 0.01, 0.02, 0.1, math.radians(0.5), 0.005


def failures(document: dict[str, Any], expect: dict[str, Any]) -> list[str]:
    """What of `expect` the document does not fulfil, in words."""
    found = []
    for key in ("length_unit", "solids", "solid", "faces", "form"):
        if key in expect:
            got = document["source"][key] if key == "length_unit" else document[key]
            wanted = expect[key] if isinstance(expect[key], list) else [expect[key]]
            if got not in wanted:
                found.append(f"{key}: {got}, wanted {wanted}")
    if "axis" in expect:
        found += _axis(document["axis"], expect["axis"])
    for key in ("volume", "area"):
        if key in expect and not _near(document[key], expect[key], RELATIVE * abs(expect[key])):
            found.append(f"{key}: {document[key]}, wanted {expect[key]}")
    if len(document["unassigned"]) > expect.get("unassigned_max", 10**6):
        found.append(f"unassigned: {document['unassigned']}")
    for kind, count in expect.get("totals", {}).items():
        got = sum(1 for f in document["features"] if f["kind"] == kind)
        if not _count(got, count):
            found.append(f"{kind}: {got} features, wanted {count}")
    for group in expect.get("features", []):
        found += _group(document["features"], group)
    for row in expect.get("face_access", []):
        holders = [f for f in document["features"] if set(f["faces"]) & set(row["faces"])]
        for d in row.get("some", []):
            if not any(_among(d, f["access"]) for f in holders):
                found.append(f"{row['what']}: no feature reaches it along {d}")
    return found


def _axis(got: Any, wanted: Any) -> list[str]:
    if got is None or wanted is None:
        return [] if got is wanted else [f"axis: {got}, wanted {wanted}"]
    direction = wanted["direction"]
    if not (_along(got["direction"], direction) or _along(got["direction"], [-c for c in direction])):
        return [f"axis: {got}, wanted {wanted}"]
    off = [a - b for a, b in zip(got["point"], wanted["point"], strict=True)]
    along = sum(a * b for a, b in zip(off, direction, strict=True)) / math.hypot(*direction)
    beside = math.sqrt(max(0.0, math.hypot(*off) ** 2 - along**2))
    return [] if beside <= POSITION else [f"axis: {beside} mm beside {wanted}"]


def _group(features: list[dict[str, Any]], group: dict[str, Any]) -> list[str]:
    kinds = group["kind"] if isinstance(group["kind"], list) else [group["kind"]]
    members = [
        f for f in features
        if f["kind"] in kinds and all(matches(k, f.get(k), v) for k, v in group["match"].items())
    ]  # fmt: skip
    if not _count(len(members), group["count"]):
        return [f"{group['what']}: {len(members)} found, wanted {group['count']}"]
    found = []
    for key, wanted in group.get("then", {}).items():
        if isinstance(wanted, dict) and "each_of" in wanted:
            got = [f.get(key) for f in members]
            found += [f"{group['what']}: {key} {w} is missing" for w in wanted["each_of"]
                      if not any(matches(key, g, w) for g in got)]  # fmt: skip
        else:
            found += [f"{group['what']}: {key} {f.get(key)}, wanted {wanted}" for f in members
                      if not matches(key, f.get(key), wanted)]  # fmt: skip
    return found


def _count(got: int, wanted: Any) -> bool:
    if isinstance(wanted, list):
        return wanted[0] <= got <= wanted[1]
    if isinstance(wanted, dict):
        if "any" in wanted:
            return got in wanted["any"]
        return wanted.get("min", 0) <= got <= wanted.get("max", 10**9)
    return got == wanted


def matches(key: str, got: Any, wanted: Any) -> bool:
    if isinstance(wanted, dict):
        if "any" in wanted:
            return any(matches(key, got, w) for w in wanted["any"])
        if "min" in wanted or "max" in wanted:
            return got is not None and wanted.get("min", -math.inf) <= got <= wanted.get("max", math.inf)
        if "either_sign" in wanted:
            return _along(got, wanted["either_sign"]) or _along(got, [-c for c in wanted["either_sign"]])
        if key == "access":
            return _access(got, wanted)
        if "one_of" in wanted:
            return any(matches(key, got, w) for w in wanted["one_of"])
    if key in ("axis", "normal"):
        return _along(got, wanted)
    if key == "position":
        return math.dist(got, wanted) <= POSITION
    if key == "segments":
        return len(got) == len(wanted) and all(
            all(matches(k, g.get(k), v) for k, v in w.items()) for g, w in zip(got, wanted, strict=True)
        )
    if isinstance(wanted, (bool, str)) or wanted is None:
        return bool(got == wanted)
    if key in ("area", "volume"):
        return _near(got, wanted, RELATIVE * abs(wanted))
    return _near(got, wanted, ANGLE if key == "angle" else LENGTH)


def _access(got: list[Any], wanted: dict[str, Any]) -> bool:
    exact = wanted.get("exactly")
    if exact is not None and (len(got) != len(exact) or not all(_among(d, got) for d in exact)):
        return False
    if not all(_among(d, got) for d in wanted.get("includes", [])):
        return False
    if any(_among(d, got) for d in wanted.get("excludes", [])):
        return False
    return "one_of" not in wanted or any(_among(d, got) for d in wanted["one_of"])


def _among(direction: Sequence[float], directions: Sequence[Sequence[float]]) -> bool:
    return any(_along(d, direction) for d in directions)


def _along(a: Sequence[float], b: Sequence[float]) -> bool:
    dot = sum(x * y for x, y in zip(a, b, strict=True)) / math.hypot(*a) / math.hypot(*b)
    return dot > math.cos(DIRECTION)


def _near(got: Any, wanted: float, tolerance: float) -> bool:
    return got is not None and abs(got - wanted) <= tolerance
