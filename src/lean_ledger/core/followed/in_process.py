"""The stock after every operation, and what is wrong with it after the last: left on, or cut into the part.

Runs in the kernel's own process, which keeps what it computed: a change of one operation computes again only what
comes after it.
"""

from __future__ import annotations

import hashlib
import pickle
from collections import OrderedDict
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from lean_ledger.core.followed.ball import outside
from lean_ledger.core.followed.collisions import (
    Collision,
    first_rapids,
    into_fixture,
    into_solid,
    into_stock,
    is_follower,
    rapid_into,
    turning_into,
    turning_rapid_into,
)
from lean_ledger.core.followed.cuts import Around, Course, Cut, Sawn
from lean_ledger.core.followed.nearest import Surface
from lean_ledger.core.followed.on_face import beside, mostly_on
from lean_ledger.core.followed.rates import cut_sideways, most_per_mm
from lean_ledger.core.followed.sweep import swept
from lean_ledger.core.geometry.masses import (
    Lump,
    Mass,
    box_mass,
    mass_of_mesh,
    united,
)
from lean_ledger.core.geometry.model import Bounds, Mesh, Vec
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.operations.safe.tool_outline import profile_of
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.types import ToolKind

MODULE = __name__

TOLERANCE = 0.05  # mm of stock left or cut away that is not worth a word: chords of arcs stray less
LEAST_VOLUME = 0.05  # mm³
SLIVER = 0.01  # mm that a piece is thick in the mean, below which it is a difference of chords
MOST_TRIED = 40  # of the largest triangles of a piece, and as many of the others, whose distance is looked at
PROBED = 0.25  # mm around the deepest place of a piece
MOSTLY = 0.6  # of a piece, that is blame enough
SHOWN = 0.004  # mm that a picture's triangles may stray
PLAIN = 0.002  # mm that what a cut takes may stray where that spares triangles
RUN_OFF = 1.0  # mm around the stock beyond which a cut takes nothing
KEPT = 1200  # solids that the process keeps

V = TypeVar("V")


@dataclass(frozen=True)
class StockStep:
    """After an operation: what the stock holds, and what the operation took off, mm³; at the most, mm³/min."""

    operation: str
    volume: float
    removed: float
    rate: float = 0.0


@dataclass(frozen=True)
class Remainder:
    """A piece left on the part or cut out of it. `amount` is the greatest distance from the part's surface, mm."""

    cut_into: bool
    amount: float
    volume: float
    at: Vec
    face: int  # of the part, that most of it lies on; −1 on a body that the plan adds
    operation: str  # that cut it; empty for what is left on
    vertices: tuple[Vec, ...] = field(repr=False)
    triangles: tuple[tuple[int, int, int], ...] = field(repr=False)
    amounts: tuple[float, ...] = field(repr=False)  # the greatest on each triangle


@dataclass(frozen=True)
class Followed:
    start: float  # mm³ of the stock
    target: float  # mm³ of the part
    steps: tuple[StockStep, ...]
    remainders: tuple[Remainder, ...]  # the greatest amount first
    collisions: tuple[Collision, ...] = ()

    @property
    def over_share(self) -> float:
        """By how much of the part's volume the stock ends larger than the part."""
        end = self.steps[-1].volume if self.steps else self.start
        return end / self.target - 1


class _Kept:
    """The last solids by what they were made from."""

    def __init__(self) -> None:
        self._values: OrderedDict[str, object] = OrderedDict()

    def get(self, key: str, make: Callable[[], V]) -> V:
        if key in self._values:
            self._values.move_to_end(key)
            return self._values[key]  # type: ignore[return-value]
        value = make()
        self._values[key] = value
        while len(self._values) > KEPT:
            self._values.popitem(last=False)
        return value


_KEPT = _Kept()


