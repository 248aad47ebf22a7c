"""Several plans of a job: which one it is made by, where the others came from, which are out of sight."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    for name in ("chosen", "put_away"):
        op.add_column("plan", sa.Column(name, sa.Boolean(), nullable=False, server_default=sa.false()))
    op.add_column("plan", sa.Column("origin", sa.String(), nullable=False, server_default=""))
    op.execute("UPDATE plan SET chosen = 1 WHERE id IN (SELECT min(id) FROM plan GROUP BY job)")
    op.create_index("plan_chosen", "plan", ["job"], unique=True, sqlite_where=sa.text("chosen"))


def downgrade() -> None:
    op.drop_index("plan_chosen", "plan")
    for name in ("origin", "put_away", "chosen"):
        op.drop_column("plan", name)
