"""Each setup in a load of its own: its machine and what goes with it stand there."""

from __future__ import annotations

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"

#: name in a setup before → name in a load
OF_LOAD = {
    "machine": "machine", "on": "on", "dialect": "dialect", "hours": "hours", "machine_rate": "rate",
    "load_seconds": "load_seconds", "hand": "hand",
}  # fmt: skip
VERSION = sa.table("version", sa.column("id", sa.Integer), sa.column("decisions", sa.String))
AT_ONCE = 500


def upgrade() -> None:
    _rewritten(_with_loads)


def downgrade() -> None:
    _rewritten(_without_loads)


def _rewritten(change: Any) -> None:
    """Every line of every journal; one whose decisions are damaged stays so, and is told when it is opened."""
    at, last = op.get_bind(), 0
    while True:
        query = sa.select(VERSION).where(VERSION.c.id > last).order_by(VERSION.c.id).limit(AT_ONCE)
        rows = at.execute(query).all()
        if not rows:
            return
        for id, decisions in rows:
            last = id
            try:
                changed = json.dumps(change(json.loads(decisions)), ensure_ascii=False, separators=(",", ":"))
            except (ValueError, TypeError, KeyError, AttributeError):
                continue
            at.execute(VERSION.update().where(VERSION.c.id == id).values(decisions=changed))


def _with_loads(plan: dict[str, Any]) -> dict[str, Any]:
    if "loads" in plan:
        return plan
    loads = []
    for setup in plan["setups"]:
        order = [["1", operation] for operation in setup.pop("order", [])]
        load = {"id": f"L{setup['id'].removeprefix('S')}", "places": [{"id": "1", "setup": setup["id"]}]}
        load |= {new: setup.pop(old) for old, new in OF_LOAD.items() if old in setup}
        loads.append({**load, "order": order})
    return {**plan, "loads": loads}


def _without_loads(plan: dict[str, Any]) -> dict[str, Any]:
    """Raises KeyError for a load with more than one place: there was no such thing."""
    of = {load["places"][0]["setup"]: load for load in plan.pop("loads") if len(load["places"]) == 1}
    for setup in plan["setups"]:
        load = of[setup["id"]]
        setup |= {old: load[new] for old, new in OF_LOAD.items() if new in load}
        setup["order"] = [operation for _, operation in load.get("order", [])]
    return plan
