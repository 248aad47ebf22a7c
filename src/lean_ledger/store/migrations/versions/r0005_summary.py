"""What the list of jobs shows, kept with each version; how far a part's drawing is; notes of the program's own."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.create_table(
        "summary",
        sa.Column("plan", sa.Integer(), sa.ForeignKey("plan.id"), primary_key=True),
        sa.Column("seq", sa.Integer(), primary_key=True),
        sa.Column("made_by", sa.String(), nullable=False),
        sa.Column("material", sa.String(), nullable=False),
        sa.Column("cycle", sa.Double(), nullable=False),
        sa.Column("each", sa.Double(), nullable=False),
        sa.Column("errors", sa.Integer(), nullable=False),
        sa.Column("warnings", sa.Integer(), nullable=False),
        sa.Column("row", sa.String(), nullable=False),
    )
    op.create_table(
        "note",
        sa.Column("key", sa.String(), primary_key=True),
        sa.Column("value", sa.String(), nullable=False),
    )
    op.create_index("plan_job", "plan", ["job"])
    op.create_index("revision_job", "revision", ["job"])
    with op.batch_alter_table("analysis") as table:
        table.add_column(sa.Column("thumb", sa.String(), nullable=True))


def downgrade() -> None:
    with op.batch_alter_table("analysis") as table:
        table.drop_column("thumb")
    op.drop_index("revision_job", "revision")
    op.drop_index("plan_job", "plan")
    op.drop_table("note")
    op.drop_table("summary")
