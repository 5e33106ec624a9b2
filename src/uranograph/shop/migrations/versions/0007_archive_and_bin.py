"""Jobs put aside, and jobs thrown away, which go for good after thirty days"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
# Where the job of a row stands, for each table whose rows may go with a job that was long in the bin.
JOB_OF = {
    "sheets": "OLD.job_id",
    "readings": "OLD.job_id",
    "voids": "(SELECT job_id FROM readings WHERE readings.id = OLD.reading_id)",
    "photos": "(SELECT job_id FROM readings WHERE readings.id = OLD.reading_id)",
}
LONG_BINNED = "SELECT 1 FROM jobs WHERE jobs.id = {job} AND jobs.binned_at <= datetime('now', '-30 days')"


def upgrade() -> None:
    op.add_column("jobs", sa.Column("archived_at", sa.DateTime(), nullable=True))
    op.add_column("jobs", sa.Column("binned_at", sa.DateTime(), nullable=True))
    # Few jobs are put aside: they are counted without a look at the others.
    for name in ("archived_at", "binned_at"):
        op.create_index(f"ix_jobs_{name}", "jobs", [name], sqlite_where=sa.text(f"{name} IS NOT NULL"))
    for table, job in JOB_OF.items():
        op.execute(f"DROP TRIGGER {table}_no_delete")
        op.execute(
            f"CREATE TRIGGER {table}_no_delete BEFORE DELETE ON {table} "
            f"WHEN NOT EXISTS ({LONG_BINNED.format(job=job)}) "
            f"BEGIN SELECT RAISE(ABORT, '{table} are only ever added to'); END"
        )


def downgrade() -> None:
    for table in JOB_OF:
        op.execute(f"DROP TRIGGER {table}_no_delete")
        op.execute(
            f"CREATE TRIGGER {table}_no_delete BEFORE DELETE ON {table} "
            f"BEGIN SELECT RAISE(ABORT, '{table} are only ever added to'); END"
        )
    for name in ("archived_at", "binned_at"):
        op.drop_index(f"ix_jobs_{name}", "jobs")
    op.drop_column("jobs", "binned_at")
    op.drop_column("jobs", "archived_at")
