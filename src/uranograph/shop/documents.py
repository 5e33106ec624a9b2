"""Signed documents, stored as the bytes that were signed and never regenerated."""

import hashlib
import json
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import Any

FORMAT, VERSION = "uranograph-signed", 3
# What entries of job files up to version 3 always had: in documents made of those, only these are there where they are empty.
ALWAYS = {
    "sheet": ("type", "seq", "kind", "typed", "by", "at"),
    "reading": (
        *("type", "seq", "station", "slot", "text", "side", "approach", "drop"),
        *("unit", "instrument", "note", "picture", "by", "at"),
    ),
    "act": ("type", "seq", "kind", "station", "what", "scope", "cam", "moves", "shift_deg", "by", "at"),
    "void": ("type", "seq", "of", "reason", "by", "at"),
}


def canonical(document: Mapping[str, Any]) -> str:
    """A document as text: names in order, no spaces, letters as they are.

    Examples
    --------
    >>> canonical({"b": 1, "a": ["é"]})
    '{"a":["é"],"b":1}'
    """
    return json.dumps(document, sort_keys=True, separators=(",", ":"), ensure_ascii=False)


def digest_of(text: str) -> str:
    """SHA-256 of a document's text in UTF-8, 64 hexadecimal digits.

    References
    ----------
    FIPS 180-4.
    """
    return hashlib.sha256(text.encode()).hexdigest()


def entry(data: Mapping[str, Any]) -> dict[str, Any]:
    """An entry of job files up to version 3 as written in a document: its original fields, and others if not empty."""
    always = ALWAYS[data["type"]]
    return {name: value for name, value in data.items() if name in always or value is not None}


def made(
    entries: Sequence[Mapping[str, Any]],
    signed: Mapping[str, Any],
    page_digest: str,
    supersedes: str,
    more: Mapping[str, Any],
) -> str:
    """The text of a document.

    Parameters
    ----------
    entries
        The log up to what is signed, each entry as `entry` gives it.
    signed
        `revision`, `by`, `name`, `at`, `changed`, `rules`, `exceptions` and `judged`.
    page_digest
        SHA-256 of the page as it is frozen.
    supersedes
        Digest of the job's revision before; empty for its first.
    more
        What documents have beyond those of version 1: `title`, `limits` and `before` since version 2, `entries_version`
        since version 3; nothing for version 1.
    """
    at = signed["at"]
    document = {
        "format": FORMAT,
        "entries": list(entries),
        **{name: signed[name] for name in ("judged", "revision", "by", "name", "changed", "rules", "exceptions")},
        "at": at.astimezone(UTC).isoformat() if isinstance(at, datetime) else at,
        "page": page_digest,
        "supersedes": supersedes,
    }
    if more:
        document |= {"version": VERSION, **more}
    return canonical(document)


def same_entries(then: Sequence[Mapping[str, Any]], now: Sequence[Mapping[str, Any]]) -> bool:
    """Whether a log still says what it said when it was signed, both in the form of today.

    Fields that came since are no change as long as they are empty; of a picture its digest counts.
    """
    return [_bare(entry) for entry in then] == [_bare(entry) for entry in now]


def _bare(value: Any) -> Any:
    """Fields of the document, without empty ones."""
    if isinstance(value, Mapping):
        found = {name: _bare(each) for name, each in value.items() if name != "data"}
        return {name: each for name, each in found.items() if each not in (None, "", [], {})}
    return [_bare(each) for each in value] if isinstance(value, list) else value


def parts_of(document: Mapping[str, Any]) -> dict[str, Any]:
    """Contents of a document besides its entries: signer, findings, page, superseded revision, and the job's name from version 2 on."""
    names = ("judged", "revision", "by", "name", "at", "changed", "rules", "exceptions", "page", "supersedes")
    return {name: document[name] for name in (*names, *(("title",) if document.get("version", 1) > 1 else ()))}
