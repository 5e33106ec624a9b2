"""Pictures beside readings"""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    op.create_table(
        "photos",
        sa.Column("reading_id", sa.Integer(), nullable=False),
        sa.Column("media_type", sa.String(16), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.PrimaryKeyConstraint("reading_id", name="pk_photos"),
        sa.ForeignKeyConstraint(["reading_id"], ["readings.id"], name="fk_photos_reading_id"),
    )


def downgrade() -> None:
    op.drop_table("photos")
