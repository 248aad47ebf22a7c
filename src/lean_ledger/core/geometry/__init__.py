"""Solids as plain data, and the only code that touches the CAD kernel.

`model` holds the types that the rest of core works on; it needs no kernel. `step`, `drawing` and `solids` import the
kernel; they are meant to run in a process of their own (`host`), so that a crash or a hang on a bad file stays there.
"""

from lean_ledger.core.geometry.model import (
    Bend,
    Bounds,
    Curve,
    Drawing,
    Edge,
    Face,
    Loop,
    Mesh,
    PartModel,
    Solid,
    Surface,
    Vec,
)

__all__ = [
    "Bend",
    "Bounds",
    "Curve",
    "Drawing",
    "Edge",
    "Face",
    "Loop",
    "Mesh",
    "PartModel",
    "Solid",
    "Surface",
    "Vec",
]
