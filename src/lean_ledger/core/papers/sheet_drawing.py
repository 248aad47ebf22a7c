"""The drawings of a setup on its sheet: how it is held, its main sizes, the zero, and at each feature the numbers of
the operations that make it.

Where a spindle or a rotary lies the setup is drawn lying: the axis horizontal, what holds at the left, X up.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.features import Feature, Hole, Pocket, Turned
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.holding.hold import Hold
from lean_ledger.core.holding.picture import Box2, end_view, top_view
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.papers.projection import Line, View, ViewName, view_of
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.face_points import extent_of

WIDE = 0.7  # of the part, along both of a view's axes, from which an operation is at no one place
SHOWN = 0.2  # of the stock's greatest size, that what holds it is shown around it
BESIDE = 0.5  # mm that a zero has to lie inside of an edge to get a size of its own
Flat = tuple[float, float]


@dataclass(frozen=True)
class Callout:
    """Numbers of operations, and the place that they are about, mm in the view."""

    at: Flat
    words: str


@dataclass(frozen=True)
class Size:
    """A length along a view's first axis or its second (`upright`), between two values; `row` counts from the drawing
    outwards: below it or at its right, on the other side where negative.
    """

    low: float
    high: float
    words: str
    upright: bool = False
    row: int = 1


@dataclass(frozen=True)
class SheetView:
    """`over_all`: the numbers of operations at no one place."""

    view: View
    boxes: tuple[Box2, ...]
    zero: Flat
    callouts: tuple[Callout, ...] = ()
    sizes: tuple[Size, ...] = ()
    over_all: tuple[int, ...] = ()


def sheet_views(s: LoadLedger, part: Part, zero: Vec) -> tuple[SheetView, SheetView]:
    """The one that work is seen best in, and a second one across to it; `zero` in the hold's axes."""
    hold, lies = s.built.hold, s.decision.is_horizontal
    side, above = _drawn(part, hold, "end", zero, lying=lies), _drawn(part, hold, "top", zero)
    low, high = hold.stock.min, hold.stock.max
    grip = (Size(hold.floor, hold.jaw_top, f"grip {hold.grip:.1f}", not lies, 1 if lies else -1),) if hold.grip else ()
    if not lies:
        main = replace(
            above, sizes=(*_along(low[0], high[0], zero[0]), *_along(low[1], high[1], zero[1], upright=True))
        )
        tall = _along(low[2], high[2], zero[2], upright=True)
        return _told(main, s, part, (0, 1)), replace(side, sizes=(*tall, *grip))
    thick = Size(low[1], high[1], f"{high[1] - low[1]:.2f}", upright=True)
    out = (Size(hold.jaw_top, high[2], f"out {high[2] - hold.jaw_top:.1f}"),) if hold.grip else ()
    whole = Size(low[2], high[2], f"{high[2] - low[2]:.2f}", row=2 if grip else 1)
    near = max(high[i] - low[i] for i in range(3)) * SHOWN
    window = Bounds((low[2] - near, low[1] - near, 0.0), (high[2] + near, high[1] + near, 0.0))
    boxes = tuple(b for b in (_clipped(b, window) for b in side.boxes) if b is not None)
    return _told(replace(side, boxes=boxes, sizes=(*grip, *out, whole, thick)), s, part, (2, 1)), above


def _clipped(b: Box2, window: Bounds) -> Box2 | None:
    """A chuck is larger than what it holds: of it what lies near."""
    x0, y0 = max(b.x, window.min[0]), max(b.y, window.min[1])
    x1, y1 = min(b.x + b.width, window.max[0]), min(b.y + b.height, window.max[1])
    return replace(b, x=x0, y=y0, width=x1 - x0, height=y1 - y0) if x1 > x0 and y1 > y0 else None


def _drawn(part: Part, hold: Hold, name: ViewName, zero: Vec, *, lying: bool = False) -> SheetView:
    view = view_of(part, hold.frame, name)
    boxes = top_view(hold) if name == "top" else end_view(hold)
    at = (zero[0], zero[1]) if name == "top" else (zero[1], zero[2])
    if not lying:
        return SheetView(view, boxes, at)
    laid = View(name, tuple(map(_laid, view.visible)), tuple(map(_laid, view.hidden)))
    return SheetView(laid, tuple(map(_box_laid, boxes)), (at[1], at[0]))


def _laid(line: Line) -> Line:
    return tuple((y, x) for x, y in line)


def _box_laid(b: Box2) -> Box2:
    return replace(b, x=b.y, y=b.x, width=b.height, height=b.width, ring=tuple((y, x) for x, y in b.ring))


def _along(low: float, high: float, zero: float, *, upright: bool = False) -> tuple[Size, ...]:
    """The stock's whole size, and how far the zero is inside of it."""
    whole = Size(low, high, f"{high - low:.2f}", upright, 1)
    if not low + BESIDE < zero < high - BESIDE:
        return (whole,)
    return Size(low, zero, f"{zero - low:.2f}", upright, 1), replace(whole, row=2)


# ---- numbers at the features


def _told(view: SheetView, s: LoadLedger, part: Part, axes: tuple[int, int]) -> SheetView:
    """Operations on the same features stand together; `axes`: those of the hold that the view shows."""
    groups: dict[tuple[str, ...], list[int]] = {}
    over_all: list[int] = []
    for e in s.rows:
        number = 10 * (e.position + 1)
        known = tuple(id for id in e.operation.features if id in part.by_id)
        if not known or _is_wide(e.operation, s, part, axes):
            over_all.append(number)
        else:
            groups.setdefault(known, []).append(number)
    callouts: dict[Flat, list[int]] = {}
    for features, numbers in groups.items():
        at = _place(part.by_id[features[0]], part, s.built.hold, axes)
        callouts.setdefault((round(at[0], 2), round(at[1], 2)), []).extend(numbers)
    told = tuple(Callout(at, " ".join(map(str, sorted(numbers)))) for at, numbers in callouts.items())
    return replace(view, callouts=told, over_all=tuple(over_all))


def _is_wide(op: Operation, s: LoadLedger, part: Part, axes: Sequence[int]) -> bool:
    if op.motion.turns:
        return False
    if op.outer:
        return True
    frame = s.built.hold.frame
    faces = [face for id in op.features if id in part.by_id for face in part.by_id[id].faces]
    own, whole = extent_of(part.model.solid, faces, frame), frame.box(part.model.solid.bounds)
    several = len(op.features) > 1 and not isinstance(part.by_id[op.features[0]], Hole | Pocket)
    return several and all(own.size[i] >= WIDE * whole.size[i] for i in axes)


def _place(feature: Feature, part: Part, hold: Hold, axes: tuple[int, int]) -> Flat:
    """A turned one's upper edge, a hole's entry, else the middle of its faces."""
    box: Bounds = extent_of(part.model.solid, feature.faces, hold.frame)
    middle = tuple((a + b) / 2 for a, b in zip(box.min, box.max, strict=True))
    if isinstance(feature, Turned) and axes[0] == 2:
        return middle[axes[0]], box.max[axes[1]]
    if isinstance(feature, Hole):
        entry = hold.frame.point(feature.position)
        return (entry[axes[0]] + middle[axes[0]]) / 2 if axes[0] == 2 else entry[axes[0]], entry[axes[1]]
    return middle[axes[0]], middle[axes[1]]
