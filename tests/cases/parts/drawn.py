"""Parts drawn at random from a grammar of features. The same seed draws the same part."""

from __future__ import annotations

from random import Random

from lean_ledger.core.geometry.solids import Body, block, countersunk, drilled, obround, revolved, rod, rounded_block
from tests.cases.parts.named import DOWN, X, Y, Z, ring


def drawn(seed: int) -> Body:
    """Two of five are turned, the others prismatic; a third of the turned ones has flats and cross holes."""
    rng = Random(seed)
    return _turned(rng) if rng.random() < 0.4 else _prismatic(rng)


def _size(rng: Random, low: float, high: float) -> float:
    return round(rng.uniform(low, high) * 2) / 2


def _prismatic(rng: Random) -> Body:
    scale = rng.choice((0.4, 1.0, 1.0, 1.0, 2.2))
    a, b, c = (_size(rng, low * scale, high * scale) for low, high in ((40, 120), (30, 80), (14, 50)))
    body = rounded_block((0, 0, 0), (a, b, c), round(0.1 * b, 1)) if rng.random() < 0.4 else block((0, 0, 0), (a, b, c))
    for _ in range(rng.randint(1, 5)):
        feature = rng.choice((_pocket, _pocket, _slot, _step, _hole, _hole, _cross_hole, _counterbore, _boss_pocket))
        body -= feature(rng, a, b, c)
    return body


def _pocket(rng: Random, a: float, b: float, c: float) -> Body:
    w, h, d = _size(rng, 0.2 * a, 0.6 * a), _size(rng, 0.2 * b, 0.6 * b), _size(rng, 0.15 * c, 0.7 * c)
    x, y = rng.uniform(0.08 * a, 0.92 * a - w), rng.uniform(0.08 * b, 0.92 * b - h)
    radius = round(max(1.0, min(w, h) * rng.choice((0.15, 0.2, 0.3))), 1)
    return rounded_block((x, y, c - d), (x + w, y + h, c + 1), radius)


def _boss_pocket(rng: Random, a: float, b: float, c: float) -> Body:
    d = _size(rng, 0.2 * c, 0.5 * c)
    size = 0.22 * min(a, b)
    outer = rounded_block((0.12 * a, 0.12 * b, c - d), (0.88 * a, 0.88 * b, c + 1), round(0.08 * min(a, b), 1))
    return outer - rod((a / 2, b / 2, c - d - 1), Z, size, d + 1 if rng.random() < 0.5 else 0.6 * d + 1)


def _slot(rng: Random, a: float, b: float, c: float) -> Body:
    w, d = _size(rng, 0.08 * b, 0.3 * b), _size(rng, 0.2 * c, 0.7 * c)
    if rng.random() < 0.5:
        y = rng.uniform(0.1 * b, 0.9 * b - w)
        return block((-1, y, c - d), (a + 1, y + w, c + 1))
    length = max(2.2 * w, _size(rng, 0.3 * a, 0.6 * a))
    return obround((a / 2, rng.uniform(0.2 * b + w / 2, 0.8 * b - w / 2), c + 0.5), length, w, d + 0.5)


def _step(rng: Random, a: float, b: float, c: float) -> Body:
    d, w = _size(rng, 0.2 * c, 0.6 * c), _size(rng, 0.15 * a, 0.4 * a)
    return rng.choice((
        block((a - w, -1, c - d), (a + 1, b + 1, c + 1)),
        block((-1, -1, c - d), (w, b + 1, c + 1)),
        block((-1, 0.7 * b, c - d), (a + 1, b + 1, c + 1)),
    ))  # fmt: skip


def _hole(rng: Random, a: float, b: float, c: float) -> Body:
    d = rng.choice((3.3, 4.2, 5.0, 6.0, 6.8, 8.0, 10.0, 14.0))
    d = min(d, 0.2 * min(a, b))
    x, y = rng.uniform(0.15 * a, 0.85 * a), rng.uniform(0.15 * b, 0.85 * b)
    kind = rng.random()
    if kind < 0.5:
        return rod((x, y, -1), Z, d, c + 2)
    if kind < 0.8:
        return drilled((x, y, c), DOWN, d, _size(rng, 0.3 * c, 0.7 * c))
    return countersunk((x, y, c), DOWN, d, 1.8 * d, c + 1)


def _counterbore(rng: Random, a: float, b: float, c: float) -> Body:
    d = min(rng.choice((5.5, 6.6, 9.0)), 0.15 * min(a, b))
    x, y = rng.uniform(0.2 * a, 0.8 * a), rng.uniform(0.2 * b, 0.8 * b)
    return rod((x, y, -1), Z, d, c + 2) + rod((x, y, c - 0.3 * c), Z, 1.8 * d, 0.3 * c + 1)


def _cross_hole(rng: Random, a: float, b: float, c: float) -> Body:
    d = min(rng.choice((4.0, 6.0, 8.0, 12.0)), 0.4 * c)
    z = rng.uniform(0.3 * c, 0.7 * c)
    if rng.random() < 0.5:
        return rod((-1, rng.uniform(0.25 * b, 0.75 * b), z), X, d, a + 2 if rng.random() < 0.5 else 0.5 * a)
    return rod((rng.uniform(0.25 * a, 0.75 * a), -1, z), Y, d, b + 2 if rng.random() < 0.5 else 0.6 * b)


def _turned(rng: Random) -> Body:
    bore = rng.choice((0.0, 0.0, _size(rng, 3, 10)))
    r, z = bore + _size(rng, 6, 12), 0.0
    profile = [(bore, 0.0)]
    for _ in range(rng.randint(2, 4)):
        length = _size(rng, 8, 25)
        profile += [(r, z), (r, z + length)]
        z += length
        r = max(bore + 3, r + rng.choice((-1, 1)) * _size(rng, 2, 8))
    profile.append((bore, z))
    body = revolved(profile)
    if rng.random() < 0.34:
        far = 2 * max(p[0] for p in profile)
        low = rng.uniform(0.5 * z, 0.7 * z)
        flat = 0.75 * min(p[0] for p in profile if p[0] > bore)
        body -= block((-far, flat, low), (far, far, z + 1))
    if rng.random() < 0.34:
        body -= rod((0, -100, 0.25 * z), Y, rng.choice((3.0, 4.2, 5.0)), 200)
    if rng.random() < 0.3 and max(p[0] for p in profile) > 18:
        widest = max(p[0] for p in profile)
        for p in ring(4, 0.7 * widest, -1):
            body -= rod(p, Z, 4.2, z + 2)
    return body
