"""Marks against keyways: both keys read with a level, and what they say in teeth."""

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.core.errors import InvalidInput
from uranograph.core.keyway import Keyway, KeywayInput, keyway
from uranograph.core.quantities import parse_angle
from uranograph.core.wheel import Turn
from uranograph.engine import gear_train
from uranograph.engine.description import rotation_of
from uranograph.phase.marks_messages import say

STATION = "marks"
ENDS = ("crank", "cam")
KINDS = tuple(f"keyway-{end}" for end in ENDS)
LEVEL = Slot[str](STATION, KINDS, ("level",), rests_on=("mesh",))


def read_at(job: Job, end: str) -> Reading | None:
    """The newest standing direction of one key; the cam's counts only where it was read after the crank's."""
    taken = {kind: LEVEL.taken(job, kind) for kind in KINDS}
    own = taken[f"keyway-{end}"]
    if not own:
        return None
    cranks = taken["keyway-crank"]
    return own[-1] if end == "crank" or not cranks or own[-1].seq > cranks[-1].seq else None


@memoized
def measured(job: Job) -> Keyway | None:
    """Result of both keyways, once they are read and their nominal directions are known."""
    drive_train = gear_train.described(job)
    crank, cam = read_at(job, "crank"), read_at(job, "cam")
    if (
        drive_train is None
        or crank is None
        or cam is None
        or drive_train.ends.crank_key_deg is None
        or drive_train.ends.cam_key_deg is None
    ):
        return None
    return keyway(
        KeywayInput(
            crank_stated_deg=drive_train.ends.crank_key_deg,
            crank_measured_deg=parse_angle(crank.text),
            cam_stated_deg=drive_train.ends.cam_key_deg,
            cam_measured_deg=parse_angle(cam.text),
            cam_teeth=drive_train.cam.teeth,
            turns_opposite=drive_train.train.cam_turns_opposite,
            clockwise=rotation_of(job) is not Turn.COUNTERCLOCKWISE,
        )
    )


def prompt(job: Job) -> Prompt | None:
    """Ask for the direction of the crank's key, then of the cam's; None where it is not stated where they belong."""
    drive_train = gear_train.described(job)
    if drive_train is None or drive_train.ends.crank_key_deg is None or drive_train.ends.cam_key_deg is None:
        return None
    end = "cam" if read_at(job, "crank") and not read_at(job, "cam") else "crank"
    stated = drive_train.ends.crank_key_deg if end == "crank" else drive_train.ends.cam_key_deg
    instruction = say("read-crank-key", stated_deg=stated) if end == "crank" else say("read-cam-key")
    return Prompt(
        slot=LEVEL.next(job, f"keyway-{end}"),
        label=say("key-direction-label", end=end.capitalize()),
        instruction=instruction,
        hint=say("key-direction-hint"),
        unit="deg",
        extra={"method": "keyways"},
    )


def accept(entry: Entry) -> None:
    """Refuse a direction that is none.

    Raises
    ------
    InvalidInput
        When the text is no angle within a turn.
    """
    if not -360 <= parse_angle(entry.text) <= 360:
        raise InvalidInput("text", "more-than-a-turn", typed=entry.text)


def summary(found: Keyway) -> str:
    """Result of the keyways, as a sentence."""
    if found.other_turn:
        return say("key-half-a-turn-off", difference_cam_deg=abs(found.difference_cam_deg))
    off = abs(found.difference_cam_deg)
    way = "ahead" if found.difference_cam_deg > 0 else "behind"
    teeth = abs(found.nearest_teeth)
    if not found.neighbors_clearly_worse:
        return say("key-between-teeth", off_deg=off, way=way, per_tooth_cam_deg=found.per_tooth_cam_deg)
    if teeth == 0:
        return say("keys-agree", off_deg=off)
    return say("keys-say-teeth-off", teeth=teeth, way="tooth" if teeth == 1 else "teeth", way_2=way, off_deg=off)
