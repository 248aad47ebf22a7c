"""The plan as a value, by noun: what was decided for the part, its stock, its setups, its loads, its operations."""

from lean_ledger.core.plan.engraving import Drawn, Engraving
from lean_ledger.core.plan.loads import (
    FIRST,
    Along,
    Arrangement,
    By,
    Clamped,
    HandKind,
    HandWork,
    Load,
    Moved,
    OffsetChoice,
    Place,
    Policy,
    Precedence,
    Walk,
    alone,
)
from lean_ledger.core.plan.material import material_of
from lean_ledger.core.plan.operations import AttachedProgram, ChainChoice, DepthChoice, OperationEdit
from lean_ledger.core.plan.part import (
    PLAIN,
    AcceptedRest,
    Confirmed,
    LeftOut,
    LeftTo,
    PairByHand,
    PlanningBody,
    Said,
    ThreadChoice,
)
from lean_ledger.core.plan.plan import Plan
from lean_ledger.core.plan.rates import RateEdits
from lean_ledger.core.plan.setups import ZERO, MovedFeature, SetupDecision, Spindling, Zero, ZeroOf, ZeroPlace
from lean_ledger.core.plan.sides import DIRECTIONS, Side
from lean_ledger.core.plan.stock import Allowances, Sizing, StockChoice, StockForm
from lean_ledger.core.plan.values import SETTABLE, Direction, OperationValues, Strategy, ValueName, value_words

__all__ = [
    "DIRECTIONS",
    "FIRST",
    "PLAIN",
    "SETTABLE",
    "ZERO",
    "AcceptedRest",
    "Allowances",
    "Along",
    "Arrangement",
    "AttachedProgram",
    "By",
    "ChainChoice",
    "Clamped",
    "Confirmed",
    "DepthChoice",
    "Direction",
    "Drawn",
    "Engraving",
    "HandKind",
    "HandWork",
    "LeftOut",
    "LeftTo",
    "Load",
    "Moved",
    "MovedFeature",
    "OffsetChoice",
    "OperationEdit",
    "OperationValues",
    "PairByHand",
    "Place",
    "Plan",
    "PlanningBody",
    "Policy",
    "Precedence",
    "RateEdits",
    "Said",
    "SetupDecision",
    "Side",
    "Sizing",
    "Spindling",
    "StockChoice",
    "StockForm",
    "Strategy",
    "ThreadChoice",
    "ValueName",
    "Walk",
    "Zero",
    "ZeroOf",
    "ZeroPlace",
    "alone",
    "material_of",
    "value_words",
]
