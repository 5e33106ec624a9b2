"""Timing marks as observed, and the cam position they imply."""

from collections.abc import Mapping

from uranograph.bench import checks
from uranograph.bench.checks import Check, CheckAnswer
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.engine import gear_train, turning
from uranograph.engine.card import card_of
from uranograph.engine.gear_train_model import Contact, DriveTrain
from uranograph.phase import blind_sets, split_overlap
from uranograph.phase.marks_messages import say

KEY = "marks"
ANSWER = Slot[str](
    KEY,
    (
        "mesh-#",
        "key-#",
        "pin-#",
        "top-#",
        "crank-at",
        "order",
        "paint",
        "turned",
        "back",
        "proof-overlap",
        "proof-firing",
    ),
    ("seen",),
    rests_on=("mesh",),
)
VIEWS = {
    "marks": "Train",
    "compare": "Compare",
    "keyways": "Keyways",
    "helical": "Helical entry",
    "split": "Split overlap",
    "blind": "Blind drive",
    "blind-eye": "Blind, by eye",
}
SEEN = (("on", "on the mark"), ("early", "early"), ("late", "late"), ("hidden", "cannot see"), checks.NONE)
PINNED = (("in", "pin is in"), ("out", "pin is out again"), ("none", "was never pinned"))
YES_NO = (("yes", "yes"), ("no", "no"), ("hidden", "cannot see"), checks.NONE)


def checks_of(drive_train: DriveTrain) -> tuple[Check, ...]:
    """Everything to look at on this train, in working order."""
    asked = [
        Check(
            f"pin-{gear.n}",
            f"Pin of “{gear.name}”",
            say("pin-sprung-gear", name=gear.name),
            PINNED,
            good=("out",),
            bad=("none",),
            hint=say("pin-left-in-breaks-teeth"),
        )
        for gear in drive_train.gears
        if gear.sprung
    ]
    for gear in drive_train.gears:
        if gear.held in ("key", "taper"):
            taper = gear.held == "taper"
            asked.append(
                Check(
                    f"key-{gear.n}",
                    f"Key of “{gear.name}”",
                    say("ask-key", way="into the slot with a light" if taper else "at the slot", name=gear.name),
                    YES_NO,
                    good=("yes", "na"),
                    bad=("no",),
                    hint=say("taper-hint") if taper else "",
                )
            )
    asked.append(
        Check(
            "order",
            "Order and facing",
            say("ask-assembly-order"),
            YES_NO,
            good=("yes", "na"),
            bad=("no",),
        )
    )
    if drive_train.marked:
        asked.append(
            Check(
                "paint",
                "Marks repainted",
                say("paint-marks"),
                (("yes", "painted"), ("no", say("marks-plain-enough"))),
                good=("yes", "no"),
            )
        )
    if drive_train.marked:
        asked.append(checks.crank_at(say("crank-at-label"), say("ask-crank-at"), say("crank-at-first")))
    asked += [_mesh_check(drive_train, contact) for contact in drive_train.marked]
    asked += [
        Check(
            f"top-{gear.n}",
            say("own-tdc-label", name=gear.name),
            say("ask-own-tdc", name=gear.name),
            YES_NO,
            good=("yes", "na"),
            bad=("no",),
            hint=say("pressed-gear-may-slip"),
        )
        for gear in drive_train.gears
        if gear.held == "pressed" and gear.timed
    ]
    asked.append(turning.check(say("two-turns-label"), say("ask-two-turns"), say("two-turns-hint")))
    if drive_train.marked:
        asked.append(
            Check(
                "back",
                say("marks-after-turns-label"),
                f"{gear_train.when_back(drive_train)} Is it so?",
                (("yes", "as it says"), ("no", "not so"), ("hidden", "cannot see"), checks.NONE),
                good=("yes", "na"),
                bad=("no",),
            )
        )
    return tuple(asked)


def proofs() -> tuple[Check, ...]:
    """Proof of a cam that was set without marks."""
    options = (("yes", "yes"), ("no", "no"))
    return (
        Check(
            "proof-overlap",
            say("valves-at-overlap-label"),
            say("ask-valves-at-overlap"),
            options,
            good=("yes",),
            bad=("no",),
        ),
        Check(
            "proof-firing",
            say("valves-at-firing-label"),
            say("ask-valves-at-firing"),
            options,
            good=("yes",),
            bad=("no",),
        ),
    )


