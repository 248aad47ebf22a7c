"""Programs of several carriages tried in the stock together; a bar that a counter spindle pulls on."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest

from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.program.agree import run_of
from lean_ledger.core.program.checked import Checked, checked_programs
from lean_ledger.core.program.proof import course_of_programs
from lean_ledger.core.program.trial import TrialResult, plan_until, result_of, trial_of, trial_of_paths
from lean_ledger.library import shipped_library
from tests.conftest import demo_part
from tests.core.test_handover import arranged, changed, hub, ledger

LIB = shipped_library()
HUB = demo_part("vane-hub")


def pulled(plan: Plan) -> Plan:
    return changed(plan, HUB, {"change": "pull-bar", "load": "L1"})


def ran(plan: Plan) -> tuple[Checked, ...]:
    return checked_programs(ledger(plan), HUB, "hub")


def tried(part: Part, found: Ledger, setup: str, checked: tuple[Checked, ...]) -> TrialResult:
    course, _ = plan_until(part, found, setup)
    trial = trial_of_paths(part, found, setup, checked)
    return result_of(trial, followed(trial.course), followed(course))


#: Of the bar's end the plan takes away what the blade does not turn into chips: 1 of Ø45.
PARTED = {"S1": pi * 22.5**2 * 1.0, "S2": 0.0}


@pytest.mark.parametrize("setup", ["S1", "S2"])
def test_both_turrets_take_off_together_what_the_plan_does(setup: str) -> None:
    plan = arranged(2)
    result = tried(HUB, ledger(plan), setup, ran(plan))
    assert result.met == ()
    assert sum(result.removed) + PARTED[setup] == pytest.approx(result.planned, rel=1e-3)


def test_uses_come_in_the_order_of_the_cycle_with_their_turret() -> None:
    plan = arranged(2)
    trial = trial_of_paths(HUB, ledger(plan), "S1", ran(plan))
    begun = [beat.begin for use in trial.uses for lane in ledger(plan).loads[0].timeline.lanes
             if lane.carriage == use.path for beat in [lane.beats[use.entered - 1]]]  # fmt: skip
    assert begun == sorted(begun)
    assert {use.path for use in trial.uses} <= {"turret 1", "turret 2"}
    assert len({use.cut for use in trial.uses}) == len(trial.uses)
    assert trial.seconds == pytest.approx(ledger(plan).loads[0].cycle, rel=1e-2)


def test_what_one_turret_runs_into_is_told_with_its_program_and_line() -> None:
    """The second turret's insert comes to the work at rapid before it cuts."""
    plan = arranged(2)
    checked = list(ran(plan))
    lines = checked[1].program.text.split("\n")
    k = next(k for k, line in enumerate(lines) if line.startswith("G1 Z-"))
    lines.insert(k, lines[k].replace("G1", "G0").partition(" F")[0])
    program = replace(checked[1].program, text="\n".join(lines))
    checked[1] = replace(checked[1], program=program, run=run_of(program, checked[1].setup))
    met = [m for setup in ("S1", "S2") for m in tried(HUB, ledger(plan), setup, tuple(checked)).met]
    assert {m.path for m in met} == {"turret 2"}
    # it goes back along the way that it came by, at rapid: either line may be named
    told = {m.line for m in met if m.how == "rapid"}
    assert told
    assert all(k < line <= k + 5 and lines[line - 1].lstrip("G0 ")[0] in "XZ" for line in told)


def test_cut_off_of_a_bar_that_is_pulled_is_followed_at_the_piece_it_parts() -> None:
    """On the machine the blade cuts 64.5 farther out than the piece was made; of the piece it takes the same."""
    for plan in (hub("lathe-counter"), pulled(hub("lathe-counter"))):
        one = next(c for c in ran(plan) if "S1" in c.program.setups)
        result = tried(HUB, ledger(plan), "S1", (one,))
        assert result.met == ()
        assert sum(result.removed) + PARTED["S1"] == pytest.approx(result.planned, rel=1e-3)
        proof = course_of_programs(HUB, ledger(plan), [(one.program, one.setting, one.run)])
        blade = next(cut for cut in proof.cuts if cut.operation.endswith("cut-off"))
        own = next(row.operation for s in ledger(plan).setups for row in s.rows if row.operation.id == blade.operation)
        assert min(p[2] for s in blade.motion.strokes for p in s.points) == pytest.approx(
            min(p[2] for s in own.motion.strokes for p in s.points), abs=1e-6
        )


def test_program_from_elsewhere_may_speak_to_a_counter_spindle() -> None:
    plan = hub("lathe-counter")
    text = "%\nO1\nM71\nT0101\nG96 S200 M3\nG54 G0 X50. Z5.\nG1 X44. F0.2\nG0 X60.\nM30\n%\n"
    trial = trial_of(HUB, ledger(plan), LIB, "S1", text)
    assert [use.number for use in trial.uses] == [1]
