"""The shop's tools and cutting data, in and out of files; and the calculator."""

from __future__ import annotations

import json
from collections import Counter
from typing import Any

from flask import Response
from flask_openapi3 import Tag

from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.files import cutting_file, tool_file
from lean_ledger.core.files.chain_file import FORMAT as CHAINS
from lean_ledger.core.files.chain_file import chains_json, rule_row
from lean_ledger.core.shop.calculator import TURNS, Asked, asks, calculate
from lean_ledger.core.shop.magazine import stands_in
from lean_ledger.library.chains import BARRED, NUMBERS, STEPS, TRUTHS
from lean_ledger.library.types import Library
from lean_ledger.store.shop import RULES
from lean_ledger.web.pace.endpoints import load_view
from lean_ledger.web.plans.endpoints import file_answer
from lean_ledger.web.plans.schemas import Problem
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.figures import figure
from lean_ledger.web.shared.requests import author, desk
from lean_ledger.web.tools import schemas as s

blueprint = Described("tools", __name__, url_prefix="/api/shop", abp_tags=[Tag(name="tools")])

REFUSES: dict[Any, Any] = {404: Problem, 413: Problem, 422: Problem}


@blueprint.get("/tools", responses={200: s.ShelfView})
def shelf() -> Response:
    """All tools, holders and cutting data of the shop."""
    return _shelf_answer()


FILES: dict[Any, Any] = {
    200: {
        "description": "the file",
        "content": {kind: {"schema": {"type": "string"}} for kind in ("text/csv", "application/json")},
    },
    **REFUSES,
}


@blueprint.get("/files/<file>", responses=FILES)
def file(path: s.ShelfFile) -> Response:
    """tools.csv, tools.json or cutting.csv: the whole library, to be kept or changed and brought back."""
    library = desk().library
    if path.file == "tools.csv":
        return file_answer(tool_file.tools_csv(library.tools).encode(), "text/csv; charset=utf-8", path.file,
                           "attachment")  # fmt: skip
    if path.file == "tools.json":
        return file_answer(tool_file.tools_json(library.tools).encode(), "application/json", path.file, "attachment")
    if path.file == "cutting.csv":
        return file_answer(cutting_file.cutting_csv(library.cutting).encode(), "text/csv; charset=utf-8", path.file,
                           "attachment")  # fmt: skip
    if path.file == "chains.json":
        return file_answer(chains_json(library.chains).encode(), "application/json", path.file, "attachment")
    raise PlanError(
        "no-such-file", f"there is no {path.file}; there are tools.csv, tools.json, cutting.csv and chains.json"
    )


@blueprint.post("/tools", responses={200: s.BroughtView, **REFUSES})
def bring_tools(form: s.ToolsForm) -> Response:
    """Bring tools in from CSV or JSON: all of them, or none where one will not do."""
    return _brought(_text(form), form.file.filename or "the file")


@blueprint.put("/tools", responses={200: s.BroughtView, **REFUSES})
def change_tool(body: s.ToolRowBody) -> Response:
    """Change one tool, or bring one in."""
    return _brought(json.dumps({"format": tool_file.FORMAT, "tools": [body.row]}), "")


@blueprint.post("/cutting", responses={200: s.BroughtView, **REFUSES})
def bring_cutting(form: s.ToolsForm) -> Response:
    """Bring cutting data in from CSV."""
    name = form.file.filename or "the file"
    try:
        count = desk().take_cutting(_text(form), author())
    except ProblemError as error:
        raise _named(error, name) from None
    view = s.BroughtView(brought=[f"{count} rows of cutting data"], notes=[])
    return Response(view.model_dump_json(), mimetype="application/json")


@blueprint.delete("/own/<what>/<path:key>", responses={200: s.ShelfView, **REFUSES})
def drop_own(path: s.OwnPath) -> Response:
    """Take a row of the shop's own out: back to what ships, or gone."""
    desk().drop_own(path.what, path.key)  # type: ignore[arg-type]  # its pattern says which
    return _shelf_answer()


@blueprint.get("/chains", responses={200: s.ChainsView})
def chains() -> Response:
    """The rules by which features are made."""
    return _chains_answer()


@blueprint.put("/chains", responses={200: s.ChainsView, **REFUSES})
def change_chains(body: s.ChainsBody) -> Response:
    """All rules anew, in their order."""
    return _take_chains(json.dumps({"format": CHAINS, "rules": body.rules}), "")


@blueprint.post("/chains", responses={200: s.ChainsView, **REFUSES})
def bring_chains(form: s.ToolsForm) -> Response:
    """Bring the rules in from a file."""
    return _take_chains(_text(form), form.file.filename or "the file")


@blueprint.put("/magazines/<machine>", responses={200: s.ShelfView, **REFUSES})
def change_magazine(path: s.MachinePath, body: s.MagazineBody) -> Response:
    """Which tools stand set up in a machine."""
    desk().take_magazine(path.machine, body.tools, author())
    return _shelf_answer()


