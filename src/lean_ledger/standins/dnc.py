"""A stand-in for the server that brings programs to the machines: takes a package, runs it, answers with run times."""

from __future__ import annotations

import json
import random
from collections.abc import Mapping
from dataclasses import dataclass
from io import BytesIO
from zipfile import BadZipFile, ZipFile

from lean_ledger.core.basis.errors import FileRefused
from lean_ledger.library.machines import Machine

SCATTER = 0.03  # share of a cycle by which runs differ, as one standard deviation
RUNS = 5


@dataclass(frozen=True)
class RunTimes:
    """Seconds of the first cycles of a program, door to door, as a machine's counter would tell them."""

    setup: str
    program: str
    machine: str
    planned: float
    seconds: tuple[float, ...]

    @property
    def mean(self) -> float:
        return sum(self.seconds) / len(self.seconds)

    @property
    def over(self) -> float:
        """Share of the planned seconds that the mean lies over them."""
        return self.mean / self.planned - 1 if self.planned else 0.0


def received(package: bytes, machines: Mapping[str, Machine], seed: int) -> tuple[RunTimes, ...]:
    """The cycles that the machines ran. The same package and seed give the same answer.

    Machines are a little slower than their data as a rule: feeds are turned down now and then, never up. Raises
    FileRefused for a zip without a sound manifest, or for a machine that is not there.
    """
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
    chance = random.Random(seed)
    answers = []
    for program in said["programs"]:
        if program["machine"] not in machines:
            raise FileRefused(
                "no-machine", f"there is no machine {program['machine']!r} to send it to", program["file"]
            )
        if program["file"] not in names:
            raise FileRefused("no-program", f"the package lacks {program['file']}, which its manifest names")
        planned = float(program["seconds"])
        runs = tuple(round(planned * (1 + abs(chance.gauss(0, SCATTER))), 1) for _ in range(RUNS))
        answers.append(RunTimes(program["setup"], program["file"], machines[program["machine"]].name, planned, runs))
    return tuple(answers)
