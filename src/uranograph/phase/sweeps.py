"""Degree by a full sweep: lift read every few degrees round a lobe."""

import csv
import io
import itertools
import re
from collections.abc import Mapping
from dataclasses import replace

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.slots import slot_of
from uranograph.core.angles import near
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, parse_angle, parse_length
from uranograph.core.sweep import MIN_POINTS
from uranograph.core.wheel import as_read
from uranograph.engine.cams import KEY, LOBES, USUAL_CENTERLINE_DEG, card_centerline
from uranograph.engine.degree_wheel import crank_angle, wheel_of
from uranograph.engine.tdc import check_reader
from uranograph.phase import sweep_tables
from uranograph.phase.messages import say
from uranograph.phase.sweep_points import FROM_FILE, KIND, POINT, swept

USUAL_STEP_DEG = 10.0
MAX_ROWS = 5000
_HEADER = re.compile(r"^\s*(angle|lift)\s*(?:[_ ]?\(?\s*(deg|degrees|mm|in|inch|thou)\s*\)?)?\s*$", re.IGNORECASE)


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Name the next point: the angle advances automatically, so only the lift is typed."""
    mounted = wheel_of(job)
    if mounted is None:
        return None
    lobe = query.get("lobe", "")
    taken = [reading for reading in POINT.taken(job) if reading.instrument != FROM_FILE]
    taken = [reading for reading in taken if reading.approach == "forward"] or taken
    if lobe not in LOBES:
        lobe = taken[-1].spot.kind.removeprefix("sweep-") if taken else "intake"
    own = [reading for reading in taken if reading.spot.kind == KIND[lobe]]
    step = _step(query.get("step", ""), own, job)
    again = next((reading for reading in own if query.get("again") == str(reading.seq)), None)
    if again is not None:
        shown = crank_angle(mounted, again.text, again.side)
    elif own:
        shown = crank_angle(mounted, own[-1].text, own[-1].side) + step
    else:
        middle = card_centerline(job, lobe)
        shown = (USUAL_CENTERLINE_DEG[lobe] if middle is None else middle) - 150
        shown = round(shown / step) * step
    value, side = as_read(mounted.wheel, shown)
    words = f"{value:g}{f' {side.value.upper()}' if side else ''}"
    return Prompt(
        slot=POINT.next(job, KIND[lobe]),
        label=f"{lobe.capitalize()} lift at {words}",
        instruction=say("read-sweep-at", words=words),
        hint=say("sweep-forward-only"),
        side=side.value if side else None,
        second="",
        by_wheel=True,
        leads="second",
        unit=job.unit.value,
        extra={"lobe": lobe, "step": f"{step:g}", "angle": f"{value:g}"},
    )


def _step(text: str, own: list[Reading], job: Job) -> float:
    try:
        step = parse_angle(text) if text else 0.0
    except InvalidInput:
        step = 0.0
    if 0 < step <= 45:
        return step
    mounted = wheel_of(job)
    if len(own) > 1 and mounted is not None:
        try:
            one, two = (crank_angle(mounted, r.text, r.side) for r in own[-2:])
        except InvalidInput:
            return USUAL_STEP_DEG
        gap = near(two - one, 10)
        if 0 < gap <= 45:
            return round(gap, 6)
    return USUAL_STEP_DEG


def accept(job: Job, entry: Entry) -> None:
    """Refuse a point that cannot be.

    Raises
    ------
    InvalidInput
        With the field at fault: `text`, `side` or `second`.
    """
    lobe = entry.spot.kind.removeprefix("sweep-")
    try:
        lift = parse_length(entry.second or "", entry.unit)
    except InvalidInput as error:
        raise error.at("second") from error
    if not -2 <= lift <= 40:
        raise InvalidInput("second", "not-a-swept-lift", drop=entry.second)
    if entry.instrument == FROM_FILE:
        return
    mounted = wheel_of(job)
    if mounted is None:
        raise InvalidInput("text", "wheel-missing")
    angle = crank_angle(mounted, entry.text, entry.side)
    check_reader(job, entry)
    standing = [r for r in POINT.taken(job, KIND[lobe]) if r.instrument != FROM_FILE]
    swept_lobe = swept(job, lobe)
    odd = {reading.seq for reading, _ in swept_lobe.suspects} if swept_lobe else set()
    same_way = [r for r in standing if r.approach == entry.approach]
    if any(crank_angle(mounted, r.text, r.side) == angle and r.seq not in odd for r in same_way):
        raise InvalidInput("text", "lift-there-already", typed=entry.text)


def read_csv(text: str, lobe: str, first_number: int) -> list[Entry]:
    """Read a sweep from CSV text with the columns `angle,lift`.

    Parameters
    ----------
    text
        First line names the columns and their units: `angle_deg,lift_mm`, `angle (deg),lift (in)`; then one point
        a line, crank degrees about overlap TDC (negative before), lift. Comma, semicolon or tab between them.
    lobe
        `intake` or `exhaust`.
    first_number
        Of the first point.

    Returns
    -------
    list
        One entry a point.

    Raises
    ------
    InvalidInput
        Naming the line: wrong columns, a unit missing or mixed, a gap, a repeated angle, or text that is no number.

    Examples
    --------
    >>> [entry.second for entry in read_csv("angle_deg,lift_mm\\n-10,0.9\\n-5,1.3", "intake", 1)]
    ['0.9mm', '1.3mm']
    """
    lines = [line for line in text.replace("\r\n", "\n").replace("\r", "\n").split("\n") if line.strip()]
    if not lines:
        raise InvalidInput("csv", "sweep-file-empty")
    if len(lines) > MAX_ROWS:
        raise InvalidInput("csv", "sweep-file-too-long", count=len(lines), most_rows=MAX_ROWS)
    between = next((mark for mark in (";", "\t", ",") if mark in lines[0]), ",")
    rows = list(csv.reader(io.StringIO("\n".join(lines)), delimiter=between))
    names = [_HEADER.match(cell) for cell in rows[0]]
    if len(names) != 2 or not all(names) or [n[1].lower() for n in names if n] != ["angle", "lift"]:
        raise InvalidInput("csv", "sweep-file-columns", value=lines[0][:60])
    unit = (names[1][2] or "").lower() if names[1] else ""
    if unit not in ("mm", "in", "inch", "thou"):
        raise InvalidInput("csv", "sweep-file-unit")
    entries: list[Entry] = []
    seen: dict[float, int] = {}
    for number, row in enumerate(rows[1:], 2):
        if len(row) != 2 or not row[0].strip() or not row[1].strip():
            raise InvalidInput("csv", "sweep-line-figures", number=number, value=between.join(row)[:40])
        try:
            angle, lift = parse_angle(row[0]), row[1].strip()
            if re.search(r"[a-zA-Z\"]", lift):
                raise InvalidInput("csv", "sweep-line-unit", lift=lift, unit=unit)
            parse_length(f"{lift}{unit}", LengthUnit.MM)
        except InvalidInput as error:
            raise InvalidInput("csv", "sweep-line-refused", number=number, cause=error) from error
        if not -360 <= angle <= 360:
            raise InvalidInput("csv", "sweep-line-angle", number=number, angle=angle)
        if angle in seen:
            raise InvalidInput("csv", "sweep-line-again", number=number, angle=angle, seen=seen[angle])
        seen[angle] = number
        slot = slot_of(KIND[lobe], first_number + len(entries), "point")
        entries.append(
            Entry(KEY, slot, row[0].strip(), second=f"{lift}{unit}", unit=LengthUnit.MM, instrument=FROM_FILE)
        )
    _refuse_gaps(sorted(seen), seen)
    return entries


def read_any(text: str, lobe: str, first_number: int, stated: Mapping[str, str]) -> list[Entry]:
    """Read a sweep from a file of our own form, or from any table that holds one.

    Parameters
    ----------
    text, lobe, first_number
        As for `read_csv`.
    stated
        Columns, unit, degrees and zero, where a person chose them.

    Raises
    ------
    NotSure
        When the table can be read in more ways than one.
    InvalidInput
        When it cannot be read at all.
    """
    head = next((line for line in text.splitlines() if line.strip()), "")
    cells = [_HEADER.match(cell) for cell in re.split("[;\t,]", head)]
    own = len(cells) == 2 and all(cells) and text.count("\n") < MAX_ROWS
    if not stated.get("angle_column") and (own or not head):
        return read_csv(text, lobe, first_number)
    points, unit, count = sweep_tables.points_of(text, lobe, stated)
    lines = "\n".join(f"{angle:.6f},{lift:.6f}" for angle, lift in points)
    entries = read_csv(f"angle_deg,lift_{unit}\n{lines}", lobe, first_number)
    return [replace(entries[0], points=count), *entries[1:]] if count > len(points) else entries


def refuse_repeats(job: Job, lobe: str, entries: list[Entry]) -> None:
    """Refuse a file whose angles repeat readings that are there, as a typed one is refused.

    Parameters
    ----------
    job
        The job as seen at one position.
    lobe, entries
        Which lobe, and the points to be written.

    Raises
    ------
    InvalidInput
        Naming the first angle that is there already, and how many there are.
    """
    swept_lobe = swept(job, lobe)
    there = {round(angle, 6) for angle, _ in swept_lobe.points} if swept_lobe else set()
    again = [entry.text for entry in entries if round(parse_angle(entry.text), 6) in there]
    if again:
        raise InvalidInput("csv", "sweep-file-again", lobe=lobe, angle=again[0], count=len(again), angles=len(entries))


def _refuse_gaps(angles: list[float], line_of: Mapping[float, int]) -> None:
    steps = [b - a for a, b in itertools.pairwise(angles)]
    if len(steps) < MIN_POINTS:
        return
    usual = sorted(steps)[len(steps) // 2]
    for low, step in zip(angles, steps, strict=False):
        if step > max(6 * usual, 20):
            raise InvalidInput("csv", "sweep-gap", line=line_of[low], low_deg=low, step_deg=step)


def describe(reading: Reading) -> str:
    """Say what a reading of this method was of."""
    lobe = reading.spot.kind.removeprefix("sweep-")
    return f"{lobe} sweep, lift {reading.second}"