def followed(course: Course, report: Report = silent) -> Followed:
    """Cut the stock operation by operation and compare what is left with the part.

    Raises MassError where the part's triangles enclose no volume.
    """
    states = _states(course, report)
    report("comparing with the part", 0.8)
    target, surface = _target(course)
    volumes, keys = [state.volume for state in states], _keys(course)
    steps = tuple(
        StockStep(
            cut.operation, volumes[i + 1], volumes[i] - _cut_to(course, i, states), _rate(cut, states[i], keys[i])
        )
        for i, cut in enumerate(course.cuts)
    )
    left = states[-1].minus([target])
    gone = target.minus([states[-1]])
    found = [_remainder(piece, surface, course, cut_into=False) for piece in left.pieces()]
    found += [_remainder(piece, surface, course, cut_into=True) for piece in gone.pieces()]
    worth = sorted((r for r in found if r is not None), key=lambda r: -r.amount)
    met = [
        one
        for cut, before, after in zip(course.cuts, states, states[1:], strict=False)
        for one in _collisions(cut, before, after, course.stock.box)
    ]
    return Followed(volumes[0], target.volume, steps, tuple(worth), tuple(met))


def stock_after(course: Course, count: int, report: Report = silent) -> Mesh:
    """The stock after the first `count` operations, in part coordinates; the triangles' faces are all 0."""
    return _as_mesh(_states(course, report)[min(count, len(course.cuts))].simplified(SHOWN))


def around_mesh(around: Around, report: Report = silent) -> Mesh:
    """What holds the stock, in part coordinates."""
    return _as_mesh(around.mass)


def height_at(course: Course, count: int, point: Vec, along: Vec, report: Report = silent) -> float:
    """How much stock a line through a point along a direction has in it after some operations, mm."""
    return _states(course, report)[min(count, len(course.cuts))].thickness_at(point, along)


def _states(course: Course, report: Report) -> list[Mass]:
    keys = _keys(course)
    states = [_KEPT.get(keys[0], lambda: course.stock.mass)]
    for i, (cut, key) in enumerate(zip(course.cuts, keys[1:], strict=True)):
        report("cutting the stock", 0.8 * i / len(course.cuts))
        before = states[-1]
        taken = _taken(cut, _shape_key(cut), course.stock.box)
        sawn = _sawn(course, i + 1)
        states.append(_KEPT.get(key, lambda taken=taken, before=before, sawn=sawn: _less(before, taken, sawn)))  # type: ignore[misc]
    return states


def _cut_to(course: Course, i: int, states: Sequence[Mass]) -> float:
    """mm³ that a cut leaves, before anything is sawn off."""
    if _sawn(course, i + 1) is None:
        return states[i + 1].volume
    cut = course.cuts[i]
    return states[i].minus([_taken(cut, _shape_key(cut), course.stock.box)]).volume


def _less(before: Mass, taken: Mass, sawn: Sawn | None) -> Mass:
    left = before.minus([taken])
    return left if sawn is None else left.common(box_mass(sawn.kept))


def _sawn(course: Course, count: int) -> Sawn | None:
    """What is sawn off right after so many cuts."""
    return course.sawn if course.sawn is not None and course.sawn.after == count else None


def _keys(course: Course) -> list[str]:
    """Of the stock, and of what is left of it after each cut."""
    keys = [_digest(course.stock)]
    for i, cut in enumerate(course.cuts):
        sawn = _sawn(course, i + 1)
        keys.append(_digest((keys[-1], _shape_key(cut), *([sawn] if sawn is not None else []))))
    return keys


def _rate(cut: Cut, before: Mass, key: str) -> float:
    """mm³/min at the most; another feed asks for no new look at the stock."""
    if not cut_sideways(cut):
        return 0.0
    asked = f"rate {key} {_shape_key(cut)} {cut.on_floor} {cut.step}"
    per_mm = _KEPT.get(asked, lambda: most_per_mm(cut, _into(before, cut.frame)))
    feeds = [s.feed_mm_per_min for s in cut.motion.strokes if not s.is_rapid]
    return max((rate * feed for rate, feed in zip(per_mm, feeds, strict=True)), default=0.0)


