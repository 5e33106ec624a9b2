"""Signed sheets: frozen with what judged them, and only ever added to"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    op.create_table(
        "signatures",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("token", sa.String(64), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("by", sa.String(8), nullable=False),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("changed", sa.String(300), nullable=False),
        sa.Column("rules", sa.String(40), nullable=False),
        sa.Column("judged", sa.JSON(), nullable=False),
        sa.Column("exceptions", sa.JSON(), nullable=False),
        sa.Column("page", sa.Text(), nullable=False),
        sa.Column("digest", sa.String(64), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_signatures"),
        sa.ForeignKeyConstraint(["job_id"], ["jobs.id"], name="fk_signatures_job_id"),
        sa.UniqueConstraint("token", name="uq_signatures_token"),
        sa.UniqueConstraint("job_id", "revision", name="uq_signatures_job_id_revision"),
    )
    for act in ("UPDATE", "DELETE"):
        op.execute(
            f"CREATE TRIGGER signatures_no_{act.lower()} BEFORE {act} ON signatures "
            "BEGIN SELECT RAISE(ABORT, 'signatures are only ever added to'); END"
        )


def downgrade() -> None:
    op.drop_table("signatures")
