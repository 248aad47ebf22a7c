"""Reads the shipped library from its data files."""

from __future__ import annotations

import csv
import json
import tomllib
from dataclasses import replace
from decimal import Decimal
from functools import cache
from importlib.resources import files
from typing import Any

from lean_ledger.library.chains import shipped_chains
from lean_ledger.library.fixtures import FIXTURES, Carrier, Fixture, Mount
from lean_ledger.library.machines import Carriage, Drum, Facing, Machine, Rotary, Spindle, WorkSpindle
from lean_ledger.library.types import (
    CuttingData,
    Holder,
    Judgement,
    Library,
    Material,
    Rates,
    StockSizes,
    Thread,
    Tool,
    ToolKind,
)

_DATA = files("lean_ledger.library") / "data"
FZ_COLUMNS = ((3.0, "fz_3"), (6.0, "fz_6"), (10.0, "fz_10"), (20.0, "fz_20"))


@cache
def shipped_library() -> Library:
    holding = tomllib.loads(_text("fixtures.toml"))
    holders = {
        row["id"]: Holder(row["id"], row["description"], float(row["diameter"]), float(row["length"]))
        for row in _rows("holders.csv")
    }
    return Library(
        machines=tuple(machine_of(row) for row in json.loads(_text("machines.json"))),
        fixtures=_fixtures(holding),
        carriers=tuple(
            Carrier(**{**row, "size": tuple(row["size"]), "offers": tuple(_mount(m) for m in row["offers"])})
            for row in holding["carrier"]
        ),
        holders=tuple(holders.values()),
        tools=tuple(_tool(row, holders) for row in _rows("tools.csv")),
        cutting=tuple(_cutting(row) for row in _rows("cutting.csv")),
        materials=tuple(_material(row) for row in tomllib.loads(_text("materials.toml"))["material"]),
        threads=tuple(
            Thread(r["name"], r["series"], float(r["major"]), float(r["pitch"]), float(r["tap_drill"]))
            for r in _rows("threads.csv")
        ),
        rates=Rates(**{key: Decimal(value) for key, value in tomllib.loads(_text("rates.toml")).items()}),
        stock=_stock_sizes(tomllib.loads(_text("stock.toml"))),
        chains=shipped_chains(),
        spreads={
            what: {source: Decimal(share) for source, share in by.items()}
            for what, by in tomllib.loads(_text("spreads.toml")).items()
        },
        judgements={what: Judgement(**row) for what, row in tomllib.loads(_text("measured.toml")).items()},
        magazines=tuple((id, tuple(tools)) for id, tools in tomllib.loads(_text("magazines.toml")).items()),
    )


def _text(name: str) -> str:
    return (_DATA / name).read_text(encoding="utf-8")


def _rows(name: str) -> list[dict[str, str]]:
    return list(csv.DictReader(_text(name).splitlines()))


def machine_of(row: dict[str, Any]) -> Machine:
    """A machine from a sound row of the format lean-ledger/machine@1; its id and rate are the shop's own."""

    turns_work = row["kind"] == "lathe"
    spindle, rotary = _spindle(row["spindle"]), _rotary(row["rotary"])
    mounts = tuple(_mount(m) for m in row["mounts"])
    further = row.get("further_carriages", ())
    first = {"id": ("turret 1" if further else "turret") if turns_work else "head", "side": "behind"}
    drum = _drum(row.get("drum"))
    carriages = _slides(row, drum) if drum is not None else tuple(_carriage(one) for one in (row | first, *further))
    return Machine(
        id=row.get("id", row["name"]),
        name=row["name"],
        rate=Decimal(row.get("rate", 0)),
        carriages=carriages,
        work_spindles=_work_spindles(row, mounts) if turns_work else (),
        tool_spindle=spindle if rotary is not None or not turns_work else None,
        table=None if turns_work else rotary,
        tilt=_rotary(row["tilt"]),
        corner_tolerance=row["corner_tolerance"],
        offsets=row["offsets"],
        mounts=mounts,
        drum=drum,
    )


def _drum(row: dict[str, Any] | None) -> Drum | None:
    if row is None:
        return None
    return Drum(row["positions"], row["index"], row["feed"], row["tools"], row.get("one_feed", False))


