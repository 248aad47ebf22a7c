"""Bores that are bored to size on a mill: which rule, which head, how deep, and what is left."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from math import pi

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.files.tool_file import read_tools, tools_csv
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.holes.boring_head import fits
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import ChainChoice, OperationEdit, Plan, Said
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.library import shipped_library
from lean_ledger.library.types import ToolKind
from tests.conftest import built, quick

K = OperationKind
LIB = shipped_library()


@cache
def plate(first: float = 26.0, second: float = 0.0, blind: bool = False) -> Part:
    low = 6 if blind else -1
    body = block((0, 0, 0), (100, 60, 20)) - rod((30, 30, low), (0, 0, 1), first, 40)
    if second:
        body = body - rod((72, 30, -1), (0, 0, 1), second, 40)
    return built(body)


def toleranced(part: Part, tolerance: str = "H7", **more: object) -> Plan:
    said = tuple(Said(f.id, tolerance=tolerance) for f in part.features if f.kind == "hole")
    return replace(quick(part), said=said, **more)  # type: ignore[arg-type]


def kinds(ledger: Ledger, feature: str = "H1") -> list[str]:
    return [op.kind.value for op in ledger.operations if feature in op.features]


def bored(ledger: Ledger):  # type: ignore[no-untyped-def]
    return next(op for op in ledger.operations if op.kind == K.BORE_TO_SIZE)


def test_fine_bore_is_milled_and_bored_to_size() -> None:
    """Ø26 H7 through 20: milled to 25.7, the head 1 beyond; 1000 · 220 / (π · 26) = 2693 rpm, 0.08 a turn."""
    part = plate()
    ledger = evaluate(toleranced(part), part, LIB)
    assert kinds(ledger) == ["mill bore", "bore to size"]
    op = bored(ledger)
    assert (op.tool.id, op.tool.diameter, op.depth) == ("BO23", 26, 21)
    assert op.cutting.n == pytest.approx(1000 * 220 / (pi * 26))
    assert op.cutting.vf == pytest.approx(op.cutting.n * 0.08)
    assert op.motion.cycle is not None
    assert op.motion.cycle.code == 85
    milled = next(o for o in ledger.operations if o.kind == K.MILL_BORE)
    x = milled.frame.point((30, 30, 0))[0]
    widest = max(abs(p[0] - x) for s in milled.motion.strokes if not s.is_rapid for p in s.points)
    assert widest + milled.tool.diameter / 2 == pytest.approx(25.7 / 2, abs=0.01)
    assert [f.code for f in ledger.findings if "tolerance" in f.code] == []


def test_drill_that_leaves_a_little_opens_it() -> None:
    """Ø20.5: a drill of 19.7 leaves 0.8 of diameter, between 0.3 and 1."""
    part = plate(20.5)
    ledger = evaluate(toleranced(part, "H8"), part, LIB)
    assert kinds(ledger) == ["spot", "drill", "bore to size"]
    assert bored(ledger).tool.id == "BO12"


def test_coarse_bore_is_milled_only_and_a_lacking_head_is_said() -> None:
    part = plate()
    assert kinds(evaluate(quick(part), part, LIB)) == ["mill bore", "finish wall"]
    bare = replace(LIB, tools=tuple(t for t in LIB.tools if t.kind != ToolKind.BORING_HEAD))
    ledger = evaluate(toleranced(part), part, bare)
    assert kinds(ledger) == ["mill bore", "finish wall"]
    finding = next(f for f in ledger.findings if f.code == "tolerance-not-made")
    assert "no boring head for Ø26" in finding.why
    assert finding.wanted == "boring head for Ø26 that reaches 20"


@pytest.mark.parametrize("blind", [False, True])
def test_solid_and_machine_confirm_it(blind: bool) -> None:
    part = plate(26.0, blind=blind)
    ledger = evaluate(toleranced(part), part, LIB)
    assert bored(ledger).depth == (14 - 0.02 if blind else 21)
    outcome = followed(course_of(part, ledger))
    assert (outcome.remainders, outcome.collisions) == ((), ())
    for one in checked_programs(ledger, part, "TEST"):
        assert one.troubles == ()
        assert abs(one.agreement.difference) < 0.01
        if any(id.endswith("bore-to-size") for _, id in one.program.calls):
            assert "G85" in one.program.text


def test_head_holds_one_size_in_a_setup() -> None:
    part = plate(26.0, 30.0)
    ledger = evaluate(toleranced(part), part, LIB)
    assert [f.code for f in ledger.findings if f.code == "head-set-twice"] == ["head-set-twice"]
    two = plate(26.0, 46.0)  # one for each
    apart = evaluate(toleranced(two), two, LIB)
    assert {op.tool.id for op in apart.operations if op.kind == K.BORE_TO_SIZE} == {"BO23", "BO44"}
    assert [f.code for f in apart.findings if f.code == "head-set-twice"] == []


def test_head_by_hand_that_does_not_fit_is_an_error() -> None:
    part = plate()
    edit = OperationEdit("S1.H1.bore-to-size", tool="BO44")
    ledger = evaluate(toleranced(part, edits=(edit,)), part, LIB)
    finding = next(f for f in ledger.findings if f.code == "head-size")
    assert finding.why == "It is set from Ø44 to Ø90 and goes 100 deep."


def test_rule_that_is_not_trusted_says_so() -> None:
    part = plate()
    ledger = evaluate(toleranced(part, chains=(ChainChoice("H1", "bored"),)), part, LIB)
    finding = next(f for f in ledger.findings if f.code == "tolerance-not-made")
    assert "“Mill the bore” is not trusted with it" in finding.why


@settings(max_examples=12)
@given(st.floats(min_value=5, max_value=120), st.floats(min_value=1, max_value=120))
def test_head_fits_inside_its_range_and_reach_only(diameter: float, depth: float) -> None:
    for head in (t for t in LIB.tools if t.kind == ToolKind.BORING_HEAD):
        inside = head.diameter <= diameter <= head.widest and depth <= head.cutting_length
        assert fits(head, diameter, depth) == inside


def test_head_goes_out_as_a_file_and_comes_back() -> None:
    heads = [t for t in LIB.tools if t.kind == ToolKind.BORING_HEAD]
    text = tools_csv(heads)
    assert text.splitlines()[1].startswith("BO12,143,boring_head")
    assert read_tools(text, LIB).tools == tuple(heads)
    row = text.splitlines()
    with pytest.raises(ProblemError, match="must not be below DCN 12"):
        read_tools("\n".join([row[0], row[1].replace(",24,", ",11,")]), LIB)
