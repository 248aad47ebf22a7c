"""What was found on stock that was followed, so that no start of the server has it followed again."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.create_table(
        "followed",
        sa.Column("key", sa.String(64), primary_key=True),
        sa.Column("content", sa.LargeBinary(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("followed")
