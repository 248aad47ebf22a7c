"""What the desk hands out and takes in: a plan as it stands, a new job, a new revision."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.ledger.effect import Effect
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.store.files import Upload
from lean_ledger.store.ledgers import Key
from lean_ledger.store.models import JobRow, RevisionRow, VersionRow
from lean_ledger.store.shelf import Shelf
from lean_ledger.store.stocks import Outcome

STATUSES = ("quoting", "ordered", "in work", "done")


class StaleEdition(LedgerError):
    """A write on an edition that is no longer the plan's; carries what happened since."""

    def __init__(self, opened: Opened, since: list[VersionRow]) -> None:
        super().__init__("stale", "the plan was changed by someone else since you saw it; nothing was written")
        self.opened = opened
        self.since = since


@dataclass(frozen=True)
class JobNew:
    """What a new job needs; all but the file and the material has a default."""

    file_name: str
    content: bytes
    material: str
    quantities: tuple[int, ...]
    number: str = ""
    name: str = ""
    customer: str = ""
    due: date | None = None
    solid: int = 0
    thickness: float | None = None
    status: str = "quoting"
    author: str = "planner"
    machine: str = ""  # that it begins on; "" is the one of the least price
    size_meant: bool = False  # the planner was asked about an odd size, and means it

    @property
    def upload(self) -> Upload:
        return Upload(self.file_name, self.content, self.solid, self.thickness)


@dataclass(frozen=True)
class RevisionNew:
    """The next revision of a job's part."""

    job_id: int
    upload: Upload
    author: str = "planner"
    size_meant: bool = False


@dataclass(frozen=True)
class Evaluated:
    """What a plan comes to, and the key it is kept under."""

    part: Part
    ledger: Ledger
    key: Key


@dataclass(frozen=True)
class Opened:
    """A plan as it stands, evaluated."""

    plan_id: int
    edition: int
    job: JobRow
    plan: Plan
    part: Part
    ledger: Ledger
    version: VersionRow
    lines: int  # of its journal
    effect: Effect
    can_undo: bool
    can_redo: bool
    revisions: tuple[RevisionRow, ...]
    followed: Outcome | None  # the stock through the operations; None where it was not followed yet
    key: Key
    shelf: Shelf  # what it was computed with
    name: str
    chosen: bool  # the job is made by this plan
    plans: int  # of the job, that are not put away
    state: str  # another text whenever anything that is shown of the plan is another
