"""Mark: what is seen of the timing marks, the keys, and the drives that have neither."""

from collections.abc import Mapping
from dataclasses import dataclass

from uranograph.bench import checks
from uranograph.bench.checks import TURNED_ALONE, Answer, Check
from uranograph.bench.finding import Finding, Prompt, Row, Verdict
from uranograph.bench.job import Entry, Job, Reading
from uranograph.bench.kept import kept
from uranograph.bench.slots import Slot
from uranograph.core import train as core
from uranograph.core.errors import Impossible
from uranograph.core.quantities import format_angle
from uranograph.stations.card.station import card_of
from uranograph.stations.gear_train import station as train
from uranograph.stations.gear_train.station import Contact, DriveTrain
from uranograph.stations.marks import blind, keyways, split
from uranograph.stations.marks.words import FOUND

KEY = "marks"
ANSWER = Slot[str](
    KEY,
    ("mesh-#", "key-#", "pin-#", "top-#", "order", "paint", "turned", "back", "proof-overlap", "proof-firing"),
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
}
SEEN = (("on", "on the mark"), ("early", "one tooth early"), ("late", "one tooth late"), ("hidden", "cannot see"))
YES_NO = (("yes", "yes"), ("no", "no"), ("hidden", "cannot see"))
CAUTIONS = (
    "Ignition and fuel off, battery disconnected. Turn by hand; both hands clear of the gears. "
    "A sprung gear or a loaded tensioner lets go hard: pin it first.",
    TURNED_ALONE,
)


def checks_of(drive_train: DriveTrain) -> tuple[Check, ...]:
    """Everything to look at on this train, in working order."""
    asked: list[Check] = []
    for gear in drive_train.gears:
        if gear.sprung:
            asked.append(
                Check(
                    f"pin-{gear.n}",
                    f"Pin of “{gear.name}”",
                    f"Pin the sprung gear “{gear.name}” before it comes off. Count the pin in; count it out at the end.",
                    (("in", "pin is in"), ("out", "pin is out again"), ("none", "was never pinned")),
                    good=("out",),
                    bad=("none",),
                    hint="A pin forgotten in the gear is a broken tooth.",
                )
            )
    for gear in drive_train.gears:
        if gear.held in ("key", "taper"):
            taper = gear.held == "taper"
            asked.append(
                Check(
                    f"key-{gear.n}",
                    f"Key of “{gear.name}”",
                    f"Look {'into the slot with a light' if taper else 'at the slot'}: is the key of “{gear.name}” in it?",
                    YES_NO,
                    good=("yes",),
                    bad=("no",),
                    hint="On a taper a gear can be tightened beside its key and feel right." if taper else "",
                )
            )
    asked.append(
        Check(
            "order",
            "Order and facing",
            "Ring, key, plate, gear: in this order, chamfer to the shoulder, oil grooves to what they feed, marks outward?",
            YES_NO,
            good=("yes",),
            bad=("no",),
        )
    )
    if drive_train.marked:
        asked.append(
            Check(
                "paint",
                "Marks repainted",
                "Clean the marks and paint them so that they can be told at a glance.",
                (("yes", "painted"), ("no", "plain enough as they are")),
                good=("yes", "no"),
            )
        )
    asked += [_mesh_check(drive_train, contact) for contact in drive_train.marked]
    asked += [
        Check(
            f"top-{gear.n}",
            f"Piston's own top beside the marks, “{gear.name}”",
            f"Find the piston's own top by stop or dial: with “{gear.name}” there, do its marks stand where they belong?",
            YES_NO,
            good=("yes",),
            bad=("no",),
            hint="A pressed gear can slip on its shaft: its marks stay right while the timing is wrong.",
        )
        for gear in drive_train.gears
        if gear.held == "pressed" and gear.timed
    ]
    asked.append(
        Check(
            "turned",
            "Two turns by hand",
            "Turn the crank two full turns by hand. Smooth all the way?",
            (("smooth", "smooth"), ("bind", "it binds or stops")),
            good=("smooth",),
            bad=("bind",),
            hint="A stop may be the stand or a tool in the way: look, never push.",
        )
    )
    if drive_train.marked:
        asked.append(
            Check(
                "back",
                "Marks after two turns",
                f"{train.when_back(drive_train)} Is it so?",
                (("yes", "as it says"), ("no", "not so"), ("hidden", "cannot see")),
                good=("yes",),
                bad=("no",),
            )
        )
    return tuple(asked)


def proofs() -> tuple[Check, ...]:
    """What proves a cam that was set without marks."""
    options = (("yes", "yes"), ("no", "no"))
    return (
        Check(
            "proof-overlap",
            "Valves at overlap TDC",
            "Rock the crank about overlap TDC: does the exhaust shut as the intake opens?",
            options,
            good=("yes",),
            bad=("no",),
        ),
        Check(
            "proof-firing",
            "Valves at firing TDC",
            "Turn once more to firing TDC: are both valves shut and free?",
            options,
            good=("yes",),
            bad=("no",),
        ),
    )


