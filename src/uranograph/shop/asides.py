"""Beside the readings of a station: why it is passed over, that something was changed, and pictures."""

import hashlib
from collections.abc import Mapping
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph.bench.acts import ACTS, Act, checked_details
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Acceptance, Change, Note, Picture, Skip
from uranograph.core.errors import InvalidInput
from uranograph.instruments import capture
from uranograph.shop import jobs, loading
from uranograph.shop.lengths import MAX_LENGTH
from uranograph.shop.tables import EntryRow, JobRow, PictureRow
from uranograph.stations import ORDER

LARGEST_PHOTO = 3_000_000
MAX_PHOTOS = 16
# Captures of what instruments said, beside the pictures.
MAX_CAPTURES, CAPTURE = 60, "application/jsonl"
MAX_REASON_LENGTH = 300
PNG, JPEG = b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff"


def skip(session: Session, key: str, stations: list[str], reason: str, by: str, at: datetime | None = None) -> None:
    """Pass stations over, with a reason.

    Parameters
    ----------
    session
        A writing session.
    key, stations
        The job, and keys of the stations; the engine cannot be skipped.
    reason, by, at
        Why, by whom, and when; now unless given.

    Raises
    ------
    InvalidInput
        When no reason is given or it is too long, or the initials are missing.
    NoSuchJob
        When there is no such job.
    """
    reason = reason.strip()
    if not reason:
        raise InvalidInput("reason", "reason-missing")
    if len(reason) > MAX_REASON_LENGTH:
        raise InvalidInput("reason", "reason-too-long", count=len(reason), longest=MAX_REASON_LENGTH)
    job = loading.load(session, key)
    for station in stations:
        if station not in ORDER.by_key or not ORDER.by_key[station].skippable:
            raise InvalidInput("reason", "never-skipped")
        if job.skipped(station) is None:
            jobs.annotate(session, key, Skip(station=station, reason=reason), by, at)


def change(
    session: Session, key: str, station: str, what: str, by: str, token: str | None = None, at: datetime | None = None
) -> None:
    """Record a change that invalidates this station's readings, so that they are taken again.

    Parameters
    ----------
    session
        A writing session.
    key, station
        The job and the station whose readings it ends.
    what
        What was done, such as `shaft trued`, up to 64 letters.
    by, at
        Who did it, and when; now unless given.
    token
        Generated for each form rendered; a repeated token writes only one change.

    Raises
    ------
    InvalidInput
        When nothing is said, or nothing was read that it could end.
    NoSuchJob
        When there is no such job.
    """
    what = what.strip()
    if not what:
        raise InvalidInput("what", "done-missing")
    if len(what) > MAX_LENGTH["text"]:
        raise InvalidInput("what", "done-too-long", longest=MAX_LENGTH["text"])
    job = loading.load(session, key)
    if station not in ORDER.by_key or not ORDER.by_key[station].takes_notes_of_change:
        raise InvalidInput("what", "change-said-elsewhere")
    if not job.active_readings(station) and not jobs.taken(session, token):
        raise InvalidInput("what", "nothing-to-end")
    jobs.annotate(session, key, Change(station=station, what=what), by, at, token)


def act(
    session: Session,
    key: str,
    station: str,
    kind: str,
    what: str,
    by: str,
    token: str | None = None,
    at: datetime | None = None,
    scope: str = "",
    details: Mapping[str, object] | None = None,
) -> None:
    """Record an act on engine or set-up; readings that rest on what it disturbs are taken again.

    Parameters
    ----------
    session
        A writing session.
    key, station
        The job, and the station where it is said.
    kind
        One of `ACTS`.
    what
        More about it, up to 64 letters; it can be empty.
    by, at
        Who did it, and when; now unless given.
    token
        Generated for each form rendered; a repeated token writes only one act.
    scope
        What it was done to, such as one shaft, at a station where that can be told; or the number in the log of the
        station's first reading after it, where it was found out later.
    details
        What more is known of it, see `acts.checked_details`.

    Raises
    ------
    InvalidInput
        When there is no such act or station, or a detail cannot be.
    NoSuchJob
        When there is no such job.
    """
    what = what.strip()
    if kind not in ACTS:
        raise InvalidInput("what", "act-missing")
    if len(what) > MAX_LENGTH["text"]:
        raise InvalidInput("what", "done-too-long", longest=MAX_LENGTH["text"])
    if station not in ORDER.by_key:
        raise InvalidInput("what", "no-such-station")
    job = loading.load(session, key)
    where = ORDER.by_key[station]
    views = where.views(job) if where.acts_by_view else {}
    scope = scope or where.acts_on
    known = {
        *views,
        where.acts_on,
        *(str(reading.seq) for reading in job.active_readings(station) if "wheel" in ACTS[kind].disturbs),
    }
    if scope and scope not in known:
        raise InvalidInput("what", "changed-elsewhere")
    since = int(scope) if scope.isdecimal() and scope.isascii() and scope not in views else None
    done = Act(
        station=station,
        kind=kind,
        what=what,
        scope=scope if scope and since is None else None,
        since=since,
        **checked_details(kind, details or {}),
    )
    jobs.annotate(session, key, done, by, at, token)


