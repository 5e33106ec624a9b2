"""Stated phase of a cam, without a reading; valid until the cam is moved or disturbed."""

from collections.abc import Iterator

from uranograph.bench.acts import POSITION
from uranograph.bench.fields import Angle, Fields, Text
from uranograph.bench.job import Job
from uranograph.phase.messages import say

# Default uncertainty of somebody else's reading, crank degrees.
USUAL_DOUBT_DEG = 1.0


class StatedCam(Fields):
    """Where somebody states that the cam stands: centerlines, crank degrees, by whom, and how well.

    Examples
    --------
    >>> StatedCam.read({"intake_stated": "107", "stated_by": "RK"}).value.centerlines_deg
    {'intake': 107.0}
    >>> StatedCam.read({"intake_stated": "107"}).errors
    {'stated_by': 'Say who states it: it stands on the verdict.'}
    """

    intake_deg = Angle("intake_stated", "Intake centerline", "ATDC", least=60, most=160).optional()
    exhaust_deg = Angle("exhaust_stated", "Exhaust centerline", "BTDC", least=60, most=160).optional()
    doubt_deg = Angle("stated_doubt", "Good to ±, deg", "1 unless typed", least=0.05, most=10, default=USUAL_DOUBT_DEG)
    by = Text("stated_by", "By whom", "initials or a name", longest=24)

    def check(self) -> Iterator[tuple[str, str]]:
        if self.centerlines_deg and not self.by:
            yield "stated_by", say("centerline-source-missing")

    @property
    def centerlines_deg(self) -> dict[str, float]:
        """Those that are stated, by lobe."""
        stated = {"intake": self.intake_deg, "exhaust": self.exhaust_deg}
        return {lobe: deg for lobe, deg in stated.items() if deg is not None}


FORM = StatedCam.form("stated-cam", "cam as stated", names=StatedCam.names())


def stated_cam(job: Job) -> StatedCam | None:
    """Stated phase of the cam; None if not stated, or if the cam was moved or disturbed since."""
    latest = job.latest(FORM.kind)
    if latest is None or job.judged_until is not None:
        return None
    whole = job.full_job
    moved = max((act.seq for act in (*whole.acts("phase"), *whole.acts(POSITION))), default=0)
    stated = None if moved > latest.seq else job.form(FORM)
    return stated if stated is not None and stated.centerlines_deg else None
