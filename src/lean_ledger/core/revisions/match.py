"""Pairs the features and faces of two revisions of a part: same, moved, resized, new, gone."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import permutations, product

from lean_ledger.core.features import Feature
from lean_ledger.core.features.describe import Measure, measures
from lean_ledger.core.geometry.model import Solid
from lean_ledger.core.geometry.vectors import Vec, add, dot, norm, sub
from lean_ledger.core.revisions.signs import FaceSign, FeatureSign, face_signs, feature_signs

SAME = 0.01  # mm within which places and lengths count as equal
NEAR = 0.5  # share of a feature's own size that it may move while it changes its size
APART = 0.34  # share of the part's size beyond which like features are not taken for one that moved

Turn = tuple[Vec, Vec, Vec]  # rows of a rotation


class Became(StrEnum):
    SAME = "same"
    MOVED = "moved"
    RESIZED = "resized"
    NEW = "new"
    GONE = "gone"


@dataclass(frozen=True)
class Changed:
    """A measure before and after."""

    label: str
    before: float
    after: float
    unit: str


@dataclass(frozen=True)
class FeaturePair:
    old: str | None
    new: str | None
    became: Became
    moved: float = 0.0  # mm
    changes: tuple[Changed, ...] = ()
    by_hand: bool = False


@dataclass(frozen=True)
class FacePair:
    old: int | None
    new: int | None
    became: Became


@dataclass(frozen=True)
class Match:
    """`turn` and `shift` lay the new part on the old one; identity and zero where both are modelled in one place."""

    features: tuple[FeaturePair, ...]
    faces: tuple[FacePair, ...]
    turn: Turn
    shift: Vec


@dataclass(frozen=True)
class Side:
    """One revision: the solid and its features."""

    solid: Solid
    features: tuple[Feature, ...]


IDENTITY: Turn = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


def match(old: Side, new: Side) -> Match:
    """Pair two revisions of a part. Face numbers play no role: only kinds, sizes, directions and places do.

    The new part is laid on the old one first, by the quarter turns and the shift under which most features are the
    same. Then features are paired: equal ones in one place; like ones in nearly one place, which were resized; equal
    ones elsewhere, which moved; like ones left over, the nearest first. What is left is new or gone.
    """
    before = feature_signs(old.solid, old.features)
    turn, shift = _laid_on(before, feature_signs(new.solid, new.features))
    after = [sign.laid(turn, shift) for sign in feature_signs(new.solid, new.features)]
    size = max(old.solid.bounds.size)
    pairs = _paired(before, after, size)
    named = {f.id: f for f in old.features}, {f.id: f for f in new.features}
    found = [pair_of(named[0].get(a.id) if a else None, named[1].get(b.id) if b else None, a, b) for a, b in pairs]
    faces = _paired_faces(
        face_signs(old.solid), [sign.laid(turn, shift) for sign in face_signs(new.solid)],
        [(named[0][a.id].faces, named[1][b.id].faces) for a, b in pairs if a and b],
    )  # fmt: skip
    order = {f.id: i for i, f in enumerate(old.features)}, {f.id: i for i, f in enumerate(new.features)}
    found.sort(key=lambda p: (p.old is None, order[0].get(p.old or "", 0), order[1].get(p.new or "", 0)))
    return Match(tuple(found), faces, turn, shift)


def pair_of(
    old: Feature | None, new: Feature | None, before: FeatureSign | None, after: FeatureSign | None
) -> FeaturePair:
    """What became of one feature; either side may be missing."""
    if old is None or before is None:
        return FeaturePair(None, new.id if new else None, Became.NEW)
    if new is None or after is None:
        return FeaturePair(old.id, None, Became.GONE)
    changes = _changes(measures(old), measures(new))
    away = norm(sub(after.place, before.place))
    if changes or old.kind != new.kind:
        became = Became.RESIZED
    else:
        became = Became.SAME if away <= SAME else Became.MOVED
    return FeaturePair(old.id, new.id, became, round(away, 3) if away > SAME else 0.0, changes)


def _changes(before: Sequence[Measure], after: Sequence[Measure]) -> tuple[Changed, ...]:
    later = {m.label: m for m in after}
    found = [
        Changed(m.label, m.value, later[m.label].value if m.label in later else 0.0, m.unit)
        for m in before
        if m.label not in later or abs(later[m.label].value - m.value) > tolerance_of(m)
    ]
    known = {m.label for m in before}
    found += [Changed(m.label, 0.0, m.value, m.unit) for m in after if m.label not in known]
    return tuple(found)


def tolerance_of(measure: Measure) -> float:
    """Below this a measure has not changed: areas and long paths carry the error of their chords."""
    if measure.unit == "mm2" or measure.label == "long":
        return max(SAME, 1e-3 * abs(measure.value))
    return SAME if measure.unit == "mm" else 0.05


def _laid_on(old: Sequence[FeatureSign], new: Sequence[FeatureSign]) -> tuple[Turn, Vec]:
    """The turn and shift that make most features of the new part the same.

    Revisions are mostly modelled in one place: another is taken only where it makes at least half of all features the
    same, and more than as it lies.
    """
    enough = 0.5 * max(1, min(len(old), len(new)))
    best = (_alike(old, new), IDENTITY, (0.0, 0.0, 0.0))
    if best[0] >= enough:
        return IDENTITY, (0.0, 0.0, 0.0)
    kept: dict[tuple[object, ...], list[FeatureSign]] = {}
    for sign in old:
        kept.setdefault(sign.shape, []).append(sign)
    for turn in quarter_turns():
        turned = [sign.laid(turn, (0.0, 0.0, 0.0)) for sign in new]
        votes: Counter[Vec] = Counter()
        for sign in turned:
            for other in kept.get(sign.shape, ())[:24]:
                if sign.looks(other):
                    away = sub(other.place, sign.place)
                    votes[(round(away[0], 2), round(away[1], 2), round(away[2], 2))] += 1
        for shift, _ in votes.most_common(3):
            score = _alike(old, [sign.laid(IDENTITY, shift) for sign in turned])
            if score > best[0]:
                best = (score, turn, shift)
    return (best[1], best[2]) if best[0] >= enough else (IDENTITY, (0.0, 0.0, 0.0))


def _alike(old: Iterable[FeatureSign], new: Iterable[FeatureSign]) -> int:
    there = Counter(sign.whole for sign in old)
    return sum((there & Counter(sign.whole for sign in new)).values())


def quarter_turns() -> list[Turn]:
    """The 24 rotations that lay the axes on the axes, the identity first."""
    turns: list[Turn] = []
    for order in permutations(range(3)):
        for signs in product((1.0, -1.0), repeat=3):
            rows = tuple(tuple(signs[i] if k == order[i] else 0.0 for k in range(3)) for i in range(3))
            parity = 1 if order in ((0, 1, 2), (1, 2, 0), (2, 0, 1)) else -1
            if parity * signs[0] * signs[1] * signs[2] > 0:
                turns.append(rows)  # type: ignore[arg-type]
    return turns


Pairs = list[tuple[FeatureSign | None, FeatureSign | None]]


def _paired(old: Sequence[FeatureSign], new: Sequence[FeatureSign], size: float) -> Pairs:
    pairs: Pairs = []
    left, right = list(old), list(new)

    def take(fits: Callable[[FeatureSign, FeatureSign], bool], most: Callable[[FeatureSign], float]) -> None:
        """Pair what fits, the nearest first, each at the most so far apart."""
        ways = sorted(
            (norm(sub(a.place, b.place)), i, k)
            for i, a in enumerate(left) for k, b in enumerate(right)
            if a.kind == b.kind and fits(a, b) and norm(sub(a.place, b.place)) <= most(a)
        )  # fmt: skip
        taken: tuple[set[int], set[int]] = (set(), set())
        for _, i, k in ways:
            if i not in taken[0] and k not in taken[1]:
                taken[0].add(i)
                taken[1].add(k)
                pairs.append((left[i], right[k]))
        left[:] = [a for i, a in enumerate(left) if i not in taken[0]]
        right[:] = [b for k, b in enumerate(right) if k not in taken[1]]

    take(lambda a, b: a.shape == b.shape and a.looks(b), lambda _: SAME)
    take(lambda a, b: a.looks(b) and a.on_line(b), lambda a: max(NEAR * a.size, SAME))
    take(lambda a, b: a.shape == b.shape and a.looks(b), lambda _: APART * size)
    take(lambda a, b: a.looks(b) and a.like(b), lambda a: max(2 * a.size, APART * size / 2))
    return pairs + [(a, None) for a in left] + [(None, b) for b in right]


def _paired_faces(
    old: Sequence[FaceSign], new: Sequence[FaceSign], features: Iterable[tuple[Sequence[int], Sequence[int]]]
) -> tuple[FacePair, ...]:
    """First equal faces in one place, then within paired features, then what lies on one surface."""
    free: tuple[set[int], set[int]] = (set(range(len(old))), set(range(len(new))))
    pairs: list[FacePair] = []

    def take(i: int, k: int) -> None:
        free[0].discard(i)
        free[1].discard(k)
        pairs.append(FacePair(i, k, _face_became(old[i], new[k])))

    there: dict[tuple[object, ...], list[int]] = {}
    for k, sign in enumerate(new):
        there.setdefault(sign.whole, []).append(k)
    for i, sign in enumerate(old):
        waiting = there.get(sign.whole)
        if waiting:
            take(i, waiting.pop(0))
    for before, after in features:
        _nearest(old, new, free, before, after, take)
    _nearest(old, new, free, sorted(free[0]), sorted(free[1]), take, strict=True)
    gone = [FacePair(i, None, Became.GONE) for i in sorted(free[0])]
    fresh = [FacePair(None, k, Became.NEW) for k in sorted(free[1])]
    return tuple(sorted(pairs, key=lambda p: p.old or 0) + gone + fresh)


def _nearest(
    old: Sequence[FaceSign],
    new: Sequence[FaceSign],
    free: tuple[set[int], set[int]],
    before: Iterable[int],
    after: Iterable[int],
    take: Callable[[int, int], None],
    *,
    strict: bool = False,
) -> None:
    """Pair faces of one kind that look the same way, the nearest first; `strict` asks for one and the same surface."""
    after = [k for k in after if k in free[1]]
    ways = sorted(
        (old[i].distance(new[k]), i, k)
        for i in before if i in free[0] for k in after
        if old[i].looks(new[k]) and (not strict or old[i].on_surface(new[k], SAME))
    )  # fmt: skip
    for _, i, k in ways:
        if i in free[0] and k in free[1]:
            take(i, k)


def _face_became(old: FaceSign, new: FaceSign) -> Became:
    if old.whole == new.whole:
        return Became.SAME
    resized = abs(old.area - new.area) > max(0.01, 1e-3 * old.area) or abs(old.radius - new.radius) > SAME
    return Became.RESIZED if resized else Became.MOVED


def shifted(point: Vec, turn: Turn, shift: Vec) -> Vec:
    return add((dot(turn[0], point), dot(turn[1], point), dot(turn[2], point)), shift)
