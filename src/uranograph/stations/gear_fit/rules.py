"""Fit: the gear to the cam: order and facing, heat, bolts."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any

from uranograph.bench import checks
from uranograph.bench.checks import Check, CheckAnswer, yes_or_no
from uranograph.bench.fields import (
    Choice,
    Count,
    Fields,
    Fold,
    Length,
    MaterialField,
    Temperature,
    Text,
    celsius,
)
from uranograph.bench.finding import Finding, Prompt, Row, Verdict
from uranograph.bench.forms import Filled, Form, FormReader, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.core import torque
from uranograph.core.cooling import Cooling, CoolingInput, cooling
from uranograph.core.errors import InvalidInput
from uranograph.core.heat import HeatFit, HeatInput, heat_fit
from uranograph.core.materials import MATERIALS
from uranograph.core.quantities import LengthUnit, format_fine, parse_angle
from uranograph.core.torque import Bolts, Stage
from uranograph.engine import gear_train
from uranograph.engine.card import card_of
from uranograph.engine.gear_train import HELD
from uranograph.phase import banks
from uranograph.phase.target import Aim, target_of
from uranograph.stations.gear_fit import temperatures
from uranograph.stations.gear_fit.messages import FOUND, say
from uranograph.stations.gear_fit.temperatures import GEAR, KEY, SHAFT, TEMPERATURE, Heat, Heated, bears

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
STAGE = Slot[str](KEY, ("torque-#-#",), ("pulled",), rests_on=("gear",))
CAUTIONS = (
    "Never hammer a shaft against its thrust parts. Until the position is proved bolts are only snug, threads dry.",
)
HOT = "Hot gear: gloves and eyes, no fumes of paint, oil or threadlocker, extinguisher at hand; heat-rated paint or a contact probe."
MAGNESIUM = (
    "Magnesium: oven or hot plate, no flame. Its dust and swarf burn, wet dust gives hydrogen; class D extinguisher or dry "
    "sand, never water."
)
CHILLED = "Dry ice or nitrogen: gloves and face shield, open air; no ice left in the fit."
MIN_CHILLED_C = 0.0


def cautions_of(fit: "Fit") -> tuple[str, ...]:
    """What bites with this fit, whichever way its heat is stated."""
    phrase = list(CAUTIONS)
    materials = (
        {fit.heat.material, fit.heat.shaft_material} if fit.heat else {fit.heated.material} if fit.heated else set()
    )
    if materials:
        phrase.append(HOT)
    if "magnesium" in materials:
        phrase.append(MAGNESIUM)
    if fit.heat is not None and fit.heat.given.shaft_c is not None and fit.heat.given.shaft_c < MIN_CHILLED_C:
        phrase.append(CHILLED)
    return tuple(phrase)


RUNNING_C = 90.0
# A gear is never this hot, and an estimate of how it cools would mean nothing.
HOTTEST_C = 1000.0


@dataclass(frozen=True)
class Fit:
    """What the gear is fitted by; how it is held, where the gears' form does not say; and what goes on with it."""

    heat: Heat | None
    bolts: Bolts | None
    held: str = ""
    driven: bool = False
    crank_too: bool = False
    heated: "Heated | None" = None


