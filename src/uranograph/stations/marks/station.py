"""Mark: what is seen of the timing marks, the keys, and the drives that have neither."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from uranograph.bench import checks
from uranograph.bench.checks import TURNED_ALONE, Answer, Check
from uranograph.bench.fields import count
from uranograph.bench.finding import Finding, Prompt, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.kept import kept
from uranograph.bench.log import Entry, Reading
from uranograph.bench.slots import Slot
from uranograph.core import train as core
from uranograph.core.errors import Impossible
from uranograph.core.quantities import format_angle
from uranograph.engine import gear_train as train
from uranograph.engine import turning as record
from uranograph.engine.card import card_of
from uranograph.engine.gear_train import Contact, DriveTrain
from uranograph.stations.marks import blind, keyways, split
from uranograph.stations.marks.words import FOUND, say

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
# Answers that are kept under short names, in words.
ANSWER_WORDS = {
    **{f"pin-#:{answer}": words for answer, words in PINNED},
    "mesh-#:on": "on the mark",
    "paint:yes": "painted",
    "paint:no": "plain enough as they are",
    "back:yes": "as it says",
    "back:no": "not so",
    **dict(checks.AT),
    **dict(record.OPTIONS),
}
MOST_TEETH = 99
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
                    say("pin-sprung-gear-before", name=gear.name),
                    PINNED,
                    good=("out",),
                    bad=("none",),
                    hint=say("pin-forgotten-gear-broken"),
                )
            )
    for gear in drive_train.gears:
        if gear.held in ("key", "taper"):
            taper = gear.held == "taper"
            asked.append(
                Check(
                    f"key-{gear.n}",
                    f"Key of “{gear.name}”",
                    say("key", way="into the slot with a light" if taper else "at the slot", name=gear.name),
                    YES_NO,
                    good=("yes", "na"),
                    bad=("no",),
                    hint=say("taper-gear-tightened-beside") if taper else "",
                )
            )
    asked.append(
        Check(
            "order",
            "Order and facing",
            say("ring-key-plate-gear"),
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
                say("clean-marks-paint-them"),
                (("yes", "painted"), ("no", say("plain-enough-they"))),
                good=("yes", "no"),
            )
        )
    if drive_train.marked:
        asked.append(checks.crank_at(say("crank-stands"), say("where-does-crank"), say("marks-mean-nothing")))
    asked += [_mesh_check(drive_train, contact) for contact in drive_train.marked]
    asked += [
        Check(
            f"top-{gear.n}",
            say("piston-s-own-top", name=gear.name),
            say("find-piston-s-own", name=gear.name),
            YES_NO,
            good=("yes", "na"),
            bad=("no",),
            hint=say("pressed-gear-slip-shaft"),
        )
        for gear in drive_train.gears
        if gear.held == "pressed" and gear.timed
    ]
    asked.append(record.check(say("two-turns-hand"), say("turn-crank-two-full"), say("stop-may-stand-tool")))
    if drive_train.marked:
        asked.append(
            Check(
                "back",
                say("marks-after-two-turns"),
                f"{train.when_back(drive_train)} Is it so?",
                (("yes", "as it says"), ("no", "not so"), ("hidden", "cannot see"), checks.NONE),
                good=("yes", "na"),
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
            say("valves-overlap-tdc"),
            say("rock-crank-about-overlap"),
            options,
            good=("yes",),
            bad=("no",),
        ),
        Check(
            "proof-firing",
            say("valves-firing-tdc"),
            say("turn-once-more-firing"),
            options,
            good=("yes",),
            bad=("no",),
        ),
    )


def _mesh_check(drive_train: DriveTrain, contact: Contact) -> Check:
    shift = drive_train.shift_of(contact)
    label = f" “{contact.label}”" if contact.label else ""
    where = say("line-centers")
    if contact.how == "chain":
        where = say("facing-each-other") if contact.links is None else say("chain-s-links")
    return Check(
        f"mesh-{contact.n}",
        f"Marks {contact.name}",
        say("marks", label=label, up=contact.up, down=contact.down, where=where),
        SEEN,
        good=("on", "na"),
        bad=("early", "late"),
        hint=say("tooth-crank-deg-cam", shift_deg=shift) if shift else "",
    )


@kept
def answers(job: Job) -> tuple[Answer, ...]:
    """Every inspection with its newest answer; those of a split overlap only where one was made."""
    drive_train = train.described(job)
    if drive_train is None:
        return ()
    asked = checks_of(drive_train)
    newest = {reading.spot.kind: reading.text for reading in job.standing(KEY) if reading.spot.place == checks.PLACE}
    meshes = [f"mesh-{contact.n}" for contact in drive_train.marked]
    if meshes and all(newest.get(kind) == checks.NONE[0] for kind in meshes):
        # Where there are no marks, none can be back after two turns.
        asked = tuple(check for check in asked if check.kind != "back")
    if split.measured(job):
        asked += proofs()
    return tuple(record.as_looked(job, checks.answers(job, KEY, asked)))


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
        del offered["blind"], offered["blind-eye"]
    return offered


def view_of(job: Job, query: Mapping[str, str]) -> str:
    """The way of looking that is chosen, or the first."""
    offered = views(job)
    return query.get("method", "") if query.get("method") in offered else "marks"


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next thing to look at or to read."""
    drive_train = train.described(job)
    if drive_train is None:
        return None
    view = view_of(job, query)
    if view == "keyways" and not query.get("item"):
        return keyways.prompt(job) or _look(job, query, view)
    if view == "split" and not (split.measured(job) and not query.get("item") and _proof_open(job)):
        if query.get("item"):
            return _look(job, query, view)
        return split.prompt(job)
    if view in ("blind", "blind-eye"):
        return blind.prompt(job, by_eye=view == "blind-eye")
    return _look(job, query, view)