def note(
    session: Session,
    key: str,
    station: str,
    words: str,
    by: str,
    about: int | None = None,
    token: str | None = None,
    at: datetime | None = None,
) -> None:
    """Write a note in free words beside a station's readings.

    Parameters
    ----------
    session
        A writing session.
    key, station
        The job and the station it belongs to; a note of the whole job belongs to the first.
    words
        Up to 2,000 letters.
    by, at
        Who wrote it, and when; now unless given.
    about
        The number in the log of the reading it is about, where it is about one.
    token
        Generated for each form rendered; a repeated token writes only one note.

    Raises
    ------
    InvalidInput
        When nothing is written or too much, or there is no such station or reading.
    """
    words = words.strip()
    if not words:
        raise InvalidInput("words", "note-missing")
    if len(words) > MAX_LENGTH["note"]:
        raise InvalidInput("words", "reason-too-long", count=len(words), longest=MAX_LENGTH["note"])
    job = loading.load(session, key)
    if station not in ORDER.by_key:
        raise InvalidInput("words", "no-such-station")
    if about is not None and all(entry.seq != about for entry in job.entries):
        raise InvalidInput("words", "no-such-reading")
    jobs.annotate(session, key, Note(station=station, words=words, about=about), by, at, token)


def accept(
    session: Session, key: str, station: str, reason: str, by: str, token: str | None = None, at: datetime | None = None
) -> None:
    """Accept what a station found as it is, though it is out or cannot be told; the verdict stays what it is.

    Raises
    ------
    InvalidInput
        When no reason is given, or the station finds nothing that would have to be accepted.
    """
    reason = reason.strip()
    if not reason:
        raise InvalidInput("because", "because-missing")
    if len(reason) > MAX_REASON_LENGTH:
        raise InvalidInput("because", "reason-too-long", count=len(reason), longest=MAX_REASON_LENGTH)
    job = loading.load(session, key)
    found = ORDER.overview(job).get(station)
    if jobs.taken(session, token):
        return
    if found is None or found.verdict not in (Verdict.OUT, Verdict.UNSURE):
        raise InvalidInput("because", "nothing-to-accept")
    was = (found.title or found.sentence)[: MAX_LENGTH["text"]]
    jobs.annotate(session, key, Acceptance(station=station, was=was, reason=reason), by, at, token)


def attach(
    session: Session,
    key: str,
    station: str,
    caption: str,
    data: bytes,
    by: str,
    token: str | None = None,
    at: datetime | None = None,
) -> None:
    """Keep a picture with a job, or a capture of what instruments said.

    Parameters
    ----------
    session
        A writing session.
    key, station
        The job and the station it belongs to.
    caption
        What it shows, up to 64 letters.
    data
        The file, a PNG, a JPEG or a capture by its own contents; its name is never asked.
    by, at
        Who took it, and when; now unless given.
    token
        Generated for each form rendered; a repeated token writes only one.

    Raises
    ------
    InvalidInput
        When it is none of these, or too large, or there are too many.
    """
    kind = attached_type(data)
    is_capture = kind == CAPTURE
    caption = caption.strip() or ("capture" if is_capture else "picture")
    if len(caption) > MAX_LENGTH["text"]:
        raise InvalidInput("caption", "done-too-long", longest=MAX_LENGTH["text"])
    job = loading.load(session, key)
    if station not in ORDER.by_key:
        raise InvalidInput("photo", "no-such-station")
    there = sum(isinstance(entry, Picture) and entry.is_capture == is_capture for entry in job.entries)
    if is_capture and there >= MAX_CAPTURES:
        raise InvalidInput("photo", "too-many-captures", most_photos=MAX_CAPTURES)
    if not is_capture and there >= MAX_PHOTOS:
        raise InvalidInput("photo", "too-many-pictures", most_photos=MAX_PHOTOS)
    digest = keep_picture(session, data)
    picture = Picture(station=station, caption=caption, media_type=kind, digest=digest)
    jobs.annotate(session, key, picture, by, at, token)


