"""One log: forms, readings, voids and pictures become entries, each in the form that it was written in"""

import hashlib
import json
from collections.abc import Iterator
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
# Entries keep the form that they had when tables were at revision 0008.
VERSION = 3
LONG_BINNED = "SELECT 1 FROM jobs WHERE jobs.id = OLD.job_id AND jobs.binned_at <= datetime('now', '-30 days')"


def upgrade() -> None:
    op.create_table(
        "pictures",
        sa.Column("digest", sa.String(64), nullable=False),
        sa.Column("media_type", sa.String(16), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.PrimaryKeyConstraint("digest", name="pk_pictures"),
    )
    op.create_table(
        "entries",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("station", sa.String(24), nullable=False),
        sa.Column("payload", sa.JSON(), nullable=False),
        sa.Column("picture", sa.String(64), nullable=True),
        sa.Column("token", sa.String(64), nullable=True),
        sa.Column("by", sa.String(8), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_entries"),
        sa.ForeignKeyConstraint(["job_id"], ["jobs.id"], name="fk_entries_job_id"),
        sa.ForeignKeyConstraint(["picture"], ["pictures.digest"], name="fk_entries_picture"),
        sa.UniqueConstraint("job_id", "seq", name="uq_entries_job_id_seq"),
        sa.UniqueConstraint("token", name="uq_entries_token"),
    )
    op.create_index("ix_entries_picture", "entries", ["picture"], sqlite_where=sa.text("picture IS NOT NULL"))
    _bring_over(op.get_bind())
    for table in ("photos", "voids", "readings", "sheets"):
        op.drop_table(table)
    for table in ("entries", "pictures"):
        op.execute(
            f"CREATE TRIGGER {table}_no_update BEFORE UPDATE ON {table} "
            f"BEGIN SELECT RAISE(ABORT, '{table} are only ever added to'); END"
        )
    op.execute(
        f"CREATE TRIGGER entries_no_delete BEFORE DELETE ON entries WHEN NOT EXISTS ({LONG_BINNED}) "
        "BEGIN SELECT RAISE(ABORT, 'entries are only ever added to'); END"
    )
    op.execute(
        "CREATE TRIGGER pictures_no_delete BEFORE DELETE ON pictures "
        "WHEN EXISTS (SELECT 1 FROM entries WHERE entries.picture = OLD.digest) "
        "BEGIN SELECT RAISE(ABORT, 'pictures are only ever added to'); END"
    )


def downgrade() -> None:
    raise NotImplementedError(
        "A log of entries is not taken apart again: put back the copy that was kept beside the file."
    )


INSERT = sa.text(
    "INSERT INTO entries (id, job_id, seq, kind, version, station, payload, picture, token, by, at) "
    "VALUES (:id, :job_id, :seq, :kind, 3, :station, :payload, :picture, :token, :by, :at)"
)


def _bring_over(bind: Any) -> None:
    pictures: dict[int, tuple[str, str]] = {}
    for number, kind, data in bind.execute(sa.text("SELECT reading_id, media_type, data FROM photos")).all():
        digest = hashlib.sha256(data).hexdigest()
        pictures[number] = (digest, kind)
        bind.execute(
            sa.text("INSERT OR IGNORE INTO pictures (digest, media_type, data) VALUES (:digest, :kind, :data)"),
            {"digest": digest, "kind": kind, "data": data},
        )
    # A reading keeps its number: pages that were signed name pictures by it.
    last = bind.execute(sa.text("SELECT coalesce(max(id), 0) FROM readings")).scalar()
    for rows in _in_parts(_readings(bind, pictures)):
        bind.execute(INSERT, rows)
    for rows in _in_parts(_others(bind, last)):
        bind.execute(INSERT, rows)


def _in_parts(rows: Iterator[dict[str, Any]], size: int = 1000) -> Iterator[list[dict[str, Any]]]:
    part: list[dict[str, Any]] = []
    for row in rows:
        part.append(row)
        if len(part) == size:
            yield part
            part = []
    if part:
        yield part


def _readings(bind: Any, pictures: dict[int, tuple[str, str]]) -> Iterator[dict[str, Any]]:
    for row in bind.execute(sa.text("SELECT * FROM readings ORDER BY id")).mappings():
        of_all = {name: row[name] for name in ("id", "job_id", "seq", "station", "token", "by", "at")}
        first, _, rest = row["slot"].partition(".")
        picture = pictures.get(row["id"])
        if first == "act":
            kind, payload = "act", _act(row, rest.partition(".")[2])
        else:
            names = ("slot", "text", "side", "approach", "drop", "unit", "instrument", "note")
            kind, payload = "reading", {name: row[name] for name in names if row[name] is not None}
            if picture is not None:
                payload |= {"picture_digest": picture[0], "media_type": picture[1]}
        yield of_all | {"kind": kind, "payload": _json(payload), "picture": picture[0] if picture else None}


def _act(row: Any, kind: str) -> dict[str, Any]:
    note = row["note"]
    noted = json.loads(note) if note and note.startswith("{") else {"scope": note} if note else {}
    plain = "done"
    if "moves" in noted:
        shift = noted["shift_deg"]
        plain = f"{'retard' if shift < 0 else 'advance'} {abs(shift):.4g}"
    names = ("scope", "of", "gear", "teeth", "way", "cam", "moves", "shift_deg")
    return {
        "kind": kind,
        "what": "" if row["text"] == plain else row["text"],
        **{name: noted[name] for name in names if noted.get(name) is not None},
    }


def _others(bind: Any, last: int) -> Iterator[dict[str, Any]]:
    number = last
    none = {"station": "", "picture": None, "token": None}
    for row in bind.execute(sa.text("SELECT * FROM sheets ORDER BY id")).mappings():
        number += 1
        payload = {"kind": row["kind"], "typed": json.loads(row["typed"])}
        of_all = {name: row[name] for name in ("job_id", "seq", "by", "at")}
        yield none | of_all | {"id": number, "kind": "sheet", "payload": _json(payload)}
    voids = "SELECT v.*, r.job_id, r.seq AS of FROM voids v JOIN readings r ON r.id = v.reading_id ORDER BY v.seq"
    for row in bind.execute(sa.text(voids)).mappings():
        number += 1
        payload = {"of": row["of"], "reason": row["reason"]}
        of_all = {name: row[name] for name in ("job_id", "seq", "by", "at")}
        yield none | of_all | {"id": number, "kind": "void", "payload": _json(payload)}


def _json(payload: dict[str, Any]) -> str:
    return json.dumps(payload, ensure_ascii=False)
