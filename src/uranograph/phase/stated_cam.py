"""Where a cam stands as somebody states it, without a reading: it holds until the cam is moved or disturbed."""

from dataclasses import dataclass

from uranograph.bench.acts import POSITION
from uranograph.bench.fields import angle
from uranograph.bench.forms import Filled, Form, FormReader, Typed, remembered
from uranograph.bench.job import Job
from uranograph.phase.messages import say

FIELDS = ("intake_stated", "exhaust_stated", "stated_by", "stated_doubt")
# What somebody else read is taken for good to this, crank degrees, unless they say.
USUAL_DOUBT_DEG = 1.0


@dataclass(frozen=True)
class StatedCam:
    """Centerlines as a card states them, crank degrees, who states them, and how good they are."""

    centerlines_deg: dict[str, float]
    by: str
    doubt_deg: float


@remembered
def read(typed: Typed) -> Filled[StatedCam]:
    """Read what is stated of a cam; nothing at all states nothing.

    Examples
    --------
    >>> read({"intake_stated": "107", "stated_by": "RK"}).value.centerlines_deg
    {'intake': 107.0}
    >>> read({"intake_stated": "107"}).errors
    {'stated_by': 'Say who states it: it stands on the verdict.'}
    """
    reader = FormReader(typed)
    stated = {lobe: reader.take(f"{lobe}_stated", angle(60, 160)) for lobe in ("intake", "exhaust")}
    doubt = reader.take("stated_doubt", angle(0.05, 10))
    by = reader.text("stated_by")[:24]
    found = {lobe: deg for lobe, deg in stated.items() if deg is not None}
    if found and not by:
        reader.errors["stated_by"] = say("centerline-source-missing")
    if reader.errors:
        return Filled(None, reader.errors)
    return Filled(StatedCam(found, by, USUAL_DOUBT_DEG if doubt is None else doubt))


FORM = Form("stated-cam", "cam as stated", lambda typed, job: read(typed), names=FIELDS)


def stated_cam(job: Job) -> StatedCam | None:
    """What is stated of where the cam stands now; None where nothing is, or the cam was moved or disturbed since."""
    latest = job.latest(FORM.kind)
    if latest is None or job.judged_until is not None:
        return None
    whole = job.whole
    moved = max((act.seq for act in (*whole.acts("phase"), *whole.acts(POSITION))), default=0)
    stated = None if moved > latest.seq else job.form(FORM)
    return stated if stated is not None and stated.centerlines_deg else None