def _mesh_check(drive_train: DriveTrain, contact: Contact) -> Check:
    shift = drive_train.shift_of(contact)
    label = f" “{contact.label}”" if contact.label else ""
    where = "on the chain's links" if contact.how == "chain" else "on the line of centers"
    return Check(
        f"mesh-{contact.n}",
        f"Marks {contact.name}",
        f"Look at the marks{label} of “{contact.up}” and “{contact.down}” {where}.",
        SEEN,
        good=("on",),
        bad=("early", "late"),
        hint=f"One tooth here is {format_angle(shift, 3)} crank deg at the cam." if shift else "",
    )


@kept
def answers(job: Job) -> tuple[Answer, ...]:
    """Every inspection with its newest answer; those of a split overlap only where one was made."""
    drive_train = train.described(job)
    if drive_train is None:
        return ()
    asked = checks_of(drive_train)
    if split.measured(job):
        asked += proofs()
    return tuple(checks.answers(job, KEY, asked))


def views(job: Job) -> dict[str, str]:
    """The ways of looking that this train has something for."""
    drive_train = train.described(job)
    if drive_train is None:
        return {}
    offered = dict(VIEWS)
    if not drive_train.marked:
        del offered["compare"]
    if drive_train.helix is None:
        del offered["helical"]
    if blind.count_of(job) is None:
        del offered["blind"]
    return offered


def view_of(job: Job, choice: Mapping[str, str]) -> str:
    """The way of looking that is chosen, or the first."""
    offered = views(job)
    return choice.get("method", "") if choice.get("method") in offered else "marks"


def prompt(job: Job, choice: Mapping[str, str]) -> Prompt | None:
    """Ask for the next thing to look at or to read."""
    drive_train = train.described(job)
    if drive_train is None:
        return None
    view = view_of(job, choice)
    if view == "keyways" and not choice.get("item"):
        return keyways.prompt(job) or _look(job, choice, view)
    if view == "split" and not (split.measured(job) and not choice.get("item") and _proof_open(job)):
        if choice.get("item"):
            return _look(job, choice, view)
        return split.prompt(job)
    if view == "blind":
        return blind.prompt(job)
    return _look(job, choice, view)


def _proof_open(job: Job) -> bool:
    lifters = split.measured(job)
    return (
        lifters is not None
        and lifters.found is not None
        and any(a.reading is None for a in answers(job) if "proof" in a.check.kind)
    )


def _look(job: Job, choice: Mapping[str, str], view: str) -> Prompt | None:
    found = answers(job)
    if view == "split":
        found = tuple(answer for answer in found if "proof" in answer.check.kind)
    if view == "compare":
        found = tuple(answer for answer in found if answer.check.kind.startswith("mesh"))
    check = checks.next_of(found, choice.get("item", ""))
    return checks.prompt_of(job, KEY, check, method=view) if check else None


def accept(job: Job, entry: Entry) -> None:
    """Refuse an answer or a reading that cannot be.

    Raises
    ------
    Impossible
        With the field at fault.
    """
    drive_train = train.described(job)
    if drive_train is None:
        raise Impossible("text", "gears-missing")
    kind, _, place = entry.spot
    if place == checks.PLACE:
        checks.accept((*checks_of(drive_train), *proofs()), entry)
    elif kind in keyways.KINDS:
        keyways.accept(entry)
    elif kind == split.KIND:
        split.accept(entry)
    else:
        blind.accept(job, entry)


def note(job: Job, entry: Entry) -> str | None:
    """What was looked at, kept beside the answer so that it can be read without the sheet of gears."""
    drive_train = train.described(job)
    kind, _, place = entry.spot
    if drive_train is None or place != checks.PLACE:
        return None
    return next((check.label for check in (*checks_of(drive_train), *proofs()) if check.kind == kind), None)


def describe(reading: Reading) -> str:
    """Say what was looked at or read."""
    if reading.note:
        return reading.note
    kind, _, place = reading.spot
    if kind in keyways.KINDS:
        return f"{kind.removeprefix('keyway-')} key, direction"
    if kind == split.KIND:
        lobe = place.removesuffix("-on")
        return f"{lobe} lift at overlap" + (f", {reading.drop} deg on" if place.endswith("-on") else "")
    if kind == blind.AGAIN:
        return "intake lift after two turns"
    if kind.startswith("set-"):
        return f"hole set {kind.removeprefix('set-')}, off by"
    return "looked at"