def _proof_open(job: Job) -> bool:
    lifters = split.measured(job)
    return (
        lifters is not None
        and lifters.found is not None
        and any(a.reading is None for a in answers(job) if "proof" in a.check.kind)
    )


def _look(job: Job, query: Mapping[str, str], view: str) -> Prompt | None:
    found = answers(job)
    if view == "split":
        found = tuple(answer for answer in found if "proof" in answer.check.kind)
    if view == "compare":
        found = tuple(answer for answer in found if answer.check.kind.startswith("mesh"))
    check = checks.pins_first(answers(job), checks.next_of(found, query.get("item", "")) or _pin_in(found))
    if check is None:
        return None
    asked = checks.prompt_of(job, KEY, check, method=view)
    return replace(asked, second="1", second_label=say("teeth-off")) if check.kind.startswith("mesh") else asked


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
        if kind == record.KIND:
            checks.refuse_pinned([answer for answer in answers(job) if _pin_still_in(answer)])
        if entry.second and entry.text in ("early", "late"):
            _accept_teeth(entry.second)
    elif kind in keyways.KINDS:
        keyways.accept(entry)
    elif kind == split.KIND:
        split.accept(entry)
    else:
        blind.accept(job, entry)


def _accept_teeth(text: str) -> None:
    try:
        count(1, MOST_TEETH, "teeth cannot be")(text)
    except Impossible as error:
        raise error.at("second") from error


def in_words(job: Job, entry: Entry) -> Entry:
    """What was looked at, kept with the answer so that it can be read without the form of gears."""
    drive_train = train.described(job)
    kind, _, place = entry.spot
    if drive_train is None or place != checks.PLACE:
        return entry
    labels = {check.kind: check.label for check in (*checks_of(drive_train), *proofs())}
    return replace(entry, about=labels.get(kind))


def describe(reading: Reading) -> str:
    """Say what was looked at or read."""
    if reading.about:
        off = reading.text in ("early", "late") and reading.second
        return f"{reading.about}, {reading.second} teeth" if off else reading.about
    kind, _, place = reading.spot
    if kind in keyways.KINDS:
        return f"{kind.removeprefix('keyway-')} key, direction"
    if kind == split.KIND:
        lobe = place.removesuffix("-on")
        return f"{lobe} lift at overlap" + (f", {reading.second} deg on" if place.endswith("-on") else "")
    if kind == blind.AGAIN:
        return say("intake-lift-after-two-2")
    if kind.startswith("set-"):
        return say("hole-set-off", kind=kind.removeprefix("set-"))
    return "looked at"


def teeth_off(job: Job) -> list[tuple[Contact, int]]:
    """The places seen some teeth early (positive) or late (negative)."""
    drive_train = train.described(job)
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
    """Crank degrees by which the marks say that the cam stands early; None where they were not all seen."""
    drive_train = train.described(job)
    seen = [answer for answer in answers(job) if answer.check.kind.startswith("mesh") and answer.text != "na"]
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
    pins = [answer for answer in found if _pin_still_in(answer)]
    if waiting and not (pins and waiting[0].check.kind == record.KIND):
        return base.judged(
            Verdict.OPEN,
            FOUND,
            "under-way",
            begun=begun,
            limit=len(found) - len(waiting),
            count=len(found),
            step=waiting[0].check.instruction,
        )
    if pins:
        return base.judged(Verdict.OPEN, FOUND, "pin-still-in", begun=begun, label=pins[0].check.label)
    if (
        checks.nothing_there(
            [answer for answer in found if answer.check.kind.startswith(("mesh", "key", "order", "top"))]
        )
        and keyways.measured(job) is None
        and split.measured(job) is None
        and not _blind_done(job)
        and drive_train.marked
    ):
        return base.judged(Verdict.SKIPPED, FOUND, "nothing-there", begun=begun)
    if (
        not any(answer.check.kind.startswith("mesh") and answer.text != "na" for answer in found)
        and keyways.measured(job) is None
        and split.measured(job) is None
        and not _blind_done(job)
    ):
        return base.judged(Verdict.OPEN, FOUND, "no-marks", begun=begun)
    return base.judged(Verdict.IN, FOUND, "proved", why=_proved_by(job, drive_train))


