"""Lines of a program: words with their numbers, and nothing said twice that a control remembers."""

from __future__ import annotations

import re
from collections.abc import Sequence

from lean_ledger.core.basis.plain_text import as_ascii

SPOKEN = str.maketrans(
    {"Ø": "D", "×": "X", "°": " DEG", "–": "-", "—": "-", "−": "-", "“": '"', "”": '"', "(": "[", ")": "]"}
)


class Lines:
    """Writes blocks; `at` is where the last one left the tool, in the program's own coordinates."""

    def __init__(self, decimals: int, *, has_y: bool = True) -> None:
        self.out: list[str] = []
        self._unsaid = (None, None if has_y else 0.0, None)
        self.at: tuple[float | None, float | None, float | None] = self._unsaid
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
        self.stand(self._unsaid)

    def stand(self, target: Sequence[float | None]) -> None:
        """Where the tool is known to be already; None where that is not known."""
        x, y, z = (None if v is None else round(v, self._decimals) + 0.0 for v in target)
        self.at = (x, y, z)

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
            before_it = self._feed
            fed = self.fed(feed)
            fed = "" if fed == before_it else fed
        self.say(before, said, *words, *more, fed)

    def fed(self, feed: float) -> str:
        """A feed's word: tenths are fine enough for mm/min, not for mm a turn."""
        self._feed = f"F{self.number(round(feed, 1) if feed > 10 else feed)}"
        return self._feed

    def ended(self) -> None:
        """After a cycle: the motion has to be said again."""
        self._code = ""


def spoken(text: str) -> str:
    """Plain capital letters, as any control shows them; parentheses would end the comment."""
    plain = as_ascii(text.translate(SPOKEN), unknown="")
    return re.sub(r"\s+", " ", plain).strip().upper()