class FitFields(Fields):
    """How a gear goes on, as typed; temperatures in degrees Celsius."""

    bolt_count = Count("bolts", "Bolts", "how many", least=1, most=24, counted="bolts cannot be").optional()
    stages = Text("stages", "Torque or turns", "20; 40; 60 · 55-65 · snug + 90 deg", longest=200)
    steps = Count(
        "steps", "In equal steps", "where the last alone is typed", least=1, most=6, counted="steps cannot be"
    ).optional()
    torque_unit = Choice(
        "torque_unit", "Torque in", (("N m", "N m"), ("ft lb", "ft lb")), unknown=say("choice-missing")
    )
    locker = Choice(
        "locker",
        "Threadlocker",
        (("", "none called for"), ("medium", "medium strength"), ("high", "high strength")),
        unknown=say("choice-missing"),
    )
    held = Choice(
        "held", "Gear held by", HELD.items(), "where the gears' form does not say", unknown=say("choice-missing")
    )
    goes_on = Choice(
        "goes_on",
        "It goes on",
        (("", "by hand or heat"), ("driven", "driven or pressed on")),
        unknown=say("choice-missing"),
    )
    crank_too = Choice(
        "crank_too", "Crank gear", (("", "stays as it is"), ("yes", "goes on as well")), unknown=say("choice-missing")
    )
    heat_fold = Fold("Fitted by heat")
    bore_mm = Length("bore", "Gear's bore", above_zero=True).optional()
    interference_mm = Length("interference", "Interference").optional()
    heated_c = Temperature("heated_c", "Or heated to, °C", "where nobody knows the interference").optional()
    slip_mm = Length("slip", "Slip clearance", "0.03 mm, 0.001 in unless typed", default=0.03)
    gear_alpha = MaterialField("gear_material", "Gear of", "steel unless typed", default=MATERIALS["steel"].alpha)
    limit_c = Temperature("limit_c", "It bears, °C", "by its maker; else a careful value").optional()
    width_mm = Length("width", "Rim width", "for the cooling estimate", above_zero=True).optional()
    ambient_c = Temperature("ambient_c", "Shop, °C", "20 unless typed", default=20.0)
    shaft_c = Temperature("shaft_c", "Shaft, °C", "where it is chilled").optional()
    shaft_alpha = MaterialField("shaft_material", "Shaft of", "steel unless typed", default=MATERIALS["steel"].alpha)
    running_c = Temperature("running_c", "It runs at, °C", "90 unless typed", default=RUNNING_C)

    @property
    def by_temperature(self) -> bool:
        """Whether the fit is by temperature alone: bore and temperature are known, the interference is not."""
        return self.heated_c is not None and self.interference_mm is None

    def check(self) -> Iterator[tuple[str, str]]:
        hot = self.by_temperature or self.bore_mm is not None or self.interference_mm is not None
        if hot and self.bore_mm is None:
            both = say("bore-and-interference-needed")
            yield "bore", say("bore-needed-for-heat") if self.by_temperature else both
        if hot and self.interference_mm is None and not self.by_temperature:
            yield "interference", say("bore-and-interference-needed")
        alpha = self.values["gear_material"]
        if hot and alpha is not None and alpha <= 0:
            yield "gear_material", say("gear-does-not-expand")
        if self.bore_mm is not None and self.interference_mm is not None and self.interference_mm > self.bore_mm / 100:
            yield "interference", say("interference-too-large", text=self.texts["interference"])
        if (self.bolt_count is None) != (not self.stages):
            yield "bolts" if self.bolt_count is None else "stages", say("bolts-and-torque-needed")

    def material(self, name: str) -> str:
        """A material as it was named."""
        return self.texts[name].lower() or "steel"

    @property
    def heated(self) -> Heated | None:
        """A fit by temperature alone."""
        if not self.by_temperature or self.bore_mm is None or self.heated_c is None:
            return None
        material = self.material("gear_material")
        limit = bears(material, self.limit_c)
        return Heated(self.bore_mm, self.heated_c, self.slip_mm, self.gear_alpha, self.ambient_c, material, limit)

    @property
    def heat(self) -> Heat | None:
        """A fit by its interference."""
        if self.bore_mm is None or self.interference_mm is None:
            return None
        material = self.material("gear_material")
        given = HeatInput(
            bore_mm=self.bore_mm,
            interference_mm=self.interference_mm,
            slip_clearance_mm=self.slip_mm,
            gear_alpha=self.gear_alpha,
            ambient_c=self.ambient_c,
            shaft_c=self.shaft_c,
            shaft_alpha=self.shaft_alpha,
            limit_c=bears(material, self.limit_c),
            running_c=self.running_c,
        )
        return Heat(given, material, self.material("shaft_material"), self.width_mm)


