"""An index of the forms that say whom a job is for, so that the list can be sorted and searched by customer"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
IS_PARTICULARS = "kind = 'sheet' AND json_extract(payload, '$.kind') = 'particulars'"


def upgrade() -> None:
    op.create_index("ix_entries_particulars", "entries", ["job_id", "seq"], sqlite_where=sa.text(IS_PARTICULARS))


def downgrade() -> None:
    op.drop_index("ix_entries_particulars", "entries")
