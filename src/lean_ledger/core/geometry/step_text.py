"""What can be said of a STEP file by its text alone, before the CAD kernel sees it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from urllib.parse import quote, unquote

from lean_ledger.core.basis.errors import FileRefused

LARGEST_FILE = 100 * 1024 * 1024


def check_step_text(name: str, content: bytes) -> None:
    """Refuse what cannot be a whole STEP file, before the kernel sees it.

    Raises FileRefused with code file-empty, file-too-large, file-not-step or file-truncated.
    """
    if not content.strip():
        raise FileRefused("file-empty", "the file is empty; export the part again as STEP", name)
    if len(content) > LARGEST_FILE:
        size = len(content) / 1024 / 1024
        raise FileRefused("file-too-large", f"the file has {size:.0f} MB; at most 100 MB are read", name)
    if b"ISO-10303-21" not in content[:2048]:
        raise FileRefused(
            "file-not-step", "line 1: this is not a STEP file (it does not start with ISO-10303-21)", name
        )
    tail = content[-4096:].rstrip()
    if not tail.endswith(b"END-ISO-10303-21;"):
        line = content.count(b"\n") + 1
        raise FileRefused(
            "file-truncated", f"line {line}: the file ends before END-ISO-10303-21; send it again whole", name
        )


@dataclass(frozen=True)
class Claimed:
    """What a STEP file's text describes, whatever of it can be read; `instances` where solids are placed more often."""

    solids: int
    faces: int
    instances: bool


def claimed_of(content: bytes) -> Claimed:
    return Claimed(
        solids=len(re.findall(rb"=\s*(?:MANIFOLD_SOLID_BREP|BREP_WITH_VOIDS|FACETED_BREP)\s*\(", content)),
        faces=len(re.findall(rb"=\s*(?:ADVANCED_FACE|FACE_SURFACE)\s*\(", content)),
        instances=b"NEXT_ASSEMBLY_USAGE_OCCURRENCE" in content or b"MAPPED_ITEM" in content,
    )


def dangling(content: bytes) -> str:
    """The first reference to what the file does not define, with its line; empty where all are defined."""
    if len(content) > MOST_LOOKED_THROUGH:
        return ""
    bare = _WORDS.sub(_blank, content)
    defined = set(_DEFINED.findall(bare))
    for found in _REFERRED.finditer(bare):
        if found[1] not in defined:
            line = bare.count(b"\n", 0, found.start()) + 1
            return f"line {line} refers to #{found[1].decode()}, which the file does not define"
    return ""


MOST_LOOKED_THROUGH = 20 * 1024 * 1024
_DEFINED = re.compile(rb"#(\d+)\s*=")
_WORDS = re.compile(rb"'[^']*'|/\*.*?\*/", re.DOTALL)  # strings and comments, in which a # is a sign like any other


def _blank(words: re.Match[bytes]) -> bytes:
    return b"\n" * words[0].count(b"\n")


_REFERRED = re.compile(rb"#(\d+)(?!\d|\s*=)")

_SAID = "LEFT OUT OF THE DRAWING: "
_SAID_LINE = re.compile(rb"/\* LEFT OUT OF THE DRAWING: (.*?) \*/")
MOST_SAID = 40


def with_said(content: bytes, said: Sequence[str]) -> bytes:
    """A STEP file made from a drawing, with a comment for each thing of it that is not in the solid."""
    more = [f"and {len(said) - MOST_SAID} more"] if len(said) > MOST_SAID else []
    lines = [f"/* {_SAID}{quote(one, safe=_PLAIN)} */" for one in (*said[:MOST_SAID], *more)]
    return content.replace(b"END-ISO-10303-21;", "\n".join([*lines, "END-ISO-10303-21;"]).encode("ascii"), 1)


_PLAIN = " ,.()-+"


def said(content: bytes) -> tuple[str, ...]:
    """What `with_said` was told."""
    return tuple(unquote(one.decode("ascii", "replace")) for one in _SAID_LINE.findall(content))
