"""Tools and cutting data in and out of files: nothing lost on the way, every refusal with its place and reason."""

from __future__ import annotations

import json
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.files.cutting_file import cutting_csv, read_cutting, with_cutting
from lean_ledger.core.files.tool_file import (
    COLUMNS,
    FORMAT,
    read_tools,
    symbols,
    tool_row,
    tools_csv,
    tools_json,
    with_tools,
)
from lean_ledger.core.shop.calculator import TURNS, Asked, asks, calculate
from lean_ledger.library import shipped_library
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Material, Tool, ToolKind

LIB = shipped_library()
MILL: Machine = LIB.machines[0]
UNREAD = (ToolKind.THREADING, ToolKind.PROBE)  # that the calculator has nothing to say of
LATHE: Machine = next(m for m in LIB.machines if m.turns_work)


def tool(id: str) -> Tool:
    found = LIB.tool(id)
    assert found is not None
    return found


def material(id: str) -> Material:
    found = LIB.material(id)
    assert found is not None
    return found


def row(**cells: str) -> str:
    """A file of one end mill, with other cells."""
    base = {
        "ID": "NEW1", "KIND": "end_mill", "DC": "7", "ZEFP": "3", "APMX": "20", "LPR": "36", "OAL": "63",
        "PRICE": "31.50",
    } | cells  # fmt: skip
    return f"{','.join(base)}\n{','.join(base.values())}\n"


# ---- there and back


def test_whole_library_goes_out_and_comes_back() -> None:
    for text in (tools_csv(LIB.tools), tools_json(LIB.tools)):
        brought = read_tools(text, LIB)
        assert brought.tools == LIB.tools
        assert brought.notes == ()
    assert read_cutting(cutting_csv(LIB.cutting), LIB) == LIB.cutting


@given(st.sampled_from(LIB.tools), st.decimals(1, 40, places=3), st.decimals(1, 60, places=3), st.booleans())
def test_changed_measures_come_back_to_the_digit(one: Tool, diameter, length, as_json: bool) -> None:  # type: ignore[no-untyped-def]
    changed = replace(one, diameter=float(diameter), cutting_length=float(length), overall=0.0, corner_radius=0.0)
    if one.kind in (ToolKind.TURNING, ToolKind.THREADING, ToolKind.PROFILING):
        changed = replace(changed, diameter=0.0)
    if one.widest:
        changed = replace(changed, widest=float(diameter + 10))
    text = tools_json([changed]) if as_json else tools_csv([changed])
    assert read_tools(text, LIB).tools == (changed,)


def test_rows_carry_the_standard_s_symbols() -> None:
    mill, drill, insert = tool_row(tool("EA10")), tool_row(tool("D6")), tool_row(tool("TR08"))
    assert (mill["DC"], mill["ZEFP"], mill["APMX"], mill["LPR"], mill["OAL"]) == ("10", "3", "26", "46", "79")
    assert (drill["SIG"], drill["LCF"], drill["APMX"]) == ("140", "51", "")
    assert (insert["EPSR"], insert["RE"], insert["DC"]) == ("80", "0.8", "")
    assert tool_row(tool("TM6"))["TP"] == "1"
    assert (tool_row(tool("GR3"))["CW"], tool_row(tool("GR3"))["CDX"]) == ("3", "12")
    assert tool_row(tool("BB10"))["DMIN"] == "10"
    for kind in ToolKind:
        assert set(symbols(kind).values()) <= set(COLUMNS)


def test_tools_of_the_same_id_are_replaced_and_new_ones_come_after() -> None:
    thicker = replace(tool("EA10"), diameter=10.5)
    new = replace(tool("EA10"), id="X1", number=500)
    tools = with_tools(LIB, [new, thicker])
    assert tools[[t.id for t in LIB.tools].index("EA10")] == thicker
    assert tools[-1] == new
    assert len(tools) == len(LIB.tools) + 1
    slower = replace(LIB.cutting[0], vc=1.0)
    assert with_cutting(LIB, [slower])[0] == slower


# ---- what a file leaves out


def test_what_is_left_out_is_settled_by_the_rule_and_said() -> None:
    brought = read_tools(row(), LIB)
    (one,) = brought.tools
    assert (one.diameter, one.flutes, one.family, one.material) == (7, 3, "end-mill-3", "carbide")
    assert one.holder.id == "CH16"
    assert one.number not in {t.number for t in LIB.tools}
    assert f"NEW1: the free number {one.number}" in brought.notes
    assert "cutting data of end-mill-3 for each end mill without FAMILY" in brought.notes
    assert str(one.price) == "31.50"


def test_columns_of_others_are_named_and_semicolons_and_commas_read() -> None:
    text = "id;kind;dc;zefp;apmx;lpr;colour\nA;end_mill;6,35;4;20;36;blue\n"
    brought = read_tools("\ufeff" + text, LIB)
    assert brought.tools[0].diameter == 6.35
    assert "not used: COLOUR" in brought.notes


# ---- refusals


