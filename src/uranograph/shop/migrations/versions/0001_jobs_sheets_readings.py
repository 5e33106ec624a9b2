"""Jobs, sheets, readings, voids"""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "jobs",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("key", sa.String(16), nullable=False),
        sa.Column("token", sa.String(64), nullable=False),
        sa.Column("title", sa.String(120), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("touched_at", sa.DateTime(), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_jobs"),
        sa.UniqueConstraint("key", name="uq_jobs_key"),
        sa.UniqueConstraint("token", name="uq_jobs_token"),
    )
    op.create_index("ix_jobs_touched_at_id", "jobs", ["touched_at", "id"])
    op.create_table(
        "sheets",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("typed", sa.JSON(), nullable=False),
        sa.Column("by", sa.String(8), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_sheets"),
        sa.ForeignKeyConstraint(["job_id"], ["jobs.id"], name="fk_sheets_job_id"),
        sa.UniqueConstraint("job_id", "seq", name="uq_sheets_job_id_seq"),
    )
    op.create_table(
        "readings",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("token", sa.String(64), nullable=True),
        sa.Column("station", sa.String(24), nullable=False),
        sa.Column("slot", sa.String(64), nullable=False),
        sa.Column("text", sa.String(64), nullable=False),
        sa.Column("side", sa.String(8), nullable=True),
        sa.Column("approach", sa.String(16), nullable=False),
        sa.Column("drop", sa.String(32), nullable=True),
        sa.Column("unit", sa.String(8), nullable=False),
        sa.Column("instrument", sa.String(32), nullable=False),
        sa.Column("by", sa.String(8), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_readings"),
        sa.ForeignKeyConstraint(["job_id"], ["jobs.id"], name="fk_readings_job_id"),
        sa.UniqueConstraint("token", name="uq_readings_token"),
        sa.UniqueConstraint("job_id", "seq", name="uq_readings_job_id_seq"),
    )
    op.create_table(
        "voids",
        sa.Column("reading_id", sa.Integer(), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("reason", sa.String(200), nullable=False),
        sa.Column("by", sa.String(8), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("reading_id", name="pk_voids"),
        sa.ForeignKeyConstraint(["reading_id"], ["readings.id"], name="fk_voids_reading_id"),
    )


def downgrade() -> None:
    for table in ("voids", "readings", "sheets", "jobs"):
        op.drop_table(table)
