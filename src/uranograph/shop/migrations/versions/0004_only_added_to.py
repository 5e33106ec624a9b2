"""What is written is only ever added to, by the file itself; and the file says whose it is"""

from alembic import op

revision = "0004"
down_revision = "0003"
TABLES = ("sheets", "readings", "voids", "photos", "library", "house")
APPLICATION_ID = 0x5552414E


def upgrade() -> None:
    for table in TABLES:
        for act in ("UPDATE", "DELETE"):
            op.execute(
                f"CREATE TRIGGER {table}_no_{act.lower()} BEFORE {act} ON {table} "
                f"BEGIN SELECT RAISE(ABORT, '{table} are only ever added to'); END"
            )
    op.execute(f"PRAGMA application_id = {APPLICATION_ID}")


def downgrade() -> None:
    for table in TABLES:
        for act in ("update", "delete"):
            op.execute(f"DROP TRIGGER {table}_no_{act}")
    op.execute("PRAGMA application_id = 0")
