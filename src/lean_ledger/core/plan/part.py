"""What the planner says of the part, its features and its revisions."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal


@dataclass(frozen=True)
class ThreadChoice:
    """All holes of one diameter carry this thread."""

    diameter: float
    thread: str


@dataclass(frozen=True)
class LeftOut:
    """A feature that this plan does not make, and who does."""

    feature: str
    reason: LeftTo


LeftTo = Literal["deburring", "made elsewhere", "filled for now"]


@dataclass(frozen=True)
class PlanningBody:
    """Material that only the plan adds, to hold by: the customer's model stays as it is. Lengths mm.

    It stands on a flat side `on`, `u` and `v` off that side's middle, to the right and back as in a setup with
    that side up. A boss is round, `length` its diameter; a lug and a tab are blocks.
    """

    id: str
    kind: Literal["lug", "tab", "boss"]
    on: str
    length: float
    width: float
    height: float
    u: float = 0.0
    v: float = 0.0
    removal: Literal["", "by hand", "elsewhere"] = ""


@dataclass(frozen=True)
class Said:
    """What the planner says of a feature that the model does not: as on a drawing. Empty where nothing is said.

    `thread` goes before that named for all holes of the size; PLAIN says that this one carries none.
    """

    feature: str
    thread: str = ""
    tolerance: str = ""  # H7, ±0.02, +0.05/0
    finish: float | None = None  # Ra, µm
    note: str = ""

    @property
    def is_empty(self) -> bool:
        return not (self.thread or self.tolerance or self.note or self.finish is not None)


PLAIN = "plain"


@dataclass(frozen=True)
class Confirmed:
    """A feature whose decisions were looked at again after a revision touched it."""

    revision: str
    feature: str


@dataclass(frozen=True)
class AcceptedRest:
    """Stock that may stay on a feature, mm: a corner that a round tool leaves, agreed with the customer."""

    feature: str
    amount: float


@dataclass(frozen=True)
class PairByHand:
    """Of a revision: the old feature (by its id in the plan) and the new one (by its id in the new model).

    Either may be None: the old one is gone, the new one is new.
    """

    revision: str
    old: str | None
    new: str | None
