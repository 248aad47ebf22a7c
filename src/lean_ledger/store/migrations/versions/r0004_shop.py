"""What a shop changed of the library that ships: its own tools and cutting data."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.create_table(
        "shop",
        sa.Column("what", sa.String(), primary_key=True),
        sa.Column("key", sa.String(), primary_key=True),
        sa.Column("row", sa.String(), nullable=False),
        sa.Column("author", sa.String(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("shop")