def has_room_for_capture(job: Job) -> bool:
    """Whether one more capture can be kept with a job."""
    return sum(isinstance(entry, Picture) and entry.is_capture for entry in job.entries) < MAX_CAPTURES


def keep_picture(session: Session, data: bytes) -> str:
    """Keep the bytes of a picture or a capture, once, and say their SHA-256.

    Raises
    ------
    InvalidInput
        When it is neither, or too large.
    """
    kind, digest = attached_type(data), hashlib.sha256(data).hexdigest()
    if session.get(PictureRow, digest) is None:
        session.add(PictureRow(digest=digest, media_type=kind, data=data))
        session.flush()
    return digest


def attached_type(data: bytes) -> str:
    """Tell what is attached by its contents: a picture, or a capture of what instruments said.

    Raises
    ------
    InvalidInput
        When it is neither, or is too large.

    Examples
    --------
    >>> attached_type(b'{"t": 0.0, "raw": "+1.2 mm"}\\n')
    'application/jsonl'
    """
    if not data.startswith(b"{"):
        return media_type(data)
    if len(data) > LARGEST_PHOTO:
        raise InvalidInput("photo", "picture-too-large", megabytes=LARGEST_PHOTO // 1000000)
    try:
        found = list(capture.read(data.decode("utf-8")))
    except (UnicodeDecodeError, InvalidInput) as error:
        raise InvalidInput("photo", "not-a-capture") from error
    if not found:
        raise InvalidInput("photo", "not-a-capture")
    return CAPTURE


def media_type(data: bytes) -> str:
    """Tell a picture's kind by its contents.

    Raises
    ------
    InvalidInput
        When it is neither PNG nor JPEG with a size in it, or is too large.

    Examples
    --------
    >>> media_type(PNG + b"\\0\\0\\0\\rIHDR" + b"\\0\\0\\0\\x01" * 2 + b"\\x08\\0\\0\\0\\0")
    'image/png'
    """
    if len(data) > LARGEST_PHOTO:
        raise InvalidInput("photo", "picture-too-large", megabytes=LARGEST_PHOTO // 1000000)
    if data.startswith(PNG) and data[12:16] == b"IHDR" and all(_at(data, at) for at in (16, 20)):
        return "image/png"
    if data.startswith(JPEG) and _jpeg_has_size(data):
        return "image/jpeg"
    raise InvalidInput("photo", "not-a-picture")


def _at(data: bytes, place: int) -> bool:
    return 0 < int.from_bytes(data[place : place + 4], "big") < 100_000


def _jpeg_has_size(data: bytes) -> bool:
    """Walk the segments to the frame header that every JPEG has."""
    place = 2
    while place + 9 < len(data) and data[place] == 0xFF:
        marker = data[place + 1]
        if 0xC0 <= marker <= 0xCF and marker not in (0xC4, 0xC8, 0xCC):
            return data[place + 5 : place + 9] != bytes(4)
        place += 2 + int.from_bytes(data[place + 2 : place + 4], "big")
    return False


def photo(session: Session, key: str, entry_id: int) -> tuple[str, bytes]:
    """A picture's kind and contents.

    Raises
    ------
    NoSuchJob
        When this job has no such picture.
    """
    found = session.execute(
        select(PictureRow.media_type, PictureRow.data)
        .join(EntryRow, EntryRow.picture == PictureRow.digest)
        .join(JobRow, JobRow.id == EntryRow.job_id)
        .where(JobRow.key == key, EntryRow.id == entry_id)
    ).first()
    if found is None:
        raise loading.NoSuchJob(key)
    return found.media_type, found.data
