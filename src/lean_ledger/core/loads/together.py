"""Setups of several operations in one load: which can lie side by side, and how."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.loads.handover import why_not_taken_over
from lean_ledger.core.loads.kinds import stations_of
from lean_ledger.core.loads.layout import MOST, one_only
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.plan import Along, Arrangement

BOTH_ENDS = Arrangement(columns=2, in_turn="spindles")
EVERY: tuple[Along, ...] = ("spindles", "stations", "columns", "rows", "sides")


def why_only_one(shares: Sequence[LoadLedger]) -> tuple[str, str]:
    """(setup, why) of the first that has to lie alone; empty where none has."""
    for share in shares:
        if why := one_only(share.decision, share.machine):
            return share.decision.id, why
    return "", ""


def why_not_turned(ledger: LoadLedger, how: Arrangement) -> str:
    """Why no piece is turned by itself in a load that is arranged so; empty where they can be."""
    _, alone = why_only_one(ledger.shares)
    if alone:
        return alone.removesuffix(".")
    if how.joined > 1:
        return "the pieces of one bar stand one way: keep them apart, or turn none by itself"
    if how.stations > 1:
        name = min(ledger.shares, key=lambda one: stations_of(one.built.hold)).built.hold.fixture.name
        return (
            f"the {how.stations} stations of {name} hold their pieces one way: load one station, or turn no piece by "
            "itself"
        )
    return ""


def arranged_together(load: LoadLedger, other: LoadLedger, along: Along) -> Arrangement:
    """As a load is, with another setup's pieces in turn with its own. Raises PlanError where that cannot be."""
    setup = other.decision.id
    if setup in load.load.setups:
        raise PlanError("same-load", f"setup {setup} lies in load {load.load.id} already", setup)
    if other.machine.id != load.machine.id:
        raise PlanError("other-machine", f"setup {setup} is made on another machine than {load.words}: move it there "
                        "first", setup)  # fmt: skip
    return _in_turn((*load.shares, other), load, along)


def arranged_in_turn(load: LoadLedger, along: Along) -> Arrangement:
    """As a load is, with something else that holds its setups in turn. Raises PlanError where that cannot be."""
    return _in_turn(load.shares, load, along)


def _in_turn(shares: Sequence[LoadLedger], load: LoadLedger, along: Along) -> Arrangement:
    """As many pieces of each as there are, as far as what holds them in turn comes out even."""
    setup, setups = shares[-1].decision.id, len(shares)
    if along == "spindles":
        order = sorted(shares, key=lambda one: one.decision.id)
        if why := why_not_taken_over([(one.decision, one.built) for one in order], load.machine):
            raise PlanError("not-taken-over", why.removesuffix("."), setup)
        return BOTH_ENDS
    if load.load.arrangement.joined > 1:
        raise PlanError("not-in-a-bar", f"load {load.load.id} holds pieces in one bar, all in one setup: keep them "
                        "apart first", setup)  # fmt: skip
    where, why = why_only_one(shares)
    if why:
        raise PlanError("one-piece-only", why.removesuffix("."), where)
    how = Arrangement() if load.where.left_out else load.load.arrangement.shared_by(len(load.shares))
    names = list(dict.fromkeys(one.built.hold.fixture.name for one in shares))
    if along == "stations":
        if len(names) > 1 or min(stations_of(one.built.hold) for one in shares) < setups:
            raise PlanError("no-such-station", f"{' and '.join(names)}: side by side in one vise is one vise for all, "
                            f"with {setups} stations", setup)  # fmt: skip
        found = replace(how, stations=setups, in_turn=along)
    elif along == "sides":
        sides = load.load.arrangement.sides
        if not sides or len(sides) % setups:
            raise PlanError("not-in-turn", f"{len(sides) or 'no'} sides do not hold {setups} setups in turn; arrange a "
                            f"multiple of {setups} sides first", setup)  # fmt: skip
        found = replace(how, sides=sides, in_turn=along)
    else:
        whole = replace(how, in_turn=along)
        found = whole.with_turns(whole.of_turns * setups)
    if found.count > MOST:
        raise PlanError(
            "too-many-pieces", f"{found.count} pieces are more than {MOST} of a load; take fewer first", setup
        )
    return found


def ways_together(load: LoadLedger, other: LoadLedger | None = None) -> tuple[Along, ...]:
    """What could hold a load's setups in turn, or those and another one."""
    found: list[Along] = []
    for along in EVERY:
        try:
            _ = arranged_in_turn(load, along) if other is None else arranged_together(load, other, along)
        except PlanError:
            continue
        found.append(along)
    return tuple(found)
