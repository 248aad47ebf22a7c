"""Text that comes from outside: what files, sheets and the database can hold; and CSV that stays text."""

from __future__ import annotations

import re
import unicodedata

from lean_ledger.core.basis.errors import PlanError

#: Controls but tab and line ends, halves of pairs, and what can be no character at all.
UNFIT = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff\ufffe\uffff]")
_IN_NAME = re.compile("[\x00-\x1f\x7f-\x9f\u2028\u2029\ud800-\udfff\ufffe\uffff]")
_FORMULA = re.compile(r"^'*[=+\-@\t\r\n]")
_NUMBER = re.compile(r"^[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d+)?$")
LONGEST_NAME = 120


def check_text(text: str, place: str) -> None:
    """Raises PlanError, code control-character, with the place and the character."""
    found = UNFIT.search(text)
    if found is not None:
        raise PlanError("control-character", f"{_shown(place)} holds the character U+{ord(found.group()):04X}, "
                        "which no sheet or machine can show; leave it out", _shown(place))  # fmt: skip


def check_name(text: str, what: str, longest: int = LONGEST_NAME) -> None:
    """A name on one line. Raises PlanError for control characters in it and for more than `longest` characters."""
    found = _IN_NAME.search(text)
    if found is not None:
        raise PlanError("control-character", f"{what} holds the character U+{ord(found.group()):04X}; "
                        "a name stands on one line, without control characters", what)  # fmt: skip
    if len(text) > longest:
        raise PlanError("too-long", f"{what} has {len(text)} characters; at most {longest} are kept", what)


def _shown(place: str) -> str:
    return UNFIT.sub("?", place)[:80] or "the text"


def as_ascii(text: str, unknown: str = "_") -> str:
    """Plain ASCII for what can show nothing else: accents taken off, dashes made hyphens, the rest `unknown`."""
    flat = unicodedata.normalize("NFKD", text.translate(_KNOWN))
    kept = "".join(c for c in flat if not unicodedata.combining(c))
    return "".join(c if " " <= c <= "~" or (c.isspace() and c.isascii()) else unknown for c in kept)


_KNOWN = {
    ord(a): b
    for a, b in {
        "–": "-", "—": "-", "−": "-", "‐": "-", "‑": "-", "Ł": "L", "ł": "l", "Ø": "O", "ø": "o", "ß": "ss", "Æ": "AE",
        "æ": "ae", "Œ": "OE", "œ": "oe", "Đ": "D", "đ": "d", "×": "x", "“": '"', "”": '"', "’": "'", "№": "No",
    }.items()
}  # fmt: skip


def for_csv(cell: str | int | float) -> str | int | float:
    """A cell that a spreadsheet takes for text: what it would take for a formula gets an apostrophe before it.

    `from_csv` gives it back as it was. A plain number stays one.
    """
    if not isinstance(cell, str) or not _FORMULA.match(cell) or _NUMBER.match(cell):
        return cell
    return f"'{cell}"


def from_csv(cell: str) -> str:
    """What `for_csv` was given; any other text as it is."""
    return cell[1:] if cell.startswith("'") and _FORMULA.match(cell) else cell
