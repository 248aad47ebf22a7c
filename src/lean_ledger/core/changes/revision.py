"""Taking another revision of the part, pairing its features by hand, and looking again at what it touched."""

from __future__ import annotations

from collections import Counter
from contextlib import suppress
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict, check_between
from lean_ledger.core.plan import Confirmed, OneOff, PairByHand, Plan
from lean_ledger.core.revisions.carried import decided_features, passed_on, without_decisions

MOST_MONEY = 10_000_000
MOST_PIECES = 10_000_000


@dataclass(frozen=True)
class TakeRevision(Strict):
    """The plan makes another revision from now on; decisions stay on what is matched, and what was set for several
    features on those of them that are left.
    """

    revision: str
    change: Literal["take-revision"] = "take-revision"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if self.revision == plan.revision:
            raise PlanError("same-revision", f"the plan makes revision {plan.revision} already")
        taken = replace(plan, revision=self.revision, one_off=OneOff())
        if scene.compare is not None:
            with suppress(PlanError):  # the first one has none before it: all that is named was there
                there = {f.id for f in scene.compare(self.revision).after.features}
                taken = passed_on(taken, ((op.id, op.features) for op in scene.ledger.operations), there)
        return taken, f"revision {self.revision} in place of {plan.revision}"


@dataclass(frozen=True)
class SetOneOff(Strict):
    """What the revision costs once: fixtures made for it, pieces of the one before that are scrap; what is not named
    stays.
    """

    fixtures: Decimal | None = None
    on_shelf: int | None = None
    change: Literal["set-one-off"] = "set-one-off"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        words = []
        once = plan.one_off
        if self.fixtures is not None:
            if not 0 <= self.fixtures <= MOST_MONEY:
                raise PlanError("out-of-range", f"fixtures cost from 0 to {MOST_MONEY}; not {self.fixtures}")
            once = replace(once, fixtures=self.fixtures)
            words.append(f"fixtures for {self.fixtures:.2f}")
        if self.on_shelf is not None:
            check_between(self.on_shelf, 0, MOST_PIECES, "the number of pieces on the shelf")
            once = replace(once, on_shelf=self.on_shelf)
            words.append(f"{self.on_shelf} pieces on the shelf are scrap")
        if not words:
            raise PlanError("nothing-said", "say what fixtures cost, or how many pieces are on the shelf")
        return replace(plan, one_off=once), f"revision {plan.revision}, once: {', '.join(words)}"


@dataclass(frozen=True)
class PairFeatures(Strict):
    """In a revision, this feature of the new model is that one of the plan; either may be null."""

    revision: str
    old: str | None
    new: str | None
    change: Literal["pair-features"] = "pair-features"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if self.old is None and self.new is None:
            raise PlanError("no-pair", "a pair names the old feature, the new one, or both")
        if scene.compare is not None:
            revised = scene.compare(self.revision)
            if self.old is not None and self.old not in revised.before.by_id:
                raise PlanError("no-such-feature", f"revision {revised.before.revision} has no feature {self.old}")
            if self.new is not None and self.new not in revised.names:
                raise PlanError("no-such-feature", f"the model of revision {self.revision} has no feature {self.new}")
        others = tuple(
            p for p in plan.pairs
            if p.revision != self.revision
            or not ((p.old is not None and p.old == self.old) or (p.new is not None and p.new == self.new))
        )  # fmt: skip
        if self.new is None:
            words = f"revision {self.revision}: {self.old} is gone"
        elif self.old is None:
            words = f"revision {self.revision}: the model's {self.new} is new"
        else:
            words = f"revision {self.revision}: {self.old} is the model's {self.new}"
        return replace(plan, pairs=(*others, PairByHand(self.revision, self.old, self.new))), words


@dataclass(frozen=True)
class PairByRule(Strict):
    """Takes all pairs by hand of a revision back."""

    revision: str
    change: Literal["pair-by-rule"] = "pair-by-rule"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        kept = tuple(p for p in plan.pairs if p.revision != self.revision)
        return replace(plan, pairs=kept), f"revision {self.revision} paired by geometry alone"


@dataclass(frozen=True)
class ConfirmFeatures(Strict):
    """The decisions on these features hold in this revision too."""

    features: tuple[str, ...]
    change: Literal["confirm-features"] = "confirm-features"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        added = tuple(Confirmed(plan.revision, id) for id in self.features)
        kept = tuple(c for c in plan.confirmed if c not in added)
        return replace(plan, confirmed=kept + added), f"{', '.join(self.features)}: decided as before"


@dataclass(frozen=True)
class DropDecisions(Strict):
    """Forgets what was decided by hand for these features."""

    features: tuple[str, ...]
    change: Literal["drop-decisions"] = "drop-decisions"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        had = Counter(id for id in self.features for _ in decided_features(plan).get(id, ()))
        if not had:
            raise PlanError("nothing-decided", f"nothing was decided by hand for {', '.join(self.features)}")
        count = sum(had.values())
        return without_decisions(plan, self.features), f"{count} decisions on {', '.join(had)} dropped"
