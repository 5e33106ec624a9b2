"""The order of the parts: what is looked at while a gear goes on."""

from dataclasses import replace

from uranograph.bench import checks
from uranograph.bench.checks import Check, CheckAnswer, yes_or_no
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.engine import gear_train
from uranograph.engine.card import card_of
from uranograph.phase import banks
from uranograph.phase.target import Aim, target_of
from uranograph.stations.gear_fit.fit import setup
from uranograph.stations.gear_fit.temperatures import KEY

ANSWER = Slot[str](
    KEY,
    (
        "bearing",
        "ring",
        "keytried",
        "plate",
        "rehearsed",
        "paint",
        "marks",
        "pattern",
        "key",
        "free",
        "turns",
        "locker",
        "support",
        "home",
        "screw",
        "crank-keytried",
        "crank-support",
        "crank-home",
        "crank-marks",
        "crank-key",
        "crank-screw",
        "crank-turns",
    ),
    ("seen",),
    rests_on=("gear",),
)
LOOKS = (
    yes_or_no(
        "bearing",
        "Bearings that only go in first",
        "Are the bearings in that can only go in before the shaft?",
        "Once gear and plate are on, some cannot be reached.",
    ),
    yes_or_no(
        "ring",
        "Spacer ring, chamfer to the shoulder",
        "Spacer ring on, its chamfer toward the shaft's shoulder?",
        "The other way round it rides on the fillet and the gear runs out.",
    ),
    yes_or_no(
        "keytried",
        "Key tried in its slot by hand",
        "Does the key go into its slot by hand, and bottom?",
        "A burr here lifts the gear or shears the key.",
    ),
    yes_or_no(
        "plate",
        "Thrust plate, oil grooves facing right",
        "Thrust plate on, its oil grooves toward what they feed?",
        "Turned round, it runs dry.",
    ),
    yes_or_no(
        "rehearsed",
        "Position rehearsed cold",
        "Is the position rehearsed cold, mark and key lined up?",
        "Once it grips it cannot be shifted; pressing cold shaves metal.",
    ),
    yes_or_no(
        "paint",
        "Patch of matt black paint",
        "Is a patch of matt black paint on the gear for the thermometer?",
        "Bright metal fools an infrared thermometer: it reads far too low.",
    ),
    yes_or_no(
        "support",
        "Shaft supported from the other end",
        "Is the shaft held from its other end, so that the thrust parts are not hammered?",
        "Driven against its thrust plate, a shaft bends the plate and opens the play.",
    ),
    yes_or_no(
        "home",
        "Driven until the note changes",
        "Driven square and straight until the note changed, then no further?",
        "A dull note is the gear home on its shoulder.",
    ),
    yes_or_no(
        "marks",
        "Gear on, marks outward",
        "Gear on, its marks outward, square and fully home?",
        "Drive it with the shaft held from the other end; stop when the note changes.",
    ),
    yes_or_no(
        "pattern",
        "The one right bolt position",
        "Is it in the one bolt position that puts the mark where it belongs?",
        "Several patterns fit in wrong positions; only one has the mark right.",
    ),
    yes_or_no(
        "screw",
        "Set screw on its flat",
        "Is the set screw on its flat or in its dimple, and tight?",
        "Beside it, the gear slips at the first backfire.",
    ),
    yes_or_no(
        "key",
        "Key seen in its slot",
        "Look in with a light: is the key in its slot?",
        "A gear on a taper pulls up tight beside its key and feels right: a pump left standing ruins the engine.",
    ),
    yes_or_no(
        "free",
        "Thrust plate still free",
        "Does the thrust plate still move freely?",
        "Clamped, it means a ring left out or the wrong one.",
    ),
    yes_or_no(
        "turns",
        "Shaft still turns freely",
        "Does the shaft still turn freely by hand?",
        "A bind now is a bearing cocked by the driving.",
    ),
    yes_or_no(
        "locker",
        "Threadlocker on clean threads",
        "Threads clean and dry, threadlocker on?",
        "Only where it is called for, and the strength that is.",
    ),
)
OF_THE_CRANK = ("keytried", "support", "home", "marks", "key", "screw", "turns")
ON_CRANK = "crank-"
# The retention of the gear decides the checks; if unknown, all are asked.
ONLY_HELD_BY = {
    "keytried": ("", "key", "taper"),
    "key": ("", "key", "taper"),
    "pattern": ("", "bolts", "dowel"),
    "screw": ("screw",),
}
# Checks that cover part of another check.
PART_OF = {"keytried": "key", "plate": "free"}
WHOLE_OF = {part: whole for whole, part in PART_OF.items()}
# A gear in one piece with its shaft: only the parts around it remain to check.
OF_ONE_PIECE = ("bearing", "ring", "plate", "free", "turns")


@memoized
def checks_of(job: Job) -> tuple[Check, ...]:
    """Checks in assembly order; those for parts this gear does not have are left out."""
    drive_train, fit = gear_train.described(job), setup(job)
    held = held_by(job)
    hot = fit.heat is not None or fit.heated is not None or (held == "pressed" and not fit.driven)
    locked = fit.bolts is not None and fit.bolts.locker != ""
    wanted = {"rehearsed": hot, "paint": hot, "locker": locked and proved(job)}
    wanted |= dict.fromkeys(("support", "home"), fit.driven)
    # A gear that is known to have no bolts has no bolt position, unless somebody looked for it all the same.
    bolted = fit.bolts is not None or held != "" or job.latest(KEY) is None
    wanted["pattern"] = bolted or bool(job.active_readings(KEY, "pattern"))
    # No questions about parts that do not exist.
    wanted |= {part: False for whole, part in PART_OF.items() if answered_none(job, whole)}
    found = [check for check in LOOKS if wanted.get(check.kind, True) and _held_so(check.kind, held)]
    if fit.crank_too:
        on_crank = drive_train.crank.held if drive_train else ""
        found += [
            replace(
                check, kind=f"{ON_CRANK}{check.kind}", label=f"Crank gear: {check.label[0].lower()}{check.label[1:]}"
            )
            for check in LOOKS
            if check.kind in OF_THE_CRANK and wanted.get(check.kind, True) and _held_so(check.kind, on_crank)
            if not answered_none(job, f"{ON_CRANK}{WHOLE_OF.get(check.kind, '')}")
        ]
    return tuple(found)


def answered_none(job: Job, kind: str) -> bool:
    """Whether it was answered last that there is none of it."""
    seen = job.active_readings(KEY, kind)
    return bool(seen) and seen[-1].text == checks.NONE[0]


def _held_so(kind: str, held: str) -> bool:
    return held in ONLY_HELD_BY.get(kind, (held,)) and (held != "one-piece" or kind in OF_ONE_PIECE)


def held_by(job: Job) -> str:
    """How the cam's gear is held, by the gears' form or else by the set-up here."""
    drive_train = gear_train.described(job)
    return (drive_train.cam.held if drive_train else "") or setup(job).held


def proved(job: Job) -> bool:
    """Whether the cam's position needs no proof by degreeing, or has it: until then bolts are only snug, threads dry."""
    if card_of(job) is None and target_of(job).aim is Aim.CARD:
        return True
    return banks.find(job).verdict is Verdict.IN


def answers(job: Job) -> list[CheckAnswer]:
    """The list as far as it is answered."""
    return checks.answers(job, KEY, checks_of(job))
