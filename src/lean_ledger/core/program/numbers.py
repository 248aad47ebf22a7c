"""Which O numbers a plan's programs have: four digits, as every control takes them.

1 to 899 join the setups of a machine, 900 to 999 run a part of a load,
1000 to 8999 are setups with their subprograms, 9000 and on set offsets.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.loads.load_ledger import LoadLedger

FIRST, END = 1000, 9000
PARTS = 900  # of a load's calls, in programs of their own
USUAL = 1000  # numbers of a setup where there is room for as many
LEAST = 100


@dataclass(frozen=True)
class Numbers:
    """Of one load: its main program, the program that sets its offsets, and what its subprograms count on from."""

    main: int
    offsets: int
    base: int

    def sub(self, position: int) -> int:
        """Of the operation at a position in the order, the first 0."""
        return self.base + 1 + position

    @property
    def of_a_part(self) -> Numbers:
        """With another main program, that calls some of the same subprograms."""
        return replace(self, main=PARTS + self.offsets - END)


def program_numbers(operations: Sequence[int]) -> tuple[Numbers, ...]:
    """For setups with so many operations each, in their order.

    A thousand a setup; where that does not go out, as many hundreds as each needs. Raises PlanError too-many-programs.

    >>> [n.main for n in program_numbers([12, 30])]
    [1000, 2000]
    >>> [n.main for n in program_numbers([12, 130, *[5] * 7])][:4]
    [1000, 1100, 1300, 1400]
    """
    blocks = [USUAL] * len(operations)
    if sum(blocks) > END - FIRST or any(count >= USUAL for count in operations):
        blocks = [LEAST * -(-(count + 1) // LEAST) for count in operations]
    if sum(blocks) > END - FIRST:
        raise PlanError(
            "too-many-programs",
            f"{sum(operations)} operations in {len(operations)} setups are more than {END - FIRST} program numbers go "
            "out for; make fewer operations of them, or split the job",
        )
    mains = [FIRST + sum(blocks[:k]) for k in range(len(blocks))]
    return tuple(Numbers(main, END + k, main) for k, main in enumerate(mains, start=1))


def subprograms(load: LoadLedger) -> dict[tuple[str, int], int]:
    """The place of each subprogram among those of what a carriage does, by its operation and by how far the pieces are
    turned that it is called at: in the order of the operations, then those that turned pieces ask for as well.
    """
    by_operation: dict[str, dict[int, None]] = {}
    for call in load.calls:
        by_operation.setdefault(call.operation.id, {})[call.turn] = None
    firsts = [(row.operation.id, next(iter(by_operation[row.operation.id]))) for row in load.rows]
    others = [(id, turn) for id, turns in by_operation.items() for turn in list(turns)[1:]]
    return {key: k for k, key in enumerate([*firsts, *others])}


def o_word(number: int) -> str:
    return f"O{number:04d}"