@remembered
def read(typed: Typed, unit: LengthUnit) -> Filled[Fit]:
    """Read the set-up as typed.

    Examples
    --------
    >>> filled = read({"bolts": "3", "stages": "60", "steps": "3"}, LengthUnit.MM)
    >>> [stage.most_nm for stage in filled.value.bolts.stages]
    [20.0, 40.0, 60.0]
    """
    filled = FitFields.read(typed, unit)
    found = filled.value
    if found is None:
        return Filled(None, filled.errors)
    reader, bolts, heated = FormReader(typed), None, found.heated
    if heated is not None and heated.allows_mm <= 0:
        reader.errors["heated_c"] = say("heated-allows-nothing", typed=found.texts["heated_c"])
    if found.bolt_count is not None:
        stages = reader.take("stages", lambda text: torque.stages(text, found.steps, found.torque_unit))
        bolts = Bolts(found.bolt_count, stages, found.locker, found.torque_unit) if stages else None
    if reader.errors:
        return Filled(None, reader.errors)
    heat = None if heated else found.heat
    return Filled(Fit(heat, bolts, found.held, found.goes_on == "driven", found.crank_too == "yes", heated))


SETUP = Form(
    KEY,
    "gear to cam",
    lambda typed, job: read(typed, job.unit),
    instruction="Say how the gear is held on.",
    groups=FitFields.groups(),
    needed=False,
)


@memoized
def setup(job: Job) -> Fit:
    """How a job's gear is held."""
    return job.form(SETUP) or Fit(None, None)


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
# How a gear is held decides what there is to look at; where nobody said, all of it is asked.
ONLY_HELD_BY = {
    "keytried": ("", "key", "taper"),
    "key": ("", "key", "taper"),
    "pattern": ("", "bolts", "dowel"),
    "screw": ("screw",),
}
# Looks at a part of what another look asks about.
PART_OF = {"keytried": "key", "plate": "free"}
WHOLE_OF = {part: whole for whole, part in PART_OF.items()}
# A gear of one piece with its shaft went on with it: what goes round it is left to look at.
OF_ONE_PIECE = ("bearing", "ring", "plate", "free", "turns")


@memoized
def checks_of(job: Job) -> tuple[Check, ...]:
    """What is looked at, in the order the parts go on; what this cam's gear does not have is left out."""
    drive_train, fit = gear_train.described(job), setup(job)
    held = held_by(job)
    hot = fit.heat is not None or fit.heated is not None or (held == "pressed" and not fit.driven)
    locked = fit.bolts is not None and fit.bolts.locker != ""
    wanted = {"rehearsed": hot, "paint": hot, "locker": locked and proved(job)}
    wanted |= dict.fromkeys(("support", "home"), fit.driven)
    # A gear that is known to have no bolts has no bolt position, unless somebody looked for it all the same.
    bolted = fit.bolts is not None or held != "" or job.latest(KEY) is None
    wanted["pattern"] = bolted or bool(job.active_readings(KEY, "pattern"))
    # Where there is no such part, nothing of it is asked.
    wanted |= {part: False for whole, part in PART_OF.items() if _said_none(job, whole)}
    found = [check for check in LOOKS if wanted.get(check.kind, True) and _held_so(check.kind, held)]
    if fit.crank_too:
        on_crank = drive_train.crank.held if drive_train else ""
        found += [
            replace(
                check, kind=f"{ON_CRANK}{check.kind}", label=f"Crank gear: {check.label[0].lower()}{check.label[1:]}"
            )
            for check in LOOKS
            if check.kind in OF_THE_CRANK and wanted.get(check.kind, True) and _held_so(check.kind, on_crank)
            if not _said_none(job, f"{ON_CRANK}{WHOLE_OF.get(check.kind, '')}")
        ]
    return tuple(found)


def _said_none(job: Job, kind: str) -> bool:
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


@dataclass(frozen=True)
class HeatingPlan:
    """What heating takes: temperatures in C, and how long the gear stays loose in air, None where not estimated."""

    fit: HeatFit
    grips_c: float
    cooling: Cooling | None