def _slides(row: dict[str, Any], drum: Drum) -> tuple[Carriage, ...]:
    """At each position a cross slide, which moves as the machine does, and an end slide."""
    end = row["drum"]["end_slide"] | {"tool_change": row["tool_change"], "tool_pockets": drum.tools}
    cross = row | {"tool_pockets": drum.tools}
    found = []
    for position in range(1, drum.positions + 1):
        for slide, moving, side in (("cross", cross, "behind"), ("end", end, "front")):
            one = _carriage(moving | {"id": f"{slide} {position}", "side": side})
            found.append(replace(one, position=position, slide=slide))  # type: ignore[arg-type]
    return tuple(found)


def _work_spindles(row: dict[str, Any], mounts: tuple[Mount, ...]) -> tuple[WorkSpindle, ...]:
    main = WorkSpindle("main", mounts[0].name, _spindle(row["spindle"]), _rotary(row["rotary"]))
    counter = row.get("counter_spindle")
    if counter is None:
        return (main,)
    facing = Facing(
        (float(counter["travel"][0]), float(counter["travel"][1])),
        **{key: counter[key] for key in ("rapid", "acceleration", "synchronise", "close", "eject")},
        collet=counter.get("collet", 0.0),
    )
    spindle, rotary = _spindle(counter["spindle"]), _rotary(counter["rotary"])
    return (main, WorkSpindle("counter", counter["mount"], spindle, rotary, facing))


def _carriage(row: dict[str, Any]) -> Carriage:
    def xyz(key: str) -> tuple[Any, Any, Any]:
        return (row[key]["x"], row[key]["y"], row[key]["z"])

    return Carriage(
        id=row["id"],
        travel=tuple((float(low), float(high)) for low, high in xyz("travel")),  # type: ignore[arg-type]
        rapid=xyz("rapid"),
        acceleration=xyz("acceleration"),
        tool_change=row["tool_change"],
        pockets=row["tool_pockets"],
        side=row["side"],
    )


def _spindle(row: dict[str, Any]) -> Spindle:
    return Spindle(row["max_rpm"], row["start"], row["power"], tuple((n, m) for n, m in row["torque"]))


def _rotary(row: dict[str, Any] | None) -> Rotary | None:
    if row is None:
        return None
    limits = row["range"]
    return Rotary(**{**row, "range": None if limits is None else tuple(limits)})


def _stock_sizes(lists: dict[str, Any]) -> StockSizes:
    round_, hexagonal, plate = (tuple(map(float, lists[key])) for key in ("round", "hexagonal", "plate"))
    return StockSizes(round_, hexagonal, tuple((float(w), float(t)) for w, t in lists["rectangular"]), plate)


def _mount(row: dict[str, Any]) -> Mount:
    return Mount(row["name"], tuple(row["at"]), tuple(row["rotation"]))


def _fixtures(tables: dict[str, Any]) -> tuple[Fixture, ...]:
    """Those of one kind together, in the order of the file."""
    return tuple(
        kind(**{key: tuple(value) if isinstance(value, list) else value for key, value in row.items()})
        for name, kind in FIXTURES.items()
        for row in tables[name.replace(" ", "_")]
    )


def _tool(row: dict[str, str], holders: dict[str, Holder]) -> Tool:
    numbers = (
        "diameter", "corner_radius", "tip_angle", "cutting_length", "reach", "pitch", "overall", "neck", "width",
        "widest",
    )  # fmt: skip
    return Tool(
        number=int(row["number"]),
        id=row["id"],
        kind=ToolKind(row["kind"]),
        family=row["family"],
        description=row["description"],
        flutes=int(row["flutes"]),
        price=Decimal(row["price"]),
        holder=holders[row["holder"]],
        material="hss" if row["material"] == "hss" else "carbide",
        **{key: float(row[key]) for key in numbers},
    )


def _cutting(row: dict[str, str]) -> CuttingData:
    return CuttingData(
        row["family"],
        row["material"],
        float(row["vc"]),
        tuple((d, float(row[column])) for d, column in FZ_COLUMNS),
        float(row["life_minutes"]),
        row["source"],
        *(float(row[column]) for column in ("vc_most", "fz_most", "life_vc", "life_fz")),
    )


def _material(row: dict[str, Any]) -> Material:
    return Material(
        id=row["id"],
        name=row["name"],
        density=Decimal(row["density"]),
        price_per_kg=Decimal(row["price_per_kg"]),
        **{
            key: float(row[key])
            for key in (
                "kc",
                "rough_ap",
                "rough_ae",
                "engaged_ap",
                "engaged_ae",
                "face_ap",
                "ramp_angle",
                "wall_allowance",
                "modulus",
                "yield_strength",
            )
        },
    )
