"""Close: all that was loosened, moved, pinned or wiped dry on the way, as the log has it, each to be closed."""

from collections.abc import Mapping
from dataclasses import replace

from uranograph.bench.acts import POSITION, Act
from uranograph.bench.checks import (
    NONE,
    PLACE,
    Check,
    CheckAnswer,
    answers,
    next_of,
    nothing_there,
    prompt_of,
    yes_or_no,
)
from uranograph.bench.checks import (
    accept as accept_check,
)
from uranograph.bench.finding import Finding, Prompt, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.core.errors import InvalidInput
from uranograph.engine import positions
from uranograph.engine.adjusters import drive_of
from uranograph.engine.cams import KEY as DEGREE
from uranograph.engine.description import FORM, Springs, Tappets
from uranograph.engine.end_play_form import KEY as END_PLAY
from uranograph.engine.lash import KEY as LASH
from uranograph.engine.lash import SET
from uranograph.engine.tdc import KEY as TDC
from uranograph.engine.valves import KEY as CLEARANCE
from uranograph.phase import banks, marks_by_eye, next_reading, turning
from uranograph.stations.lock_up.messages import FINDINGS, say

KEY = "lock-up"
ADJUSTER = Slot[str](KEY, ("adjuster-#",), (PLACE,), rests_on=(POSITION, "phase"))
GEARS = Slot[str](KEY, ("gears", "cam"), (PLACE,), rests_on=("mesh", "gear", "room"))
CAM_BOLTS = Slot[str](KEY, ("cam-bolts",), (PLACE,), rests_on=("phase",))
CRANK_BOLT = Slot[str](KEY, ("crank-bolt", "wheel-off", "stop-out"), (PLACE,), rests_on=("wheel",))
FITTED = Slot[str](KEY, ("parts", "shims", "sprockets"), (PLACE,), rests_on=("parts", "shims", "sprockets"))
NUTS = Slot[str](KEY, ("lock-nuts",), (PLACE,), rests_on=("lash",))
LAST = Slot[str](
    KEY,
    ("pins-out", "lubed", "driven", "real-tappets", "real-springs", "clay-out", "real-parts"),
    (PLACE,),
    rests_on=("phase", "mesh", "gear", POSITION),
)
SLOTS = (ADJUSTER, GEARS, CAM_BOLTS, CRANK_BOLT, FITTED, NUTS, LAST)
CAUTIONS = (
    "No starter before pins and piston stop are out and counted, and two turns by hand were free.",
    "Stand-in lifters, checking springs and pushrods, clay and the stop are out, the real parts in, each counted, before it is closed.",
    "The manual's torques and the maker's locking parts count. Aircraft, marine- and road-certified engines: a licensed mechanic signs.",
)
SNUG = "snug"
HOW_TIGHT = (
    ("torque", "to its torque"),
    ("turns", "to its torque and turns"),
    ("locker", "to its torque, with threadlocker"),
    (SNUG, "only snug"),
    NONE,
)
# Acts that leave something loose, each with what it leaves and how that is asked for.
LEFT_LOOSE = {
    "cam-moved": "cam-bolts",
    "gear-turned": "gears",
    "gear-exchanged": "gears",
    "cam-refitted": "cam",
    "wheel-refitted": "crank-bolt",
    "parts-fitted": "parts",
    "parts-removed": "parts",
    "shims-changed": "shims",
    "cheek-sanded": "shims",
    "sprocket-shimmed": "sprockets",
    "lash-changed": "lock-nuts",
}


def _tight(kind: str, label: str, instruction: str, hint: str = "") -> Check:
    return Check(
        kind, label, instruction, HOW_TIGHT, ("torque", "turns", "locker", "na"), (SNUG,), hint or say("tight-hint")
    )


@memoized
def checks(job: Job) -> tuple[Check, ...]:
    """Items to close on this job: parts its acts left loose, and marks or tools its readings left."""
    found = [*_adjusters(job), *_loosened(job)]
    if _read(job, TDC):
        found.append(yes_or_no("stop-out", say("label-stop"), say("stop-out"), say("stop-hint")))
    put_in, out = marks_by_eye.pins(job)
    told = say("pins-told", put_in=put_in, out=out) if put_in else ""
    found.append(yes_or_no("pins-out", say("label-pins"), say("pins-out"), say("pins-hint", told=told)))
    found += _temporary_parts(job)
    if _read(job, DEGREE) or _read(job, CLEARANCE):
        found.append(yes_or_no("lubed", say("label-lubed"), say("lubed"), say("lubed-hint")))
        found.append(yes_or_no("wheel-off", say("label-wheel"), say("wheel-off"), say("wheel-hint")))
    found.append(yes_or_no("driven", say("label-driven"), say("driven"), say("driven-hint")))
    return tuple(found)


