"""A wheel that was moved, and a cam moved to a position, are acts like all others"""

import json

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
GUARD = (
    "CREATE TRIGGER readings_no_update BEFORE UPDATE ON readings "
    "BEGIN SELECT RAISE(ABORT, 'readings are only ever added to'); END"
)
CAMS = {"try": "both", "try-intake": "intake", "try-exhaust": "exhaust"}


def upgrade() -> None:
    connection = op.get_bind()
    written = connection.execute(
        sa.text(
            "SELECT id, job_id, station, slot, text, note FROM readings WHERE slot LIKE 'act.%' OR "
            "(station = 'tdc' AND slot = 'moved') OR (station = 'adjust' AND slot LIKE 'try%.chosen') ORDER BY job_id, seq"
        )
    ).all()
    taken: dict[tuple[int, str], int] = {}
    for row in written:
        if row.slot.startswith("act."):
            key = (row.job_id, row.station)
            taken[key] = max(taken.get(key, 0), int(row.slot.split(".")[1]))
    op.execute("DROP TRIGGER readings_no_update")
    for row in written:
        if row.slot.startswith("act."):
            continue
        key = (row.job_id, row.station)
        taken[key] = taken.get(key, 0) + 1
        kind, text, note = act_of(row.slot, row.text, row.note)
        connection.execute(
            sa.text("UPDATE readings SET slot = :slot, text = :text, note = :note WHERE id = :id"),
            {"slot": f"act.{taken[key]}.{kind}", "text": text, "note": note, "id": row.id},
        )
    op.execute(GUARD)


def act_of(slot: str, text: str, note: str | None) -> tuple[str, str, str | None]:
    """The kind, the words and the note of the act that an earlier program wrote as a reading."""
    if slot == "moved":
        return "wheel-moved", "done", note
    try:
        shift, moves = float(text), json.loads(note or "[]")
    except ValueError:
        # From a file, and voided: it stays as it was typed, an act of which nothing more is known.
        return "cam-moved", text, None
    position = {"cam": CAMS[slot.split(".")[0]], "shift_deg": shift, "moves": moves}
    words = f"{'retard' if shift < 0 else 'advance'} {abs(shift):.4g}"
    return "cam-moved", words, json.dumps(position, ensure_ascii=False)


def downgrade() -> None:
    raise NotImplementedError("A shop's file is copied before it is migrated: put the copy back.")
