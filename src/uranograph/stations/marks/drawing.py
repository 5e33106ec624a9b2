"""Pictures of the marks, one for each way of looking at them."""

from fractions import Fraction

from uranograph.bench.checks import answers
from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.helix import helix_figure
from uranograph.charts.keyways import Key, keyway_figure
from uranograph.charts.lifters import lifters_figure, sets_figure
from uranograph.charts.mesh import Shown, compare_figure
from uranograph.charts.pen import Figure
from uranograph.core.errors import Missing
from uranograph.core.quantities import format_angle, format_length, parse_angle
from uranograph.engine import gear_train
from uranograph.engine.card import card_of
from uranograph.engine.gear_train_drawing import clockwise, train_picture
from uranograph.engine.gear_train_model import Contact, DriveTrain
from uranograph.phase import blind_sets, keyways, marks, split_overlap


def figure(job: Job, view_state: ViewState) -> Figure:
    """The figure of one way of looking at the marks."""
    drive_train = gear_train.described(job)
    title = "Timing marks"
    if drive_train is None or view_state.view == "marks":
        return train_picture(job, drive_train, view_state.rear, title)
    if view_state.view == "compare":
        kind = view_state.prompt.extra.get("item", "") if view_state.prompt else ""
        contact = next((each for each in drive_train.marked if kind == f"mesh-{each.n}"), drive_train.marked[0])
        return _compare(job, drive_train, contact)
    if view_state.view == "keyways":
        return _keys(job, drive_train)
    if view_state.view == "helical":
        return _helix(job, drive_train)
    return _sets(job) if view_state.view.startswith("blind") else _lifters(job)


def _compare(job: Job, drive_train: DriveTrain, contact: Contact) -> Figure:
    seen = {answer.check.kind: answer.text for answer in answers(job, marks.KEY, marks.checks_of(drive_train))}
    up, down = drive_train.by_name[contact.up], drive_train.by_name[contact.down]
    speed = Fraction(*drive_train.speeds[down.name])
    shown = Shown(
        up.name,
        up.teeth,
        contact.mark_up,
        down.name,
        down.teeth,
        contact.mark_down,
        drive_train.shift_of(contact),
        card.card.intake_centerline_deg if (card := card_of(job)) else None,
        contact.how == "chain",
        (speed > 0) == clockwise(job),
        seen.get(f"mesh-{contact.n}", ""),
    )
    return compare_figure(shown, f"Marks {contact.name}")


def _keys(job: Job, drive_train: DriveTrain) -> Figure:
    found = keyways.measured(job)
    read = {end: keyways.read_at(job, end) for end in keyways.ENDS}

    def key(end: str, stated: float | None, teeth: int) -> Key:
        reading = read[end]
        return Key(end, stated, parse_angle(reading.text) if reading else None, 360 / teeth)

    phrase = "State where both keys belong under gears; then read both."
    if drive_train.ends.crank_key_deg is not None and drive_train.ends.cam_key_deg is not None:
        phrase = "Read both keys with a level."
    if found:
        way = "ahead" if found.difference_cam_deg > 0 else "behind"
        off = format_angle(abs(found.difference_cam_deg))
        phrase = f"The cam's key is {off} cam deg {way}: {format_angle(abs(found.difference_teeth), 2)} teeth."
    keys = (
        key("crank", drive_train.ends.crank_key_deg, drive_train.crank.teeth),
        key("cam", drive_train.ends.cam_key_deg, drive_train.cam.teeth),
    )
    return keyway_figure(keys, phrase, "Keyways")


def _helix(job: Job, drive_train: DriveTrain) -> Figure:
    if drive_train.helix is None or drive_train.entry is None:
        raise Missing("drive_train.helix, drive_train.entry")
    travel = f"{format_length(drive_train.helix.travel_mm, job.unit)} {job.unit.value}"
    return helix_figure(
        drive_train.ends.helix_gear,
        drive_train.helix.teeth,
        drive_train.helix.helix_deg,
        drive_train.entry.rotation_deg,
        drive_train.entry.teeth,
        travel,
        "Helical entry",
    )


def _lifters(job: Job) -> Figure:
    read = split_overlap.latest(job)
    words = tuple(format_length(read[lobe], job.unit) if lobe in read else "" for lobe in ("exhaust", "intake"))
    found = split_overlap.measured(job)
    phrase = "Both lifters at overlap TDC."
    if found and found.found:
        shift = found.found.shift_deg
        way = "advance" if shift > 0 else "retard"
        straight = "as the card has it" if split_overlap.wanted_mm(job) else "alike: about straight up"
        phrase = f"{way} {format_angle(abs(shift))} crank deg" if abs(shift) >= 0.5 else straight
    return lifters_figure(read.get("intake"), read.get("exhaust"), (words[0], words[1]), phrase, "Split overlap")


def _sets(job: Job) -> Figure:
    tried_sets = blind_sets.tried(job)
    if tried_sets is None:
        raise Missing("tried_sets")
    misfit = tuple(
        # An observation is shown in words: no figure was measured.
        (number, mm, tried_sets.by_eye.get(number) or format_length(mm, job.unit).replace("-", "−"))
        for number, mm in sorted(tried_sets.misfit_mm.items())
    )
    return sets_figure(tried_sets.count, misfit, None if tried_sets.untried else tried_sets.best, "Blind drive")
