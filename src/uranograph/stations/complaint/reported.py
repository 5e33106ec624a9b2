"""The complaint and the reported phase of the cam."""

from collections.abc import Iterator
from dataclasses import dataclass

from uranograph.bench.fields import Angle, Choice, Count, Fields, Fold, SignedCount, Text
from uranograph.bench.forms import Filled, Form, Typed
from uranograph.bench.job import Job
from uranograph.core.slip import Slip, SlipInput, tooth_slip
from uranograph.engine import gear_train
from uranograph.engine.gear_train import HELD
from uranograph.stations.complaint.messages import say

DRIVES = {"": "not said", "gears": "gears", "chain": "chain", "belt": "belt"}
BY = {"": "not said", "scan": "a scan tool", "marks": "marks, the piston at its own top", "degreeing": "degreeing"}
MAX_DEG = 360.0


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
        if self.teeth_off and self.offset_deg and self.stated_in_degrees:
            found.append((abs(self.teeth_off), abs(self.offset_deg)))
        return tuple(found)

    @property
    def stated_in_degrees(self) -> bool:
        """Whether degrees were entered, not only derived from teeth."""
        if self.teeth_off is None or self.crank_teeth is None:
            return True
        return self.offset_deg != self.teeth_off * 360 / self.crank_teeth

    @property
    def slip(self) -> Slip | None:
        """The deviation in teeth, where both are known."""
        if self.offset_deg is None or self.crank_teeth is None:
            return None
        return tooth_slip(SlipInput(offset_deg=self.offset_deg, crank_teeth=self.crank_teeth))


class ReportedFields(Fields):
    """A complaint as typed."""

    complaint = Text(
        "complaint",
        "Complaint",
        "such as: no power, a code for cam timing",
        longest=2000,
        required=say("complaint-missing"),
    )
    by = Choice("by_what", "Reported by", BY.items(), unknown=say("complaint-choice-missing"))
    offset_deg = Angle(
        "offset", "Deviation, crank deg", "late +, early −", least=-MAX_DEG, most=MAX_DEG, free=True
    ).optional()
    teeth_off = SignedCount(
        "teeth_off", "Marks off by, teeth", "late +, early −", least=1, most=40, counted="teeth cannot be", free=True
    ).optional()
    crank_teeth = Count("crank_teeth", "Crank gear's teeth", least=3, most=400, counted="teeth cannot be").optional()
    drive = Choice("drive_kind", "Driven by", DRIVES.items(), unknown=say("complaint-choice-missing"))
    held = Choice("held", "Gear held by", HELD.items(), unknown=say("complaint-choice-missing"))
    claim = Fold("A claim to check")
    claim_teeth = Count("claim_teeth", "A claim: so many teeth", least=1, most=40, counted="teeth cannot be").optional()
    claim_deg = Angle("claim_deg", "are so many crank deg", least=-MAX_DEG, most=MAX_DEG).optional()

    def check(self) -> Iterator[tuple[str, str]]:
        if self.teeth_off is not None and self.offset_deg is not None and self.teeth_off * self.offset_deg < 0:
            yield "teeth_off", say("degrees-and-teeth-apart")


def read(typed: Typed, job: Job) -> Filled[Reported]:
    """Read the complaint as typed; teeth and how the gear is held follow from the gear train where it is described."""
    filled = ReportedFields.read(typed)
    found = filled.value
    if found is None:
        return Filled(None, filled.errors)
    known = gear_train.described(job)
    teeth = known.crank.teeth if found.crank_teeth is None and known is not None else found.crank_teeth
    offset = found.offset_deg
    if found.teeth_off is not None and offset is None and teeth is not None:
        offset = found.teeth_off * 360 / teeth
    held = found.held or (known.cam.held if known else "")
    return Filled(
        Reported(
            found.complaint,
            found.by,
            offset,
            teeth,
            found.drive,
            held,
            found.claim_teeth,
            found.claim_deg,
            found.teeth_off,
        )
    )


FORM = Form(
    "complaint",
    "complaint",
    read,
    instruction="Say what is complained of, and what was reported.",
    groups=ReportedFields.groups(),
)


def reported(job: Job) -> Reported | None:
    """The reported complaint; None before one is entered."""
    return job.form(FORM)
