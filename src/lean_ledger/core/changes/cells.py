"""How the machines of a plan are tended where they stand beside one another."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.cells.of_plan import MOST_OPERATORS, cell_of
from lean_ledger.core.changes.scene import Scene, Strict, check_between
from lean_ledger.core.plan import Cell, Plan

MOST_ROOM, MOST_WANTED = 10_000, 1_000_000


@dataclass(frozen=True)
class SetCell(Strict):
    """All that is decided of a cell; `tends` names stations of each operator, or is empty where all tend all."""

    operators: int
    walk: float
    room: int | None
    shift_hours: float
    availability: float
    wanted: int | None = None
    tends: tuple[tuple[str, ...], ...] = ()
    change: Literal["set-cell"] = "set-cell"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        check_between(self.operators, 1, MOST_OPERATORS, "the number of operators")
        check_between(self.walk, 0.0, 300.0, "a walk in seconds")
        check_between(self.shift_hours, 0.5, 24.0, "the hours of a shift")
        check_between(self.availability, 0.05, 1.0, "the share of a shift in which the cell runs")
        for value, most, what in ((self.room, MOST_ROOM, "the room between stations"),
                                  (self.wanted, MOST_WANTED, "the pieces that are wanted a shift")):  # fmt: skip
            if value is not None:
                check_between(value, 1, most, what)
        if self.tends and len(self.tends) != self.operators:
            raise PlanError("tends", f"{len(self.tends)} lists of stations are named for {self.operators} operators")
        cell = Cell(self.operators, self.walk, self.room, self.shift_hours, self.availability, self.wanted, self.tends)
        ledger = scene.ledger
        there = cell_of(replace(cell, tends=()), ledger.loads, ledger.problem.setups)
        known = [one.id for one in there.tended.stations]
        unknown = next((id for own in self.tends for id in own if id not in known), None)
        if unknown is not None:
            raise PlanError("no-such-station", f"there is no station {unknown!r}; the cell has {', '.join(known)}")
        made = cell_of(cell, ledger.loads, ledger.problem.setups)  # which refuses what comes to a stand
        people = f"{self.operators} operator{'s' if self.operators > 1 else ''}"
        return replace(plan, cell=cell), f"cell: {people}, one in {made.seconds_each:.1f} s"
