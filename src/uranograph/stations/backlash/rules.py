"""Mark: backlash round the cam, cold and hot."""

import math
from collections.abc import Mapping

from uranograph.bench.finding import Finding, Prompt, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.core import backlash
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.quantities import format_angle, format_fine, parse_angle
from uranograph.engine import gear_train
from uranograph.engine.backlash import KEY, PLACE, Mesh, doubt_mm, hot_change_mm, measured, place_of, setup
from uranograph.stations.backlash.messages import FINDINGS, say

CAUTIONS = ("Lock one gear, rock the other; dial square to the tooth. Fingers clear of the mesh.",)


def at_pitch_line(job: Job, reading: Reading) -> float:
    """A reading brought to the pitch line, mm."""
    mesh = setup(job)
    if mesh is None:
        raise Missing("mesh")
    return reading.mm * mesh.pitch_radius_mm / mesh.indicator_radius_mm


def _unread(job: Job, mesh: Mesh) -> list[float]:
    """Places round the cam that are still to be read, cam degrees."""
    taken = [place_of(reading) % 360 for reading in PLACE.taken(job)]
    step = 360 / mesh.places
    return [
        n * step
        for n in range(mesh.places)
        if all(abs((n * step - place + 180) % 360 - 180) > step / 4 for place in taken)
    ]


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next place round the cam."""
    mesh = setup(job)
    if mesh is None:
        return None
    wanted = _unread(job, mesh)
    place = wanted[0] if wanted else 0.0
    done = not wanted
    return Prompt(
        slot=PLACE.next(job, "place"),
        label=say("dial-travel"),
        instruction=(say("every-place-read") if done else say("read-travel-at", place_deg=place)),
        hint=say("dial-setup-hint"),
        second=f"{place:g}",
        second_label="Cam at, deg",
        unit=job.unit.value,
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse a travel or a place that cannot be.

    Raises
    ------
    InvalidInput
        With the field at fault: `text` or `second`.
    """
    if setup(job) is None:
        raise InvalidInput("text", "set-up-missing-backlash")
    travel = entry.mm
    if travel < 0:
        raise InvalidInput("text", "travel-below-nothing")
    if travel > 5:
        raise InvalidInput("text", "more-than-any-backlash", typed=entry.text)
    try:
        place = parse_angle(entry.second or "")
    except InvalidInput as error:
        raise error.at("second") from error
    if not -360 <= place <= 720:
        raise InvalidInput("second", "no-place-round-cam", typed=entry.second)


def describe(reading: Reading) -> str:
    """Say where a reading was taken."""
    return say("backlash-at", typed=reading.second)


def describe_briefly(reading: Reading) -> str:
    """The place alone."""
    return f"{reading.second}°"


def find(job: Job) -> Finding:
    """Judge backlash by its tightest and loosest place, separating variation from the mean."""
    mesh, found = setup(job), measured(job)
    bare = Finding(Verdict.OPEN, "", cautions=CAUTIONS)
    if found is None and gear_train.driven_by(job) == {"chain"}:
        return bare.judged(Verdict.SKIPPED, FINDINGS, "no-teeth-to-rock", begun=False)
    if mesh is None:
        return bare.judged(Verdict.OPEN, FINDINGS, "set-up-missing", begun=False)
    if found is None:
        return bare.judged(Verdict.OPEN, FINDINGS, "nothing-read", begun=False)
    base = Finding(
        Verdict.OPEN,
        "",
        quantity=Quantity(found.mean_mm, doubt_mm(job), "mm", job.unit, span=(found.min_mm, found.max_mm)),
        cautions=CAUTIONS,
        rows=rows(job, mesh, found),
        columns=("", "allowed", "measured", ""),
        notes=notes(job, mesh, found),
    )
    if mesh.spec_min_mm is None and mesh.spec_max_mm is None:
        return base.judged(Verdict.UNSURE, FINDINGS, "no-window")
    if found.verdict is Verdict.OUT:
        code = f"{found.fault}-swing" if _mean_looks_good(mesh, found) else found.fault
        return base.judged(
            Verdict.OUT,
            FINDINGS,
            code,
            job.unit,
            tight_mm=found.min_mm,
            tight_at_deg=found.tight_spot_cam_deg,
            loose_mm=found.max_mm,
            mean_mm=found.mean_mm,
            swing_mm=found.swing_mm,
            unit=job.unit.value,
        )
    if unread := _unread(job, mesh):
        return base.judged(
            Verdict.OPEN, FINDINGS, "nothing-out-so-far", read=mesh.places - len(unread), places=mesh.places
        )
    hot = hot_change_mm(job)
    if hot is not None and found.min_mm + hot + found.doubt_mm <= 0:
        return base.judged(Verdict.OUT, FINDINGS, "gone-when-hot")
    if hot is not None and found.min_mm + hot - found.doubt_mm <= 0:
        return base.judged(Verdict.UNSURE, FINDINGS, "hot-too-near")
    if found.verdict is Verdict.UNSURE:
        return base.judged(Verdict.UNSURE, FINDINGS, "too-near-limit")
    return base.judged(Verdict.IN, FINDINGS, "within")


