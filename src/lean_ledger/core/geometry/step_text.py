"""What can be said of a STEP file by its text alone, before the CAD kernel sees it."""

from __future__ import annotations

from lean_ledger.core.errors import FileRefused

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
