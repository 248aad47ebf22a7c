"""Runs and what is noted at machines, customers, quotes, what was ordered of a job, who chose a plan."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    op.add_column("job", sa.Column("ordered", sa.Integer(), nullable=True))
    op.add_column("plan", sa.Column("chosen_by", sa.String(), nullable=False, server_default=""))
    op.add_column("plan", sa.Column("chosen_at", sa.DateTime(), nullable=True))
    op.create_table(
        "run",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("plan", sa.Integer(), sa.ForeignKey("plan.id"), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        *(sa.Column(name, sa.String(), nullable=False) for name in ("load", "machine", "program")),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("sections", sa.String(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
    )
    op.create_index("run_plan", "run", ["plan"])
    op.create_table(
        "floor",
        sa.Column("token", sa.String(64), primary_key=True),
        sa.Column("plan", sa.Integer(), sa.ForeignKey("plan.id"), nullable=False),
        *(sa.Column(name, sa.String(), nullable=False) for name in ("load", "kind", "data", "author")),
        *(sa.Column(name, sa.DateTime(), nullable=False) for name in ("at", "received")),
    )
    op.create_index("floor_plan", "floor", ["plan", "load"])
    op.create_table(
        "customer",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("name", sa.String(), nullable=False, unique=True),
        sa.Column("terms", sa.String(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
    )
    op.create_table(
        "quote",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("number", sa.String(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("customer", sa.Integer(), sa.ForeignKey("customer.id"), nullable=False),
        *(sa.Column(name, sa.String(), nullable=False) for name in ("state", "asked", "issued")),
        sa.Column("pdf", sa.String(64), sa.ForeignKey("file.hash"), nullable=True),
        *(sa.Column(name, sa.String(), nullable=False) for name in ("decided", "author")),
        *(sa.Column(name, sa.DateTime(), nullable=False) for name in ("made", "at")),
        sa.UniqueConstraint("number", "version"),
    )
    op.create_index("quote_customer", "quote", ["customer"])


def downgrade() -> None:
    for table in ("quote", "customer", "floor", "run"):
        op.drop_table(table)
    for name in ("chosen_by", "chosen_at"):
        op.drop_column("plan", name)
    op.drop_column("job", "ordered")
