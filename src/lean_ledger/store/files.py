"""Files as they came, and what was read and recognised of them."""

from __future__ import annotations

import hashlib
import logging
import tempfile
import zlib
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from pydantic import TypeAdapter, ValidationError
from sqlalchemy.orm import Session

from lean_ledger.core.basis.errors import FileRefused
from lean_ledger.core.basis.plain_text import check_name
from lean_ledger.core.changes.programs import AttachProgram
from lean_ledger.core.changes.stock import TakeStockModel
from lean_ledger.core.control.foreign import ForeignProgram
from lean_ledger.core.geometry import near_net
from lean_ledger.core.geometry.host import Cancelled, KernelHost, never
from lean_ledger.core.geometry.model import SolidEntry, Vec
from lean_ledger.core.geometry.near_net import NearNet
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.geometry.step_text import check_step_text
from lean_ledger.core.part import reading
from lean_ledger.core.part.model import ANALYSIS_VERSION, Part
from lean_ledger.core.shop.summary import thumb_svg
from lean_ledger.store.database import Database
from lean_ledger.store.errors import PlanBroken
from lean_ledger.store.kept import Kept
from lean_ledger.store.models import AnalysisRow, FileRow

PARTS: TypeAdapter[Part] = TypeAdapter(Part)
log = logging.getLogger("lean_ledger")

#: Solids in a file from which the planner is asked; a file with fewer boundary representations has one at most.
SEVERAL = 2
STEP_ENDINGS, FLAT_ENDINGS = (".step", ".stp"), (".dxf",)


@dataclass(frozen=True)
class Upload:
    """A file as it came, and which solid of it is meant. A drawing of flat work needs a thickness, mm."""

    file_name: str
    content: bytes
    solid: int = 0
    thickness: float | None = None

    @property
    def is_flat(self) -> bool:
        return self.file_name.lower().endswith(FLAT_ENDINGS)


@dataclass(frozen=True)
class Read:
    """A part with the STEP file that it was read from, and the drawing that this was made from, if any."""

    part: Part
    solid: int
    step: bytes
    step_name: str
    upload: Upload

    @property
    def key(self) -> tuple[str, int]:
        return _hash(self.step), self.solid


def read_program(upload: Upload) -> ForeignProgram:
    """A program's text as it came; a comment in another encoding is no reason to refuse the words around it."""
    check_name(upload.file_name, "the file name")
    text = upload.content.decode("utf-8", errors="replace")
    return ForeignProgram(_hash(upload.content), upload.file_name, text)


def models_of(database: Database, change: object) -> frozenset[str]:
    """The stock model or the program that a change names, where it was brought in."""
    with database.reading() as session:
        if isinstance(change, AttachProgram):
            return frozenset({change.key}) if session.get(FileRow, change.key) is not None else frozenset()
        if isinstance(change, TakeStockModel):
            file, _, solid = change.model.partition(":")
            known = solid.isdecimal() and session.get(AnalysisRow, (file, int(solid))) is not None
            return frozenset({change.model}) if known else frozenset()
    return frozenset()


