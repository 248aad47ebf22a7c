"""Every way in which a plan can be changed: what it does, and how the journal words it.

A change is plain data, so that it can be sent, stored, offered as the cure of a finding and made again on a newer
version of the plan. A new kind is one class with `apply` and one name in `Change`.
"""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, TypeAdapter, ValidationError

from lean_ledger.core.basis.bounds import check_numbers
from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.beside import (
    FromBothSides,
    OneAfterOther,
    OwnSpeed,
    RunBeside,
    SetCarriage,
    ShareSpeed,
    SplitOperation,
    SpreadOut,
)
from lean_ledger.core.changes.bodies import AddBody, DropBody, RemoveBody, SizeBody
from lean_ledger.core.changes.cells import SetCell
from lean_ledger.core.changes.cycle import SetCutOff, SetProbe
from lean_ledger.core.changes.depths import SetDepth
from lean_ledger.core.changes.division import (
    ComeFirst,
    DivideAgain,
    DropWish,
    KeepTogether,
    LockSetup,
    MergeSetups,
    ParkFeatures,
    SplitSetup,
    StartEmpty,
)
from lean_ledger.core.changes.engraving import EditEngraving, Engrave, RemoveEngraving
from lean_ledger.core.changes.hand import AddHandWork, EditHandWork, RemoveHandWork
from lean_ledger.core.changes.hand_over import HandOver, PullBar
from lean_ledger.core.changes.layout import (
    LoadApart,
    LoadBeside,
    LoadTogether,
    SetArrangement,
    SetOffsets,
    SetPieceOrder,
    SetScope,
    SkipPieces,
)
from lean_ledger.core.changes.operations import (
    AcceptRest,
    EditOperation,
    GroupByTool,
    MakeAs,
    OrderByRule,
    SameForAlike,
    SetOrder,
    TakeValues,
)
from lean_ledger.core.changes.part import (
    ForgetThread,
    LeaveOut,
    SetAllowance,
    SetMaterial,
    SetQuantities,
    SetThread,
    TakeIn,
)
from lean_ledger.core.changes.precedence import ComeBefore, LockSteps, NotBefore, Overrule, TakeOut
from lean_ledger.core.changes.price import RATE_WORDS, SetBuy, SetRate, SetSetupCost
from lean_ledger.core.changes.programs import AttachProgram, DetachProgram, SetDialect, SetIssue
from lean_ledger.core.changes.revision import (
    ConfirmFeatures,
    DropDecisions,
    PairByRule,
    PairFeatures,
    SetOneOff,
    TakeRevision,
)
from lean_ledger.core.changes.said import SayFinish, SayNote, SayThread, SayTolerance
from lean_ledger.core.changes.scene import Scene
from lean_ledger.core.changes.sections import NameSection
from lean_ledger.core.changes.sequence import MoveSteps, SetSequence, SortSteps
from lean_ledger.core.changes.setups import (
    AddSetup,
    LayOnFace,
    MoveFeature,
    MoveToMachine,
    RemoveSetup,
    SetCarriers,
    SetFixture,
    SetForce,
    SetGrip,
    SetHold,
    SetIndexed,
    SetMachine,
    SetSpacer,
    SetTurn,
    SetUp,
    SetZero,
    ZeroByRule,
)
from lean_ledger.core.changes.stock import SetStock, SetStockSize, ShiftStockModel, TakeStockModel

__all__ = ["CHANGES", "RATE_WORDS", "Change", "Scene", "read_change"]

Change = Annotated[
    SetMaterial
    | SetQuantities
    | SetAllowance
    | SetStock
    | SetStockSize
    | TakeStockModel
    | ShiftStockModel
    | AttachProgram
    | DetachProgram
    | SetDialect
    | SetIssue
    | AddHandWork
    | EditHandWork
    | RemoveHandWork
    | Engrave
    | EditEngraving
    | RemoveEngraving
    | SetProbe
    | SetCutOff
    | SetThread
    | ForgetThread
    | EditOperation
    | SameForAlike
    | MakeAs
    | TakeValues
    | SetDepth
    | LeaveOut
    | TakeIn
    | MoveFeature
    | SetUp
    | SetTurn
    | LayOnFace
    | SetFixture
    | SetHold
    | SetCarriers
    | SetIndexed
    | SetGrip
    | SetForce
    | SetSpacer
    | SetZero
    | ZeroByRule
    | SetMachine
    | MoveToMachine
    | SetArrangement
    | SetOffsets
    | SetPieceOrder
    | SkipPieces
    | SetScope
    | SetCarriage
    | ShareSpeed
    | OwnSpeed
    | RunBeside
    | OneAfterOther
    | FromBothSides
    | SpreadOut
    | SplitOperation
    | SetCell
    | LoadApart
    | LoadBeside
    | LoadTogether
    | HandOver
    | PullBar
    | MoveSteps
    | ComeBefore
    | NotBefore
    | Overrule
    | TakeOut
    | LockSteps
    | NameSection
    | SetSequence
    | SortSteps
    | AddSetup
    | RemoveSetup
    | DivideAgain
    | StartEmpty
    | ParkFeatures
    | LockSetup
    | SplitSetup
    | MergeSetups
    | KeepTogether
    | ComeFirst
    | DropWish
    | AcceptRest
    | SetOrder
    | GroupByTool
    | OrderByRule
    | SetRate
    | SetSetupCost
    | SetBuy
    | SayTolerance
    | SayFinish
    | SayNote
    | SayThread
    | TakeRevision
    | SetOneOff
    | PairFeatures
    | PairByRule
    | ConfirmFeatures
    | DropDecisions
    | AddBody
    | SizeBody
    | RemoveBody
    | DropBody,
    Field(discriminator="change"),
]

CHANGES: TypeAdapter[Change] = TypeAdapter(Change)


def read_change(data: object) -> Change:
    """A change from plain data. Raises PlanError that names the field and the reason."""
    try:
        change = CHANGES.validate_python(data)
    except RecursionError:
        raise PlanError("change-malformed", "change: is nested too deeply") from None
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(p) for p in first["loc"][1:] or first["loc"])
        raise PlanError("change-malformed", f"{place or 'change'}: {first['msg']}") from None
    check_numbers(change)
    return change