def _shape_key(cut: Cut) -> str:
    """What decides the shape that a cut takes away: a feed or a speed does not."""
    return _digest((_ways(cut), cut.motion.turned, profile_of(cut.tool), cut.frame, cut.high))


def _swept(cut: Cut, key: str) -> Mass:
    """In setup coordinates."""
    return _KEPT.get(f"swept {key}", lambda: swept(cut.motion, cut.tool, cut.high))


def _taken(cut: Cut, key: str, box: Bounds) -> Mass:
    """In part coordinates: of the swept tool what meets the stock's box, with no more triangles than that needs."""

    def make() -> Mass:
        whole = _swept(cut, key).placed(cut.frame.right, cut.frame.back, cut.frame.up)
        # arcs of a tool that runs off the stock cost time in every boolean after, and take nothing
        return whole.common(box_mass(box.grown(RUN_OFF))).simplified(PLAIN)

    return _KEPT.get(f"taken {key} {box}", make)


def _collisions(cut: Cut, before: Mass, after: Mass, box: Bounds) -> list[Collision]:
    own = _shape_key(cut)
    tool = (cut.tool.reach, cut.tool.holder.diameter)
    found: list[Collision] = []
    id = cut.operation
    rapids = (*cut.approach, *(s for s in cut.motion.strokes if s.is_rapid))
    # until it cuts, all the stock is still there; later, what stands in its way is at least what it leaves
    first = (*cut.approach, *first_rapids(cut.motion))
    fixture = _KEPT.get(f"around {_digest(cut.around)} {_digest(cut.frame)}", lambda: _into(cut.around.mass, cut.frame))
    if cut.motion.turns:
        return _turning(cut, fixture, before, after, rapids, first)
    if cut.around.pieces:
        found += _KEPT.get(
            f"fixture {own} {_digest((cut.around, tool))}",
            lambda: into_fixture(id, cut.motion, cut.tool, _swept(cut, own), fixture, cut.high),
        )
        found += rapid_into(id, "fixture", rapids, cut.tool, fixture, cut.high)
    found += into_solid(id, cut.motion, cut.tool, _into(before, cut.frame), cut.high) if is_follower(cut.tool) else []
    if cut.motion.lowest + cut.tool.reach < cut.high:
        found += into_stock(id, cut.motion, cut.tool, _into(after, cut.frame), cut.high)
    top = cut.frame.box(box).max[2]
    if any(p[2] < top for stroke in rapids for p in stroke.points):
        found += rapid_into(id, "stock", first, cut.tool, _into(before, cut.frame), cut.high) or rapid_into(
            id, "stock", rapids, cut.tool, _into(after, cut.frame), cut.high
        )
    return [replace(one, operation=cut.operation) for one in found]


def _turning(
    cut: Cut, fixture: Mass, before: Mass, after: Mass, rapids: Sequence[Stroke], first: Sequence[Stroke]
) -> list[Collision]:  # fmt: skip
    id, axis = cut.operation, cut.motion.axis
    standing = {"before": _into(before, cut.frame), "after": _into(after, cut.frame)}
    return [
        *turning_into(id, "fixture", cut.motion, cut.tool, fixture),
        *turning_into(id, "stock", cut.motion, cut.tool, standing["after"]),
        *turning_rapid_into(id, "fixture", rapids, cut.tool, fixture, axis),
        *(turning_rapid_into(id, "stock", first, cut.tool, standing["before"], axis)
          or turning_rapid_into(id, "stock", rapids, cut.tool, standing["after"], axis)),
    ]  # fmt: skip


def _as_mesh(mass: Mass) -> Mesh:
    vertices, triangles = mass.triangles()
    return Mesh(
        tuple(map(tuple, np.round(vertices, 4).tolist())),
        tuple(map(tuple, triangles.tolist())),
        (0,) * len(triangles),
    )


