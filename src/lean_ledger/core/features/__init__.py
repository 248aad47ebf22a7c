"""From faces to features: what one chain of operations makes, and from where a tool reaches it.

Works on the plain solids of `core.geometry`; needs no kernel.
"""

from lean_ledger.core.features.model import (
    Chamfer,
    Contour,
    Feature,
    Fillet,
    FreeSurface,
    Hole,
    HoleSegment,
    ModelledThread,
    OuterFace,
    Pocket,
    Slot,
    Step,
    Turned,
    flat_side,
    tool_ways,
)
from lean_ledger.core.features.planar import lines_along
from lean_ledger.core.features.recognise import Recognised, recognise

__all__ = [
    "Chamfer",
    "Contour",
    "Feature",
    "Fillet",
    "FreeSurface",
    "Hole",
    "HoleSegment",
    "ModelledThread",
    "OuterFace",
    "Pocket",
    "Recognised",
    "Slot",
    "Step",
    "Turned",
    "flat_side",
    "lines_along",
    "recognise",
    "tool_ways",
]