@memoized
def heated(job: Job) -> HeatingPlan | None:
    """How hot the gear must be, where it grips again, and for how long it stays loose."""
    heat = setup(job).heat
    if heat is None:
        return None
    fit = heat_fit(heat.given)
    grips = heat_fit(heat.given.model_copy(update={"slip_clearance_mm": 0.0})).gear_c
    estimate = None
    # Beside a chilled shaft it grips by their difference, which closes from both sides.
    if heat.width_mm is not None and not heat.chilled and heat.given.ambient_c < grips < fit.gear_c < HOTTEST_C:
        estimate = cooling(
            CoolingInput(
                gear_c=fit.gear_c,
                grips_c=grips,
                ambient_c=heat.given.ambient_c,
                width_mm=heat.width_mm,
                heat_j_per_cm3_k=MATERIALS.get(heat.material, MATERIALS["steel"]).heat_j_per_cm3_k,
            )
        )
    return HeatingPlan(fit, grips, estimate)


@dataclass(frozen=True)
class BoltPull:
    """One bolt at one stage: what is called for, and what was pulled, in N m or deg; None where it was not."""

    stage: int
    bolt: int
    called: Stage
    pulled: float | None
    unit: str = "N m"

    @property
    def right(self) -> bool:
        return self.pulled is not None and self.called.against(self.pulled) == 0

    @property
    def called_words(self) -> str:
        return self.called.words(self.unit)

    @property
    def words(self) -> str:
        """What was pulled, as it was called for; empty while it is not."""
        if self.pulled is None:
            return ""
        if self.called.snug:
            return "snug"
        return f"{self.pulled:.3g} deg" if self.called.turn_deg is not None else torque.both(self.pulled, self.unit)


def pulled_as(called: Stage, text: str, unit: str) -> float:
    """What was pulled at a stage: N m, or deg, or nothing more than snug.

    Raises
    ------
    InvalidInput
        When it does not read as that.
    """
    if called.snug:
        return 0.0
    return parse_angle(text.removesuffix("deg")) if called.turn_deg is not None else torque.parse_torque(text, unit)


@memoized
def pulls(job: Job) -> tuple[BoltPull, ...]:
    """Every bolt at every stage, in the order they are pulled."""
    bolts = setup(job).bolts
    if bolts is None:
        return ()
    newest: dict[tuple[int, int], float] = {}
    for reading in job.active_readings(KEY):
        kind, _, place = reading.spot
        if place == "pulled":
            stage, bolt = int(kind.split("-")[1]), int(kind.split("-")[2])
            if stage > len(bolts.stages):
                continue
            called = bolts.stages[stage - 1]
            try:
                pulled = pulled_as(called, reading.text, bolts.unit)
            except InvalidInput:
                # Pulled to what was called for before the stages were written anew.
                continue
            if called.against(pulled) > 0:
                # Pulled past its torque it is loosened, and all its stages are pulled again.
                newest = {key: nm for key, nm in newest.items() if key[1] != bolt}
            newest[(stage, bolt)] = pulled
    return tuple(
        BoltPull(stage, bolt, called, newest.get((stage, bolt)), bolts.unit)
        for stage, called in enumerate(bolts.stages, 1)
        for bolt in crosswise(bolts.count)
    )


def crosswise(number: int) -> tuple[int, ...]:
    """An order of pulling that goes across the circle.

    Examples
    --------
    >>> crosswise(6), crosswise(5), crosswise(1)
    ((1, 4, 2, 5, 3, 6), (1, 3, 5, 2, 4), (1,))
    """
    if number % 2:
        step = 2 if number > 3 else 1
        return tuple(n * step % number + 1 for n in range(number))
    half = number // 2
    return tuple(each for n in range(1, half + 1) for each in (n, n + half))