def _into(mass: Mass, frame: Frame) -> Mass:
    """From the part's axes into a setup's: the rows of the turn back are the setup's axes."""
    rows = (frame.right, frame.back, frame.up)
    columns = [tuple(row[i] for row in rows) for i in range(3)]
    return mass.placed(*columns)  # type: ignore[arg-type]


def _target(course: Course) -> tuple[Mass, Surface]:
    def make() -> tuple[Mass, Surface]:
        masses = [mass_of_mesh(mesh) for mesh in course.target]
        whole = masses[0] if len(masses) == 1 else united(masses)
        return whole, Surface(course.target, key, course.rounds)

    def engraved() -> Mass:
        return whole.minus([_taken(cut, _shape_key(cut), course.stock.box) for cut in into_part])

    key = _digest(course.target)
    whole, surface = _KEPT.get(f"target {key}", make)
    into_part = [cut for cut in course.cuts if cut.into_part]
    if not into_part:
        return whole, surface
    return _KEPT.get(f"target {key} {_digest([_shape_key(cut) for cut in into_part])}", engraved), surface


def _remainder(piece: Lump, surface: Surface, course: Course, *, cut_into: bool) -> Remainder | None:
    # what lies on the part's surface and is thin is never far from it
    if piece.least_size < TOLERANCE or piece.volume < LEAST_VOLUME or piece.mean_thickness < SLIVER:
        return None
    key = hashlib.sha1(piece.vertices.tobytes(), usedforsecurity=False).hexdigest()
    tried = _KEPT.get(f"{surface.key} {key} {cut_into}", lambda: _tried(piece, surface, cut_into=cut_into))
    if tried.amount < TOLERANCE:
        return None
    balls = [
        cut for cut in course.cuts if cut_into and cut.tool.kind == ToolKind.BALL_MILL and _meets(cut, piece, course)
    ]
    if balls:  # their solids are drawn on a grid, which rounds an edge off that they pass on both sides
        tried = _tried(piece, surface, cut_into=True, balls=balls)
        if tried.amount < TOLERANCE:
            return _without(balls, piece, surface, course)
    return Remainder(
        cut_into,
        round(tried.amount, 3),
        piece.volume,
        tried.at,
        tried.face,
        _to_blame(piece.mass, tried.at, course) if cut_into else "",
        tuple(_vec(v) for v in piece.vertices),
        tuple((int(a), int(b), int(c)) for a, b, c in piece.triangles),
        tried.amounts,
    )


@dataclass(frozen=True)
class _Tried:
    amount: float
    at: Vec
    face: int  # that the piece touches most of
    amounts: tuple[float, ...]  # of each triangle


def _meets(cut: Cut, piece: Lump, course: Course) -> bool:
    taken = _taken(cut, _shape_key(cut), course.stock.box)
    return not taken.is_empty and piece.mass.bounds.meets(taken.bounds)


def _without(balls: Sequence[Cut], piece: Lump, surface: Surface, course: Course) -> Remainder | None:
    """What all cuts but some take of a piece: the worst of it."""
    rest = replace(course, cuts=tuple(cut for cut in course.cuts if cut not in balls))
    others = united([_taken(cut, _shape_key(cut), course.stock.box) for cut in rest.cuts if _meets(cut, piece, course)])
    found = [_remainder(one, surface, rest, cut_into=True) for one in piece.mass.common(others).pieces()]
    return max((one for one in found if one is not None), key=lambda one: one.amount, default=None)


