"""A plan's programs with all that the floor needs to run them, in one zip: the same plan gives the same bytes."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping, Sequence
from io import BytesIO
from typing import Any
from xml.etree import ElementTree as ET
from zipfile import ZIP_DEFLATED, ZipFile, ZipInfo

from lean_ledger.core.control.steps import CATEGORY
from lean_ledger.core.loads.numbered import register
from lean_ledger.core.papers.lists import OPERATION_HEAD, TOOL_HEAD, as_csv, operation_rows, tool_rows
from lean_ledger.core.papers.sheet import SetupSheet
from lean_ledger.core.program.checked import Checked
from lean_ledger.core.program.joined import joined_programs
from lean_ledger.core.program.numbers import o_word
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.program.text import spoken

FORMAT = "lean-ledger/package@1"


def program_package(sheet: SetupSheet, pdf: bytes, programs: Sequence[Checked], *, by_machine: bool = False) -> bytes:
    """Programs, one for each setup or each machine, the programs that set their offsets, tool and operation lists, the
    setup sheet, and the manifest as JSON and as XML.
    """
    files: dict[str, bytes] = {}
    issued = files_of(programs, by_machine=by_machine)
    for one in programs:
        name, text = issued[one.program.name]
        files[name] = text.encode("ascii")
        files[offset_file(one)] = offset_program(one).encode("ascii")
    files["tools.csv"] = as_csv(TOOL_HEAD, tool_rows(sheet))
    files["operations.csv"] = as_csv(OPERATION_HEAD, operation_rows(sheet))
    files["setup-sheet.pdf"] = pdf
    said = manifest(sheet, programs, files, {own: name for own, (name, _) in issued.items()})
    files["manifest.json"] = (json.dumps(said, ensure_ascii=False, indent=1) + "\n").encode()
    files["manifest.xml"] = as_xml(said)
    packed = BytesIO()
    with ZipFile(packed, "w", ZIP_DEFLATED) as out:
        for name, content in files.items():
            info = ZipInfo(name, (1980, 1, 1, 0, 0, 0))
            info.compress_type = ZIP_DEFLATED
            out.writestr(info, content)
    return packed.getvalue()


def files_of(programs: Sequence[Checked], *, by_machine: bool) -> dict[str, tuple[str, str]]:
    """Name and text of the file that each program is in, by its name."""
    found = {one.program.name: (f"{one.program.name}-{one.program.file}", one.program.text) for one in programs}
    for joined in joined_programs(programs) if by_machine else ():
        if not joined.refused:
            name = f"{'-'.join(joined.setups)}-{joined.file}"
            found |= dict.fromkeys((one.program.name for one in joined.parts), (name, joined.text))
    return found


def offset_file(one: Checked) -> str:
    return f"{one.program.name}-offsets.{one.program.dialect.extension}"


def offset_program(one: Checked) -> str:
    """G10 words that put the zeros where the mounts have them and the lengths that the tool list gives.

    G54 to G59 are L2 P1 to P6, G54.1 Pn is L20 Pn, a length is L10. Only where the setter has not measured them.
    """
    lines = ["%", f"{o_word(one.program.numbers.offsets)} ({spoken(f'offsets of {one.setup.words}')})"]
    lines += ["(AS PLANNED. WHAT IS TOUCHED OFF AT THE MACHINE IS RIGHT, NOT THIS)", "G90 G21"]
    for word, (x, y, z) in one.setting.offsets.items():
        lines.append(f"G10 {register(word)} X{x:.3f} Y{y:.3f} Z{z:.3f}")
    lines += [f"G10 L10 P{number} R{length:.3f}" for number, length in sorted(one.setting.lengths.items())]
    return "\n".join([*lines, "M30", "%"]) + "\n"


def manifest(
    sheet: SetupSheet, programs: Sequence[Checked], files: Mapping[str, bytes], issued: Mapping[str, str]
) -> dict[str, Any]:
    """Seconds to a millisecond, lengths to a micrometre; each file with its size and its SHA-256."""
    return {
        "format": FORMAT,
        "job": sheet.number,
        "name": sheet.name,
        "revision": sheet.revision,
        "plan_version": sheet.plan_version,
        "date": sheet.date.isoformat(),
        "findings": sheet.findings,
        "programs": [_program(one, issued[one.program.name]) for one in programs],
        "files": [
            {"name": name, "bytes": len(content), "sha256": hashlib.sha256(content).hexdigest()}
            for name, content in files.items()
        ],
    }


def _program(one: Checked, file: str) -> dict[str, Any]:
    tools = {e.operation.tool.id: e.operation.tool for e in one.setup.rows}
    numbers = tool_numbers(one.setup)
    names = {row.operation.id: row.operation.name for row in one.setup.rows}
    return {
        "file": file,
        "main": one.program.numbers.main,
        "setup": one.setup.words,
        "machine": one.program.machine.id,
        **({"carriage": one.program.carriage} if one.program.carriage else {}),
        "dialect": one.program.dialect.id,
        "seconds": round(one.run.total, 3),
        "sections": _sections(one),
        "troubles": len(one.troubles),
        "offsets": [
            {"word": word, "x": round(x, 3), "y": round(y, 3), "z": round(z, 3)}
            for word, (x, y, z) in one.setting.offsets.items()
        ],
        "tools": [
            {"number": numbers[id], "tool": tool.id, "description": tool.description, "stick_out": tool.reach}
            for id, tool in tools.items()
        ],
        "operations": [{"program": number, "operation": id, "name": names[id]} for number, id in one.program.calls],
    }


def _sections(one: Checked) -> list[dict[str, Any]]:
    """Seconds of a run by tool and category, tools as they come in; a stop is the operator's time."""
    found: dict[tuple[int, str], float] = {}
    for step in one.run.steps:
        if step.seconds and step.kind in CATEGORY:
            key = (step.tool or 0, CATEGORY[step.kind])
            found[key] = found.get(key, 0.0) + step.seconds
    return [{"tool": tool, "category": name, "seconds": round(s, 3)} for (tool, name), s in found.items()]


def as_xml(said: Mapping[str, Any]) -> bytes:
    """The manifest with each key as an element and each row of a list as one in the singular."""
    root = ET.Element("package")
    _grow(root, said)
    ET.indent(root, " ")
    return b'<?xml version="1.0" encoding="UTF-8"?>\n' + ET.tostring(root, encoding="unicode").encode() + b"\n"


def _grow(parent: ET.Element, value: Mapping[str, Any]) -> None:
    for key, inner in value.items():
        child = ET.SubElement(parent, key)
        if isinstance(inner, list):
            for row in inner:
                _grow(ET.SubElement(child, key.removesuffix("s")), row)
        else:
            child.text = str(inner)