def _temporary_parts(job: Job) -> list[Check]:
    """Checking parts to remove, and the real parts to fit, each counted."""
    engines = [FORM.read(version.typed, job).value for version in job.versions(FORM.kind)]
    was = [(engine.tappets, engine.springs) for engine in engines if engine is not None]
    clay = any(r.void is None and r.spot.kind.startswith("clay-") for r in job.written(CLEARANCE))
    stood_in = any(
        r.void is None and r.spot.kind.startswith("fitted-") and r.text == "stand-in" for r in job.written(END_PLAY)
    )
    asked = (
        (any(tappets == Tappets.STAND_IN for tappets, _ in was), "real-tappets"),
        (any(springs in (Springs.NONE, Springs.LIGHT) for _, springs in was), "real-springs"),
        (clay, "clay-out"),
        (stood_in, "real-parts"),
    )
    wanted = {kind for there, kind in asked if there}
    every = (
        yes_or_no("real-tappets", say("label-real-tappets"), say("real-tappets"), say("each-counted")),
        yes_or_no("real-springs", say("label-real-springs"), say("real-springs"), say("each-counted")),
        yes_or_no("clay-out", say("label-clay"), say("clay-out"), say("clay-hint")),
        yes_or_no("real-parts", say("label-real-parts"), say("real-parts"), say("each-counted")),
    )
    return [check for check in every if check.kind in wanted]


def _read(job: Job, station: str) -> bool:
    """Whether anything was ever read there: what a reading put in or wiped off stays so, whatever was done since."""
    return any(reading.void is None for reading in job.written(station))


def _adjusters(job: Job) -> list[Check]:
    """One for each adjuster that was moved to a position."""
    described = drive_of(job)
    names = [each.name for each in described.adjusters] if described else []
    moved = {move.name for one in positions.every_try(job) for move in one.moves}
    found = []
    for n, name in enumerate(names, 1):
        if name in moved or (not name and moved):
            label = name or "adjuster"
            asked = say("adjuster", name=f"{label[0].upper()}{label[1:]}")
            found.append(_tight(f"adjuster-{n}", say("label-adjuster", name=label), asked, say("adjuster-hint")))
    return found


def _loosened(job: Job) -> list[Check]:
    # Moving a cam leaves its adjuster loose; the item names it.
    acts = [act for act in _acts(job) if not act.to_position]
    kinds = {LEFT_LOOSE[act.kind] for act in acts if act.kind in LEFT_LOOSE}
    if any(act.of == "gears" for act in acts):
        kinds.add("gears")
    if job.active_readings(LASH):
        kinds.add("lock-nuts")
    every = (
        _tight("gears", say("label-gears"), say("gears")),
        _tight("cam", say("label-cam"), say("cam-parts")),
        _tight("cam-bolts", say("label-cam-bolts"), say("cam-bolts")),
        _tight("crank-bolt", say("label-crank-bolt"), say("crank-bolt")),
        _tight("parts", say("label-parts"), say("parts")),
        _tight("shims", say("label-shims"), say("shims")),
        _tight("sprockets", say("label-sprockets"), say("sprockets")),
        _tight("lock-nuts", say("label-lock-nuts"), say("lock-nuts")),
    )
    return [check for check in every if check.kind in kinds]


def _acts(job: Job) -> list[Act]:
    """Every act that leaves something loose."""
    things = ("wheel", "phase", "room", "mesh", "gear", "parts", "shims", "sprockets", "lash")
    found = {act.seq: act for thing in things for act in job.acts(thing)}
    return sorted(found.values(), key=lambda act: act.seq)