def _mesh_check(drive_train: DriveTrain, contact: Contact) -> Check:
    shift = drive_train.shift_of(contact)
    label = f" “{contact.label}”" if contact.label else ""
    where = say("on-line-of-centers")
    if contact.how == "chain":
        where = say("facing-marks") if contact.links is None else say("on-chain-links")
    return Check(
        f"mesh-{contact.n}",
        f"Marks {contact.name}",
        say("ask-mesh-marks", label=label, up=contact.up, down=contact.down, where=where),
        SEEN,
        good=("on", "na"),
        bad=("early", "late"),
        hint=say("one-tooth-is", shift_deg=shift) if shift else "",
    )


@memoized
def answers(job: Job) -> tuple[CheckAnswer, ...]:
    """Every inspection with its newest answer; those of a split overlap only where one was made."""
    drive_train = gear_train.described(job)
    if drive_train is None:
        return ()
    asked = checks_of(drive_train)
    newest = {
        reading.spot.kind: reading.text for reading in job.active_readings(KEY) if reading.spot.place == checks.PLACE
    }
    meshes = [f"mesh-{contact.n}" for contact in drive_train.marked]
    if meshes and all(newest.get(kind) == checks.NONE[0] for kind in meshes):
        # Without marks, none can return after two turns.
        asked = tuple(check for check in asked if check.kind != "back")
    if split_overlap.measured(job):
        asked += proofs()
    return tuple(turning.as_looked(job, checks.answers(job, KEY, asked)))


def views(job: Job) -> dict[str, str]:
    """The ways of looking that this train has something for."""
    drive_train = gear_train.described(job)
    if drive_train is None:
        return {}
    offered = dict(VIEWS)
    if not drive_train.marked:
        del offered["compare"]
    if drive_train.helix is None:
        del offered["helical"]
    if blind_sets.count_of(job) is None:
        del offered["blind"], offered["blind-eye"]
    return offered


def view_of(job: Job, query: Mapping[str, str]) -> str:
    """The way of looking that is chosen, or the first."""
    offered = views(job)
    return query.get("method", "") if query.get("method") in offered else "marks"


def teeth_off(job: Job) -> list[tuple[Contact, int]]:
    """The places seen some teeth early (positive) or late (negative)."""
    drive_train = gear_train.described(job)
    if drive_train is None:
        return []
    seen = {answer.check.kind: answer.reading for answer in answers(job)}
    found = []
    for contact in drive_train.marked:
        reading = seen.get(f"mesh-{contact.n}")
        if reading is not None and reading.text in ("early", "late"):
            teeth = int(reading.second or 1)
            found.append((contact, teeth if reading.text == "early" else -teeth))
    return found


def advance_deg(job: Job) -> float | None:
    """Advance of the cam by its marks, crank degrees; None unless all were seen."""
    drive_train = gear_train.described(job)
    seen = [answer for answer in answers(job) if answer.check.kind.startswith("mesh") and answer.text != "na"]
    if drive_train is None or not seen or any(answer.state not in ("in", "out") for answer in seen):
        return None
    return sum(drive_train.shift_of(contact, teeth) for contact, teeth in teeth_off(job))


def blind_done(job: Job) -> bool:
    """Whether the hole sets of a blind gear have settled where it belongs."""
    tried_sets = blind_sets.tried(job)
    return tried_sets is not None and blind_sets.summary(job, tried_sets)[0] == "in"


def expected_notes(job: Job) -> tuple[str, ...]:
    """Phase expected from the marks."""
    sentences = []
    shift = advance_deg(job)
    icl = card.card.intake_centerline_deg if (card := card_of(job)) else None
    if shift and icl is not None:
        way = "early" if shift > 0 else "late"
        words = say("expect-centerline", shift_deg=abs(shift), way=way, icl_deg=icl - shift)
        sentences.append(words)
    opening = card.events.io_btdc_deg if card and card.events else None
    if opening is not None and blind_done(job):
        words = say("expect-opening", opening_deg=opening)
        sentences.append(words)
    return tuple(sentences)
