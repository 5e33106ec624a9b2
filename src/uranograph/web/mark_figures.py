"""From a job to the figures of gears, marks, backlash and sprockets."""

from fractions import Fraction
from functools import lru_cache

from uranograph.bench import backlash, blind, keyways, marks, split, sprocket, train
from uranograph.bench.checks import answers
from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.train import Contact, DriveTrain
from uranograph.charts.helix import helix_figure
from uranograph.charts.keyway import Key, keyway_figure
from uranograph.charts.lifters import lifters_figure, sets_figure
from uranograph.charts.mesh import Shown, compare_figure
from uranograph.charts.pen import Figure
from uranograph.charts.round import Ring, RoundFigure, round_figure
from uranograph.charts.sprocket import sprocket_figure
from uranograph.charts.train import Part, train_figure
from uranograph.core.quantities import format_angle, format_length, parse_angle
from uranograph.core.wheel import Turn


@lru_cache(maxsize=64)
def parts(of: DriveTrain) -> tuple[Part, ...]:
    """The gears as they are drawn, each after the one that turns it."""
    speed = {name: Fraction(*ratio) for name, ratio in of.speeds.items()}
    into = {contact.down: contact for contact in reversed(of.contacts)}
    chained = {name for contact in of.contacts if contact.how == "chain" for name in (contact.up, contact.down)}
    meshed = {name for contact in of.contacts if contact.how != "chain" for name in (contact.up, contact.down)}
    drawn: list[Part] = []
    waiting = [of.crank.name]
    while waiting:
        name = waiting.pop(0)
        gear, contact = of.by_name[name], into.get(name)
        how, parent = (contact.how, contact.up) if contact else ("mesh", None)
        if contact is None and name != of.crank.name:
            how, parent = "shaft", of.shares_shaft_with(name)
        drawn.append(
            Part(
                name,
                gear.teeth,
                gear.role,
                speed[name],
                parent,
                how,
                *((contact.mark_up, contact.mark_down, contact.up_tooth, contact.label) if contact else ()),
                sprung=gear.sprung,
                sprocket=name in chained and name not in meshed,
            )
        )
        done = {part.name for part in drawn} | set(waiting)
        waiting += [
            each.name
            for each in of.gears
            if each.name not in done
            and (into[each.name].up == name if each.name in into else of.shares_shaft_with(each.name) == name)
        ]
    return tuple(drawn)


def _clockwise(job: Job) -> bool:
    return job.rotation is not Turn.COUNTERCLOCKWISE


def train_picture(job: Job, of: DriveTrain | None, rear: bool, title: str, crank_teeth: int = 0) -> Figure:
    """The train as the job's engine turns it."""
    return train_figure(parts(of) if of else (), _clockwise(job), rear, title, crank_teeth)


def of_marks(job: Job, view: str, prompt: Prompt | None, rear: bool) -> Figure:
    """The figure of one way of looking at the marks."""
    of = train.described(job)
    title = "Timing marks"
    if of is None or view == "marks":
        return train_picture(job, of, rear, title)
    if view == "compare":
        kind = prompt.extra.get("item", "") if prompt else ""
        contact = next((each for each in of.marked if kind == f"mesh-{each.n}"), of.marked[0])
        return _compare(job, of, contact)
    if view == "keyways":
        return _keys(job, of)
    if view == "helical":
        return _helix(job, of)
    return _sets(job) if view == "blind" else _lifters(job)


def _compare(job: Job, of: DriveTrain, contact: Contact) -> Figure:
    seen = {answer.check.kind: answer.text for answer in answers(job, marks.KEY, marks.checks_of(of))}
    up, down = of.by_name[contact.up], of.by_name[contact.down]
    speed = Fraction(*of.speeds[down.name])
    shown = Shown(
        up.name,
        up.teeth,
        contact.mark_up,
        down.name,
        down.teeth,
        contact.mark_down,
        of.shift_of(contact),
        job.card.card.intake_centerline_deg if job.card else None,
        contact.how == "chain",
        (speed > 0) == _clockwise(job),
        seen.get(f"mesh-{contact.n}", ""),
    )
    return compare_figure(shown, f"Marks {contact.name}")