def answered(job: Job) -> list[CheckAnswer]:
    """Each of these with its newest answer that holds; a valve set since has its lock nut loose again."""
    last_set = max((reading.seq for reading in SET.taken(job)), default=0)
    return [
        replace(answer, reading=None)
        if answer.check.kind == "lock-nuts" and answer.reading and answer.reading.seq < last_set
        else answer
        for answer in answers(job, KEY, checks(job))
    ]


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next that is not closed, or the one asked for."""
    found = answered(job)
    check = next_of(found, query.get("item", ""))
    if check is None:
        check = next((answer.check for answer in found if answer.state != "in"), None)
    return None if check is None else prompt_of(job, KEY, check)


def accept(job: Job, entry: Entry) -> None:
    """Refuse an answer that was not offered, or to what this job has not.

    Raises
    ------
    InvalidInput
        With `text` at fault.
    """
    accept_check(checks(job), entry)
    if entry.spot.kind == "pins-out" and entry.text in ("yes", "na"):
        put_in, out = marks_by_eye.pins(job)
        if put_in > out:
            raise InvalidInput("text", "pins-not-counted", put_in=put_in, out=out)


def describe(reading: Reading) -> str:
    """Say what was asked."""
    kind = reading.spot.kind
    return {
        "gears": say("label-gears"),
        "cam": say("label-cam"),
        "cam-bolts": say("label-cam-bolts"),
        "crank-bolt": say("label-crank-bolt"),
        "parts": say("label-parts"),
        "shims": say("label-shims"),
        "sprockets": say("label-sprockets"),
        "lock-nuts": say("label-lock-nuts"),
        "stop-out": say("label-stop"),
        "pins-out": say("label-pins"),
        "lubed": say("label-lubed"),
        "driven": say("label-driven"),
        "wheel-off": say("label-wheel"),
        "real-tappets": say("label-real-tappets"),
        "real-springs": say("label-real-springs"),
        "clay-out": say("label-clay"),
        "real-parts": say("label-real-parts"),
    }.get(kind, say("label-adjuster", name=kind.replace("-", " ")))


def turned(job: Job) -> bool:
    """Whether it turns by hand since it was last moved; so too where that station was skipped with a reason."""
    skipped = job.skipped(turning.KEY) or job.accepted(turning.KEY)
    return skipped is not None or turning.find(job).verdict is Verdict.IN


def proved(job: Job) -> bool | None:
    """Whether TDC and the first reading came again as they were; None where nothing was degreed, or it was skipped or left as it is."""
    if job.skipped(DEGREE) or job.accepted(DEGREE) or not positions.at_position(job).active_readings(DEGREE):
        return None
    try:
        return next_reading.proved(job)
    except InvalidInput:
        return False


def _cam(job: Job) -> Finding | None:
    """What is known of the cam; None where that was skipped, or accepted as it is."""
    return None if job.skipped(DEGREE) or job.accepted(DEGREE) else banks.find(job)


def find(job: Job) -> Finding:
    """Say what is still open of all that was loosened on the way."""
    found = answered(job)
    free, again = turned(job), proved(job)
    rows = [Row(answer.check.label, "", answer.words if answer.reading else "open") for answer in found]
    rows.append(Row(say("row-turned"), "", say("yes-since") if free else say("not-since")))
    if again is not None:
        rows.append(Row(say("row-proved"), "", say("yes-since") if again else say("not-since")))
    base = Finding(Verdict.OPEN, cautions=CAUTIONS, rows=tuple(rows), columns=("", "", "closed", ""))
    if not any(answer.reading for answer in found):
        return base.judged(Verdict.OPEN, FINDINGS, "not-begun", begun=False)
    bad = next((answer for answer in found if answer.state == "out"), None)
    if bad is not None:
        return base.judged(Verdict.OUT, FINDINGS, "left-snug", what=bad.check.label, answer=bad.words)
    waiting = [answer for answer in found if answer.state != "in"]
    if waiting:
        done = len(found) - len(waiting)
        step = waiting[0].check.instruction
        return base.judged(Verdict.OPEN, FINDINGS, "closing", done=done, count=len(found), step=step)
    if not free:
        return base.judged(Verdict.OPEN, FINDINGS, "turn-first")
    if again is False:
        return base.judged(Verdict.OPEN, FINDINGS, "prove-first")
    cam = _cam(job)
    if cam is not None and cam.verdict is Verdict.OUT:
        return base.judged(Verdict.OPEN, FINDINGS, "cam-out", out=cam.title)
    if cam is not None and cam.verdict is Verdict.UNSURE:
        return base.judged(Verdict.UNSURE, FINDINGS, "cam-unsure", cam=cam.title)
    if again is None and nothing_there(found):
        return base.judged(Verdict.SKIPPED, FINDINGS, "nothing-there")
    phrase = say("and-proved") if again else ""
    taken = job.accepted(DEGREE)
    accepted = say("cam-accepted", text=taken.text) if taken else ""
    return base.judged(Verdict.IN, FINDINGS, "closed", count=len(found), proved=phrase, accepted=accepted)
