"""What is complained of, and what was reported between crank and cam."""

from dataclasses import dataclass

from uranograph.bench.fields import angle, count
from uranograph.bench.forms import Ask, Filled, Form, FormReader, Group, Typed
from uranograph.bench.job import Job
from uranograph.core.slip import Slip, SlipGiven, tooth_slip
from uranograph.engine import gear_train
from uranograph.engine.gear_train import HELD
from uranograph.stations.complaint.messages import say

DRIVES = {"": "not said", "gears": "gears", "chain": "chain", "belt": "belt"}
BY = {"": "not said", "scan": "a scan tool", "marks": "marks, the piston at its own top", "degreeing": "degreeing"}
FURTHEST_DEG = 360.0


@dataclass(frozen=True)
class Reported:
    """The complaint in words, and the deviation: crank degrees, late positive; None where only words are known."""

    complaint: str
    by: str
    offset_deg: float | None
    crank_teeth: int | None
    drive: str
    held: str
    claim_teeth: int | None
    claim_deg: float | None
    teeth_off: int | None = None

    @property
    def claims(self) -> tuple[tuple[int, float], ...]:
        """Each claim that so many teeth are so many crank degrees: as it is made, and of what is reported both ways."""
        found = []
        if self.claim_deg is not None:
            found.append((self.claim_teeth or 1, abs(self.claim_deg)))
        if self.teeth_off and self.offset_deg and self.told_in_degrees:
            found.append((abs(self.teeth_off), abs(self.offset_deg)))
        return tuple(found)

    @property
    def told_in_degrees(self) -> bool:
        """Whether the degrees were told, and do not only follow from teeth."""
        if self.teeth_off is None or self.crank_teeth is None:
            return True
        return self.offset_deg != self.teeth_off * 360 / self.crank_teeth

    @property
    def slip(self) -> Slip | None:
        """The deviation in teeth, where both are known."""
        if self.offset_deg is None or self.crank_teeth is None:
            return None
        return tooth_slip(SlipGiven(offset_deg=self.offset_deg, crank_teeth=self.crank_teeth))


def read(typed: Typed, job: Job) -> Filled[Reported]:
    """Read the complaint as typed; teeth and how the gear is held follow from the gear train where it is described."""
    reader = FormReader(typed)
    known = gear_train.described(job)
    teeth = reader.take("crank_teeth", count(3, 400, "teeth cannot be"))
    if teeth is None and known is not None:
        teeth = known.crank.teeth
    offset = reader.take("offset", angle(-FURTHEST_DEG, FURTHEST_DEG))
    off_by = reader.take("teeth_off", _signed_teeth)
    claim_teeth = reader.take("claim_teeth", count(1, 40, "teeth cannot be"))
    claim_deg = reader.take("claim_deg", angle(-FURTHEST_DEG, FURTHEST_DEG))
    complaint, by = reader.text("complaint"), reader.text("by_what")
    drive, held = reader.text("drive_kind"), reader.text("held") or (known.cam.held if known else "")
    if drive not in DRIVES or by not in BY or held not in HELD:
        reader.errors["by_what"] = say("complaint-choice-missing")
    if not complaint:
        reader.errors["complaint"] = say("complaint-missing")
    if off_by is not None and offset is not None and off_by * offset < 0:
        reader.errors["teeth_off"] = say("degrees-and-teeth-apart")
    elif off_by is not None and offset is None and teeth is not None:
        offset = off_by * 360 / teeth
    if reader.errors:
        return Filled(None, reader.errors)
    return Filled(Reported(complaint, by, offset, teeth, drive, held, claim_teeth, claim_deg, off_by))


def _signed_teeth(text: str) -> int:
    sign = -1 if text.startswith(("-", "−")) else 1
    return sign * count(1, 40, "teeth cannot be")(text.lstrip("+-−"))


FORM = Form(
    "complaint",
    "complaint",
    read,
    instruction="Say what is complained of, and what was reported.",
    groups=(
        Group(
            (
                Ask("complaint", "Complaint", "such as: no power, a code for cam timing", free=True),
                Ask("by_what", "Told by", options=tuple(BY.items())),
                Ask("offset", "Deviation, crank deg", "late +, early −", free=True),
                Ask("teeth_off", "Marks off by, teeth", "late +, early −", free=True),
                Ask("crank_teeth", "Crank gear's teeth"),
                Ask("drive_kind", "Driven by", options=tuple(DRIVES.items())),
                Ask("held", "Gear held by", options=tuple(HELD.items())),
            )
        ),
        Group(
            (Ask("claim_teeth", "A claim: so many teeth"), Ask("claim_deg", "are so many crank deg")),
            "A claim to check",
        ),
    ),
)


def reported(job: Job) -> Reported | None:
    """What is reported of a job; None before anybody said so."""
    return job.form(FORM)