class Files:
    """Reads files in the kernel's processes and keeps what was found; a file that was read before is not read again."""

    def __init__(self, database: Database, kernel: KernelHost) -> None:
        self._database = database
        self._kernel = kernel
        self._parts: Kept[tuple[str, int], Part] = Kept()

    def read(self, upload: Upload, report: Report = silent, cancelled: Cancelled = never) -> Read:
        """The analysed part of an upload, nothing kept yet. Raises FileRefused for a file that cannot be used."""
        check_name(upload.file_name, "the file name")
        step, name = self._step_of(upload, report, cancelled)
        hash = _hash(step)
        with self._database.reading() as session:
            row = session.get(AnalysisRow, (hash, upload.solid))
            known = self.part(session, hash, upload.solid) if row and row.version == ANALYSIS_VERSION else None
        part = known or self._analysed(step, name, upload.solid, report, cancelled)
        return Read(part, upload.solid, step, name, upload)

    def solids(self, upload: Upload, report: Report = silent, cancelled: Cancelled = never) -> tuple[SolidEntry, ...]:
        """The solids of an upload, to choose from."""
        step, name = self._step_of(upload, report, cancelled)
        with tempfile.TemporaryDirectory(dir=self._database.workplace) as folder:
            path = _written(folder, step)
            found: tuple[SolidEntry, ...] = self._kernel.run(
                "lean_ledger.core.geometry.step", "list_solids", path, name, report=report, cancelled=cancelled
            )
        return found

    def several(self, upload: Upload, report: Report = silent, cancelled: Cancelled = never) -> tuple[SolidEntry, ...]:
        """The solids to choose from, where a file holds several; none where there is nothing to choose."""
        if not upload.is_flat and upload.content.count(b"_BREP") < SEVERAL:
            return ()
        found = self.solids(upload, report, cancelled)
        return found if len(found) >= SEVERAL else ()

    def must_be_one(self, upload: Upload) -> None:
        """Raises FileRefused, code file-several-solids, for a file of several where nobody chose."""
        found = self.several(upload)
        if found:
            words = "; ".join(
                f"{i} {one.name}, {' × '.join(f'{size:.1f}' for size in one.size)}" for i, one in enumerate(found)
            )
            raise FileRefused(
                "file-several-solids", f"holds {len(found)} solids ({words} mm); say which is meant", upload.file_name
            )

    def keep(self, session: Session, read: Read) -> None:
        """Write the file, what it was made from and its analysis, each once."""
        hash, solid = read.key
        source = None
        if read.upload.content != read.step:
            source = _hash(read.upload.content)
            self.keep_file(session, source, read.upload.file_name, read.upload.content, None)
        self.keep_file(session, hash, read.step_name, read.step, source)
        self._parts.put(read.key, read.part)  # the object that its first plan was made of: an edit finds what that kept
        row = session.get(AnalysisRow, (hash, solid))
        if row is None or row.version != ANALYSIS_VERSION:
            packed = zlib.compress(PARTS.dump_json(read.part), 6)
            thumb = thumb_svg(read.part)
            session.merge(AnalysisRow(file=hash, solid=solid, version=ANALYSIS_VERSION, part=packed, thumb=thumb))

    def part(self, session: Session, file: str, solid: int) -> Part:
        """The analysis of a kept file; made again from it where recognition has changed since."""

        def load() -> Part:
            row = session.get(AnalysisRow, (file, solid))
            if row is not None and row.version == ANALYSIS_VERSION:
                try:
                    return PARTS.validate_json(zlib.decompress(row.part))
                except (zlib.error, ValidationError):
                    log.warning("the analysis of file %s is damaged and made again", file[:12])
            stored = session.get(FileRow, file)
            if stored is None:
                raise PlanBroken("plan-broken", f"cannot be read: its file {file[:12]} is no longer there")
            return self._analysed(stored.content, stored.name, solid, silent, never)

        return self._parts.get((file, solid), load)

    def near_net(self, part: Part, stock: Part, shift: Vec) -> NearNet:
        """A stock's model laid over a part. Raises LedgerError for one that encloses nothing."""
        found: NearNet = self._kernel.call(
            near_net.MODULE, "near_net", part.model.solid, stock.model.solid, shift, stock.model.file,
            name=stock.model.file,
        )  # fmt: skip
        return found

    def keep_file(self, session: Session, hash: str, name: str, content: bytes, source: str | None) -> None:
        if session.get(FileRow, hash) is None:
            now = datetime.now(UTC).replace(tzinfo=None, microsecond=0)
            session.add(FileRow(hash=hash, name=name, content=content, at=now, made_from=source))
            session.flush()

    def keep_content(self, session: Session, name: str, content: bytes) -> str:
        """The hash that a file is kept under."""
        hash = _hash(content)
        self.keep_file(session, hash, name, content, None)
        return hash

    def _step_of(self, upload: Upload, report: Report, cancelled: Cancelled) -> tuple[bytes, str]:
        """The upload as STEP: itself, or the plates that a flat drawing makes."""
        if not upload.is_flat:
            check_step_text(upload.file_name, upload.content)
            return upload.content, upload.file_name
        if upload.thickness is None:
            raise FileRefused("thickness", "a flat drawing needs a thickness in mm", upload.file_name)
        with tempfile.TemporaryDirectory(dir=self._database.workplace) as folder:
            drawing, plates = Path(folder) / "drawing.dxf", Path(folder) / "plates.step"
            drawing.write_bytes(upload.content)
            self._kernel.run(
                "lean_ledger.core.geometry.dxf", "plates_of_dxf", drawing, upload.file_name, upload.thickness, plates,
                report=report, cancelled=cancelled,
            )  # fmt: skip
            return plates.read_bytes(), upload.file_name

    def _analysed(self, step: bytes, name: str, solid: int, report: Report, cancelled: Cancelled) -> Part:
        with tempfile.TemporaryDirectory(dir=self._database.workplace) as folder:
            found: Part = self._kernel.run(
                reading.MODULE, "read_analysed", _written(folder, step), name, solid, report=report, cancelled=cancelled
            )
        return found


def _written(folder: str, content: bytes) -> Path:
    path = Path(folder) / "part.step"
    path.write_bytes(content)
    return path


def _hash(content: bytes) -> str:
    return hashlib.sha256(content).hexdigest()
