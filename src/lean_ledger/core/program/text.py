"""Lines of a program: words with their numbers, and nothing said twice that a control remembers."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence

from lean_ledger.core.geometry.vectors import Vec

SPOKEN = str.maketrans(
    {"Ø": "D", "×": "X", "°": " DEG", "–": "-", "—": "-", "−": "-", "“": '"', "”": '"', "(": "[", ")": "]"}
)


class Lines:
    """Writes blocks; `at` is where the last one left the tool, in the program's own coordinates."""

    def __init__(self, decimals: int) -> None:
        self.out: list[str] = []
        self.at: tuple[float | None, float | None, float | None] = (None, None, None)
        self._decimals = decimals
        self._code = ""
        self._feed = ""

    def say(self, *words: str) -> None:
        """A block as it is."""
        line = " ".join(w for w in words if w)
        if line:
            self.out.append(line)

    def comment(self, text: str) -> str:
        return f"({spoken(text)})"

    def forget(self) -> None:
        """What a block elsewhere may have changed: the next one says its motion and its place anew."""
        self._code, self._feed = "", ""
        self.at = (None, None, None)

    def number(self, value: float) -> str:
        """With a point, so that no control takes it for steps: 10 is `10.`, 2.5 is `2.5`."""
        text = f"{value:.{self._decimals}f}".rstrip("0")
        return "0." if text in ("-0.", "0.") else text

    def place(self, target: Sequence[float]) -> list[str]:
        """The axis words that differ from where the tool is."""
        rounded = tuple(round(v, self._decimals) + 0.0 for v in target)
        words = [f"{a}{self.number(v)}" for a, v, was in zip("XYZ", rounded, self.at, strict=True) if v != was]
        self.at = (rounded[0], rounded[1], rounded[2])
        return words

    def move(self, code: str, target: Sequence[float], *, feed: float | None = None, more: Sequence[str] = (),
             before: str = "") -> None:  # fmt: skip
        """A G0, G1, G2 or G3 block; left out where it goes nowhere."""
        words = self.place(target)
        if not words and not more:
            if before:
                self.say(before)
            return
        said = "" if code == self._code else code
        self._code = code
        fed = ""
        if feed is not None:
            fed = f"F{self.number(feed)}"
            fed, self._feed = ("" if fed == self._feed else fed), fed
        self.say(before, said, *words, *more, fed)

    def fed(self, feed: float) -> str:
        """The feed of a cycle."""
        self._feed = f"F{self.number(feed)}"
        return self._feed

    def ended(self) -> None:
        """After a cycle: the motion has to be said again."""
        self._code = ""


def spoken(text: str) -> str:
    """Plain capital letters, as any control shows them; parentheses would end the comment."""
    plain = unicodedata.normalize("NFKD", text.translate(SPOKEN)).encode("ascii", "ignore").decode()
    return re.sub(r"\s+", " ", plain).strip().upper()


def off(point: Vec, zero: Vec) -> Vec:
    return (point[0] - zero[0], point[1] - zero[1], point[2] - zero[2])
