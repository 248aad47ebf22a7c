"""The shop's own tools, cutting data, rules for making features and magazines, over those that ship."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import UTC, datetime
from typing import Any, Literal

from pydantic import TypeAdapter
from sqlalchemy import delete, select

from lean_ledger.core.chain_file import chains_json, read_chains
from lean_ledger.core.cutting_file import read_cutting, with_cutting
from lean_ledger.core.errors import PlanError, ProblemError
from lean_ledger.core.magazine import checked_magazine, with_magazine
from lean_ledger.core.tool_file import Brought, read_tools, with_tools
from lean_ledger.library.chains import ChainRule
from lean_ledger.library.types import CuttingData, Library, Tool
from lean_ledger.store.database import Database
from lean_ledger.store.models import ShopRow

What = Literal["tool", "cutting", "chains", "magazine"]
RULES = "rules"  # key of the one row that holds all rules

_TOOL: TypeAdapter[Tool] = TypeAdapter(Tool)
_CUTTING: TypeAdapter[CuttingData] = TypeAdapter(CuttingData)


class Shop:
    """Reads and writes what the shop has changed; `shipped` is the library without it."""

    def __init__(self, database: Database, shipped: Library) -> None:
        self._database = database
        self._shipped = shipped

    @property
    def own(self) -> frozenset[tuple[str, str]]:
        """(what, key) of each row that is the shop's own."""
        with self._database.reading() as session:
            return frozenset((row.what, row.key) for row in session.scalars(select(ShopRow)))

    def library(self) -> Library:
        with self._database.reading() as session:
            rows = list(session.scalars(select(ShopRow).order_by(ShopRow.at, ShopRow.key)))
        tools = [_TOOL.validate_json(row.row) for row in rows if row.what == "tool"]
        cutting = [_CUTTING.validate_json(row.row) for row in rows if row.what == "cutting"]
        shipped = self._shipped
        chains = next((read_chains(row.row, shipped.chains) for row in rows if row.what == "chains"), shipped.chains)
        found = replace(
            shipped, tools=with_tools(shipped, tools), cutting=with_cutting(shipped, cutting), chains=chains
        )
        for row in rows:
            if row.what == "magazine":
                # a tool that was taken out of the library stands nowhere
                standing = [id for id in json.loads(row.row) if found.tool(id) is not None]
                found = replace(found, magazines=with_magazine(found, row.key, standing))
        return found

    def take_tools(self, text: str, author: str) -> Brought:
        """Raises ProblemError, as `read_tools` does; then nothing is taken."""
        brought = read_tools(text, self.library())
        self._write("tool", {tool.id: _TOOL.dump_json(tool).decode() for tool in brought.tools}, author)
        return brought

    def take_cutting(self, text: str, author: str) -> tuple[CuttingData, ...]:
        """Raises ProblemError, as `read_cutting` does; then nothing is taken."""
        rows = read_cutting(text, self.library())
        found = {f"{data.family} {data.material}": _CUTTING.dump_json(data).decode() for data in rows}
        self._write("cutting", found, author)
        return rows

    def take_chains(self, text: str, author: str) -> tuple[ChainRule, ...]:
        """All rules for how features are made. Raises ProblemError, as `read_chains` does; then all stays."""
        rules = read_chains(text, self.library().chains)
        known = {material.id for material in self._shipped.materials}
        for i, rule in enumerate(rules):
            unknown = [m for m in rule.materials if m not in known]
            if unknown:
                words = f"there is no material {unknown[0]!r}; there are {', '.join(sorted(known))}"
                raise ProblemError("no-such-material", words, f"rule {i + 1} ({rule.id}), materials")
        self._write("chains", {RULES: chains_json(rules)}, author)
        return rules

    def take_magazine(self, machine_id: str, tools: Sequence[str], author: str) -> None:
        """Which tools stand in a machine. Raises PlanError, as `checked_magazine` does; then all stays."""
        library = self.library()
        machine = library.machine(machine_id)
        if machine is None:
            names = ", ".join(m.id for m in library.machines)
            raise PlanError("no-such-machine", f"there is no machine {machine_id!r}; the library has {names}")
        self._write("magazine", {machine.id: json.dumps(checked_magazine(machine, tools, library))}, author)

    def drop(self, what: What, key: str) -> None:
        """Back to what ships, or gone where nothing of the name does. Raises PlanError where it is not the shop's."""
        with self._database.writing() as session:
            found: Any = session.execute(delete(ShopRow).where(ShopRow.what == what, ShopRow.key == key))
            if found.rowcount == 0:
                raise PlanError("not-own", f"{key} is as it ships; only what the shop brought in can be taken out")

    def _write(self, what: What, rows: Mapping[str, str], author: str) -> None:
        at = datetime.now(UTC).replace(tzinfo=None, microsecond=0)
        with self._database.writing() as session:
            for key, row in rows.items():
                session.merge(ShopRow(what=what, key=key, row=row, author=author, at=at))
