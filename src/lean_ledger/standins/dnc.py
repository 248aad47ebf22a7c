"""A stand-in for the server that brings programs to the machines: takes a package, runs it, answers with run times."""

from __future__ import annotations

import json
import random
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from io import BytesIO
from typing import Any
from zipfile import BadZipFile, ZipFile

from lean_ledger.core.basis.errors import FileRefused
from lean_ledger.core.floor.runs import Section
from lean_ledger.library.machines import Machine

RUNS = 5
SLOWER = {
    "cutting": (1.00, 1.06),
    "rapid": (1.03, 1.14),
    "tool change": (1.00, 1.16),
    "index": (1.00, 1.10),
}  # from, to
OTHERWISE = (1.00, 1.04)
PROGRAMS = 0.015  # share by which programs of a machine differ, as one standard deviation
SCATTER = 0.012  # share by which runs of a program differ
DISTURBED = 0.04  # share of runs in which somebody holds the feed for a while


@dataclass(frozen=True)
class RunTimes:
    """The cycles of a program, door to door, as a machine's counter would tell them; `runs` of each cycle what each
    tool took by category, seconds.
    """

    setup: str
    program: str
    machine: str  # its name
    machine_id: str
    planned: float
    runs: tuple[tuple[Section, ...], ...]

    @property
    def seconds(self) -> tuple[float, ...]:
        """Of each cycle, to a tenth."""
        return tuple(round(sum(one.actual for one in run), 1) for run in self.runs)

    @property
    def mean(self) -> float:
        return sum(self.seconds) / len(self.seconds)

    @property
    def over(self) -> float:
        """Share of the planned seconds that the mean lies over them."""
        return self.mean / self.planned - 1 if self.planned else 0.0


def received(package: bytes, machines: Mapping[str, Machine], seed: int, runs: int = RUNS) -> tuple[RunTimes, ...]:
    """The cycles that the machines ran. The same package and seed give the same answer.

    Machines take what their data say times a factor of their own for each category, which nobody is told. Raises
    FileRefused for a zip without a sound manifest, or for a machine that is not there.
    """
    said, names = _opened(package)
    chance = random.Random(seed)
    answers = []
    for program in said["programs"]:
        if program["machine"] not in machines:
            raise FileRefused(
                "no-machine", f"there is no machine {program['machine']!r} to send it to", program["file"]
            )
        if program["file"] not in names:
            raise FileRefused("no-program", f"the package lacks {program['file']}, which its manifest names")
        machine = machines[program["machine"]]
        tools = {tool["number"]: tool["description"] for tool in program["tools"]}
        planned = [
            (tools.get(one["tool"], f"T{one['tool'] or '–'}"), str(one["category"]), float(one["seconds"]))
            for one in program["sections"]
        ]
        own = random.Random(f"{machine.id} {program['file']}").gauss(1, PROGRAMS)
        cycles = tuple(_run(planned, machine.id, own, chance) for _ in range(runs))
        answers.append(
            RunTimes(program["setup"], program["file"], machine.name, machine.id, float(program["seconds"]), cycles)
        )
    return tuple(answers)


def _opened(package: bytes) -> tuple[dict[str, Any], set[str]]:
    try:
        with ZipFile(BytesIO(package)) as zipped:
            said = json.loads(zipped.read("manifest.json"))
            names = set(zipped.namelist())
    except (BadZipFile, KeyError, ValueError) as error:
        raise FileRefused(
            "no-package", "this is no program package: it has no manifest.json that can be read"
        ) from error
    if not isinstance(said, dict) or said.get("format") != "lean-ledger/package@1":
        raise FileRefused("no-package", "the manifest is of another format; lean-ledger/package@1 is taken")
    return said, names


def _run(
    planned: Sequence[tuple[str, str, float]], machine: str, own: float, chance: random.Random
) -> tuple[Section, ...]:
    scatter, held = chance.gauss(1, SCATTER), 1.0
    if chance.random() < DISTURBED:
        held = chance.uniform(1.3, 1.8)
    found = []
    for tool, category, seconds in planned:
        times = _slower(machine, category) * own * scatter * (held if category == "cutting" else 1.0)
        found.append(Section(tool, category, seconds, round(seconds * times, 3)))
    return tuple(found)


def _slower(machine: str, category: str) -> float:
    return random.Random(f"{machine} {category}").uniform(*SLOWER.get(category, OTHERWISE))