def views(job: Job) -> dict[str, str]:
    """Ways of looking: the order of the parts, the heat, the bolts."""
    set_up = setup(job)
    found = {"order": "Order"}
    if set_up.heat or set_up.heated:
        found["heat"] = "Heat"
    if set_up.bolts:
        found["bolts"] = "Bolts"
    return found


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next thing to look at; on the bolts, for the next pull; None once all is looked at."""
    found = answers(job)
    view = query.get("method", "")
    if view == "bolts" and setup(job).bolts and not query.get("item"):
        return _pull_prompt(job)
    if view == "heat" and not query.get("item"):
        cold = next((a.check for a in found if a.check.kind in ("rehearsed", "paint") and a.reading is None), None)
        if cold:
            return checks.prompt_of(job, KEY, cold, method=view)
        return temperatures.prompt(job, temperatures.wanted(job, setup(job).heat, setup(job).heated) or GEAR)
    if query.get("item", "") in TEMPERATURE.kinds:
        return temperatures.prompt(job, query["item"])
    check = checks.next_of(found, query.get("item", ""))
    hot = temperatures.wanted(job, setup(job).heat, setup(job).heated)
    if hot and not query.get("item") and (check is None or _goes_on_hot(check)):
        return temperatures.prompt(job, hot)
    return checks.prompt_of(job, KEY, check, method=view) if check else None


def _goes_on_hot(check: Check) -> bool:
    """Whether something is looked at only once the gear is on: its temperature comes before."""
    kinds = [each.kind for each in LOOKS]
    return kinds.index(check.kind.removeprefix(ON_CRANK)) > kinds.index("paint")


@dataclass(frozen=True)
class Grip:
    """A gear measured hot: its temperature, where it grips and how much room is left at this moment; until when, seconds."""

    gear_c: float
    grips_c: float
    room_mm: float
    loose_s: float | None
    reading: Reading


def grip(job: Job) -> Grip | None:
    """What a measured temperature means: room left on the shaft, and for how long; None before one is measured."""
    reading, gear_c, hot, fit = temperatures.newest(job, GEAR), temperatures.measured_c(job), heated(job), setup(job)
    if reading is None or gear_c is None or hot is None or fit.heat is None:
        return None
    given, cold = fit.heat.given, temperatures.shaft_c(job, fit.heat)
    room = fit.heat.room_mm(gear_c, cold)
    grips = cold + fit.heat.difference_c(cold)
    loose = None
    if fit.heat.width_mm is not None and not fit.heat.chilled and given.ambient_c < hot.grips_c < gear_c:
        loose = cooling(
            CoolingInput(
                gear_c=gear_c,
                grips_c=hot.grips_c,
                ambient_c=given.ambient_c,
                width_mm=fit.heat.width_mm,
                heat_j_per_cm3_k=MATERIALS.get(fit.heat.material, MATERIALS["steel"]).heat_j_per_cm3_k,
            )
        ).loose_s
    return Grip(gear_c, grips, room, loose, reading)


def _pull_prompt(job: Job) -> Prompt:
    bolts = setup(job).bolts
    assert bolts is not None
    waiting = next((pull for pull in pulls(job) if not pull.right), pulls(job)[-1])
    kind = f"torque-{waiting.stage}-{waiting.bolt}"
    return Prompt(
        slot=STAGE.next(job, kind),
        label=f"Pulled, bolt {waiting.bolt}",
        instruction=(
            say("every-bolt-torqued")
            if all(pull.right for pull in pulls(job))
            else say(
                "torque-bolt",
                stage=waiting.stage,
                count=len(bolts.stages),
                bolt=waiting.bolt,
                both=waiting.called_words,
            )
        ),
        hint=say("torque-turn-hint") if waiting.called.unit != "torque" else say("torque-hint"),
        unit="deg" if waiting.called.unit == "deg" else bolts.unit,
        options=(("snug", "snug by hand"),) if waiting.called.snug else (),
        extra={"method": "bolts"},
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse an answer that was not offered, or a torque that cannot be.

    Raises
    ------
    InvalidInput
        With `text` at fault.
    """
    kind, _, place = entry.spot
    if place == "measured":
        if entry.text != temperatures.NOT_MEASURED:
            celsius(entry.text)
        return
    if place != "pulled":
        # What is not asked any more, because there is none of it, may be said all the same.
        parts = [check for check in LOOKS if _said_none(job, WHOLE_OF.get(check.kind, ""))]
        checks.accept((*checks_of(job), *parts), entry)
        return
    bolts = setup(job).bolts
    stage, bolt = (int(part) for part in kind.removeprefix("torque-").split("-"))
    if bolts is None or not 1 <= stage <= len(bolts.stages) or not 1 <= bolt <= bolts.count:
        raise InvalidInput("text", "no-such-stage")
    called = bolts.stages[stage - 1]
    pulled = pulled_as(called, entry.text, bolts.unit)
    strongest = max((each.most_nm for each in bolts.stages if each.most_nm), default=0.0)
    furthest = max((each.turn_deg for each in bolts.stages if each.turn_deg), default=0.0)
    if called.turn_deg is not None and not 0 < pulled <= 2 * furthest:
        raise InvalidInput("text", "turn-far-past", typed=entry.text, called=called.words())
    if called.most_nm is not None and pulled > 2 * strongest:
        raise InvalidInput("text", "torque-far-past", typed=entry.text, both=torque.both(strongest, bolts.unit))


