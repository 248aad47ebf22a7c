"""A job's part has revisions; a file may be made from another."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "revision",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("job", sa.Integer, sa.ForeignKey("job.id"), nullable=False),
        sa.Column("letter", sa.String, nullable=False),
        sa.Column("file", sa.String, sa.ForeignKey("file.hash"), nullable=False),
        sa.Column("solid", sa.Integer, nullable=False),
        sa.Column("author", sa.String, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
        sa.UniqueConstraint("job", "letter"),
    )
    op.execute(
        "INSERT INTO revision (job, letter, file, solid, author, at) "
        "SELECT id, revision, file, solid, 'planner', at FROM job"
    )
    with op.batch_alter_table("file", recreate="always") as file:
        file.add_column(sa.Column("made_from", sa.String(64), sa.ForeignKey("file.hash", name="file_made_from")))
    with op.batch_alter_table("job", recreate="always") as job:
        for name in ("revision", "file", "solid"):
            job.drop_column(name)


def downgrade() -> None:
    with op.batch_alter_table("job") as job:
        job.add_column(sa.Column("revision", sa.String, nullable=False, server_default="A"))
        job.add_column(sa.Column("file", sa.String))
        job.add_column(sa.Column("solid", sa.Integer, nullable=False, server_default="0"))
    op.execute(
        "UPDATE job SET file = (SELECT file FROM revision WHERE revision.job = job.id AND letter = job.revision), "
        "solid = (SELECT solid FROM revision WHERE revision.job = job.id AND letter = job.revision)"
    )
    with op.batch_alter_table("file", recreate="always") as file:
        file.drop_column("made_from")
    op.drop_table("revision")
