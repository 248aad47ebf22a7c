"""The shop's own tools, cutting data, rules for making features and magazines, over those that ship."""

from __future__ import annotations

import json
import logging
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import replace
from datetime import UTC, datetime
from functools import partial
from typing import Any, Literal, TypeVar

from pydantic import TypeAdapter, ValidationError
from sqlalchemy import delete, select

from lean_ledger.core.basis.errors import LedgerError, PlanError, ProblemError
from lean_ledger.core.files.chain_file import chains_json, read_chains
from lean_ledger.core.files.cutting_file import check_cutting, read_cutting, with_cutting
from lean_ledger.core.files.tool_file import Brought, check_tool, read_tools, with_tools
from lean_ledger.core.shop.magazine import checked_magazine, with_magazine
from lean_ledger.library.chains import ChainRule
from lean_ledger.library.types import CuttingData, Library, Measured, SetAside, Tool
from lean_ledger.store.database import Database
from lean_ledger.store.models import ShopRow

What = Literal["tool", "cutting", "chains", "magazine", "factor"]
RULES = "rules"  # key of the one row that holds all rules

_TOOL: TypeAdapter[Tool] = TypeAdapter(Tool)
_CUTTING: TypeAdapter[CuttingData] = TypeAdapter(CuttingData)
_MEASURED: TypeAdapter[Measured] = TypeAdapter(Measured)
_STANDING: TypeAdapter[list[str]] = TypeAdapter(list[str])

T = TypeVar("T")

log = logging.getLogger("lean_ledger")


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
        """What ships with the shop's own over it. A row that cannot be read or used is set aside; the rest stands."""
        with self._database.reading() as session:
            rows = list(session.scalars(select(ShopRow).order_by(ShopRow.at, ShopRow.key)))
        if not rows:
            return self._shipped
        aside: list[SetAside] = []
        shipped = self._shipped
        tools = list(_each(rows, "tool", _read_tool, aside))
        cutting = list(_each(rows, "cutting", _read_cutting, aside))
        chains = next(_each(rows, "chains", partial(read_chains, standing=shipped.chains), aside), shipped.chains)
        found = replace(
            shipped, tools=with_tools(shipped, tools), cutting=with_cutting(shipped, cutting), chains=chains
        )
        for machine, ids in _keyed(rows, "magazine", _STANDING.validate_json, aside):
            # a tool that was taken out of the library stands nowhere
            standing = [id for id in ids if found.tool(id) is not None]
            found = replace(found, magazines=with_magazine(found, machine, standing))
        measured = tuple(_each(rows, "factor", _MEASURED.validate_json, aside))
        return replace(found, measured=measured, set_aside=tuple(aside))

    def take_tools(self, text: str, author: str) -> Brought:
        """Raises ProblemError, as `read_tools` does; then nothing is taken."""
        brought = read_tools(text, self.library())
        self._write("tool", {tool.id: _kept(_TOOL, tool) for tool in brought.tools}, author)
        return brought

    def take_cutting(self, text: str, author: str) -> tuple[CuttingData, ...]:
        """Raises ProblemError, as `read_cutting` does; then nothing is taken."""
        rows = read_cutting(text, self.library())
        found = {f"{data.family} {data.material}": _kept(_CUTTING, data) for data in rows}
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

    def take_factor(self, measured: Measured, author: str) -> None:
        """What a machine's estimates are taken times from now on."""
        self._write("factor", {f"{measured.machine} {measured.category}": _kept(_MEASURED, measured)}, author)

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


def _kept(adapter: TypeAdapter[T], value: T) -> str:
    """A row as it is stored. Raises ProblemError where it would not be read back as it is now."""
    row = adapter.dump_json(value).decode()
    try:
        same = adapter.validate_json(row) == value
    except ValidationError:
        same = False
    if not same:
        raise ProblemError("not-kept", f"{value} cannot be stored as it is; give plain numbers", "the file")
    return row


def _read_tool(row: str) -> Tool:
    tool = _TOOL.validate_json(row)
    check_tool(tool)
    return tool


def _read_cutting(row: str) -> CuttingData:
    data = _CUTTING.validate_json(row)
    check_cutting(data)
    return data


def _each(rows: Sequence[ShopRow], what: What, read: Callable[[str], T], aside: list[SetAside]) -> Iterator[T]:
    return (value for _, value in _keyed(rows, what, read, aside))


def _keyed(
    rows: Sequence[ShopRow], what: What, read: Callable[[str], T], aside: list[SetAside]
) -> Iterator[tuple[str, T]]:
    """Each row of a kind that can be read, under its key; the others are set aside."""
    for row in rows:
        if row.what != what:
            continue
        try:
            yield row.key, read(row.row)
        except ValidationError as error:
            first = error.errors()[0]
            place = ".".join(str(part) for part in first["loc"])
            aside.append(SetAside(what, row.key, f"{place}: {first['msg']}" if place else first["msg"]))
        except LedgerError as error:
            aside.append(SetAside(what, row.key, error.message))
        except Exception as error:  # whatever a row holds, it keeps no shop from opening
            log.exception("%s %s cannot be used", what, row.key)
            aside.append(SetAside(what, row.key, f"it cannot be understood ({type(error).__name__})"))