def describe(reading: Reading) -> str:
    """Say what was looked at, measured or pulled."""
    kind, _, place = reading.spot
    if place == "measured":
        return say("gear-temperature") if kind == GEAR else say("shaft-temperature")
    if kind.startswith(ON_CRANK):
        return f"crank gear, {next(c.label for c in LOOKS if c.kind == kind.removeprefix(ON_CRANK)).lower()}"
    if place == "pulled":
        _, stage, bolt = kind.split("-")
        return f"stage {stage}, bolt {bolt}"
    return {"keytried": say("key-tried-by-hand"), "key": say("key-seen-in-slot"), "pattern": "bolt position"}.get(
        kind, kind
    )


def describe_briefly(reading: Reading) -> str:
    """Stage and bolt alone."""
    kind, _, place = reading.spot
    return "/".join(kind.split("-")[1:]) if place == "pulled" else describe(reading)


def find(job: Job) -> Finding:
    """Say whether the gear is on as it must be."""
    found, fit, pulled = answers(job), setup(job), pulls(job)
    looked = sum(answer.reading is not None for answer in found)
    done = sum(pull.right for pull in pulled)
    base = Finding(
        Verdict.OPEN,
        "",
        begun=looked > 0 or done > 0 or fit != Fit(None, None),
        cautions=cautions_of(fit),
        rows=_rows(job),
        columns=("", "called for", "done", ""),
        notes=_notes(job),
    )

    def judged(verdict: Verdict, code: str, **values: Any) -> Finding:
        return base.judged(verdict, FOUND, code, job.unit, begun=base.begun, **values)

    hot = heated(job)
    if hot is not None and fit.heat is not None and hot.fit.within_limit is False:
        given = fit.heat.given
        return judged(Verdict.OUT, "too-hot", gear_c=hot.fit.gear_c, limit_c=given.limit_c, material=fit.heat.material)
    if hot is not None and fit.heat is not None and _none_left_hot(hot) and not _held_otherwise(job):
        return judged(Verdict.OUT, "loose-when-hot", running_c=fit.heat.given.running_c)
    warm = temperatures.judged(job, fit.heat, fit.heated)
    if warm is not None and warm.verdict is Verdict.OUT:
        return judged(Verdict.OUT, warm.code, **warm.values)
    bad = next((answer for answer in found if answer.state == "out"), None)
    if bad is not None:
        return judged(Verdict.OUT, "seen-wrong", check=bad.check.label, answer=bad.words, hint=bad.check.hint)
    wrong = next((pull for pull in pulled if pull.pulled is not None and not pull.right), None)
    if wrong is not None and wrong.pulled is not None:
        code = "bolt-past-torque" if wrong.called.against(wrong.pulled) > 0 else "bolt-short-of-torque"
        return judged(Verdict.OUT, code, bolt=wrong.bolt, pulled=wrong.words, called=wrong.called_words)
    unseen = next((answer for answer in found if answer.state == "unsure"), None)
    if unseen is not None:
        return judged(Verdict.UNSURE, "not-seen", check=unseen.check.label, answer=unseen.words)
    if warm is not None:
        return judged(Verdict.UNSURE, warm.code, **warm.values)
    still = temperatures.wanted(job, fit.heat, fit.heated)
    following = next((answer.check for answer in found if answer.reading is None), None)
    if still and (following is None or _goes_on_hot(following)):
        label = say("gear-temperature") if still == GEAR else say("shaft-temperature")
        return judged(Verdict.OPEN, "to-be-measured", what=label)
    if pulled and looked == len(found) and not proved(job):
        return judged(Verdict.OPEN, "snug-until-proved")
    if looked < len(found):
        assert following is not None
        code = "looking-and-pulling" if pulled else "looking"
        counted = {"looked": looked, "checks": len(found), "done": done, "pulls": len(pulled)}
        return judged(Verdict.OPEN, code, **counted, following=following.label)
    if done < len(pulled):
        return judged(Verdict.OPEN, "pulling", looked=looked, checks=len(found), done=done, pulls=len(pulled))
    if checks.nothing_there(found) and not pulled and not temperatures.newest(job, GEAR):
        return judged(Verdict.SKIPPED, "nothing-there")
    return judged(Verdict.IN, "on-and-pulled" if pulled else "on")


