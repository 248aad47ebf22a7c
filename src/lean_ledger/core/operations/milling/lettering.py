"""Letters of single strokes, for a mill that goes along them once. Drawn for this purpose on a grid of 4 by 6."""

from __future__ import annotations

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.plan.engraving import Drawn

CAPITAL = 6.0  # units that a letter is high
ADVANCE = 6.0  # from one letter to the next: 4 wide, 2 between

#: By letter, its strokes: points as digit pairs x y, in units.
STROKES = {
    "A": "00 04 26 44 40|02 42", "B": "00 06 36 45 44 33 42 41 30 00|03 33", "C": "45 36 16 05 01 10 30 41",
    "D": "00 06 26 44 42 20 00", "E": "46 06 00 40|03 33", "F": "46 06 00|03 33", "G": "45 36 16 05 01 10 30 41 43 23",
    "H": "00 06|40 46|03 43", "I": "20 26", "J": "46 41 30 10 01", "K": "00 06|46 02|13 40", "L": "06 00 40",
    "M": "00 06 23 46 40", "N": "00 06 40 46", "O": "10 01 05 16 36 45 41 30 10", "P": "00 06 36 45 44 33 03",
    "Q": "10 01 05 16 36 45 41 30 10|22 40", "R": "00 06 36 45 44 33 03|23 40",
    "S": "45 36 16 05 04 13 33 42 41 30 10 01", "T": "20 26|06 46", "U": "06 01 10 30 41 46", "V": "06 20 46",
    "W": "06 10 23 30 46", "X": "00 46|06 40", "Y": "06 23 46|23 20", "Z": "06 46 00 40",
    "0": "10 01 05 16 36 45 41 30 10|11 35", "1": "15 26 20|10 30", "2": "05 16 36 45 44 00 40",
    "3": "06 46 24 34 43 41 30 10 01", "4": "30 36 02 42", "5": "46 06 04 34 43 41 30 10 01",
    "6": "46 26 04 01 10 30 41 42 33 03", "7": "06 46 10", "8": "13 04 05 16 36 45 44 33 13 02 01 10 30 41 42 33",
    "9": "00 20 42 45 36 16 05 04 13 43", "-": "13 33", ".": "20 21", "/": "00 46", "+": "03 43|21 25", " ": "",
}  # fmt: skip


def strokes_of(text: str, height: float) -> Drawn:
    """The lines of a text whose capitals are `height` mm high, its middle at the origin.

    Raises PlanError for a letter that there is none of. A letter is 4/6 of its height wide and the next one begins 6/6
    after it: "I" and "L" of 6 mm go from x −3 − 2 to 5.
    """
    unknown = sorted({letter for letter in text.upper() if letter not in STROKES})
    if unknown:
        raise PlanError(
            "no-such-letter",
            f"there is no letter {' '.join(unknown)} to engrave; there are A to Z, 0 to 9, - . / + and the space",
        )  # fmt: skip
    unit = height / CAPITAL
    left, low = -((len(text) - 1) * ADVANCE + 4) / 2, -CAPITAL / 2
    found = []
    for i, letter in enumerate(text.upper()):
        for stroke in filter(None, STROKES[letter].split("|")):
            points = ((int(p[0]) + left + i * ADVANCE, int(p[1]) + low) for p in stroke.split())
            found.append(tuple((round(x * unit, 5), round(y * unit, 5)) for x, y in points))
    return tuple(found)