def teeth_off(job: Job) -> list[tuple[Contact, int]]:
    """The places seen one tooth early (+1) or late (-1)."""
    drive_train = train.described(job)
    if drive_train is None:
        return []
    seen = {answer.check.kind: answer.text for answer in answers(job)}
    sentences = []
    for contact in drive_train.marked:
        text = seen.get(f"mesh-{contact.n}", "")
        if text in ("early", "late"):
            sentences.append((contact, 1 if text == "early" else -1))
    return sentences


def advance_deg(job: Job) -> float | None:
    """Crank degrees by which the marks say that the cam stands early; None where they were not all seen."""
    drive_train = train.described(job)
    seen = [answer for answer in answers(job) if answer.check.kind.startswith("mesh")]
    if drive_train is None or not seen or any(answer.state not in ("in", "out") for answer in seen):
        return None
    return sum(drive_train.shift_of(contact, teeth) for contact, teeth in teeth_off(job))


@kept
def find(job: Job) -> Finding:
    """Say whether the cam stands where marks, keys or lifters want it."""
    drive_train = train.described(job)
    if drive_train is None:
        return Finding(Verdict.OPEN, cautions=CAUTIONS).judged(Verdict.OPEN, FOUND, "gears-missing", begun=False)
    found = answers(job)
    base = Finding(
        Verdict.OPEN,
        "",
        rows=tuple(Row(answer.check.label, "", answer.words) for answer in found),
        columns=("", "", "seen", ""),
        cautions=CAUTIONS,
        notes=_notes(job, drive_train),
    )
    begun = bool(job.standing(KEY))
    if out := _out(job, drive_train, found):
        return base.judged(Verdict.OUT, FOUND, "out", why=out[0], step=out[1])
    if unsure := _unsure(job, found):
        return base.judged(Verdict.UNSURE, FOUND, "cannot-tell", why=unsure[0], step=unsure[1])
    waiting = [answer for answer in found if answer.reading is None]
    if waiting:
        return base.judged(
            Verdict.OPEN,
            FOUND,
            "under-way",
            begun=begun,
            limit=len(found) - len(waiting),
            count=len(found),
            step=waiting[0].check.instruction,
        )
    pins = [answer for answer in found if _pin_still_in(answer)]
    if pins:
        return base.judged(Verdict.OPEN, FOUND, "pin-still-in", begun=begun, label=pins[0].check.label)
    if (
        not drive_train.marked
        and keyways.measured(job) is None
        and split.measured(job) is None
        and not _blind_done(job)
    ):
        return base.judged(Verdict.OPEN, FOUND, "no-marks", begun=begun)
    return base.judged(Verdict.IN, FOUND, "proved", why=_proved_by(job, drive_train))


def _pin_still_in(answer: Answer) -> bool:
    return answer.check.kind.startswith("pin") and answer.text == "in"


def _blind_done(job: Job) -> bool:
    tried_sets = blind.tried(job)
    return tried_sets is not None and blind.told(job, tried_sets)[0] == "in"


def _out(job: Job, drive_train: DriveTrain, found: tuple[Answer, ...]) -> tuple[str, str] | None:
    keys = keyways.measured(job)
    if keys and keys.neighbors_clearly_worse and keys.nearest_teeth and not keys.other_turn:
        return keyways.told(keys), "Move the cam gear by that many teeth, then read both keys again."
    off = teeth_off(job)
    if off and keys is None:
        shift = sum(drive_train.shift_of(contact, teeth) for contact, teeth in off)
        places = ", ".join(f"{contact.name} one tooth {'early' if teeth > 0 else 'late'}" for contact, teeth in off)
        card = card_of(job)
        icl = card.card.intake_centerline_deg if card else None
        expect = f": ICL {format_angle(icl - shift)} instead of {format_angle(icl)}" if icl is not None else ""
        way = "early" if shift > 0 else "late"
        return (
            f"{places}: the cam stands {format_angle(abs(shift), 2)} crank deg {way}{expect}.",
            "Part the gears, shift that tooth, and look again.",
        )
    bad = next((answer for answer in found if answer.state == "out" and not answer.check.kind.startswith("mesh")), None)
    if bad:
        return f"{bad.check.label}: {bad.words}.", "Put it right, then answer again."
    of_split = split.measured(job)
    if of_split and of_split.tooth_or_more:
        return split.told(job, of_split), "Move the cam by a tooth, then read both lifters again."
    if of_split and not of_split.firing and split.whole_teeth(job, of_split) is Verdict.OUT:
        return split.told(job, of_split), "Move the cam by whole teeth, then read both lifters again."
    return None


