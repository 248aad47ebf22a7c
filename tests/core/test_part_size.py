"""Odd sizes and broken models: asked about or told, never priced in silence."""

from __future__ import annotations

import random
import re
from pathlib import Path

import pytest

from lean_ledger.core.basis.errors import FileRefused, LedgerError
from lean_ledger.core.geometry.solids import block, write_step
from lean_ledger.core.geometry.step import read_solid
from lean_ledger.core.geometry.step_text import dangling
from lean_ledger.core.part.part_size import revision_question, size_question
from lean_ledger.library import shipped_library
from tests.conftest import DEMO_PARTS

LIB = shipped_library()


@pytest.mark.parametrize(("size", "words"), [
    ((120.0, 80.0, 20.0), ""),
    ((762.0, 80.0, 20.0), ""),
    ((763.0, 80.0, 20.0), "no machine of the shop holds that: the longest travel is 762 mm"),
    ((0.4, 0.3, 0.3), "less than a ruler shows"),
    ((50.0, 30.0, 0.01), "less than a ruler shows"),
])  # fmt: skip
def test_size_that_no_machine_holds_or_no_ruler_shows_is_asked_about(
    size: tuple[float, float, float], words: str
) -> None:
    question = size_question(size, "inch", LIB)
    assert words in question
    assert bool(words) == bool(question)
    if words:
        assert "it is in inch" in question


def test_revision_in_another_unit_is_asked_about() -> None:
    assert revision_question((120.0, 80.0, 20.0), (118.0, 80.0, 20.0)) == ""
    assert "25.4 times" in revision_question((3048.0, 2032.0, 508.0), (120.0, 80.0, 20.0))
    assert "0.03937 times" in revision_question((4.7244, 3.1496, 0.7874), (120.0, 80.0, 20.0))


@pytest.mark.parametrize("unit", [".KILO.,.METRE.", ".MICRO.,.METRE."])
def test_model_in_a_unit_that_makes_it_impossible_is_refused(tmp_path: Path, unit: str) -> None:
    path = tmp_path / "b.step"
    write_step(block((0, 0, 0), (40, 30, 20)), path, "b")
    text = path.read_text()
    assert ".MILLI.,.METRE." in text
    path.write_text(text.replace(".MILLI.,.METRE.", unit))
    with pytest.raises(FileRefused, match=r"longest side is .*; parts from 0\.05 mm to 20 m are planned") as refused:
        read_solid(path, "b.step")
    assert refused.value.code == "size-impossible"


def test_a_reference_that_points_elsewhere_never_changes_the_part_unnoticed(tmp_path: Path) -> None:
    """Among others the one that left 3.7 mm of a 90 mm bracket: its solid fell apart, the first piece was taken."""
    source = (DEMO_PARTS / "louvre-bracket.step").read_text()
    kinds = dict(re.findall(r"#(\d+)\s*=\s*([A-Z_0-9]+)", source))
    refs = [m for m in re.finditer(r"#(\d+)(?=[,)])", source) if m[1] in kinds]
    whole = read_solid(DEMO_PARTS / "louvre-bracket.step", "a.step").solid
    path, noticed, same = tmp_path / "x.step", 0, 0
    chance = random.Random(1)
    lines = list(re.finditer(r"= LINE\('',#\d+,#(\d+)\)", source))
    vectors = [line[1] for line in lines]
    spoilt = [
        source[: line.start(1)] + next(v for v in vectors if v != line[1]) + source[line.end(1) :] for line in lines[:8]
    ]
    for _ in range(14):
        ref = chance.choice(refs)
        other = chance.choice([i for i, kind in kinds.items() if kind == kinds[ref[1]]])
        spoilt.append(source[: ref.start(1)] + other + source[ref.end(1) :])
    for text in spoilt:
        path.write_text(text)
        try:
            model = read_solid(path, "x.step")
        except LedgerError:
            noticed += 1
            continue
        if model.doubts:
            noticed += 1
        else:
            same += 1
            assert model.solid.volume == pytest.approx(whole.volume, rel=1e-3)
            assert model.solid.bounds.size == pytest.approx(whole.bounds.size, abs=0.01)
    assert noticed >= 5
    assert same >= 5


def test_reference_to_what_is_not_in_the_file_is_named_with_its_line(tmp_path: Path) -> None:
    source = (DEMO_PARTS / "anemometer-arm-block.step").read_text()
    shell = re.search(r"MANIFOLD_SOLID_BREP\('[^']*',#(\d+)\)", source)
    assert shell is not None
    path = tmp_path / "x.step"
    path.write_text(source[: shell.start(1)] + "999999" + source[shell.end(1) :])
    line = source.count("\n", 0, shell.start(1)) + 1
    with pytest.raises(FileRefused, match=f"line {line} refers to #999999, which the file does not define"):
        read_solid(path, "x.step")


@pytest.mark.parametrize(("text", "found"), [
    (b"#1 = A('part #7', #2);\n#2 = B(); /* not #9 */", ""), (b"#1=A(#2);#2=B(#3);", "line 1 refers to #3"),
    (b"#1 = A();\n#2 = B(#1,\n#12);", "line 3 refers to #12"), (b"#12 = A();\n#2 = B(#1);", "line 2 refers to #1,"),
])  # fmt: skip
def test_references_are_looked_for_outside_of_words(text: bytes, found: str) -> None:
    assert dangling(text)[: len(found)] == found
    assert bool(dangling(text)) == bool(found)
