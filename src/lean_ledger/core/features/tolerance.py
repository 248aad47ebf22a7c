"""Tolerances as they are written on drawings, and what they ask of the making.

Widths of the grades: ISO 286-1, table 1, in µm, for nominal sizes up to 500 mm.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.features import Feature, Hole, Pocket, Slot, Step, Turned

#: Upper limit of each range of nominal sizes, mm.
RANGES = (3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500)
GRADES: dict[int, tuple[float, ...]] = {
    5: (4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27),
    6: (6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40),
    7: (10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63),
    8: (14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97),
    9: (25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155),
    10: (40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250),
    11: (60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400),
    12: (100, 120, 150, 180, 210, 250, 300, 350, 400, 460, 520, 570, 630),
    13: (140, 180, 220, 270, 330, 390, 460, 540, 630, 720, 810, 890, 970),
}

FINE = 0.1  # mm of width below which a cut to size in one go is not trusted
REAMED = 20.0  # mm of diameter up to which a fine hole is reamed; larger ones are bored

Asked = Literal["", "reaming", "boring", "a finishing pass"]


@dataclass(frozen=True)
class Tolerance:
    """Limits around a nominal size, mm; a fit other than H or h has a width only."""

    text: str
    width: float
    upper: float | None
    lower: float | None


def read_tolerance(text: str, nominal: float) -> Tolerance:
    """What a drawing's words allow around a nominal size in mm.

    >>> read_tolerance("H7", 8)
    Tolerance(text='H7', width=0.015, upper=0.015, lower=0.0)
    >>> read_tolerance("+-0,02", 8).text
    '±0.02'

    Raises PlanError for words that are no tolerance, or a size the grades do not cover.
    """
    words = text.strip().replace(",", ".").replace(" ", "")
    fit = re.fullmatch(r"([A-Za-z]{1,2})(\d{1,2})", words)
    if fit:
        return _fit(fit[1], int(fit[2]), nominal)
    both = re.fullmatch(r"(?:±|\+/-|\+-)(\d*\.?\d+)", words)
    if both:
        value = float(both[1])
        return _checked(Tolerance(f"±{value:g}", round(2 * value, 6), value, -value), text)
    limits = re.fullmatch(r"([+-]?\d*\.?\d+)/([+-]?\d*\.?\d+)", words)
    if limits:
        upper, lower = sorted((float(limits[1]), float(limits[2])), reverse=True)
        return _checked(Tolerance(f"{upper:+g}/{lower:+g}", round(upper - lower, 6), upper, lower), text)
    raise PlanError(
        "tolerance", f"“{text}” is no tolerance; write a fit such as H7, or limits such as ±0.02 or +0.05/0"
    )


def _checked(found: Tolerance, text: str) -> Tolerance:
    if not 0 < found.width <= 10:
        raise PlanError("tolerance", f"“{text}” leaves {found.width:g} mm; it must be above 0 and at most 10")
    return found


def _fit(letter: str, grade: int, nominal: float) -> Tolerance:
    if grade not in GRADES or not 0 < nominal <= RANGES[-1]:
        raise PlanError(
            "tolerance",
            f"{letter}{grade} on {nominal:g} mm is not covered; grades 5 to 13 are, on sizes up to {RANGES[-1]} mm",
        )
    width = grade_width(grade, nominal)
    if letter == "H":
        return Tolerance(f"H{grade}", width, width, 0.0)
    if letter == "h":
        return Tolerance(f"h{grade}", width, 0.0, -width)
    if letter.lower() == "js":
        return Tolerance(f"{letter}{grade}", width, width / 2, -width / 2)
    return Tolerance(f"{letter}{grade}", width, None, None)


def grade_width(grade: int, nominal: float) -> float:
    """Width of a grade in mm: IT7 on 8 mm is 0.015."""
    column = next(i for i, most in enumerate(RANGES) if nominal <= most)
    return GRADES[grade][column] / 1000


def nominal_size(feature: Feature) -> float:
    """The size that a tolerance on a feature is about: a diameter, a width, else a depth or the least measure."""
    if isinstance(feature, Hole | Turned):
        return feature.diameter
    if isinstance(feature, Slot):
        return feature.width
    if isinstance(feature, Pocket | Step):
        return feature.depth
    return float(getattr(feature, "radius", 0.0) or getattr(feature, "width", 0.0) or 10.0)


def asks_for(feature: Feature, tolerance: str) -> Asked:
    """What has to make a toleranced feature: a narrow hole is reamed or bored, other narrow sizes are finished."""
    if not tolerance or read_tolerance(tolerance, nominal_size(feature)).width > FINE:
        return ""
    if isinstance(feature, Hole):
        return "reaming" if feature.diameter <= REAMED else "boring"
    return "a finishing pass"
