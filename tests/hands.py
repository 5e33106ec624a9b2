"""What the tests do at the bench, with numbers of their own."""

from collections.abc import Iterable, Mapping
from datetime import UTC, datetime

from click.testing import Result
from sqlalchemy.orm import Session
from typer.testing import CliRunner

from uranograph import cli
from uranograph.bench.acts import Move
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Log, TypedForm
from uranograph.core.quantities import LengthUnit
from uranograph.engine import positions
from uranograph.shop import asides, jobs, loading

ENGINE = {
    "cylinders": "4",
    "firing_order": "1-3-4-2",
    "rotation": "clockwise",
    "unit": "mm",
    "stroke": "84",
    "rod": "150",
    "valvetrain": "pushrod",
    "lift_at": "lifter",
}
CARD = {
    "io_btdc_deg": "12",
    "ic_abdc_deg": "52",
    "eo_bbdc_deg": "54",
    "ec_atdc_deg": "14",
    "check_lift": "1.0",
    "intake_max_lift": "8.5",
    "exhaust_max_lift": "8.5",
    "unit": "mm",
}
WHEEL = {"scale": "half", "mount": "front", "division": "0.5", "dial_division": "0.01", "unit": "mm"}


def with_forms(**forms: Mapping[str, str]) -> Job:
    """A job of forms alone, without a shop."""
    at = datetime(2026, 1, 1, tzinfo=UTC)
    forms = tuple(TypedForm(kind, n, typed, "QZ", at) for n, (kind, typed) in enumerate(forms.items(), 1))
    return Job("", "", Log(forms), seq=len(forms))


def a_job(
    session: Session,
    engine: Mapping[str, str] = ENGINE,
    card: Mapping[str, str] | None = CARD,
    wheel: Mapping[str, str] | None = WHEEL,
    title: str = "Test bench four",
) -> str:
    key = jobs.begin(session, title, "QZ", f"token-{title}")
    jobs.save_form(session, key, "engine", engine, "QZ")
    if card is not None:
        jobs.save_form(session, key, "card", card, "QZ")
    if wheel is not None:
        jobs.save_form(session, key, "wheel", wheel, "QZ")
    return key


def take(
    session: Session,
    key: str,
    station: str,
    readings: Iterable[tuple[str, str, str | None]],
    second: str | None = None,
    approach: str = "forward",
) -> Job:
    """Record (slot, text, side) one after the other and load the job; `moved` says that the wheel was."""
    unit = loading.load(session, key).unit
    for slot, text, side in readings:
        if slot == "moved":
            asides.act(session, key, station, "wheel-moved", text, "QZ")
            continue
        entry = Entry(station, slot, text, side, approach, second, LengthUnit(unit))
        jobs.record(session, key, entry, "QZ", None, None)
    return loading.load(session, key)


def cam_moved(session: Session, key: str, shift_deg: float, name: str = "keyway", cam: str = "both") -> Job:
    """Move a cam to another position, as if it had been chosen."""
    act = positions.act_of(cam, shift_deg, [Move(name, "0", "A4", shift_deg)])
    jobs.move(session, key, act, "QZ", None, None)
    return loading.load(session, key)


def true_top(session: Session, key: str, before: str = "40", after: str = "40") -> Job:
    return take(session, key, "tdc", [("stop.1.before", before, "btdc"), ("stop.1.after", after, "atdc")])


def proved_by(session: Session, key: str, event: tuple[str, str, str], number: int = 2) -> Job:
    """Take the first event again and touch the stop again, as the bench asks before it gives a verdict."""
    kind, text, side = event
    take(session, key, "degree", [(f"{kind}.{number}.forward", text, side)])
    again = number + 5
    return take(session, key, "tdc", [(f"stop.{again}.before", "40", "btdc"), (f"stop.{again}.after", "40", "atdc")])


def command(*args: str, text: str | None = None) -> Result:
    """What the command answers, asked for within this process."""
    return CliRunner().invoke(cli.app, args, input=text)
