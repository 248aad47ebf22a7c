"""A view of a setup on paper: lines and boxes to scale, sizes around it, numbers beside what they are about."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from itertools import product
from math import cos, pi, sin

from fpdf import FPDF

from lean_ledger.core.holding.picture import Box2
from lean_ledger.core.papers.projection import View
from lean_ledger.core.papers.sheet_drawing import SheetView, Size

INK, SOFT, RULE = (34, 40, 31), (93, 100, 87), (169, 167, 150)
ROW = 5.0  # mm from a drawing to its sizes, and from those to the next
TICK = 0.9  # mm
BESIDE = 5.0  # mm for words that find no room in a size
SMALL = 6.5  # pt
AWAY = (3.5, 6.0, 8.5, 11.5, 15.0, 19.0, 24.0)  # mm that numbers may stand off their place
AROUND = 12  # directions that are tried
ROOM = 0.6  # mm between numbers

Frame4 = tuple[float, float, float, float]  # left, top, width, height
At = Callable[[Sequence[float]], tuple[float, float]]


def draw_setup(pdf: FPDF, view: SheetView, frame: Frame4) -> None:
    """With its zero, its sizes and its numbers."""
    left, top, width, height = frame
    below = max((s.row for s in view.sizes if not s.upright), default=0) * ROW
    right = max((s.row for s in view.sizes if s.upright and s.row > 0), default=0) * ROW + BESIDE
    other = max((-s.row for s in view.sizes if s.upright and s.row < 0), default=0) * ROW + BESIDE
    at = draw_view(pdf, view.view, view.boxes, (left + other, top, width - right - other, height - below))
    _zero(pdf, *at(view.zero))
    edges = _edges(view, at)
    for size in view.sizes:
        goes_on = any((s.upright, s.row, s.low) == (size.upright, size.row, size.high) for s in view.sizes)
        _size(pdf, size, at, edges, goes_on=goes_on)
    _callouts(pdf, view, at, frame)
    if view.over_all:
        pdf.set_xy(left, top + height)
        pdf.set_font("sans", "", SMALL)
        pdf.set_text_color(*SOFT)
        pdf.cell(width, 3.5, f"all over or outside: {', '.join(map(str, view.over_all))}", align="C")
        pdf.set_text_color(*INK)


def draw_view(pdf: FPDF, view: View, boxes: Sequence[Box2], frame: Frame4) -> At:
    """Drawn into a frame as large as it goes; where a point of it comes to lie."""
    points = [p for line in view.visible for p in line]
    points += [p for b in boxes for p in ((b.x, b.y), (b.x + b.width, b.y + b.height))]
    if not points:
        return lambda _: (frame[0], frame[1])
    x0, x1 = min(p[0] for p in points), max(p[0] for p in points)
    y0, y1 = min(p[1] for p in points), max(p[1] for p in points)
    left, top, width, height = frame
    scale = min((width - 2) / max(x1 - x0, 1e-6), (height - 2) / max(y1 - y0, 1e-6))
    mid_x, mid_y = left + width / 2, top + height / 2

    def at(p: Sequence[float]) -> tuple[float, float]:
        return (mid_x + (p[0] - (x0 + x1) / 2) * scale, mid_y - (p[1] - (y0 + y1) / 2) * scale)

    for box in boxes:
        corner = at((box.x, box.y + box.height))
        pdf.set_draw_color(*(RULE if box.what == "stock" else SOFT))
        pdf.set_line_width(0.2)
        if box.what == "stock":
            pdf.set_dash_pattern(dash=1.6, gap=1.0)
        if box.ring:
            pdf.polygon([at(p) for p in box.ring])
        else:
            draw = pdf.ellipse if box.round else pdf.rect
            draw(corner[0], corner[1], box.width * scale, box.height * scale)
        pdf.set_dash_pattern()
    pdf.set_draw_color(*SOFT)
    pdf.set_line_width(0.1)
    pdf.set_dash_pattern(dash=0.9, gap=0.7)
    for line in view.hidden if view.name != "iso" else ():
        pdf.polyline([at(p) for p in line])
    pdf.set_dash_pattern()
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.28)
    for line in view.visible:
        pdf.polyline([at(p) for p in line])
    pdf.set_line_width(0.2)
    return at


def _zero(pdf: FPDF, x: float, y: float) -> None:
    pdf.set_line_width(0.35)
    pdf.circle(x, y, 1.4)
    pdf.line(x - 2.6, y, x + 2.6, y)
    pdf.line(x, y - 2.6, x, y + 2.6)
    pdf.set_line_width(0.2)


def _edges(view: SheetView, at: At) -> Frame4:
    """Least and greatest x and y on paper of all that is drawn."""
    corners = [at(p) for line in view.view.visible for p in line]
    corners += [at((b.x + i * b.width, b.y + j * b.height)) for b in view.boxes for i, j in product((0, 1), (0, 1))]
    xs, ys = zip(*(corners or [at((0.0, 0.0))]), strict=True)
    return min(xs), max(xs), min(ys), max(ys)


def _size(pdf: FPDF, size: Size, at: At, edges: Frame4, *, goes_on: bool) -> None:
    """A line with ticks between two values, its words in the middle of it; where they find no room, at its end that no
    other `goes_on` from.
    """
    x0, x1, _, y1 = edges
    pdf.set_draw_color(*SOFT)
    pdf.set_line_width(0.12)
    pdf.set_font("sans", "", SMALL)
    wide = pdf.get_string_width(size.words) + 1.2
    if size.upright:
        x = x1 + size.row * ROW - 1.5 if size.row > 0 else x0 + size.row * ROW + 1.5
        a, b = at((0.0, size.low))[1], at((0.0, size.high))[1]
        pdf.line(x, a, x, b)
        for y in (a, b):
            pdf.line(x - TICK, y, x + TICK, y)
        middle = (a + b) / 2
        if abs(a - b) < wide + 2:  # no room in it
            _words(pdf, x + (1.2 + wide / 2) * (1 if size.row > 0 else -1), middle, size.words, wide)
        else:
            with pdf.rotation(90, x, middle):
                _words(pdf, x, middle, size.words, wide)
    else:
        y = y1 + size.row * ROW - 1.5
        a, b = at((size.low, 0.0))[0], at((size.high, 0.0))[0]
        pdf.line(a, y, b, y)
        for x in (a, b):
            pdf.line(x, y - TICK, x, y + TICK)
        inside = b - a >= wide + 2
        beside = a - 1 - wide / 2 if goes_on else b + 1 + wide / 2
        _words(pdf, (a + b) / 2 if inside else beside, y, size.words, wide)
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.2)


def _words(pdf: FPDF, x: float, y: float, words: str, wide: float, *, bold: bool = False) -> None:
    pdf.set_font("sans", "B" if bold else "", SMALL)
    pdf.set_fill_color(255, 255, 255)
    pdf.set_xy(x - wide / 2, y - 1.3)
    pdf.cell(wide, 2.6, words, align="C", fill=True)


def _callouts(pdf: FPDF, view: SheetView, at: At, frame: Frame4) -> None:
    """Each beside its place, where neither another's words nor its place lie; a thin line leads to it."""
    pdf.set_font("sans", "B", SMALL)
    places = [at(one.at) for one in view.callouts]
    zero = at(view.zero)
    taken: list[Frame4] = [(zero[0] - 2.6, zero[1] - 2.6, 5.2, 5.2), *((x - 1, y - 1, 2.0, 2.0) for x, y in places)]
    found = []
    for one, place in zip(view.callouts, places, strict=True):
        wide = pdf.get_string_width(one.words) + 1.2
        free = (p for p in _around(place) if _is_free(p, wide, taken, frame))
        x, y = next(free, (place[0], place[1] - AWAY[0]))
        taken.append((x - wide / 2, y - 1.3, wide, 2.6))
        found.append((place, (x, y), one.words, wide))
    pdf.set_draw_color(*SOFT)
    pdf.set_line_width(0.12)
    for (x, y), (u, v), _, _ in found:
        pdf.line(x, y, u, v)
        pdf.circle(x, y, 0.35, style="F")
    for _, (u, v), words, wide in found:
        _words(pdf, u, v, words, wide, bold=True)
    pdf.set_draw_color(*INK)
    pdf.set_line_width(0.2)


def _around(place: tuple[float, float]) -> Iterator[tuple[float, float]]:
    for away in AWAY:
        for k in range(AROUND):
            turn = pi / 4 + 2 * pi * k / AROUND
            yield place[0] + away * cos(turn), place[1] - away * sin(turn)


def _is_free(middle: tuple[float, float], wide: float, taken: Sequence[Frame4], frame: Frame4) -> bool:
    x, y = middle[0] - wide / 2, middle[1] - 1.3
    left, top, width, height = frame
    if x < left or y < top or x + wide > left + width or y + 2.6 > top + height:
        return False
    return not any(
        x < a + w + ROOM and a < x + wide + ROOM and y < b + h + ROOM and b < y + 2.6 + ROOM for a, b, w, h in taken
    )
