"""Practice jobs: which exercise on which made-up engine, and what was done to that engine"""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    op.create_table(
        "practices",
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("exercise", sa.Integer(), nullable=False),
        sa.Column("seed", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("job_id", name="pk_practices"),
        sa.ForeignKeyConstraint(["job_id"], ["jobs.id"], name="fk_practices_job_id"),
    )
    op.create_table(
        "practice_acts",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("on", sa.String(16), nullable=False),
        sa.Column("by", sa.Float(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_practice_acts"),
        sa.ForeignKeyConstraint(["job_id"], ["practices.job_id"], name="fk_practice_acts_job_id"),
    )
    op.create_index("ix_practice_acts_job_id_id", "practice_acts", ["job_id", "id"])


def downgrade() -> None:
    op.drop_table("practice_acts")
    op.drop_table("practices")
