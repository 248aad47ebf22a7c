"""What a ball takes away on its way over a surface: all above the lowest that it comes at each place of a grid."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from lean_ledger.core.geometry.dropping import Floats
from lean_ledger.core.geometry.masses import Mass, mass_of_arrays, united
from lean_ledger.core.geometry.model import Vec

CELLS = 400_000  # of the grid, at the most
FINEST = 0.18  # mm between its points
DENSE = 0.1  # mm between places of the ball, where a point is asked for
WITHIN = 0.98  # × the radius up to which the ball's side counts: beyond it stands upright


def ball_mass(ways: Sequence[Sequence[Vec]], radius: float, high: float) -> Mass:
    """Ways of the tip, mm. Between the grid's points the surface is straight."""
    samples = _samples(ways, 2 * FINEST)
    if not len(samples):
        return united([])
    low, top = samples[:, :2].min(axis=0) - radius, samples[:, :2].max(axis=0) + radius
    cell = max(FINEST, float(np.sqrt(np.prod(top - low) / CELLS)))
    shape = np.ceil((top - low) / cell).astype(int) + 1
    floor = _lowest(samples, low, cell, shape, radius)
    under = floor < high - 1e-6
    # a cell counts where all its corners do; two that touch at a corner only would share an edge of four walls
    whole = under[:-1, :-1] & under[1:, :-1] & under[:-1, 1:] & under[1:, 1:]
    return _columns(np.where(under, floor, high), _without_corners(whole), low, cell, high)


def outside(ways: Sequence[Sequence[Vec]], radius: float, points: Floats) -> Floats:
    """How far points, shape (n, 3), lie outside all that a ball and its shank go through on ways of its tip, mm."""
    middles = _samples(ways, DENSE)
    middles[:, 2] += radius
    found = np.zeros(len(points))
    for k, point in enumerate(points):
        off = middles - point
        off[:, 2] = np.maximum(off[:, 2], 0)  # above the middle there is the shank
        found[k] = max(np.sqrt((off**2).sum(axis=1).min(initial=np.inf)) - radius, 0.0)
    return found


def _samples(ways: Sequence[Sequence[Vec]], apart: float) -> Floats:
    found = []
    for way in ways:
        points = np.array(way, dtype=float)
        for a, b in pairwise(points):
            count = max(1, int(np.ceil(np.linalg.norm(b - a) / apart)))
            found.append(a + (b - a) * np.linspace(0, 1, count, endpoint=False)[:, None])
        found.append(points[-1:])
    return np.concatenate(found) if found else np.zeros((0, 3))


def _lowest(samples: Floats, low: Floats, cell: float, shape: NDArray[np.int64], radius: float) -> Floats:
    """Level of the lowest ball over each point of the grid; above all where none comes."""
    floor = np.full(tuple(shape), np.inf)
    reach = int(np.ceil(radius / cell)) + 1
    base = np.round((samples[:, :2] - low) / cell).astype(np.int64)
    for di in range(-reach, reach + 1):
        for dj in range(-reach, reach + 1):
            i, j = base[:, 0] + di, base[:, 1] + dj
            away = (low[0] + i * cell - samples[:, 0]) ** 2 + (low[1] + j * cell - samples[:, 1]) ** 2
            near = (away < (WITHIN * radius) ** 2) & (i >= 0) & (j >= 0) & (i < shape[0]) & (j < shape[1])
            level = samples[near, 2] + radius - np.sqrt(radius**2 - away[near])
            np.minimum.at(floor, (i[near], j[near]), level)
    return floor


def _without_corners(whole: NDArray[np.bool_]) -> NDArray[np.bool_]:
    while True:
        a, b, c, d = whole[:-1, :-1], whole[1:, :-1], whole[:-1, 1:], whole[1:, 1:]
        first, second = a & d & ~b & ~c, b & c & ~a & ~d
        if not (first.any() or second.any()):
            return whole
        whole = whole.copy()
        whole[:-1, :-1] &= ~first
        whole[1:, :-1] &= ~second


def _columns(floor: Floats, whole: NDArray[np.bool_], low: Floats, cell: float, high: float) -> Mass:
    """Between the floor and a level, over the cells that count."""
    if not whole.any():
        return united([])
    nx, ny = floor.shape
    number = np.arange(nx * ny).reshape(nx, ny)
    x, y = np.meshgrid(low[0] + cell * np.arange(nx), low[1] + cell * np.arange(ny), indexing="ij")
    below = np.column_stack([x.ravel(), y.ravel(), floor.ravel()])
    above = np.column_stack([x.ravel(), y.ravel(), np.full(nx * ny, high)])
    n = nx * ny
    i, j = np.nonzero(whole)
    a, b, c, d = number[i, j], number[i + 1, j], number[i + 1, j + 1], number[i, j + 1]
    faces = [(a, c, b), (a, d, c), (a + n, b + n, c + n), (a + n, c + n, d + n)]
    padded = np.pad(whole, 1)
    for (from_, to), beside in (((a, b), padded[i + 1, j]), ((b, c), padded[i + 2, j + 1]),
                           ((c, d), padded[i + 1, j + 2]), ((d, a), padded[i, j + 1])):  # fmt: skip
        p, q = from_[~beside], to[~beside]
        faces += [(p, q, q + n), (p, q + n, p + n)]
    triangles = np.concatenate([np.column_stack(f) for f in faces])
    used, back = np.unique(triangles, return_inverse=True)
    return mass_of_arrays(np.concatenate([below, above])[used], back.reshape(-1, 3))
