"""A picture from a phone: looked at before it is kept."""

from __future__ import annotations

from dataclasses import dataclass
from io import BytesIO

from PIL import Image

from lean_ledger.core.basis.errors import PlanError

LARGEST = 3 * 1024 * 1024
MOST_PIXELS = 40_000_000
KINDS = {"JPEG": "jpg", "PNG": "png"}


@dataclass(frozen=True)
class Photo:
    name: str
    content: bytes


def checked_photo(content: bytes) -> Photo:
    """Raises PlanError photo for what is no JPEG or PNG, or too large."""
    if len(content) > LARGEST:
        raise PlanError("photo", f"a photo has at most {LARGEST // 1024 // 1024} MB; take a smaller one")
    try:
        with Image.open(BytesIO(content), formats=list(KINDS)) as image:
            kind, pixels = image.format or "", image.width * image.height
            if pixels <= MOST_PIXELS:
                image.verify()
    except Exception as error:  # whatever a damaged picture makes the reader raise
        raise PlanError("photo", "this is no JPEG or PNG picture that can be read") from error
    if pixels > MOST_PIXELS:
        raise PlanError("photo", f"the photo has {pixels / 1e6:.0f} million pixels; at most 40 are kept")
    return Photo(f"photo.{KINDS[kind]}", content)
