"""From an uploaded file to an analysed part. Runs in the kernel's own process (`geometry.host`)."""

from __future__ import annotations

import logging
from dataclasses import replace
from pathlib import Path

from lean_ledger.core.basis.errors import FileRefused, LedgerError
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
        if not model.drawings:
            model = replace(model, drawings=mesh_drawings(model.solid, report))
        return analyse(model, report)
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
