"""Degree by a full sweep: lift read every few degrees round a lobe."""

import csv
import io
import itertools
import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.messages import refusal
from uranograph.bench.slots import Grouping, Slot, slot_of
from uranograph.core.angles import near
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, parse_angle, parse_length
from uranograph.core.sweep import MIN_POINTS, LobeName, SweepInput, Swept, crossings, sweep
from uranograph.core.uncertainty import APPROACH_DEG, CENTERING_DEG, expanded
from uranograph.core.wheel import as_read
from uranograph.engine.cams import KEY, LOBES, RESTS_ON, USUAL_CENTERLINE_DEG, card_centerline, lobe_of
from uranograph.engine.card import card_of
from uranograph.engine.degree_wheel import crank_angle, wheel_of
from uranograph.engine.tdc import frame_at
from uranograph.phase import sweep_tables
from uranograph.phase.messages import say
from uranograph.phase.placing import true_angle

KIND = {"intake": "sweep-intake", "exhaust": "sweep-exhaust"}
POINT = Slot[str](
    KEY, tuple(KIND.values()), ("point",), rests_on=RESTS_ON, together=Grouping.SERIES, by_bank=True, lobe_of=lobe_of
)
FROM_FILE = "from a file"
USUAL_STEP_DEG = 10.0
MAX_ROWS = 5000
# A lobe read again at so many angles is swept twice; its lifts are the same within this, mm.
MIN_AGAIN, AGAIN_MM = 6, 0.15
_HEADER = re.compile(r"^\s*(angle|lift)\s*(?:[_ ]?\(?\s*(deg|degrees|mm|in|inch|thou)\s*\)?)?\s*$", re.IGNORECASE)


@dataclass(frozen=True)
class SweepOf:
    """A swept lobe: the readings and their places about overlap TDC, and what follows, or why nothing does."""

    lobe: str
    readings: tuple[Reading, ...]
    points: tuple[tuple[float, float], ...]
    found: Swept | None
    trouble: str
    by_readings_deg: float
    by_top_deg: float
    read_twice: bool = False

    @property
    def asymmetry_doubt_deg(self) -> float:
        """What the distance of nose and middle of the events may be off: the nose, and two readings of the middle."""
        return math.hypot(self.found.nose_doubt_deg if self.found else 0.0, self.by_readings_deg / math.sqrt(2))

    @property
    def suspects(self) -> list[tuple[Reading, str]]:
        """The readings off the curve, each with a guess at what went wrong."""
        if self.found is None:
            return []
        return [(self.readings[k], _guess(self, k)) for k in self.found.suspects]


def check_lift(job: Job) -> float:
    """The lift at which events count, mm; a usual one where the card gives none."""
    given = card.check_lift_mm if (card := card_of(job)) else None
    return given or (1.27 if job.unit is LengthUnit.INCH else 1.0)


@memoized
def swept(job: Job, lobe: str) -> SweepOf | None:
    """Work out a lobe from its standing sweep readings.

    Parameters
    ----------
    job
        The job.
    lobe
        `intake` or `exhaust`.

    Returns
    -------
    SweepOf or None
        None while no point is read.

    Raises
    ------
    InvalidInput
        When a reading that came from elsewhere cannot be placed.
    """
    readings = [
        reading
        for reading in POINT.taken(job, KIND[lobe])
        if reading.instrument == FROM_FILE or frame_at(job, reading.seq)
    ]
    if not readings:
        return None
    middle = card_centerline(job, lobe)
    target = USUAL_CENTERLINE_DEG[lobe] if middle is None else middle
    readings, read_twice = _newest_of_each(job, readings, target)
    points = tuple(
        (place(job, reading, target), parse_length(reading.second or "", reading.unit)) for reading in readings
    )
    frame = frame_at(job, readings[-1].seq)
    from_file = all(reading.instrument == FROM_FILE for reading in readings)
    by_top = 0.0 if from_file or frame is None or frame.top is None else frame.top.uncertainty_deg
    by_wheel = 0.1
    if not from_file and frame is not None:
        by_wheel = expanded((frame.mounted.division_deg / 2,), (CENTERING_DEG, APPROACH_DEG))
    found, trouble = None, ""
    if len(points) < MIN_POINTS:
        trouble = say("points-so-far", count=len(points), fewest_points=MIN_POINTS)
    else:
        try:
            found = _analyzed(LobeName(lobe), points, check_lift(job))
        except InvalidInput as error:
            trouble = refusal(error, job.unit)
    return SweepOf(lobe, tuple(readings), points, found, trouble, by_wheel, by_top, read_twice)


def _newest_of_each(job: Job, readings: list[Reading], target_deg: float) -> tuple[list[Reading], bool]:
    """The newest reading at each angle, and whether a whole lobe was read twice and the second time otherwise."""
    newest: dict[float, Reading] = {}
    again, otherwise = 0, 0
    for reading in readings:
        at = round(place(job, reading, target_deg), 3)
        if at in newest:
            lifts = [parse_length(each.second or "", each.unit) for each in (newest[at], reading)]
            again += 1
            otherwise += abs(lifts[0] - lifts[1]) > AGAIN_MM
        newest[at] = reading
    order = sorted(newest.values(), key=lambda reading: reading.seq)
    return order, again >= MIN_AGAIN and otherwise > again / 2


