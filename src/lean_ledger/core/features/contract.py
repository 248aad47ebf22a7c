"""The answer of `lean-ledger features` as its contract words it."""

from __future__ import annotations

from typing import Any

from lean_ledger.core.features.model import Feature, HoleSegment
from lean_ledger.core.features.recognise import Recognised
from lean_ledger.core.features.turned import Axis
from lean_ledger.core.geometry.model import PartModel

_PLANNING_ONLY = {"region", "open_edges", "path", "direction", "blocked_by", "form", "form_access"}


def features_document(part: PartModel, found: Recognised) -> dict[str, Any]:
    """Lengths in mm, areas mm², volumes mm³; keys as in docs/formats.md."""
    covered = {face for feature in found.features for face in feature.faces}
    return {
        "format": "lean-ledger/features@1",
        "source": {"file": part.file, "length_unit": part.length_unit},
        "solids": part.solids,
        "solid": part.solid_index,
        "bounds": {"min": list(part.solid.bounds.min), "max": list(part.solid.bounds.max)},
        "volume": round(part.solid.volume, 4),
        "area": round(part.solid.area, 4),
        "form": found.form,
        "axis": _axis(found.axis),
        "faces": len(part.solid.faces),
        "features": [_feature(feature) for feature in found.features],
        "unassigned": [face.index for face in part.solid.faces if face.index not in covered],
    }


def _axis(axis: Axis | None) -> dict[str, list[float]] | None:
    return None if axis is None else {"point": _vector(axis.point), "direction": _vector(axis.direction)}


def _feature(feature: Feature) -> dict[str, Any]:
    row: dict[str, Any] = {"id": feature.id, "kind": feature.kind}
    for key, value in vars(feature).items():
        if key in row or key in _PLANNING_ONLY or value is None:
            continue
        if key == "segments":
            row[key] = [_segment(segment) for segment in value]
        elif key == "thread":
            row[key] = vars(value)
        elif key == "access":
            row[key] = [_vector(d) for d in value]
        elif key in ("position", "axis", "normal"):
            row[key] = _vector(value)
        else:
            row[key] = list(value) if isinstance(value, tuple) else value
    if feature.kind == "pocket":
        row["islands"] = feature.islands
    return row


def _vector(v: tuple[float, float, float]) -> list[float]:
    return [round(c, 6) + 0.0 for c in v]


def _segment(segment: HoleSegment) -> dict[str, Any]:
    if segment.shape == "cylinder":
        return {"shape": "cylinder", "diameter": segment.from_diameter, "depth": segment.depth}
    return {
        "shape": "cone",
        "from_diameter": segment.from_diameter,
        "to_diameter": segment.to_diameter,
        "depth": segment.depth,
        "angle": segment.angle,
    }
