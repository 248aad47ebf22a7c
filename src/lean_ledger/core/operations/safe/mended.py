"""A path that is walked again with pieces missing."""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.milling.paths import APPROACH, RAMP_FEED
from lean_ledger.core.timing.motion import Stroke, feed, rapid


class Mended:
    """Across what is left out it goes over the clearance plane, and down to above the stock's `top` at rapid."""

    def __init__(self, clearance: float, top: float) -> None:
        self.clearance = clearance
        self.top = top
        self.strokes: list[Stroke] = []
        self.at: Vec | None = None
        self.cuts = 0

    def rapid(self, stroke: Stroke) -> None:
        start, end = stroke.points[0], stroke.points[-1]
        if self.at is None or self.at == start:
            self.strokes.append(stroke)
            self.at = end
            return
        self._over(end)
        if start[:2] == end[:2] and end[2] < start[2] and start[2] >= self.clearance - 1e-6:
            self._to((end[0], end[1], end[2]))

    def cut(self, vf: float, points: Sequence[Vec]) -> None:
        if self.at != points[0]:
            x, y, z = points[0]
            beside = self.at is not None and self.at[:2] == (x, y)
            if not beside:
                self._over(points[0])
                self._to((x, y, max(z, self.top + APPROACH)))
            assert self.at is not None
            if self.at[2] > z:
                self.strokes.append(feed(vf * RAMP_FEED, [self.at, points[0]]))
            elif self.at[2] < z:
                self._to(points[0])
        if len(points) > 1:
            self.strokes.append(feed(vf, points))
            self.cuts += 1
        self.at = points[-1]

    def ended(self) -> tuple[Stroke, ...]:
        assert self.at is not None
        self._to((self.at[0], self.at[1], self.clearance))
        return tuple(_without_visits(self.strokes))

    def _over(self, point: Vec) -> None:
        if self.at is not None:
            self._to((self.at[0], self.at[1], self.clearance))
        self._to((point[0], point[1], self.clearance))

    def _to(self, target: Vec) -> None:
        if self.at is not None and self.at != target:
            self.strokes.append(rapid(self.at, target))
        self.at = target


def _without_visits(strokes: Sequence[Stroke]) -> list[Stroke]:
    """Without going where nothing is cut any more: down and up again, or there and on."""
    found: list[Stroke] = []
    for stroke in strokes:
        last = found[-1] if found else None
        if (
            last is not None and last.is_rapid and stroke.is_rapid and stroke.points[-1][:2] == last.points[0][:2]
            and last.points[-1][:2] == last.points[0][:2] and last.points[-1][2] < last.points[0][2]
        ):  # fmt: skip
            found.pop()
            if stroke.points[-1] != last.points[0]:
                found.append(rapid(last.points[0], stroke.points[-1]))
        elif last is not None and _goes_over(last) and _goes_over(stroke):
            found[-1] = rapid(last.points[0], stroke.points[-1])
        else:
            found.append(stroke)
    while found and _goes_over(found[-1]):
        found.pop()
    return found


def _goes_over(stroke: Stroke) -> bool:
    return stroke.is_rapid and all(p[2] == stroke.points[0][2] for p in stroke.points)