def _pin_in(found: tuple[Answer, ...]) -> Check | None:
    """What is asked again by itself: only a pin that is still in."""
    return next((answer.check for answer in found if _pin_still_in(answer)), None)


def _pin_still_in(answer: Answer) -> bool:
    return answer.check.kind.startswith("pin") and answer.text == "in"


def _blind_done(job: Job) -> bool:
    tried_sets = blind.tried(job)
    return tried_sets is not None and blind.told(job, tried_sets)[0] == "in"


def _out(job: Job, drive_train: DriveTrain, found: tuple[Answer, ...]) -> tuple[str, str] | None:
    keys = keyways.measured(job)
    if keys and keys.neighbors_clearly_worse and keys.nearest_teeth and not keys.other_turn:
        return keyways.told(keys), say("move-cam-gear-many")
    off = teeth_off(job)
    if off and keys is None:
        shift = sum(drive_train.shift_of(contact, teeth) for contact, teeth in off)
        places = ", ".join(
            f"{contact.name} {'one tooth' if abs(teeth) == 1 else f'{abs(teeth)} teeth'} {'early' if teeth > 0 else 'late'}"
            for contact, teeth in off
        )
        card = card_of(job)
        icl = card.card.intake_centerline_deg if card else None
        expect = f": ICL {format_angle(icl - shift)} instead of {format_angle(icl)}" if icl is not None else ""
        way = "early" if shift > 0 else "late"
        return (
            say("cam-stands-crank-deg", places=places, shift_deg=abs(shift), way=way, expect=expect),
            say("part-gears-shift-tooth")
            if sum(abs(teeth) for _, teeth in off) == 1
            else say("part-gears-shift-teeth"),
        )
    bad = next((answer for answer in found if answer.state == "out" and not answer.check.kind.startswith("mesh")), None)
    if bad:
        return f"{bad.check.label}: {bad.words}.", say("put-right-answer")
    of_split = split.measured(job)
    if of_split and of_split.tooth_or_more:
        return split.told(job, of_split), say("move-cam-tooth-read")
    if of_split and not of_split.firing and split.whole_teeth(job, of_split) is Verdict.OUT:
        return split.told(job, of_split), say("move-cam-whole-teeth")
    return None


def _unsure(job: Job, found: tuple[Answer, ...]) -> tuple[str, str] | None:
    keys = keyways.measured(job)
    if keys and (keys.other_turn or not keys.neighbors_clearly_worse):
        return keyways.told(keys), say("turn-crank-once-more") if keys.other_turn else say("read-both-keys")
    of_split = split.measured(job)
    if of_split and (of_split.firing or of_split.slopes_from == "wrong way"):
        return split.told(job, of_split), say("turn-crank-once-more-2")
    if of_split and split.whole_teeth(job, of_split) is Verdict.UNSURE:
        return split.told(job, of_split), say("turn-few-degrees-read-2")
    doubtful = [answer for answer in found if answer.state == "unsure" and answer.text != "in"]
    if keys:
        doubtful = [answer for answer in doubtful if not answer.check.kind.startswith(("mesh", "back"))]
    if doubtful:
        return (
            f"{doubtful[0].check.label}: {doubtful[0].words}.",
            say("find-way-see-read"),
        )
    sets = blind.tried(job)
    if sets and blind.told(job, sets)[0] == "unsure":
        return blind.told(job, sets)[1], say("try-sets")
    return None


def _proved_by(job: Job, drive_train: DriveTrain) -> str:
    keys = keyways.measured(job)
    if keys:
        return keyways.told(keys)
    if any(answer.check.kind.startswith("mesh") and answer.text == "on" for answer in answers(job)):
        return say("every-mark-where-belongs", when_back=train.when_back(drive_train))
    sets = blind.tried(job)
    if sets and _blind_done(job):
        return blind.told(job, sets)[1]
    of_split = split.measured(job)
    assert of_split is not None
    return split.told(job, of_split)


def _notes(job: Job, drive_train: DriveTrain) -> tuple[str, ...]:
    sentences: list[str] = []
    keys = keyways.measured(job)
    if keys and keys.neighbors_clearly_worse and teeth_off(job):
        sentences.append(say("marks-keys-disagree-key"))
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
    return say(
        "turns-deg-teeth-while",
        helix_gear=drive_train.ends.helix_gear,
        turn_deg=abs(turn),
        teeth_deg=abs(teeth),
        way=way,
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
        words = say("marks-cam-stands-deg", shift_deg=abs(shift), way=way, icl_deg=icl - shift)
        sentences.append(words)
    opening = card.events.io_btdc_deg if card and card.events else None
    if opening is not None and _blind_done(job):
        words = say("gear-fitted-card-s", opening_deg=opening)
        sentences.append(words)
    return tuple(sentences)
