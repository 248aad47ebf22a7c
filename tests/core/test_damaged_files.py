"""Damaged STEP files end in a clear refusal or a result: no crash, no hang, and the next file is read as ever."""

from __future__ import annotations

import random
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

from lean_ledger.core.basis.errors import FileRefused
from lean_ledger.core.geometry.host import KernelHost
from lean_ledger.core.part import reading
from lean_ledger.core.part.model import Part
from tests.conftest import CASES

#: With how many damages of each kind: free surfaces take long to read.
SOURCES = {"spindle-bushing": 2, "mirror-cell": 1}


def cut_short(text: str, rnd: random.Random) -> str:
    """Cut anywhere, with the closing words kept, so that it looks whole."""
    return text[: int(len(text) * rnd.uniform(0.2, 0.95))] + "\nENDSEC;\nEND-ISO-10303-21;\n"


def bytes_changed(text: str, rnd: random.Random) -> str:
    """A few characters of the data changed to others that may stand there."""
    start = text.index("DATA;")
    letters = list(text)
    for _ in range(rnd.randint(3, 40)):
        letters[rnd.randrange(start, len(text) - 60)] = rnd.choice("0123456789.,()#$*'ABE -")
    return "".join(letters)


def entities_removed(text: str, rnd: random.Random) -> str:
    lines = re.split(r"(?<=;)\n", text)
    entities = [i for i, line in enumerate(lines) if line.startswith("#")]
    for i in rnd.sample(entities, rnd.randint(1, 12)):
        lines[i] = ""
    return "\n".join(lines)


def references_crossed(text: str, rnd: random.Random) -> str:
    """Entities point at others of the wrong kind."""
    numbers = re.findall(r"#\d+", text)
    places = [m.span() for m in re.finditer(r"#\d+", text)]
    for start, end in sorted(rnd.sample(places, 15), reverse=True):
        text = text[:start] + rnd.choice(numbers) + text[end:]
    return text


def numbers_absurd(text: str, rnd: random.Random) -> str:
    places = [m.span() for m in re.finditer(r"-?\d+\.\d*(E-?\d+)?", text)]
    for start, end in sorted(rnd.sample(places, 12), reverse=True):
        text = text[:start] + rnd.choice(["1.E+99", "-1.E+30", "0.", "1.E-40", "NAN", "9999999999."]) + text[end:]
    return text


DAMAGE = (cut_short, bytes_changed, entities_removed, references_crossed, numbers_absurd)
VARIANTS = [(source, damage, seed) for source in SOURCES for damage in DAMAGE for seed in range(1, 1 + SOURCES[source])]


@pytest.fixture(scope="module")
def host() -> Iterator[KernelHost]:
    made = KernelHost(seconds=60)
    yield made
    made.close()


@pytest.mark.parametrize(
    ("source", "damage", "seed"), VARIANTS, ids=[f"{s}-{d.__name__}-{n}" for s, d, n in VARIANTS]
)  # fmt: skip
def test_damaged_file_is_refused_or_read(host: KernelHost, tmp_path: Path, source, damage, seed) -> None:  # type: ignore[no-untyped-def]
    text = (CASES / f"features/{source}.step").read_text(encoding="utf-8")
    path = tmp_path / "damaged.step"
    path.write_text(damage(text, random.Random(f"{source}{damage.__name__}{seed}")), encoding="utf-8")
    part, refusal = tried(host, path)
    if refusal is not None:
        assert refusal.place == "damaged.step"
        assert len(refusal.message) > 20
        assert refusal.code != "file-too-slow"
        return
    assert part is not None
    assert part.model.solid.faces
    assert {f for feature in part.features for f in feature.faces} <= set(range(len(part.model.solid.faces)))


def tried(host: KernelHost, path: Path) -> tuple[Part | None, FileRefused | None]:
    try:
        return host.run(reading.MODULE, "read_analysed", path, "damaged.step", 0), None
    except FileRefused as refusal:
        return None, refusal


def test_after_all_that_a_good_file_is_read_as_ever(host: KernelHost) -> None:
    solid = host.read_solid(CASES / "features/louvre-bracket.step", "good.step").solid
    assert solid.volume == pytest.approx(196330.7, rel=1e-5)
