"""The answer of `program-time`, lean-ledger/program-time@1."""

from __future__ import annotations

from typing import Any

from lean_ledger.core.control.steps import Run, StepKind

FORMAT = "lean-ledger/program-time@1"
PARTS = (StepKind.CUT, StepKind.RAPID, StepKind.TOOL_CHANGE, StepKind.INDEX, StepKind.DWELL, StepKind.SPINDLE)


def program_time_document(run: Run) -> dict[str, Any]:
    """Seconds by what they go to and by tool, to a millionth; `total` is their sum."""
    parts = {kind.value: round(run.seconds(kind), 6) for kind in PARTS}
    rows: list[dict[str, Any]] = []
    for tool in run.tools:
        own = [step for step in run.steps if step.tool == tool]
        cut = sum(step.seconds for step in own if step.kind == StepKind.CUT)
        rapid = sum(step.seconds for step in own if step.kind == StepKind.RAPID)
        rows.append({"tool": tool, "cut": round(cut, 6), "rapid": round(rapid, 6)})
    return {
        "format": FORMAT,
        "total": round(sum(parts.values()), 6),
        **parts,
        "tools": rows,
        "lines": run.lines,
        "bounds": {
            offset: {"min": [round(v, 6) + 0.0 for v in low], "max": [round(v, 6) + 0.0 for v in high]}
            for offset, (low, high) in run.bounds.items()
        },
    }
