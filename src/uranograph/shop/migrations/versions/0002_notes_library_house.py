"""Notes beside readings; the library; what the house has set"""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.add_column("readings", sa.Column("note", sa.String(600), nullable=True))
    op.create_table(
        "library",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("typed", sa.JSON(), nullable=False),
        sa.Column("by", sa.String(8), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_library"),
    )
    op.create_index("ix_library_kind_name_id", "library", ["kind", "name", "id"])
    op.create_table(
        "house",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(40), nullable=False),
        sa.Column("value", sa.String(80), nullable=False),
        sa.Column("by", sa.String(8), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_house"),
    )
    op.create_index("ix_house_name_id", "house", ["name", "id"])


def downgrade() -> None:
    op.drop_table("house")
    op.drop_table("library")
    op.drop_column("readings", "note")
