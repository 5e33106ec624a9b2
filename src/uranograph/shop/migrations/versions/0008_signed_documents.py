"""What was signed is kept as the bytes it was made from; signatures are counted outside their table; the shop's own log"""

import base64
import hashlib
import json
from datetime import datetime
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    for name, kind in (
        ("signed", sa.Text()),
        ("seal", sa.String(128)),
        ("key_id", sa.String(64)),
        ("page_digest", sa.String(64)),
        ("title", sa.String(120)),
    ):
        op.add_column("signatures", sa.Column(name, kind, nullable=True))
    op.create_table(
        "heads",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_key", sa.String(16), nullable=False),
        sa.Column("title", sa.String(120), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("digest", sa.String(64), nullable=False),
        sa.Column("seal", sa.String(128), nullable=False),
        sa.Column("key_id", sa.String(64), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_heads"),
    )
    op.create_table(
        "shop_log",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("by", sa.String(8), nullable=False),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("old", sa.Text(), nullable=False),
        sa.Column("new", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_shop_log"),
    )
    op.create_index("ix_shop_log_kind_name", "shop_log", ["kind", "name"])
    op.execute("DROP TRIGGER signatures_no_update")
    _freeze(op.get_bind())
    for table in ("signatures", "heads", "shop_log"):
        for act in ("UPDATE", "DELETE"):
            if (table, act) != ("signatures", "DELETE"):
                op.execute(
                    f"CREATE TRIGGER {table}_no_{act.lower()} BEFORE {act} ON {table} "
                    f"BEGIN SELECT RAISE(ABORT, '{table} are only ever added to'); END"
                )


def downgrade() -> None:
    op.drop_table("heads")
    op.drop_table("shop_log")
    for name in ("signed", "seal", "key_id", "page_digest", "title"):
        op.drop_column("signatures", name)


def _freeze(bind: Any) -> None:
    """Keep of every signature the bytes that its digest was made from, by the recipe of that time."""
    rows = bind.execute(
        sa.text(
            "SELECT s.*, j.key, j.title AS job_title FROM signatures s JOIN jobs j ON j.id = s.job_id ORDER BY s.id"
        )
    ).mappings()
    before: dict[int, str] = {}
    for row in list(rows):
        entries = [entry for entry in _entries(bind, row["job_id"]) if entry["seq"] <= row["seq"]]
        page_digest = hashlib.sha256(row["page"].encode()).hexdigest()
        document = {
            "format": "uranograph-signed",
            "entries": entries,
            "judged": json.loads(row["judged"]),
            **{name: row[name] for name in ("revision", "by", "name", "changed", "rules")},
            "at": _moment(row["at"]).isoformat() + "+00:00",
            "exceptions": json.loads(row["exceptions"]),
            "page": page_digest,
            "supersedes": before.get(row["job_id"], ""),
        }
        text = json.dumps(document, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
        # Where the bytes do not give the digest, it was changed before this; that it does not hold is told by `check`.
        before[row["job_id"]] = row["digest"]
        bind.execute(
            sa.text("UPDATE signatures SET signed = :signed, page_digest = :page, title = :title WHERE id = :id"),
            {"signed": text, "page": page_digest, "title": row["job_title"], "id": row["id"]},
        )
        bind.execute(
            sa.text(
                "INSERT INTO heads (job_key, title, revision, digest, seal, key_id) VALUES (:key, :title, :revision, :digest, '', '')"
            ),
            {"key": row["key"], "title": row["job_title"], "revision": row["revision"], "digest": row["digest"]},
        )


def _moment(text: Any) -> datetime:
    return datetime.fromisoformat(str(text))


def _json_moment(text: Any) -> str:
    return _moment(text).isoformat() + "Z"


def _entries(bind: Any, job_id: int) -> list[dict[str, Any]]:
    """A job's log as documents had it when tables were at revision 0007."""
    found: list[dict[str, Any]] = []
    for row in bind.execute(sa.text("SELECT * FROM sheets WHERE job_id = :id"), {"id": job_id}).mappings():
        found.append(
            {
                "type": "sheet",
                **{name: row[name] for name in ("seq", "kind", "by")},
                "typed": json.loads(row["typed"]),
                "at": _json_moment(row["at"]),
            }
        )
    pictures = dict(
        bind.execute(
            sa.text(
                "SELECT p.reading_id, p.data FROM photos p JOIN readings r ON r.id = p.reading_id WHERE r.job_id = :id"
            ),
            {"id": job_id},
        ).all()
    )
    seq_of: dict[int, int] = {}
    for row in bind.execute(sa.text("SELECT * FROM readings WHERE job_id = :id"), {"id": job_id}).mappings():
        seq_of[row["id"]] = row["seq"]
        act = row["slot"].split(".", 2)
        if act[0] == "act":
            found.append(_act(row, act[2]))
            continue
        names = ("seq", "station", "slot", "text", "side", "approach", "drop", "unit", "instrument", "note", "by")
        data = pictures.get(row["id"])
        found.append(
            {
                "type": "reading",
                **{name: row[name] for name in names},
                "picture": None if data is None else base64.b64encode(data).decode(),
                "at": _json_moment(row["at"]),
            }
        )
    voids = "SELECT v.* FROM voids v JOIN readings r ON r.id = v.reading_id WHERE r.job_id = :id"
    for row in bind.execute(sa.text(voids), {"id": job_id}).mappings():
        found.append(
            {
                "type": "void",
                **{name: row[name] for name in ("seq", "reason", "by")},
                "of": seq_of[row["reading_id"]],
                "at": _json_moment(row["at"]),
            }
        )
    return sorted(found, key=lambda entry: entry["seq"])


def _act(row: Any, kind: str) -> dict[str, Any]:
    note = row["note"]
    noted = json.loads(note) if note and note.startswith("{") else {"scope": note} if note else {}
    shift = noted.get("shift_deg") or 0.0
    plain = "done"
    if "moves" in noted:
        plain = f"{'retard' if shift < 0 else 'advance'} {abs(shift):.4g}"
    moves = [
        {
            "name": move.get("name", ""),
            "adjuster": move.get("adjuster"),
            "from": move["from"],
            "to": move["to"],
            "shift_deg": float(move["shift_deg"]),
        }
        for move in noted.get("moves", ())
    ]
    since = {name: noted[name] for name in ("of", "gear", "teeth", "way") if noted.get(name) is not None}
    return {
        "type": "act",
        **{name: row[name] for name in ("seq", "station", "by")},
        "kind": kind,
        "what": "" if row["text"] == plain else row["text"],
        "scope": noted.get("scope"),
        "cam": noted.get("cam"),
        "moves": moves if "moves" in noted else None,
        "shift_deg": None if shift is None else float(shift),
        "at": _json_moment(row["at"]),
        **since,
    }
