"""Mark: what is seen of the timing marks, the keys, and the drives that have neither."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from uranograph.bench import checks
from uranograph.bench.checks import TURNED_ALONE, Check, CheckAnswer
from uranograph.bench.finding import Finding, Prompt, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.parsers import count
from uranograph.core import train
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.quantities import format_angle
from uranograph.engine import gear_train, turning
from uranograph.engine.card import card_of
from uranograph.engine.gear_train_model import Contact, DriveTrain
from uranograph.phase import blind_sets, keyways, split_overlap
from uranograph.phase.marks import KEY, PINNED, answers, blind_done, checks_of, proofs, teeth_off, view_of
from uranograph.stations.marks.messages import FINDINGS, say

# Answers that are kept under short names, in words.
ANSWER_WORDS = {
    **{f"pin-#:{answer}": words for answer, words in PINNED},
    "mesh-#:on": "on the mark",
    "paint:yes": "painted",
    "paint:no": "plain enough as they are",
    "back:yes": "as it says",
    "back:no": "not so",
    **dict(checks.AT),
    **dict(turning.OPTIONS),
}
MAX_TEETH = 99
CAUTIONS = (
    "Ignition and fuel off, battery disconnected. Turn by hand; both hands clear of the gears. "
    "A sprung gear or a loaded tensioner lets go hard: pin it first.",
    TURNED_ALONE,
)


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next thing to look at or to read."""
    drive_train = gear_train.described(job)
    if drive_train is None:
        return None
    view = view_of(job, query)
    if view == "keyways" and not query.get("item"):
        return keyways.prompt(job) or _look(job, query, view)
    if view == "split" and not (split_overlap.measured(job) and not query.get("item") and _proof_open(job)):
        if query.get("item"):
            return _look(job, query, view)
        return split_overlap.prompt(job)
    if view in ("blind", "blind-eye"):
        return blind_sets.prompt(job, by_eye=view == "blind-eye")
    if view == "marks" and not query.get("item") and _keys_first(job, drive_train):
        return keyways.prompt(job)
    lifters = split_overlap.measured(job)
    if view == "marks" and not query.get("item") and lifters and lifters.undecided:
        return split_overlap.prompt(job)
    asked = _look(job, query, view)
    return asked if asked or view != "marks" or drive_train.marked else _without_marks(job)


def _keys_first(job: Job, drive_train: DriveTrain) -> bool:
    """Whether the keys are read before anything is moved: a mark is off where they can tell, or they were read and cannot yet."""
    keys = keyways.measured(job)
    if keys is None:
        return bool(teeth_off(job)) and _keys_can_tell(drive_train)
    return keys.other_turn or not keys.neighbors_clearly_worse


def _keys_can_tell(drive_train: DriveTrain) -> bool:
    """Whether it is stated where both keys belong."""
    return None not in (drive_train.ends.crank_key_deg, drive_train.ends.cam_key_deg)


def _places_off(off: list[tuple[Contact, int]]) -> str:
    """The meetings that were seen off, in words."""
    return ", ".join(
        f"{contact.name} {'one tooth' if abs(teeth) == 1 else f'{abs(teeth)} teeth'} {'early' if teeth > 0 else 'late'}"
        for contact, teeth in off
    )


def _without_marks(job: Job) -> Prompt | None:
    """What proves the cam of a train without marks, while nothing has yet: its keys, its hole sets, or both lifters."""
    lifters = split_overlap.measured(job)
    if lifters and split_overlap.is_exhausted_by_slopes(job, lifters):
        return None
    if lifters and (lifters.undecided or lifters.firing or split_overlap.whole_teeth(job, lifters) is Verdict.UNSURE):
        return split_overlap.prompt(job)
    if keyways.measured(job) or lifters or blind_done(job):
        return None
    if blind_sets.count_of(job) is not None:
        return blind_sets.prompt(job, by_eye=False)
    return keyways.prompt(job) or split_overlap.prompt(job)


def _proof_open(job: Job) -> bool:
    lifters = split_overlap.measured(job)
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
    return replace(asked, second="1", second_label=say("teeth-off-label")) if check.kind.startswith("mesh") else asked


def accept(job: Job, entry: Entry) -> None:
    """Refuse an answer or a reading that cannot be.

    Raises
    ------
    InvalidInput
        With the field at fault.
    """
    drive_train = gear_train.described(job)
    if drive_train is None:
        raise InvalidInput("text", "gears-missing")
    kind, _, place = entry.spot
    if place == checks.PLACE:
        checks.accept((*checks_of(drive_train), *proofs()), entry)
        if kind == turning.KIND:
            checks.refuse_pinned([answer for answer in answers(job) if _pin_still_in(answer)])
        if entry.second and entry.text in ("early", "late"):
            _accept_teeth(entry.second)
    elif kind in keyways.KINDS:
        keyways.accept(entry)
    elif kind == split_overlap.KIND:
        split_overlap.accept(entry)
    else:
        blind_sets.accept(job, entry)