def _mean_looks_good(mesh: Mesh, found: backlash.Backlash) -> bool:
    most = math.inf if mesh.spec_max_mm is None else mesh.spec_max_mm
    return (mesh.spec_min_mm or 0) <= found.mean_mm <= most


def _half_size(job: Job) -> bool:
    """Whether the cam gear meshes with a crank gear of half its size, whose runout shows twice a cam turn."""
    drive_train = gear_train.described(job)
    if drive_train is None:
        return True
    return any(
        {contact.up, contact.down} == {drive_train.crank.name, drive_train.cam.name} for contact in drive_train.contacts
    )


def rows(job: Job, mesh: Mesh, found: backlash.Backlash) -> tuple[Row, ...]:
    """Figures of the result, each with its limit."""

    def words(mm: float | None) -> str:
        return "" if mm is None else format_fine(mm, job.unit)

    lines = [
        Row("Tightest place", words(mesh.spec_min_mm), words(found.min_mm)),
        Row("Loosest place", words(mesh.spec_max_mm), words(found.max_mm)),
        Row("Mean", "", words(found.mean_mm)),
        Row("Swing", "", words(found.swing_mm)),
    ]
    lines.append(Row(say("tightest-at"), "", format_angle(found.tight_spot_cam_deg, 0)))
    if found.eccentricity_mm is not None:
        lines.append(Row(say("cam-gear-eccentricity"), "", words(found.eccentricity_mm)))
    if found.crank_eccentricity_mm is not None and _half_size(job):
        lines.append(Row(say("crank-gear-eccentricity"), "", words(found.crank_eccentricity_mm)))
    hot = hot_change_mm(job)
    if hot is not None:
        lines.append(Row(say("hot-backlash-row"), "", f"{words(found.min_mm + hot)}, {words(found.max_mm + hot)}"))
    if mesh.size_step_mm is not None:
        change = backlash.size_change(mesh.size_step_mm, mesh.pressure_angle_deg)
        lines.append(Row(say("other-gear-row"), "", f"{words(found.min_mm + change)}, {words(found.max_mm + change)}"))
    lines.append(Row(say("drive-slack-row"), "", format_angle(found.lash_crank_deg, 2)))
    return tuple(lines)


def notes(job: Job, mesh: Mesh, found: backlash.Backlash) -> tuple[str, ...]:
    """Additional remarks."""
    sentences: list[str] = []
    hot = hot_change_mm(job)
    if hot is not None:
        low, high = found.min_mm + hot, found.max_mm + hot
        if low > 0:
            sentences.append(say("hot-backlash", job.unit, low_mm=low, high_mm=high, unit_name=job.unit.value))
    changed = job.before_change(KEY)
    earlier = measured(changed[0]) if changed else None
    if changed is not None and earlier is not None:
        span = f"{format_fine(earlier.min_mm, job.unit)} to {format_fine(earlier.max_mm, job.unit)}"
        sentences.append(f"Before ({changed[1].in_sentence}): {span} {job.unit.value}.")
    drive_train = gear_train.described(job)
    gear = f" of “{drive_train.cam.name}”" if drive_train else ""
    sentences.append(say("drive-slack", gear=gear, lash_crank_deg=found.lash_crank_deg))
    return tuple(sentences)
