"""What holds a setup is any fixture, not only a vise."""

import json

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    _renamed("vise", "fixture")


def downgrade() -> None:
    _renamed("fixture", "vise")


def _renamed(old: str, new: str) -> None:
    bind = op.get_bind()
    for id, decisions in bind.execute(sa.text("SELECT id, decisions FROM version")).all():
        plan = json.loads(decisions)
        for setup in plan["setups"]:
            if old in setup:
                setup[new] = setup.pop(old)
        bind.execute(
            sa.text("UPDATE version SET decisions = :decisions WHERE id = :id"),
            {"decisions": json.dumps(plan), "id": id},
        )
