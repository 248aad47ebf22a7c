"""Where the pieces of a load stand, on which offsets, and what does not fit: cases by hand, and what holds of all."""

from __future__ import annotations

import json
from itertools import combinations
from math import hypot
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.loads.arranged import Bar, MountAxes, Piece, Row, Spot, most_in_travel, past_travel, swing, walked
from lean_ledger.core.loads.layout_problem import layout_document, parse_layout_problem
from lean_ledger.core.loads.numbered import numbered, setting_lines
from lean_ledger.library import shipped_library
from tests.called import called
from tests.conftest import CASES

FOLDER = CASES / "layout"
GOOD = sorted(p.name.split(".")[0] for p in FOLDER.glob("*.problem.json"))
BAD = sorted(p.name.split(".")[0] for p in (FOLDER / "bad").glob("*.problem.json"))
LIB = shipped_library()
MILL = LIB.machines[0]
PIECE = Piece((60, 40, 20), (10, 5, 20), Bounds((-6, -6, -1), (66, 46, 22)), 5)


def answer(problem: dict[str, Any]) -> dict[str, Any]:
    return layout_document(parse_layout_problem(json.dumps(problem)))


def problem(name: str = "p01-plate", **arrangement: Any) -> dict[str, Any]:
    found: dict[str, Any] = json.loads((FOLDER / f"{name}.problem.json").read_text(encoding="utf-8"))
    found["arrangement"].update(arrangement)
    return found


def same(a: object, b: object) -> bool:
    """As the contract compares: numbers to 0.001, lists in order."""
    if isinstance(a, dict) and isinstance(b, dict):
        return a.keys() == b.keys() and all(same(a[k], b[k]) for k in a)
    if isinstance(a, list) and isinstance(b, list):
        return len(a) == len(b) and all(same(x, y) for x, y in zip(a, b, strict=True))
    if isinstance(a, int | float) and isinstance(b, int | float):
        return abs(a - b) <= 0.001
    return a == b


@pytest.mark.parametrize("name", GOOD)
def test_case_by_hand(name: str) -> None:
    expected = json.loads((FOLDER / f"{name}.expect.json").read_text(encoding="utf-8"))["answer"]
    found = answer(problem(name))
    for key, value in expected.items():
        assert same(found[key], value), key


@pytest.mark.parametrize("name", BAD)
def test_bad_input_names_the_place(name: str) -> None:
    expected = json.loads((FOLDER / "bad" / f"{name}.expect.json").read_text(encoding="utf-8"))
    path = FOLDER / "bad" / f"{name}.problem.json"
    done = called("layout", str(path))
    assert (done.returncode, done.stdout) == (2, "")
    assert len(done.stderr.strip().split("\n")) == 1
    assert path.name in done.stderr
    assert all(any(word in done.stderr for word in words) for words in expected["names"])


@pytest.mark.parametrize(("change", "said"), [
    ({"gap": [10]}, "arrangement.gap: holds 1 numbers; 2 are needed"),
    ({"columns": 200, "rows": 200}, "40000 pieces; a load of at most 20000"),
    ({"kind": "heap"}, "arrangement.kind: is 'heap'; it must be grid or stations or rotary or bar"),
    ({"rows": 1.5}, "arrangement.rows: is 1.5; a whole number"), ({"gap": [-1, 3]}, "arrangement.gap[0]: is -1"),
])  # fmt: skip
def test_what_is_wrong_is_said_at_its_place(tmp_path: Path, change: dict[str, Any], said: str) -> None:
    path = tmp_path / "load.json"
    path.write_text(json.dumps(problem(**change)), encoding="utf-8")
    done = called("layout", str(path))
    assert done.returncode == 2
    assert said in done.stderr


@pytest.mark.parametrize("name", ["piece", "offsets"])
def test_only_a_bar_is_without_piece_and_offsets(name: str) -> None:
    for case, value in (("p01-plate", None), ("p10-bar-one", {})):
        asked = {**problem(case), name: value}
        with pytest.raises(Exception, match="null") as refused:
            answer(asked)
        assert refused.value.place == name  # type: ignore[attr-defined]


def test_one_side_twice_and_one_name_twice_are_refused() -> None:
    with pytest.raises(Exception, match="360° is there twice"):
        answer(problem("p08-sixteen-round", sides=[0, 90, 360]))
    asked = problem("p06-three-vises")
    asked["arrangement"]["stations"][1]["name"] = "V1"
    with pytest.raises(Exception, match="another station 'V1'"):
        answer(asked)


def test_angles_are_told_as_text_without_an_end_of_noughts() -> None:
    found = answer(problem("p08-sixteen-round", sides=[0, 22.5, -90], per_side=1))
    assert [piece["group"] for piece in found["pieces"]] == ["0", "22.5", "-90"]
    assert found["program"][2].endswith("A-90.000")


def test_four_quarters_bring_a_piece_back() -> None:
    once = PIECE.turned(90)
    assert (once.size, once.zero) == ((40, 60, 20), (35, 10, 20))
    assert once.sweep == Bounds((-6, -6, -1), (46, 66, 22))
    assert once.turned(90).turned(90).turned(90) == PIECE == once.turned(270)


