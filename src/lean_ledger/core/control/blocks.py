"""The lines of a program as words, with comments, skips and line ends taken care of."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field

from lean_ledger.core.basis.errors import LedgerError

LETTERS = frozenset("ABCDFGHIJKLMNOPQRSTUWXYZ")

LARGEST = 1e9  # beyond which no number of a program goes

_WORD = re.compile(r"([A-Za-z])\s*([+-]?(?:\d+\.?\d*|\.\d+))\s*")
_LINE = re.compile(rf"(?:{_WORD.pattern})*")
_SKIP = re.compile(r"/\d?\s*(?=[A-Za-z]|$)")
_MACRO = re.compile(r"[#\[\]=]|\b(?:IF|WHILE|GOTO|DO|END)", re.IGNORECASE)


class ProgramError(LedgerError):
    """A program that cannot be read on; `place` is its physical line."""

    def __init__(self, code: str, message: str, place: str | int) -> None:
        super().__init__(code, message, f"line {place}" if isinstance(place, int) else place)


@dataclass(slots=True)
class Block:
    """One line's words. `values` holds the last of each letter; all G and M words are kept."""

    line: int
    values: dict[str, float] = field(default_factory=dict)
    pointed: str = ""  # letters whose number has a decimal point
    g: tuple[float, ...] = ()
    m: tuple[float, ...] = ()
    comment: str = ""


def blocks(text: str, *, skips: bool = False) -> list[Block]:
    """All lines that say something; a line that says nothing to the machine is left out, its number counted. `skips`:
    the control's switch is on, so that blocks with a slash are left out too.

    Raises ProgramError for what is no word, for macros and for parentheses that do not close.
    """
    return list(_blocks(text, skips=skips))


def line_count(text: str) -> int:
    """Physical lines of a file."""
    return text.count("\n") + (0 if text.endswith("\n") or not text else 1)


def _blocks(text: str, *, skips: bool) -> Iterator[Block]:
    for number, raw in enumerate(text.split("\n"), start=1):
        line = raw.strip()
        if not line or line[0] == "%":
            continue
        comment = ""
        if "(" in line or ")" in line or ";" in line:
            line, comment = _without_comments(line, number)
        if line.startswith("/"):
            if skips:
                continue
            line = _SKIP.sub("", line, count=1)
        block = _block(line, number) if line else Block(number)
        block.comment = comment
        if block.values or block.g or block.m or comment:
            yield block


def _block(line: str, number: int) -> Block:
    whole = _LINE.match(line)
    end = whole.end() if whole else 0
    if end < len(line):
        _refuse(line, end, number)
    block = Block(number)
    values: dict[str, float] = {}
    g: list[float] = []
    m: list[float] = []
    pointed = ""
    for written, digits in _WORD.findall(line):
        letter = written.upper()
        value = float(digits)
        if abs(value) > LARGEST:
            raise ProgramError("too-large", f"{letter}{digits[:20]} is no number of this world", number)
        if letter == "G":
            g.append(value)
        elif letter == "M":
            m.append(value)
        elif letter in LETTERS:
            values[letter] = value
            if "." in digits:
                pointed += letter
        else:
            raise ProgramError("no-word", f"{letter}{digits} is no word that is read here", number)
    block.values, block.g, block.m, block.pointed = values, tuple(g), tuple(m), pointed
    return block


def _refuse(line: str, end: int, number: int) -> None:
    rest = line[end:]
    if _MACRO.search(rest):
        raise ProgramError(
            "macro", f"“{rest[:30]}” is a variable, an expression or a macro; write numbers in its place", number
        )
    raise ProgramError("no-word", f"“{rest[:30]}” is no word: a letter and a number are needed", number)


def _without_comments(line: str, number: int) -> tuple[str, str]:
    """Words and comments apart. A semicolon begins a comment that goes to the end of the line."""
    words: list[str] = []
    comments: list[str] = []
    rest = line
    while rest:
        at = min((i for i in (rest.find(c) for c in "();") if i >= 0), default=-1)
        if at < 0:
            words.append(rest)
            break
        words.append(rest[:at])
        if rest[at] == ";":
            comments.append(rest[at + 1 :].strip())
            break
        close = rest.find(")", at + 1)
        if rest[at] == ")" or close < 0 or "(" in rest[at + 1 : close]:
            raise ProgramError("parenthesis", "a parenthesis has no partner; a comment stands in one pair", number)
        comments.append(rest[at + 1 : close].strip())
        rest = rest[close + 1 :]
    return " ".join(words).strip(), " ".join(c for c in comments if c)
