"""How much faster a plan's operations could run, what stops them, and what is most worth working on."""

from lean_ledger.core.pace.limits import Limits, limits_of
from lean_ledger.core.pace.tried import Outcome, Paced, paced
from lean_ledger.core.pace.worth import Cheapest, Worth, cheapest_pace, worth_working_on

__all__ = ["Cheapest", "Limits", "Outcome", "Paced", "Worth", "cheapest_pace", "limits_of", "paced", "worth_working_on"]