def _none_left_hot(hot: HeatingPlan) -> bool:
    left = hot.fit.interference_running_mm
    return left is not None and left <= 0


def _held_otherwise(job: Job) -> bool:
    held = held_by(job)
    return setup(job).bolts is not None or held in ("key", "taper", "dowel", "bolts")


def fahrenheit(c: float) -> str:
    """A temperature in both scales."""
    return f"{c:.0f} °C, {c * 1.8 + 32:.0f} °F"


def _rows(job: Job) -> tuple[Row, ...]:
    hot, fit = heated(job), setup(job)
    rows = []
    if hot is not None and fit.heat is not None:
        if hot.fit.interference_running_mm is not None:
            left = format_fine(hot.fit.interference_running_mm, job.unit).replace("-", "−")
            rows.append(Row(f"Interference left at {fit.heat.given.running_c:.0f} °C", left))
        rows.append(Row("Gear at", fahrenheit(hot.fit.gear_c)))
        if fit.heat.chilled:
            apart = fit.heat.difference_c(temperatures.shaft_c(job, fit.heat))
            rows.append(Row("Grips when gear less shaft is under", say("degrees-apart", apart_c=apart)))
        else:
            rows.append(Row("Grips again at", fahrenheit(hot.grips_c)))
        if fit.heat.given.limit_c is not None:
            rows.append(Row("It bears", fahrenheit(fit.heat.given.limit_c)))
    if fit.heated is not None:
        rows.append(Row("Heated to", fahrenheit(fit.heated.gear_c)))
        rows.append(Row("Slips over an interference of up to", format_fine(fit.heated.allows_mm, job.unit)))
        if fit.heated.limit_c is not None:
            rows.append(Row("It bears", fahrenheit(fit.heated.limit_c)))
    for label, kind in (("Measured", GEAR), ("Shaft measured", SHAFT)):
        if (shown := temperatures.newest(job, kind)) is not None:
            read = temperatures.measured_c(job, kind)
            rows.append(Row(label, "", shown.text if read is None else fahrenheit(read)))
    if (gripped := grip(job)) is not None:
        rows.append(Row("Room on the shaft then", "", format_fine(gripped.room_mm, job.unit).replace("-", "−")))
    return tuple(rows)


def _notes(job: Job) -> tuple[str, ...]:
    hot = heated(job)
    if hot is None:
        return ()
    sentences = [say("thermometer-hint")]
    if (gripped := grip(job)) is not None:
        room, grips = abs(gripped.room_mm), gripped.grips_c
        sentences.append(
            say("slips-on-now", job.unit, room_mm=room, grips_c=grips)
            if gripped.room_mm > 0
            else say("grips-at-this", job.unit, room_mm=room, grips_c=grips)
        )
    heat = setup(job).heat
    if heat is not None and heat.chilled:
        apart = heat.difference_c(temperatures.shaft_c(job, heat))
        sentences.append(say("grips-by-difference", apart_c=apart))
    if _none_left_hot(hot) and _held_otherwise(job):
        sentences.append(say("no-interference-when-hot"))
    if hot.cooling is not None:
        seconds = hot.cooling.loose_s
        words = f"{seconds / 60:.0f} minutes" if seconds >= 120 else f"{seconds:.0f} seconds"
        sentences.append(say("stays-loose-for", words=words))
    if hot.fit.within_limit is None:
        sentences.append(say("material-limit-unknown"))
    return tuple(sentences)