@pytest.mark.parametrize(
    ("cells", "place", "words"),
    [
        ({"ID": ""}, "line 2, ID", "needs an id"),
        ({"KIND": "laser"}, "line 2, KIND", "must be one of face_mill"),
        ({"DC": ""}, "line 2, DC", "every end mill has one"),
        ({"DC": "six"}, "line 2, DC", "is 'six'; a number is needed"),
        ({"DC": "-6"}, "line 2, DC", "must be from 0.05 to 1000"),
        ({"DC": "nan"}, "line 2, DC", "a number is needed"),
        ({"ZEFP": "2.5"}, "line 2, ZEFP", "edges are counted"),
        ({"RE": "4"}, "line 2, RE", "half of DC 7 is the most"),
        ({"LPR": "70"}, "line 2, LPR", "the whole tool is 63 long"),
        ({"NUMBER": "4"}, "line 2, NUMBER", "4 is EA3's number"),
        ({"NUMBER": "x"}, "line 2, NUMBER", "goes from 1 to 9999"),
        ({"FAMILY": "unknown"}, "line 2, FAMILY", "there is cutting data for"),
        ({"HOLDER": "HX"}, "line 2, HOLDER", "the shop has BH6"),
        ({"MATERIAL": "wood"}, "line 2, MATERIAL", "carbide or hss"),
    ],
)
def test_unsound_rows_are_refused_by_place(cells: dict[str, str], place: str, words: str) -> None:
    with pytest.raises(ProblemError) as refused:
        read_tools(row(**cells), LIB)
    assert refused.value.place == place
    assert words in refused.value.message


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "there is no column ID, KIND"),
        ("ID,KIND\n", "there is no tool in it"),
        ("NAME,KIND\nA,drill\n", "there is no column ID"),
        ("ID,KIND,DC\nA,end_mill,6,7\n", "more cells than the 3 columns"),
        ('{"format": "other"}', "this reads lean-ledger/tools@1"),
        (json.dumps({"format": FORMAT, "tools": [1]}), "an object is needed"),
        ("{", "Expecting"),
        (row() + row().split("\n")[1], "a second time"),
    ],
)
def test_files_that_are_none_are_refused(text: str, words: str) -> None:
    with pytest.raises(ProblemError, match=words):
        read_tools(text, LIB)


@given(st.text(max_size=200))
def test_no_text_is_read_by_accident_or_breaks(text: str) -> None:
    for read in (read_tools, read_cutting):
        with pytest.raises(ProblemError):
            read(text, LIB)


def test_unsound_cutting_data_is_refused_by_place() -> None:
    sound = cutting_csv(LIB.cutting[:1])
    for was, now, place, words in (
        ("al-6082", "mud", "line 2, MATERIAL", "the shop has"),
        (",500,", ",0,", "line 2, VC", "must be from 0.5 to 5000"),
        (",625,", ",400,", "line 2", "the most is less than the usual"),
        ('"shop trials, inserts for aluminium"', "", "line 2, SOURCE", "where the values come from"),
    ):
        assert was in sound
        with pytest.raises(ProblemError) as refused:
            read_cutting(sound.replace(was, now), LIB)
        assert refused.value.place == place
        assert words in refused.value.message
    with pytest.raises(ProblemError, match="there is no column VC"):
        read_cutting("FAMILY,MATERIAL\n", LIB)


# ---- calculator


def test_calculator_by_hand() -> None:
    found = calculate(tool("EA10"), material("al-6082"), MILL, LIB, Asked(ap=5.0, ae=2.0))
    cut = found.settled.cutting
    assert cut.n == 8100, "260 m/min would be 8276 rpm"
    # ae is a fifth: chips are thinned 1/(2·sqrt(0.2 − 0.04)) = 1.25 times
    assert cut.fz == pytest.approx(0.07 * 1.25)
    assert cut.vf == pytest.approx(8100 * 3 * 0.0875)
    assert found.removal == pytest.approx(5 * 2 * cut.vf / 1000)
    assert found.load.torque == pytest.approx(9549 * found.load.power / 8100)
    assert found.notes == ()
    harder = calculate(tool("EA10"), material("al-6082"), MILL, LIB, Asked(ap=30.0, ae=12.0, speed=1.2))
    assert any("deeper than the 26" in note for note in harder.notes)
    assert any("more than the tool is wide" in note for note in harder.notes)
    assert any("it bends" in note for note in harder.notes)


def test_calculator_knows_every_tool_that_has_data() -> None:
    for one in LIB.tools:
        machine = LATHE if one.kind in TURNS else MILL
        for stuff in LIB.materials:
            if one.kind in UNREAD:
                with pytest.raises(PlanError, match=r"cuts nothing|follow from the thread"):
                    calculate(one, stuff, machine, LIB, Asked())
                continue
            if LIB.data(one, stuff) is None:
                with pytest.raises(PlanError, match="there is for"):
                    calculate(one, stuff, machine, LIB, Asked())
                continue
            found = calculate(one, stuff, machine, LIB, Asked())
            assert 0 < found.settled.cutting.n <= machine.spindle.max_rpm
            assert found.settled.cutting.vf > 0
            assert found.life > 0


def test_turned_cut_of_the_calculator() -> None:
    found = calculate(tool("TR08"), material("steel-c45"), LATHE, LIB, Asked(ap=2.0, diameter=50.0))
    # 190 m/min on Ø50: 1210 rpm, 0.28 a turn; 2 · 0.28 · 190 cm³/min
    assert found.settled.cutting.n == pytest.approx(1209.6, abs=0.1)
    assert found.removal == pytest.approx(106.4)
    slow = calculate(tool("TR08"), material("steel-c45"), LATHE, LIB, Asked(ap=2.0, diameter=50.0, speed=0.8))
    assert slow.life == pytest.approx(25 / 0.8**4)


def test_calculator_asks_for_what_changes_its_answer() -> None:
    for one in LIB.tools:
        if one.kind in UNREAD:
            continue
        machine = LATHE if one.kind in TURNS else MILL
        stuff = next(m for m in LIB.materials if LIB.data(one, m) is not None)
        base = Asked(ap=0.5, ae=0.5)
        plain = calculate(one, stuff, machine, LIB, base)
        for name, value in (("ap", 0.7), ("ae", 0.4), ("speed", 0.8), ("feed", 0.8), ("diameter", 900.0)):
            other = calculate(one, stuff, machine, LIB, replace(base, **{name: value}))
            assert (other.settled != plain.settled) <= (name in asks(one.kind)), (one.id, name)