def _accept_teeth(text: str) -> None:
    try:
        count(1, MAX_TEETH, "teeth cannot be")(text)
    except InvalidInput as error:
        raise error.at("second") from error


def label_entry(job: Job, entry: Entry) -> Entry:
    """Snapshot of the mark, stored with the answer so that it can be read without the gear form."""
    drive_train = gear_train.described(job)
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
    if kind == split_overlap.KIND:
        lobe = place.removesuffix("-on")
        return f"{lobe} lift at overlap" + (f", {reading.second} deg on" if place.endswith("-on") else "")
    if kind == blind_sets.AGAIN:
        return say("lift-after-two-turns-of")
    if kind.startswith("set-"):
        return say("hole-set-of", kind=kind.removeprefix("set-"))
    return "looked at"


@memoized
def find(job: Job) -> Finding:
    """Judge the cam's position by marks, keys or lifters."""
    drive_train = gear_train.described(job)
    if drive_train is None:
        return Finding(Verdict.OPEN, cautions=CAUTIONS).judged(Verdict.OPEN, FINDINGS, "gears-missing", begun=False)
    found = answers(job)
    base = Finding(
        Verdict.OPEN,
        "",
        rows=tuple(Row(answer.check.label, "", answer.words) for answer in found),
        columns=("", "", "seen", ""),
        cautions=CAUTIONS,
        notes=_notes(job, drive_train),
    )
    begun = bool(job.active_readings(KEY))
    if out := _out(job, drive_train, found):
        return base.judged(Verdict.OUT, FINDINGS, "out", why=out[0], step=out[1])
    if unsure := _unsure(job, drive_train, found):
        return base.judged(Verdict.UNSURE, FINDINGS, "cannot-tell", why=unsure[0], step=unsure[1])
    waiting = [answer for answer in found if answer.reading is None]
    pins = [answer for answer in found if _pin_still_in(answer)]
    if waiting and not (pins and waiting[0].check.kind == turning.KIND):
        return base.judged(
            Verdict.OPEN,
            FINDINGS,
            "under-way",
            begun=begun,
            limit=len(found) - len(waiting),
            count=len(found),
            step=waiting[0].check.instruction,
        )
    if pins:
        return base.judged(Verdict.OPEN, FINDINGS, "pin-still-in", begun=begun, label=pins[0].check.label)
    if (
        checks.nothing_there(
            [answer for answer in found if answer.check.kind.startswith(("mesh", "key", "order", "top"))]
        )
        and keyways.measured(job) is None
        and split_overlap.measured(job) is None
        and not blind_done(job)
        and drive_train.marked
    ):
        return base.judged(Verdict.SKIPPED, FINDINGS, "nothing-there", begun=begun)
    if (
        not any(answer.check.kind.startswith("mesh") and answer.text != "na" for answer in found)
        and keyways.measured(job) is None
        and split_overlap.measured(job) is None
        and not blind_done(job)
    ):
        return base.judged(Verdict.OPEN, FINDINGS, "no-marks", begun=begun)
    return base.judged(Verdict.IN, FINDINGS, "proved", why=_proved_by(job, drive_train))


def _pin_in(found: tuple[CheckAnswer, ...]) -> Check | None:
    """Questions that reopen by themselves: only a pin that is still in."""
    return next((answer.check for answer in found if _pin_still_in(answer)), None)


def _pin_still_in(answer: CheckAnswer) -> bool:
    return answer.check.kind.startswith("pin") and answer.text == "in"


def _out(job: Job, drive_train: DriveTrain, found: tuple[CheckAnswer, ...]) -> tuple[str, str] | None:
    keys = keyways.measured(job)
    if keys and keys.neighbors_clearly_worse and keys.nearest_teeth and not keys.other_turn:
        return keyways.summary(keys), say("move-gear-by-teeth")
    off = teeth_off(job)
    if off and keys is None and not _keys_can_tell(drive_train):
        shift = sum(drive_train.shift_of(contact, teeth) for contact, teeth in off)
        places = _places_off(off)
        card = card_of(job)
        icl = card.card.intake_centerline_deg if card else None
        expect = f": ICL {format_angle(icl - shift)} instead of {format_angle(icl)}" if icl is not None else ""
        way = "early" if shift > 0 else "late"
        return (
            say("marks-say-cam-off", places=places, shift_deg=abs(shift), way=way, expect=expect),
            say("shift-one-tooth") if sum(abs(teeth) for _, teeth in off) == 1 else say("shift-teeth"),
        )
    bad = next((answer for answer in found if answer.state == "out" and not answer.check.kind.startswith("mesh")), None)
    if bad:
        return f"{bad.check.label}: {bad.words}.", say("put-right-and-answer")
    of_split = split_overlap.measured(job)
    if of_split and of_split.tooth_or_more:
        return split_overlap.summary(job, of_split), say("move-cam-one-tooth")
    if of_split and not of_split.firing and split_overlap.whole_teeth(job, of_split) is Verdict.OUT:
        return split_overlap.summary(job, of_split), say("move-cam-teeth")
    return None


