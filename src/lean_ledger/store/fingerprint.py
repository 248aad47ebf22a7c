"""What figures are computed with: the shop's library and this build's own rules."""

from __future__ import annotations

import hashlib
from functools import cache
from pathlib import Path

import lean_ledger
from lean_ledger.library.types import Library

ROOMS = ("core", "library")


@cache
def _build() -> bytes:
    """Of the sources and data that figures come from: another build may compute another figure."""
    top = Path(lean_ledger.__file__).parent
    found = hashlib.sha256()
    for room in ROOMS:
        for path in sorted((top / room).rglob("*")):
            if path.suffix in (".py", ".toml", ".csv", ".json"):
                found.update(path.relative_to(top).as_posix().encode())
                found.update(path.read_bytes())
    return found.digest()


def fingerprint(library: Library) -> str:
    """Another text whenever a figure of a plan could be another."""
    return hashlib.sha256(_build() + repr(library).encode()).hexdigest()[:16]
