"""From an uploaded file to an analysed part. Runs in the kernel's own process (`geometry.host`)."""

from __future__ import annotations

import logging
from dataclasses import replace
from pathlib import Path

from lean_ledger.core.basis.errors import FileRefused, LedgerError
from lean_ledger.core.basis.forked import beside
from lean_ledger.core.geometry.model import PartModel
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.part.line_drawing import mesh_drawings
from lean_ledger.core.part.model import Part, analyse

MODULE = __name__

log = logging.getLogger("lean_ledger")


def read_analysed(path: Path, name: str, solid_index: int, report: Report = silent) -> Part:
    """Read one solid of a file and recognise its features.

    Raises FileRefused as `step.read_solid` does, and file-not-understood for geometry that recognition stumbles over.
    """
    from lean_ledger.core.geometry.step import read_part

    model = read_part(path, name, solid_index, report)
    try:
        return analyse(model, report) if model.drawings else _drawn_beside(model, report)
    except LedgerError:
        raise
    except Exception as error:
        log.exception("%s cannot be understood", name)
        raise FileRefused(
            "file-not-understood",
            "the part's geometry is of a kind that is not understood yet; mend it in the CAD system, or leave out what "
            "is decoration only. The log has the details",
            name,
        ) from error


def _drawn_beside(model: PartModel, report: Report) -> Part:
    """Another process draws the views of a large part, while its features are recognised here."""
    with beside(mesh_drawings(model.solid)) as drawings:
        part = analyse(model, report)
        report("drawing", 0.99)
        return replace(part, model=replace(model, drawings=tuple(drawings())))
