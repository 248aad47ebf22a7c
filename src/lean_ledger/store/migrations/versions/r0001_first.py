"""Files, analyses, jobs, plans and their versions."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "file",
        sa.Column("hash", sa.String(64), primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("content", sa.LargeBinary, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
    )
    op.create_table(
        "analysis",
        sa.Column("file", sa.String, sa.ForeignKey("file.hash"), primary_key=True),
        sa.Column("solid", sa.Integer, primary_key=True),
        sa.Column("version", sa.Integer, nullable=False),
        sa.Column("part", sa.LargeBinary, nullable=False),
    )
    op.create_table(
        "job",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("number", sa.String, nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("customer", sa.String, nullable=False),
        sa.Column("revision", sa.String, nullable=False),
        sa.Column("status", sa.String, nullable=False),
        sa.Column("due", sa.Date),
        sa.Column("file", sa.String, sa.ForeignKey("file.hash"), nullable=False),
        sa.Column("solid", sa.Integer, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
    )
    op.create_table(
        "plan",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("job", sa.Integer, sa.ForeignKey("job.id"), nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("edition", sa.Integer, nullable=False),
        sa.Column("current", sa.Integer, nullable=False),
    )
    op.create_table(
        "version",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("plan", sa.Integer, sa.ForeignKey("plan.id"), nullable=False),
        sa.Column("seq", sa.Integer, nullable=False),
        sa.Column("parent", sa.Integer),
        sa.Column("decisions", sa.String, nullable=False),
        sa.Column("author", sa.String, nullable=False),
        sa.Column("words", sa.String, nullable=False),
        sa.Column("effect", sa.String, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
        sa.UniqueConstraint("plan", "seq"),
    )
    op.create_index("version_parent", "version", ["plan", "parent"])


def downgrade() -> None:
    for table in ("version", "plan", "job", "analysis", "file"):
        op.drop_table(table)
