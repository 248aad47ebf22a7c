"""Opening a DXF drawing, and the lines in it. Lengths follow the unit in its header, mm where there is none."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from ezdxf import path as dxf_path
from ezdxf.document import Drawing
from ezdxf.filemanagement import readfile
from ezdxf.lldxf.const import DXFError

from lean_ledger.core.basis.errors import FileRefused

#: $INSUNITS of the header: millimetres in a unit, and its name
UNITS = {0: (1.0, "mm"), 1: (25.4, "inch"), 2: (304.8, "ft"), 4: (1.0, "mm"), 5: (10.0, "cm"), 6: (1000.0, "m")}
FLATTEN = 0.01  # mm that the chords of a curve may stray
MOST_BYTES = 2_000_000
MOST_POINTS = 20_000
FAR = 4000.0  # mm from the origin
DEEPEST = 8  # blocks in blocks
DRAWN = ("LINE", "ARC", "CIRCLE", "LWPOLYLINE", "POLYLINE", "SPLINE", "ELLIPSE")

Lines = tuple[tuple[tuple[float, float], ...], ...]


def opened_drawing(path: Path, name: str) -> tuple[Drawing, float]:
    """A drawing, and the millimetres in its unit. Raises FileRefused: file-not-dxf, file-unit."""
    try:
        drawing = readfile(path)
    except (DXFError, OSError, ValueError, KeyError, IndexError, UnicodeDecodeError) as error:
        said = str(error).replace(str(path), name)  # where the server keeps it is nobody's business
        raise FileRefused(
            "file-not-dxf", f"this is not a DXF drawing that can be read ({said}); save it again as DXF", name
        ) from error
    # a file without a header gets one from the reader, with metres in it: what the file itself says counts
    unit = drawing.header.get("$INSUNITS", 0) if b"$INSUNITS" in path.read_bytes() else 0
    if unit not in UNITS:
        known = ", ".join(f"{code} ({words})" for code, (_, words) in UNITS.items())
        raise FileRefused("file-unit", f"the drawing's unit has the code {unit}; known are {known}", name)
    return drawing, UNITS[unit][0]


def hidden_layers(drawing: Drawing) -> set[str]:
    """Names, in small letters, of the layers that are off or frozen."""
    return {layer.dxf.name.lower() for layer in drawing.layers if layer.is_off() or layer.is_frozen()}


def lines_of_dxf(content: bytes, name: str) -> Lines:
    """What is drawn, open or closed, as points in mm; curves as chords that stray less than FLATTEN.

    Words and what lies on hidden layers are left out. Raises FileRefused as `opened_drawing` does, and: file-too-large,
    file-too-many-points, file-too-deep, file-too-far, file-no-lines.
    """
    if len(content) > MOST_BYTES:
        raise FileRefused(
            "file-too-large",
            f"a drawing to engrave has at most {MOST_BYTES / 1e6:g} MB, this one {len(content) / 1e6:.1f}", name,
        )  # fmt: skip
    with tempfile.TemporaryDirectory() as room:
        path = Path(room) / "drawing.dxf"
        path.write_bytes(content)
        drawing, factor = opened_drawing(path, name)
        hidden = hidden_layers(drawing)
        found: list[tuple[tuple[float, float], ...]] = []
        count = 0
        for entity in drawing.modelspace():
            for line in _lines(entity, factor, hidden, name):
                found.append(line)
                count += len(line)
                if count > MOST_POINTS:
                    raise FileRefused("file-too-many-points", f"a drawing takes at most {MOST_POINTS:,} points", name)
    if not found:
        raise FileRefused("file-no-lines", f"there is no line in it; drawn are {', '.join(DRAWN).lower()}", name)
    return tuple(found)


def _lines(
    entity: Any, factor: float, hidden: set[str], name: str, depth: int = 0
) -> Iterator[tuple[tuple[float, float], ...]]:
    if str(entity.dxf.get("layer", "0")).lower() in hidden:
        return
    if entity.dxftype() == "INSERT":
        if depth >= DEEPEST:
            raise FileRefused("file-too-deep", f"its blocks lie more than {DEEPEST} deep in one another", name)
        for part in entity.virtual_entities():
            yield from _lines(part, factor, hidden, name, depth + 1)
        return
    if entity.dxftype() not in DRAWN:
        return
    points = [(round(p.x * factor, 4), round(p.y * factor, 4)) for p in _flattened(entity, factor, name)]
    kept = [p for i, p in enumerate(points) if i == 0 or p != points[i - 1]]
    if len(kept) > 1:
        yield tuple(kept)


def _flattened(entity: Any, factor: float, name: str) -> list[Any]:
    try:
        path = dxf_path.make_path(entity)
        # chords of a curve are as many as it is large: looked at before they are made
        if any(not abs(v) * factor <= FAR for p in path.control_vertices() for v in (p.x, p.y)):
            raise FileRefused("file-too-far", f"something lies more than {FAR:g} mm from the origin", name)
        return list(path.flattening(FLATTEN / factor))
    except (DXFError, TypeError, ValueError):
        return []
