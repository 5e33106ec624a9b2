"""Mark: the gears and chains between crank and cam, described once an engine."""

from functools import lru_cache

from uranograph.bench.finding import Finding, Row, Verdict
from uranograph.bench.forms import Typed
from uranograph.bench.job import Job
from uranograph.core import train as core
from uranograph.core.quantities import format_angle
from uranograph.engine.gear_train import FORM, MARKS, MAX_GEARS, when_back
from uranograph.engine.gear_train_model import Contact, DriveTrain
from uranograph.stations.gear_train.messages import FINDINGS, say


def choices(typed: Typed, but: int) -> list[tuple[str, str]]:
    """The rows that can be chosen as another gear, by number and name."""
    names = [(n, typed.get(f"g{n}_name", "")) for n in range(1, MAX_GEARS + 1)]
    return [(str(n), f"{n} {name}") for n, name in names if name and n != but]


def find(job: Job) -> Finding:
    """Say whether the cam turns at half speed, and when the marks meet."""
    filled = job.filled(FORM)
    if filled is None or filled.value is None:
        return Finding(Verdict.OPEN).judged(Verdict.OPEN, FINDINGS, "no-gears", begun=filled is not None)
    return judged(filled.value)


@lru_cache(maxsize=16)
def judged(train: DriveTrain) -> Finding:
    """A finding about a train alone, as it is typed."""
    rows = tuple(_row(train, contact) for contact in train.contacts if train.by_name[contact.down].timed)
    columns = ("", "1 tooth, crank deg", "marks", "meet after")
    if not train.ratio_ok:
        cam, found = next((cam, found) for cam, found in train.found.items() if not found.ratio_ok)
        return Finding(Verdict.OPEN, rows=rows, columns=columns).judged(
            Verdict.OUT,
            FINDINGS,
            "not-half-speed",
            cam=cam,
            cam_speed_ratio=found.cam_speed_ratio,
            spoiler=_spoiler(train, found),
        )
    return Finding(Verdict.OPEN, rows=rows, columns=columns).judged(
        Verdict.IN,
        FINDINGS,
        "half-speed",
        value="against" if train.train.cam_turns_opposite else "with",
        back=when_back(train),
    )


def _spoiler(train: DriveTrain, found: core.Train) -> str:
    for name, teeth in found.would_be_right.items():
        return say("tooth-count-spoils-ratio", name=name, teeth=teeth, teeth_2=train.by_name[name].teeth)
    return say("no-single-count-cures")


def _row(train: DriveTrain, contact: Contact) -> Row:
    marks = f"{MARKS[contact.mark_up]}, {MARKS[contact.mark_down]}" if contact.marked else "none"
    turns = f"{train.back_after(contact)} turn{'s' if train.back_after(contact) > 1 else ''}" if contact.marked else ""
    shift = train.shift_of(contact)
    return Row(contact.name, format_angle(shift, 3) if shift else "no cam", marks, turns)
