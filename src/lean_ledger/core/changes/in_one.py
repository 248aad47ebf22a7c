"""What pieces that stay in one bar or plate ask of a plan: stock at their ends, and jaws that go round all of them."""

from __future__ import annotations

from dataclasses import replace

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.vectors import axis_name, neg
from lean_ledger.core.holding.vise import OPENING_ROOM, ViseHold
from lean_ledger.core.loads.joined import kerf_of, more_at_the_ends, why_not_in_a_bar
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.plan import Arrangement, Plan
from lean_ledger.library.fixtures import Vise
from lean_ledger.library.types import Library


def check_joined(how: Arrangement, ledger: LoadLedger, plan: Plan) -> None:
    """Raises PlanError where pieces do not stay in one bar or plate."""
    setup, word = ledger.decision.id, "plate" if how.joined_rows > 1 else "bar"
    if how.joined == 1:
        raise PlanError("not-in-a-bar", "a plate holds two pieces side by side at the least: say how many, or turn "
                        "them in the vise and take one row", setup)  # fmt: skip
    if len(ledger.shares) > 1:
        raise PlanError(
            "not-in-a-bar", f"in one {word} all pieces are in one setup: take the setups apart first", setup
        )
    if why := why_not_in_a_bar(plan, ledger.decision, ledger.built, ledger.machine):
        raise PlanError("not-in-a-bar", why.removesuffix("."), setup)
    if how.stations > 1:
        raise PlanError("not-in-a-bar", f"a {word} lies at one station: load one, or keep the pieces apart", setup)
    if how.moved:
        raise PlanError("not-in-a-bar", f"no piece of a {word} is moved or turned by itself: put them back first",
                        setup)  # fmt: skip


def with_ends(plan: Plan, ledger: LoadLedger, library: Library, how: Arrangement) -> tuple[Plan, str]:
    """Stock at both ends of a piece in a bar, in a plate all round, so that what goes round it alone passes between
    two; and it in words, to go on with.
    """
    built = ledger.built
    needed, frame = more_at_the_ends(built, kerf_of(plan, library)), built.hold.frame
    axes = (frame.right, frame.back) if how.joined_rows > 1 else (frame.right,)
    ends = [axis_name(end) for axis in axes for end in (neg(axis), axis)]
    sides = [side for side in ends if plan.allowances.on(side) < needed - 1e-6]
    if plan.stock.sizing != "over the part" or not sides:
        return plan, ""
    allowances = plan.allowances
    for side in sides:
        allowances = allowances.with_side(side, needed)
    named = " and ".join(filter(None, (", ".join(sides[:-1]), sides[-1])))
    return replace(plan, allowances=allowances), f"; {needed:g} of stock at {named}"


def check_jaws(plan: Plan, before: Plan, ledger: LoadLedger, library: Library, how: Arrangement) -> None:
    """Raises PlanError where no vise goes round a plate, or the one that was chosen by hand does not; else the rule
    takes one. `before`: the plan that the ledger is of.
    """
    hold, setup = ledger.built.hold, ledger.decision
    if how.joined_rows == 1 or not isinstance(hold, ViseHold):
        return
    ends = axis_name(neg(hold.frame.back)), axis_name(hold.frame.back)
    more = sum(plan.allowances.on(side) - before.allowances.on(side) for side in ends)
    wide = how.joined_rows * (hold.opening + more) + (how.joined_rows - 1) * kerf_of(plan, library)
    if wide <= hold.vise.opening:
        return
    able = [v for v in library.vises if _goes_round(v, hold.vise, wide)]
    found = min(able, key=lambda v: (v.opening, v.jaw_width), default=None)
    why = f"a plate of {how.joined_rows} rows is {wide:.1f} wide, {hold.vise.name} opens {hold.vise.opening:g}"
    if found is None:
        raise PlanError("not-in-a-bar", f"{why}, and no vise of the shop opens wider: take fewer rows", setup.id)
    if setup.fixture is not None:
        raise PlanError("not-in-a-bar", f"{why}: take {found.name} first, or fewer rows", setup.id)


def _goes_round(vise: Vise, now: Vise, wide: float) -> bool:
    alike = vise.mount == now.mount and vise.jaws == now.jaws and vise.stations == 1
    return alike and vise.opening >= wide + OPENING_ROOM