@lru_cache(maxsize=64)
def _analyzed(lobe: LobeName, points: tuple[tuple[float, float], ...], check_lift_mm: float) -> Swept:
    """The same points mean the same, whatever else was written to the job since."""
    return sweep(SweepInput(lobe=lobe, points=list(points), check_lift_mm=check_lift_mm))


def place(job: Job, reading: Reading, target_deg: float) -> float:
    """Where a sweep reading lies about overlap TDC; from a file it says so itself."""
    if reading.instrument == FROM_FILE:
        return parse_angle(reading.text)
    return near(true_angle(job, reading), target_deg)


def _guess(swept_lobe: SweepOf, index: int) -> str:
    """What may have gone wrong with a point: the digits, the wheel, or the lifter."""
    order = sorted(range(len(swept_lobe.points)), key=lambda k: swept_lobe.points[k][0])
    at = order.index(index)
    if not 0 < at < len(order) - 1:
        return "read it again."
    (a0, l0), (angle, lift), (a1, l1) = (swept_lobe.points[order[k]] for k in (at - 1, at, at + 1))
    wanted = l0 + (l1 - l0) * (angle - a0) / (a1 - a0)
    digits = (swept_lobe.readings[index].second or "").strip()
    if _is_slip(digits, lift, wanted):
        return say("guess-typing-slip", swept_lobe.readings[index].unit, wanted_mm=wanted)
    slope = (l1 - l0) / (a1 - a0)
    if slope and (shift := (lift - wanted) / slope) and any(abs(abs(shift) - whole) < 1.5 for whole in (5, 10, 20, 30)):
        return say("guess-wheel-misread", shift=abs(shift))
    if lift > wanted and slope < 0:
        return say("guess-lifter-sticking")
    return "read it again."


def _is_slip(digits: str, lift: float, wanted: float) -> bool:
    """Whether one digit changed, two swapped, or a shifted point brings the typed figure near the wanted one."""
    figures = [k for k, letter in enumerate(digits) if letter.isdigit()]
    if not figures or not lift:
        return False
    per_unit = lift / float(re.sub(r"[^\d.]", "", digits.replace(",", ".")) or 1)
    tries = []
    for k in figures:
        tries += [digits[:k] + d + digits[k + 1 :] for d in "0123456789"]
    for one, two in itertools.pairwise(figures):
        swapped = list(digits)
        swapped[one], swapped[two] = swapped[two], swapped[one]
        tries.append("".join(swapped))
    near_enough = max(0.03, 0.02 * abs(wanted))
    for typed in tries:
        try:
            value = float(re.sub(r"[^\d.]", "", typed.replace(",", ".")))
        except ValueError:
            continue
        if abs(value * per_unit - wanted) < near_enough and abs(wanted - lift) > 0.2:
            return True
    return False


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Say which point comes next: the angle goes on by itself, so only the lift is typed."""
    mounted = wheel_of(job)
    if mounted is None:
        return None
    lobe = query.get("lobe", "")
    taken = [reading for reading in POINT.taken(job) if reading.instrument != FROM_FILE]
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
    standing = [r for r in POINT.taken(job, KIND[lobe]) if r.instrument != FROM_FILE]
    swept_lobe = swept(job, lobe)
    odd = {reading.seq for reading, _ in swept_lobe.suspects} if swept_lobe else set()
    if any(crank_angle(mounted, r.text, r.side) == angle and r.seq not in odd for r in standing):
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


def events_at(swept_lobe: SweepOf, lift_mm: float) -> tuple[float, float] | None:
    """Where a swept lobe passes a lift, about overlap TDC; None where it does not on both sides."""
    angles, lifts = _clean(swept_lobe)
    if len(set(angles)) < len(angles):
        return None
    if len(angles) < MIN_POINTS:
        return None
    try:
        return crossings(angles, lifts, lift_mm)
    except InvalidInput:
        return None


def flanks(swept_lobe: SweepOf, lift_mm: float) -> list[tuple[int, float]]:
    """Where points that make no whole lobe pass a lift: −1 on the way up, 1 on the way down, and the angle about overlap TDC.

    A dial on the other lobe shows one flank of it, or both the wrong way round.
    """
    points = sorted(swept_lobe.points)
    found: dict[int, list[float]] = {-1: [], 1: []}
    for (a0, l0), (a1, l1) in itertools.pairwise(points):
        if (l0 < lift_mm) != (l1 < lift_mm):
            found[-1 if l1 > l0 else 1].append(a0 + (a1 - a0) * (lift_mm - l0) / (l1 - l0))
    return [(side, at[0]) for side, at in found.items() if len(at) == 1]


def spans_by_lift(swept_lobe: SweepOf, count: int = 16) -> list[tuple[float, float, float]]:
    """Opening and closing at even lifts up a swept lobe: (lift in mm, opens, closes)."""
    if swept_lobe.found is None:
        return []
    top = swept_lobe.found.max_lift_mm
    spans = ((top * k / count, events_at(swept_lobe, top * k / count)) for k in range(1, count))
    return [(lift, *span) for lift, span in spans if span]


def _clean(swept_lobe: SweepOf) -> tuple[list[float], list[float]]:
    odd = set(swept_lobe.found.suspects) if swept_lobe.found else set()
    memoized = sorted(point for k, point in enumerate(swept_lobe.points) if k not in odd)
    return [angle for angle, _ in memoized], [lift for _, lift in memoized]