def _tried(piece: Lump, surface: Surface, *, cut_into: bool, balls: Sequence[Cut] = ()) -> _Tried:
    """How far a piece goes from the part: at seven points of its largest triangles.

    Corners alone will not do: what fills a hole has all of them on the part. Triangles that are not tried are as far
    as the nearest one that is. Of what `balls` cut, as drawn, counts what they come to.
    """
    corners = piece.vertices[piece.triangles]
    chosen = _worth_trying(piece)
    some = corners[chosen]
    middles = (some + np.roll(some, -1, axis=1)) / 2
    points = np.concatenate([some, middles, some.mean(axis=1)[:, None]], axis=1)
    once, back = np.unique(points.reshape(-1, 3), axis=0, return_inverse=True)
    away, faces = (found[back.reshape(-1)] for found in surface.distances(once, cut_into=cut_into))
    if balls:
        off = [outside(_ways(cut), cut.tool.diameter / 2, _turned(once, cut.frame)) for cut in balls]
        away = np.maximum(away - np.min(off, axis=0)[back.reshape(-1)], 0.0)
    of_chosen = away.reshape(-1, 7)
    most = of_chosen.max(axis=1)
    deepest = int(away.argmax())
    touching = most < TOLERANCE
    centre_faces = faces.reshape(-1, 7)[:, 6]
    counted = touching if touching.any() else np.ones(len(chosen), dtype=bool)
    face = mostly_on(centre_faces[counted], piece.areas[chosen][counted])
    if touching.any() and len(set(centre_faces[touching].tolist())) > 1:
        own = beside(piece, chosen[~touching], surface, TOLERANCE, cut_into=cut_into)
        face = face if own is None else own
    amounts = np.zeros(len(corners))
    centres = corners.mean(axis=1)
    for part in np.array_split(np.arange(len(corners)), len(corners) // 500 + 1):
        gaps = ((centres[part][:, None] - centres[chosen][None]) ** 2).sum(axis=2)
        amounts[part] = most[gaps.argmin(axis=1)]
    return _Tried(
        float(away[deepest]), _vec(points.reshape(-1, 3)[deepest]), face, tuple(round(float(a), 3) for a in amounts)
    )


def _ways(cut: Cut) -> list[tuple[Vec, ...]]:
    return [stroke.points for stroke in cut.motion.strokes if not stroke.is_rapid]


def _turned(points: NDArray[np.float64], frame: Frame) -> NDArray[np.float64]:
    """From the part's axes into a setup's."""
    return np.asarray(points @ np.array([frame.right, frame.back, frame.up]).T)


def _worth_trying(piece: Lump) -> NDArray[np.int64]:
    """The largest triangles, some from all over the piece, and those at its ends along X, Y and Z."""
    order = np.argsort(-piece.areas, kind="stable")
    rest = order[MOST_TRIED:]
    spread = rest[:: max(1, len(rest) // MOST_TRIED)]
    ends = np.concatenate([piece.vertices.argmin(axis=0), piece.vertices.argmax(axis=0)])
    at_ends = np.nonzero(np.isin(piece.triangles, ends).any(axis=1))[0]
    return np.unique(np.concatenate([order[:MOST_TRIED], spread, at_ends]))


def _to_blame(piece: Mass, at: Vec, course: Course) -> str:
    """The first operation that took most of a piece away, around its deepest place: several may have a share in it."""
    low, high = (tuple(v + by for v in at) for by in (-PROBED, PROBED))
    around = piece.common(box_mass(Bounds(low, high)))  # type: ignore[arg-type]
    piece = piece if around.is_empty else around
    whole, found, best = piece.volume, "", 0.0
    for cut in course.cuts:
        taken = _taken(cut, _shape_key(cut), course.stock.box)
        if taken.is_empty or not piece.bounds.meets(taken.bounds):
            continue
        share = piece.common(taken).volume
        if share > best:
            found, best = cut.operation, share
        if best > MOSTLY * whole:
            break
    return found


def _vec(v: Sequence[float]) -> Vec:
    return (round(float(v[0]), 4), round(float(v[1]), 4), round(float(v[2]), 4))


def _digest(value: object) -> str:
    return hashlib.sha1(pickle.dumps(value), usedforsecurity=False).hexdigest()