def _keys(job: Job, of: DriveTrain) -> Figure:
    found = keyways.measured(job)
    read = {end: keyways.read_at(job, end) for end in keyways.ENDS}

    def key(end: str, stated: float | None, teeth: int) -> Key:
        reading = read[end]
        return Key(end, stated, parse_angle(reading.text) if reading else None, 360 / teeth)

    told = "State where both keys belong on the sheet of gears; then read both."
    if of.ends.crank_key_deg is not None and of.ends.cam_key_deg is not None:
        told = "Read both keys with a level."
    if found:
        way = "ahead" if found.difference_cam_deg > 0 else "behind"
        off = format_angle(abs(found.difference_cam_deg))
        told = f"The cam's key is {off} cam deg {way}: {format_angle(abs(found.difference_teeth), 2)} teeth."
    keys = (
        key("crank", of.ends.crank_key_deg, of.crank.teeth),
        key("cam", of.ends.cam_key_deg, of.cam.teeth),
    )
    return keyway_figure(keys, told, "Keyways")


def _helix(job: Job, of: DriveTrain) -> Figure:
    assert of.helix is not None and of.entry is not None
    travel = f"{format_length(of.helix.travel_mm, job.unit)} {job.unit.value}"
    return helix_figure(
        of.ends.helix_gear,
        of.helix.teeth,
        of.helix.helix_deg,
        of.entry.rotation_deg,
        of.entry.teeth,
        travel,
        "Helical entry",
    )


def _lifters(job: Job) -> Figure:
    read = split.latest(job)
    words = tuple(format_length(read[lobe], job.unit) if lobe in read else "" for lobe in ("exhaust", "intake"))
    found = split.measured(job)
    told = "Both lifters at overlap TDC."
    if found and found.found:
        shift = found.found.shift_deg
        way = "advance" if shift > 0 else "retard"
        told = f"{way} {format_angle(abs(shift))} crank deg" if abs(shift) >= 0.5 else "alike: about straight up"
    return lifters_figure(read.get("intake"), read.get("exhaust"), (words[0], words[1]), told, "Split overlap")


def _sets(job: Job) -> Figure:
    of = blind.tried(job)
    assert of is not None
    misfit = tuple(
        (number, mm, format_length(mm, job.unit).replace("-", "−")) for number, mm in sorted(of.misfit_mm.items())
    )
    return sets_figure(of.count, misfit, None if of.untried else of.best, "Blind drive")


def of_backlash(job: Job) -> Figure:
    """Backlash round the cam with its window, its fitted wave and the tight spot."""
    mesh, found = backlash.setup(job), backlash.measured(job)
    subtitle = "cam degrees round the gear; outward is looser, magnified"
    if mesh is None:
        return round_figure(RoundFigure("Backlash", subtitle, ()))
    points = tuple((backlash.place_of(r) % 360, backlash.at_pitch_line(job, r)) for r in job.standing(backlash.KEY))
    first = second = None
    if found and found.fitted_amplitude_mm is not None and found.fitted_loosest_cam_deg is not None:
        first = (found.fitted_amplitude_mm, found.fitted_loosest_cam_deg)
    if found and found.second_amplitude_mm is not None and found.second_loosest_cam_deg is not None:
        second = (found.second_amplitude_mm, found.second_loosest_cam_deg)
    spot = found.tight_spot_cam_deg if found and found.swing_mm > found.doubt_mm else None
    limits = ((mesh.spec_min_mm, "least"), (mesh.spec_max_mm, "greatest"))
    return round_figure(
        RoundFigure(
            "Backlash",
            subtitle,
            (Ring(points, found.fitted_mean_mm if found else None, first, second),) if points else (),
            mesh.spec_min_mm,
            mesh.spec_max_mm,
            backlash.doubt_mm(job),
            spot,
            f"tight at {format_angle(spot, 0)}" if spot is not None else "",
            tuple((mm, f"{words} {format_length(mm, job.unit)}") for mm, words in limits if mm is not None),
            (("solid", "read"), *((("ring", "the waves that fit"),) if first else ())) if points else (),
        )
    )


def of_sprockets(job: Job) -> Figure:
    """Both sprocket faces below one datum."""
    rows = sprocket.setup(job)
    depths = {which: values for which in sprocket.WHICH if (values := sprocket.depths(job, which))}
    means = {which: sum(values) / len(values) for which, values in depths.items()}
    found = sprocket.measured(job)
    words = [format_length(means[which], job.unit) if which in means else "" for which in sprocket.WHICH]
    out = f"{format_length(abs(found.out_of_line_mm), job.unit)} out" if found else ""
    return sprocket_figure(
        means.get("driver"),
        means.get("driven"),
        rows.row_offset_mm,
        sprocket.tolerance_mm(job),
        sprocket.doubt_mm(job) if means else 0.0,
        (words[0], words[1], out),
        "Sprocket line",
    )