def test_walks_of_three_columns_and_two_rows() -> None:
    assert walked(3, 2, "rows") == [(0, 0), (1, 0), (2, 0), (0, 1), (1, 1), (2, 1)]
    assert walked(3, 2, "columns") == [(0, 0), (0, 1), (1, 0), (1, 1), (2, 0), (2, 1)]
    assert walked(3, 2, "snake") == [(0, 0), (1, 0), (2, 0), (2, 1), (1, 1), (0, 1)]


def test_bar_is_told_whole() -> None:
    """Five of 6.2 with 0.2 behind and a cut of 2, the first faced by 0.3: 5 · 8.4 + 0.3; 880 / 42.3 = 20.8."""
    bar = Bar(6.2, 2, 0.3, 0.2, 5, 1000, 120, grip=2.5)
    assert bar.advance == pytest.approx(42.3)
    assert (bar.pieces, bar.reach, bar.free) == (100, pytest.approx(-42), pytest.approx(3.9))
    # ten advances exactly: what floating numbers are short of is no piece less
    assert Bar(6.2, 2, 0.3, 0.2, 5, 423 + 120, 120).pieces == 50


@settings(max_examples=20, deadline=None)
@given(
    st.integers(1, 6), st.integers(1, 5), st.tuples(st.floats(0, 30), st.floats(0, 30)),
    st.sampled_from([0, 90, 180, 270]), st.floats(-180, 180), st.sampled_from(["rows", "columns", "snake"]),
)  # fmt: skip
def test_no_two_pieces_overlap_and_no_two_zeros_are_one(
    columns: int, rows: int, gap: tuple[float, float], turn: int, slant: float, walk: Any
) -> None:
    row = Row(MountAxes((300, 200, 50), slant), PIECE.turned(turn), (-20, 5, 3), columns, rows, gap)
    spots = [row.spot(c, r, str(r)) for c, r in walked(columns, rows, walk)]
    assert len(spots) == columns * rows
    size = row.piece.size
    for a, b in combinations(spots, 2):
        apart = [abs(p - q) - s for p, q, s in zip(a.corner[:2], b.corner[:2], size[:2], strict=True)]
        assert max(apart) > min(gap) - 1e-9, "beside each other in one direction at least"
        assert hypot(*(p - q for p, q in zip(a.zero, b.zero, strict=True))) > 1
    made = numbered(spots, "piece", "extended-99", "G54")
    assert len(set(made.of_spots)) == len(spots)
    assert len(setting_lines(made.offsets)) == len(spots)
    assert len(numbered(spots, "group", "basic", "G54").offsets) == min(rows, 6)
    assert len(numbered(spots, "load", "basic", "G54").offsets) == 1


@settings(max_examples=12, deadline=None)
@given(
    st.floats(60, 150), st.floats(60, 150), st.floats(0, 25), st.floats(-180, 180),
    st.sampled_from([0.0, 90.0, 180.0, 30.0]),
)  # fmt: skip
def test_most_is_what_counting_by_hand_finds(x: float, y: float, gap: float, at: float, slant: float) -> None:
    """As many rows and columns as stay in the travel, tried one after the other."""
    piece = Piece((x, y, 10), (0, 0, 10), Bounds((-3, -3, 0), (x + 3, y + 3, 20)), 3)
    row = Row(MountAxes((381, 203, 0), slant), piece, (at, at / 2, 10), 1, 1, (gap, gap))

    inside = {(i, j): not past_travel(row.spot(i, j, ""), MILL) for i in range(20) for j in range(20)}

    def fits(c: int, r: int) -> bool:
        return all(inside[i, j] for i in range(c) for j in range(r))

    best = 0
    for c in range(1, 20):
        if not fits(c, 1):
            break
        r = 1
        while fits(c, r + 1):
            r += 1
        best = max(best, c * r)
    assert most_in_travel(row, MILL) == best


def test_what_swings_too_far_would_hit_the_table() -> None:
    """60 wide and 30 high on a seat of 70: √(30² + 100²); a seat below the axis counts as well."""
    piece = Piece((50, 60, 30), (0, 0, 0), Bounds((0, 0, 0), (1, 1, 1)), 3)
    assert swing(piece, 70) == pytest.approx(hypot(30, 100))
    assert swing(piece, -90) == pytest.approx(hypot(30, 90))


def test_slanted_mount_tells_the_corner_that_is_least_on_it() -> None:
    spot = Spot("a", MountAxes((300, 100, 20), 30), PIECE, (0, 0, 0))
    assert spot.at == (300, 100, 20)
    assert Spot("a", MountAxes((300, 100, 20), 90), PIECE, (0, 0, 0)).at == (260, 100, 20)


def test_words_run_on_into_the_extension_and_leave_the_reserved_out() -> None:
    row = Row(MountAxes((0, 0, 0)), PIECE, (0, 0, 0), 4, 1, (10, 10))
    spots = [row.spot(c, 0, "1") for c in range(4)]
    made = numbered(spots, "piece", "extended-48", "G58", ("G59", "G54.1 P2"))
    assert made.of_spots == ("G58", "G54.1 P1", "G54.1 P3", "G54.1 P4")
    assert setting_lines(made.offsets)[1] == "G10 L20 P1 X80.000 Y5.000 Z20.000"
    short = numbered(spots, "piece", "basic", "G58", ())
    assert short.of_spots == ("G58", "G59", None, None)
    assert (short.needs, short.has, len(short.offsets)) == (4, 2, 2)