def _unsure(job: Job, drive_train: DriveTrain, found: tuple[CheckAnswer, ...]) -> tuple[str, str] | None:
    keys = keyways.measured(job)
    if keys is None and (off := teeth_off(job)) and _keys_can_tell(drive_train):
        return say("mark-off-key-decides", places=_places_off(off)), say("read-both-keys")
    if keys and (keys.other_turn or not keys.neighbors_clearly_worse):
        return keyways.summary(keys), say("turn-crank-reread-keys") if keys.other_turn else say("reread-keys")
    of_split = split_overlap.measured(job)
    if of_split and (of_split.firing or of_split.slopes_from == "wrong way"):
        return split_overlap.summary(job, of_split), say("turn-crank-reread-lifters")
    if of_split and split_overlap.is_exhausted_by_slopes(job, of_split):
        return split_overlap.summary(job, of_split), say("lifters-alone-cannot-tell")
    if of_split and (of_split.undecided or split_overlap.whole_teeth(job, of_split) is Verdict.UNSURE):
        return split_overlap.summary(job, of_split), say("turn-on-read-both")
    doubtful = [answer for answer in found if answer.state == "unsure" and answer.text != "in"]
    if keys:
        doubtful = [answer for answer in doubtful if not answer.check.kind.startswith(("mesh", "back"))]
    if doubtful:
        return (
            f"{doubtful[0].check.label}: {doubtful[0].words}.",
            say("find-a-way-to-see"),
        )
    sets = blind_sets.tried(job)
    if sets and blind_sets.summary(job, sets)[0] == "unsure":
        return blind_sets.summary(job, sets)[1], say("try-sets-again")
    return None


def _proved_by(job: Job, drive_train: DriveTrain) -> str:
    keys = keyways.measured(job)
    if keys:
        return keyways.summary(keys)
    if any(answer.check.kind.startswith("mesh") and answer.text == "on" for answer in answers(job)):
        return say("every-mark-right", when_back=gear_train.when_back(drive_train))
    sets = blind_sets.tried(job)
    if sets and blind_done(job):
        return blind_sets.summary(job, sets)[1]
    of_split = split_overlap.measured(job)
    if of_split is None:
        raise Missing("of_split")
    return split_overlap.summary(job, of_split)


def _notes(job: Job, drive_train: DriveTrain) -> tuple[str, ...]:
    sentences: list[str] = []
    keys = keyways.measured(job)
    if keys and keys.neighbors_clearly_worse and teeth_off(job):
        sentences.append(say("marks-against-keys"))
    if drive_train.entry:
        sentences.append(helical_words(drive_train))
    if of_split := split_overlap.measured(job):
        sentences.append(split_overlap.summary(job, of_split))
    if sets := blind_sets.tried(job):
        sentences.append(blind_sets.summary(job, sets)[1])
    untimed = [gear.name for gear in drive_train.gears if not gear.timed]
    if untimed:
        sentences.append(f"Needs no timing: {', '.join(untimed)}.")
    return tuple(sentences)


def helical_words(drive_train: DriveTrain) -> str:
    """How far to start a helical gear to one side."""
    if drive_train.entry is None or drive_train.helix is None:
        raise Missing("drive_train.entry, drive_train.helix")
    turn, teeth = drive_train.entry.rotation_deg, drive_train.entry.teeth
    way = "against the way" if turn > 0 else "the way"
    return say(
        "helical-gear-turns",
        helix_gear=drive_train.ends.helix_gear,
        turn_deg=abs(turn),
        teeth_deg=abs(teeth),
        way=way,
    )


@dataclass(frozen=True)
class Place:
    """Marks of one pair after turning: teeth apart (0 aligned), and turns until they align again."""

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
    """Position of every pair of marks after the crank gear has advanced by some teeth from full alignment."""
    drive_train = gear_train.described(job)
    if drive_train is None:
        return []
    stand = train.marks_after(drive_train.given, crank_teeth)

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