def _unsure(job: Job, found: tuple[Answer, ...]) -> tuple[str, str] | None:
    keys = keyways.measured(job)
    if keys and (keys.other_turn or not keys.neighbors_clearly_worse):
        return keyways.told(
            keys
        ), "Turn the crank once more; read both keys again." if keys.other_turn else "Read both keys again."
    of_split = split.measured(job)
    if of_split and (of_split.firing or of_split.slopes_from == "wrong way"):
        return split.told(job, of_split), "Turn the crank once more; read both lifters again."
    if of_split and split.whole_teeth(job, of_split) is Verdict.UNSURE:
        return split.told(job, of_split), "Turn on a few degrees and read both: that tells how steep the flanks are."
    doubtful = [answer for answer in found if answer.state == "unsure" and answer.text != "in"]
    if keys:
        doubtful = [answer for answer in doubtful if not answer.check.kind.startswith(("mesh", "back"))]
    if doubtful:
        return (
            f"{doubtful[0].check.label}: {doubtful[0].words}.",
            "Find a way to see it, or read both keys: the key decides.",
        )
    sets = blind.tried(job)
    if sets and blind.told(job, sets)[0] == "unsure":
        return blind.told(job, sets)[1], "Try the sets again."
    return None


def _proved_by(job: Job, drive_train: DriveTrain) -> str:
    keys = keyways.measured(job)
    if keys:
        return keyways.told(keys)
    if drive_train.marked:
        return f"Every mark is where it belongs. {train.when_back(drive_train)}"
    sets = blind.tried(job)
    if sets and _blind_done(job):
        return blind.told(job, sets)[1]
    of_split = split.measured(job)
    assert of_split is not None
    return split.told(job, of_split)


def _notes(job: Job, drive_train: DriveTrain) -> tuple[str, ...]:
    sentences = []
    keys = keyways.measured(job)
    if keys and keys.neighbors_clearly_worse and teeth_off(job):
        sentences.append("The marks and the keys disagree: the key decides.")
    if drive_train.entry:
        sentences.append(helical_words(drive_train))
    if of_split := split.measured(job):
        sentences.append(split.told(job, of_split))
    if sets := blind.tried(job):
        sentences.append(blind.told(job, sets)[1])
    untimed = [gear.name for gear in drive_train.gears if not gear.timed]
    if untimed:
        sentences.append(f"Needs no timing: {', '.join(untimed)}.")
    return tuple(sentences)


def helical_words(drive_train: DriveTrain) -> str:
    """How far to start a helical gear to one side."""
    assert drive_train.entry is not None and drive_train.helix is not None
    turn, teeth = drive_train.entry.rotation_deg, drive_train.entry.teeth
    way = "against the way" if turn > 0 else "the way"
    return (
        f"“{drive_train.ends.helix_gear}” turns {format_angle(abs(turn), 2)} deg "
        f"({format_angle(abs(teeth), 2)} teeth) while it slides in: "
        f"start it that much {way} it turns on its way in, so that it ends on the mark."
    )


@dataclass(frozen=True)
class Place:
    """Where the marks of one place stand after some turning: teeth apart (0 on), and the turns they are back after."""

    contact: Contact
    up_teeth: float
    down_teeth: float
    back_after: int
    turns_left: float

    @property
    def on(self) -> bool:
        return self.up_teeth == 0 and self.down_teeth == 0

    @property
    def words(self) -> str:
        if self.on:
            return "on"
        off = [
            f"{name} {abs(teeth):g} {'past' if teeth > 0 else 'before'}"
            for name, teeth in ((self.contact.up, self.up_teeth), (self.contact.down, self.down_teeth))
            if teeth
        ]
        return ", ".join(off)


def places_after(job: Job, crank_teeth: int) -> list[Place]:
    """Where every pair of marks stands once the crank gear has gone on by some teeth from where all meet."""
    drive_train = train.described(job)
    if drive_train is None:
        return []
    stand = core.marks_after(drive_train.given, crank_teeth)

    def left(every: int) -> float:
        teeth = every * drive_train.crank.teeth
        return (teeth - crank_teeth % teeth) / drive_train.crank.teeth

    return [
        Place(
            contact,
            round(stand[contact.up].teeth, 2),
            round(stand[contact.down].teeth, 2),
            every := drive_train.back_after(contact),
            left(every),
        )
        for contact in drive_train.marked
    ]


def expected_notes(job: Job) -> tuple[str, ...]:
    """What the marks lead the degreeing to expect."""
    sentences = []
    shift = advance_deg(job)
    icl = card.card.intake_centerline_deg if (card := card_of(job)) else None
    if shift and icl is not None:
        way = "early" if shift > 0 else "late"
        words = (
            f"By the marks the cam stands {format_angle(abs(shift))} deg {way}: expect ICL {format_angle(icl - shift)}."
        )
        sentences.append(words)
    opening = card.events.io_btdc_deg if card and card.events else None
    if opening is not None and _blind_done(job):
        words = f"The gear was fitted at the card's opening point: expect IO {format_angle(opening)} BTDC."
        sentences.append(words)
    return tuple(sentences)