@blueprint.get("/calculator", responses={200: s.CalculatedView, **REFUSES})
def calculator(query: s.CalculatorQuery) -> Response:
    """Speed, feed, power, torque, force, bending and life of a tool in a material on a machine."""
    library = desk().library
    tool, material = library.tool(query.tool), library.material(query.material)
    machine = library.machine(query.machine)
    lacking = [
        (what, id)
        for what, entry, id in (
            ("tool", tool, query.tool), ("material", material, query.material), ("machine", machine, query.machine),
        )
        if entry is None
    ]  # fmt: skip
    if lacking:
        what, id = lacking[0]
        raise PlanError(f"no-such-{what}", f"there is no {what} {id!r} in the library")
    assert tool is not None
    assert material is not None
    assert machine is not None
    asked = Asked(query.ap, query.ae, query.speed, query.feed, query.diameter)
    answer = calculate(tool, material, machine, library, asked)
    cut = answer.settled.cutting
    body = s.CalculatedView(
        n=cut.n, vf=cut.vf, vc=cut.vc, fz=cut.fz, ap=cut.ap, ae=cut.ae, removal=answer.removal, life=answer.life,
        source=answer.data.source, load=load_view(answer.load), figures=[figure(f) for f in answer.settled.figures],
        notes=list(answer.notes),
    )  # fmt: skip
    return Response(body.model_dump_json(), mimetype="application/json")


def _shelf_answer() -> Response:
    body = _shelf_view(desk().library, desk().shop.own)
    return Response(body.model_dump_json(), mimetype="application/json")


def _take_chains(text: str, name: str) -> Response:
    try:
        desk().take_chains(text, author())
    except ProblemError as error:
        raise _named(error, name) from None
    return _chains_answer()


def _chains_answer() -> Response:
    library = desk().library
    view = s.ChainsView(
        rules=[s.ChainRuleView(row=rule_row(rule), conditions=list(rule.conditions)) for rule in library.chains],
        own=("chains", RULES) in desk().shop.own,
        steps={sort: list(steps) for sort, steps in STEPS.items()},
        numbers={
            sort: {name: words for name, words in NUMBERS.items() if name not in barred}
            for sort, barred in BARRED.items()
        },
        facts={sort: [name for name in TRUTHS if name not in barred] for sort, barred in BARRED.items()},
        materials={m.id: m.name for m in library.materials},
    )
    return Response(view.model_dump_json(), mimetype="application/json")


def _brought(text: str, name: str) -> Response:
    try:
        brought = desk().take_tools(text, author())
    except ProblemError as error:
        raise _named(error, name) from None
    view = s.BroughtView(brought=[tool.id for tool in brought.tools], notes=list(brought.notes))
    return Response(view.model_dump_json(), mimetype="application/json")


def _named(error: ProblemError, name: str) -> PlanError:
    """With the place in the sentence: the page shows nothing else."""
    places = [part for part in (name, error.place) if part]
    return PlanError(error.code, f"{', '.join(places)}: {error.message}. Nothing was taken", error.place)


def _text(form: s.ToolsForm) -> str:
    name = form.file.filename or "the file"
    try:
        text: str = form.file.read().decode("utf-8-sig")
    except UnicodeDecodeError as error:
        words = f"{name} is no text in UTF-8 (byte {error.start}); save it as CSV or JSON in UTF-8"
        raise PlanError("not-text", words) from None
    return text


def _shelf_view(library: Library, own: frozenset[tuple[str, str]]) -> s.ShelfView:
    held = Counter(tool.holder.id for tool in library.tools)
    names = {m.id: m.name for m in library.materials}
    data: dict[str, list[str]] = {}
    for row in library.cutting:
        data.setdefault(row.family, []).append(names.get(row.material, row.material))
    return s.ShelfView(
        tools=[
            s.ShelfToolView(
                row=tool_file.tool_row(tool), own=("tool", tool.id) in own,
                measures=list(tool_file.symbols(tool.kind).values()), asks=list(asks(tool.kind)),
                turns=tool.kind in TURNS, materials=data.get(tool.family, []),
            )
            for tool in library.tools
        ],
        holders=[
            s.HolderView(id=h.id, description=h.description, diameter=h.diameter, length=h.length, tools=held[h.id])
            for h in library.holders
        ],
        cutting=[
            s.CuttingRowView(row=cutting_file.cutting_row(c), own=("cutting", f"{c.family} {c.material}") in own)
            for c in library.cutting
        ],
        magazines=[
            s.MagazineView(
                machine=m.id, name=m.name, pockets=m.tool_pockets,
                places="stations" if m.turns_work else "pockets", own=("magazine", m.id) in own,
                tools=[id for id in library.in_machine(m) if library.tool(id) is not None],
                others=[t.id for t in library.tools if t.id not in library.in_machine(m) and stands_in(t, m)],
            )
            for m in library.machines if m.tool_pockets
        ],
        set_aside=[s.SetAsideView(what=row.what, key=row.key, why=row.why) for row in library.set_aside],
        columns=list(tool_file.COLUMNS),
        cutting_columns=list(cutting_file.COLUMNS),
    )  # fmt: skip
