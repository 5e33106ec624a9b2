"""Every bound that decides a verdict, a doubt or a refusal: why it lies where it lies, and what is said on either side of it.

A bound that is changed must be changed here too: a value just inside it and one just outside are both tried.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import UTC, datetime

import pytest

from tests.hands import CARD, ENGINE, WHEEL, with_forms
from uranograph.bench import parsers as fields
from uranograph.bench import shop_limits
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.core import torque
from uranograph.core.errors import InvalidInput
from uranograph.core.keyway import KeywayInput, keyway
from uranograph.core.lift_curve import LiftCurve
from uranograph.core.piston import Crank, half_angle_at_drop
from uranograph.core.quantities import LengthUnit
from uranograph.core.runout import RunoutInput, runout
from uranograph.core.schedule import Work
from uranograph.core.slip import SlipInput, tooth_slip
from uranograph.core.sweep import MIN_POINTS
from uranograph.core.tdc import TopPairs, tdc
from uranograph.core.torque import Stage
from uranograph.core.verdict import Verdict, judge
from uranograph.engine import adjusters, card, degree_wheel, description, positions, valves
from uranograph.engine import end_play as engine_end_play
from uranograph.engine import tdc as engine_tdc
from uranograph.phase import basis, blind_sets, lifts, split_overlap, suspicions
from uranograph.phase import clearance as gaps
from uranograph.phase import valve_gaps as valve_lifts
from uranograph.stations.backlash import rules as backlash
from uranograph.stations.change_plan import running as plan
from uranograph.stations.change_plan import tasks
from uranograph.stations.clearance import rules as clearance
from uranograph.stations.end_play import rules as end_play
from uranograph.stations.lash import rules as lash
from uranograph.stations.lash import stops
from uranograph.stations.lobe_room import rules as lobe_room
from uranograph.stations.runout import rules as shaft
from uranograph.stations.setting import means as setting
from uranograph.stations.sprocket_line import rules as sprocket
from uranograph.stations.true_tdc import rules as true_tdc
from uranograph.stations.turn_over import rules as turn_over

MM = LengthUnit.MM


@dataclass(frozen=True)
class Bound:
    """One bound: its name, why it lies there, a value just within and one just beyond, and what asks the house."""

    name: str
    why: str
    within: float
    beyond: float
    holds: Callable[[float], bool]


def taken(
    accept: Callable[[Job, Entry], None], station: str, slot: str, forms: Job, in_drop: bool = False
) -> Callable[[float], bool]:
    """Whether a station takes a figure, as the reading or as the place of it."""

    def holds(value: float) -> bool:
        text, drop = ("0.1", f"{value:g}") if in_drop else (f"{value:g}", None if "blade" in slot else "0")
        try:
            accept(forms, Entry(station, slot, text, second=drop, unit=MM))
        except InvalidInput:
            return False
        return True

    return holds


def readable(read: Callable[[str], object]) -> Callable[[float], bool]:
    def holds(value: float) -> bool:
        try:
            read(f"{value:.6g}")
        except InvalidInput:
            return False
        return True

    return holds


def reads(read: Callable[[str], object], field: str) -> Callable[[float], bool]:
    """Whether a form takes a figure in one of its fields."""

    def holds(value: float) -> bool:
        filled = read(f"{value:g}")
        return field not in filled.errors  # type: ignore[attr-defined]

    return holds


HERE = with_forms(
    engine=ENGINE,
    card=CARD,
    wheel=WHEEL,
    backlash={"pitch_radius": "60", "spec_min": "0.05", "spec_max": "0.15", "unit": "mm"},
    **{"end-play": {"crank_min": "0.1", "crank_max": "0.2", "crank_way": "dial", "unit": "mm"}},
)


def took(minutes: float, planned: float = 20) -> plan.Running:
    """A task that took so long."""
    change = tasks.read({"people": "RK", "tasks": f"run; {planned:g}"}).value
    work = Work((planned,), (1,), ((),), 1)
    begun = {0: plan.Tick(datetime(2026, 1, 1, tzinfo=UTC), datetime(2026, 1, 1, 1, tzinfo=UTC))}
    return plan.Running(change, work, (0.0,), planned, begun, None, minutes, ((0.0,), (minutes,)))


CRANK = Crank(stroke_mm=96, rod_mm=168)


def tdc_doubts(pairs: list[dict[str, float]], **more: float) -> list[str]:
    found = tdc(TopPairs.model_validate({"pairs": pairs, "wheel_resolution_deg": 0.0001, **more}))
    return [doubt.against for doubt in found.doubts]


def fits_the_crank(off_deg: float) -> bool:
    half = half_angle_at_drop(CRANK, 5.0) + off_deg
    pair = {"before_deg": half, "after_deg": half, "drop_mm": 5.0}
    return "geometry" not in tdc_doubts([pair], stroke_mm=96, rod_mm=168)


def agree(off_deg: float) -> bool:
    pairs = [{"before_deg": 40.0, "after_deg": 40.0 + 2 * off} for off in (0.0, 0.0, off_deg)]
    return "others" not in tdc_doubts(pairs)


def whole_teeth(residual_deg: float, teeth: int = 24) -> bool:
    return tooth_slip(SlipInput(offset_deg=360 / teeth + residual_deg, crank_teeth=teeth)).verdict == "whole-teeth"


def key_is_clear(level_deg: float) -> bool:
    # A tooth of 40 is 9 cam degrees: 1 off leaves the neighbors 8, so 7 apart, against twice the level's doubt.
    given = KeywayInput(
        crank_stated_deg=0,
        crank_measured_deg=0,
        cam_stated_deg=180,
        cam_measured_deg=181,
        cam_teeth=40,
        turns_opposite=False,
        level_deg=level_deg,
    )
    return keyway(given).neighbors_clearly_worse


def same_turn(off_deg: float) -> bool:
    given = KeywayInput(
        crank_stated_deg=0,
        crank_measured_deg=0,
        cam_stated_deg=0,
        cam_measured_deg=off_deg,
        cam_teeth=36,
        turns_opposite=False,
    )
    return not keyway(given).other_turn


def places_read(count: float) -> bool:
    try:
        runout(
            RunoutInput(readings=[{"position_deg": 90 * min(n, int(count) - 1), "value_mm": 0.01} for n in range(3)])
        )
    except InvalidInput:
        return False
    return True


def likely(error_deg: float) -> bool:
    reading = Reading("degree", "intake.1.before", "1", id=1)
    return not lifts._doubts(Job("", ""), "intake", [], error_deg) and reading.void is None


def house_takes(name: str) -> Callable[[float], bool]:
    def holds(times: float) -> bool:
        start = shop_limits.LIMITS[name].start
        _, errors = shop_limits.read({name: f"{start * times:.9f} mm", "unit": "mm"})
        return name not in errors

    return holds


BOUNDS = (
    Bound(
        "a figure on its limit",
        "binary arithmetic must not push it over",
        0.2,
        0.2001,
        lambda v: judge(v, 0, most=0.2) is Verdict.IN,
    ),
    Bound(
        "a doubt on its limit",
        "in only where value and doubt lie inside",
        0.05,
        0.0501,
        lambda v: judge(0.15, v, most=0.2) is Verdict.IN,
    ),
    Bound("a drop against the crank", "eye and stop together are within a degree", 0.99, 1.01, fits_the_crank),
    Bound("a pair against the others", "half a degree is more than the eye's half division", 0.49, 0.51, agree),
    Bound("whole teeth", "a worn chain is not a tooth: 2 deg at most", 1.99, 2.01, whole_teeth),
    Bound("whole teeth of a fine gear", "or a sixth of a tooth", 0.49, 0.51, lambda v: whole_teeth(v, 120)),
    Bound("a tooth told by keys", "both neighbors worse by twice the level's doubt", 3.49, 3.51, key_is_clear),
    Bound("the crank's other turn", "past a quarter turn of the cam it is the other turn", 89.9, 90.1, same_turn),
    Bound("places round a shaft", "three places fix a circle", 3, 2, places_read),
    Bound(
        "a step as predicted",
        "half a degree is what two readings tell apart",
        4.49,
        4.51,
        lambda v: positions.outcome(4, v, 0.1) == "as-predicted",
    ),
    Bound(
        "cam degrees mistaken",
        "twice the step, within a seventh",
        9.1,
        9.3,
        lambda v: positions.outcome(4, v, 0.1) == "doubled",
    ),
    Bound(
        "cam degrees mistaken, the other side",
        "twice the step, within a seventh",
        6.9,
        6.7,
        lambda v: positions.outcome(4, v, 0.1) == "doubled",
    ),
    Bound(
        "half a step",
        "crank degrees mistaken, or half of it made",
        2.4,
        2.5,
        lambda v: positions.outcome(4, v, 0.1) == "halved",
    ),
    Bound(
        "half a step, the other side",
        "crank degrees mistaken, or half of it made",
        1.65,
        1.55,
        lambda v: positions.outcome(4, v, 0.1) == "halved",
    ),
    Bound("a cam fitted wrong", "past 30 deg it is another lobe, dead center or tooth", 29.9, 30.1, likely),
    Bound("a bolt at its torque", "a good wrench is good to 4 %", 62.3, 62.5, lambda v: Stage(60, 60).against(v) == 0),
    Bound(
        "a limit of the house, high",
        "past 8 times the start a unit is mistaken",
        7.9,
        8.1,
        house_takes("sprocket_line"),
    ),
    Bound("a limit of the house, low", "or below an eighth", 0.13, 0.12, house_takes("sprocket_line")),
    Bound("a temperature, high", "oven, flame and exhaust: no gear is hotter", 600, 601, readable(fields.celsius)),
    Bound("a temperature, low", "dry ice is the coldest at the bench", -80, -81, readable(fields.celsius)),
    Bound("an expansion", "zinc is 30, polymers 200", 300, 301, readable(fields.expansion)),
    Bound(
        "a torque", "past any bolt of this work", 2000, 2001, readable(lambda text: torque.parse_torque(text, "N m"))
    ),
    Bound(
        "a tolerance, high",
        "a tooth is more than 10 deg",
        10,
        10.1,
        reads(lambda text: basis.Rules.read({"tolerance": text, "basis": "both"}), "tolerance"),
    ),
    Bound(
        "a tolerance, low",
        "no wheel is read to less",
        0.1,
        0.09,
        reads(lambda text: basis.Rules.read({"tolerance": text, "basis": "both"}), "tolerance"),
    ),
    Bound(
        "a cam's lift",
        "past any cam",
        40,
        41,
        reads(lambda text: card.read({**CARD, "intake_max_lift": text}, MM), "intake_max_lift"),
    ),
    Bound(
        "a rocker, high",
        "no rocker multiplies by more",
        4,
        4.1,
        reads(lambda text: description.read({**ENGINE, "rocker_ratio": text}), "rocker_ratio"),
    ),
    Bound(
        "a rocker, low",
        "or by less",
        0.5,
        0.4,
        reads(lambda text: description.read({**ENGINE, "rocker_ratio": text}), "rocker_ratio"),
    ),
    Bound(
        "a wheel's division", "coarser is no degree wheel", 10, 11, readable(lambda text: degree_wheel._division(text))
    ),
    Bound("a chain's stretch", "at 2 % it is worn out", 5, 5.1, readable(lambda text: adjusters._percent(text))),
    Bound("backlash", "inches taken for mm", 5, 5.1, taken(backlash.accept, "backlash", "place.1.travel", HERE)),
    Bound(
        "a place round the cam",
        "a turn either way and one on",
        720,
        721,
        taken(backlash.accept, "backlash", "place.1.travel", HERE, True),
    ),
    Bound("a place of the shaft", "a turn", 360, 361, taken(shaft.accept, "runout", "set-1.1.dial", HERE, True)),
    Bound("a dial on a shaft", "inches taken for mm", 10, 10.1, taken(shaft.accept, "runout", "set-1.1.dial", HERE)),
    Bound(
        "end play by a dial",
        "inches taken for mm",
        10,
        10.1,
        taken(end_play.accept, "end-play", "crank.1.travel", HERE),
    ),
    Bound(
        "room at a lobe", "inches taken for mm", 100, 101, taken(lobe_room.accept, "lobe-room", "lobe-1.1.gap", HERE)
    ),
    Bound(
        "depth of a sprocket",
        "deeper than any case",
        500,
        501,
        taken(sprocket.accept, "sprocket", "driver.1.depth", HERE),
    ),
    Bound(
        "a lifter at overlap",
        "higher than any lifter stands there",
        25,
        26,
        taken(lambda job, entry: split_overlap.accept(entry), "marks", "split.1.intake", HERE),
    ),
    Bound(
        "turned on from overlap",
        "farther on the flank is no longer straight",
        15,
        16,
        taken(lambda job, entry: split_overlap.accept(entry), "marks", "split.1.intake-on", HERE, True),
    ),
    Bound(
        "a valve's drop", "inches taken for mm", 60, 61, taken(clearance.accept, "piston-valve", "drop-1.1.gap", HERE)
    ),
    Bound(
        "a valve's lift",
        "higher than any lifts",
        40,
        41,
        taken(clearance.accept, "piston-valve", "lift-1.1.lift", HERE),
    ),
    Bound(
        "round overlap",
        "farther on no valve comes near its piston",
        60,
        61,
        taken(clearance.accept, "piston-valve", "lift-1.1.lift", HERE, True),
    ),
    Bound(
        "a spring's length",
        "longer than any",
        200,
        201,
        taken(clearance.accept, "piston-valve", "fitted-intake.1.length", HERE),
    ),
    Bound("lash of a valve", "inches taken for mm", 3, 3.1, taken(lash.accept, "valve-lash", "set-1.1.blade", HERE)),
    Bound("preload", "past the lifter's travel", 3, 3.1, taken(lash.accept, "valve-lash", "preload-1.1.turns", HERE)),
    Bound(
        "where it stopped", "one turn either way", 360, 361, taken(turn_over.accept, "turn-over", "where.1.at", HERE)
    ),
    Bound(
        "a valve's lean",
        "flatter than any head",
        60,
        61,
        reads(lambda text: valves.ValveAngles.read({"intake_angle": text}, MM), "intake_angle"),
    ),
    Bound(
        "compression",
        "more than any engine of this work",
        30,
        31,
        reads(lambda text: description.read({**ENGINE, "compression": text}), "compression"),
    ),
    Bound(
        "minutes of a task",
        "more than any day",
        2000,
        2001,
        reads(lambda text: tasks.read({"people": "RK", "tasks": f"run; {text}"}), "tasks"),
    ),
    Bound(
        "a valve that rests",
        "less than a lobe's ramp",
        0.05,
        0.06,
        lambda mm: LiftCurve([(0, mm), (9, 3)]).known_deg[0] < 0,
    ),
    Bound("ticks late", "a fifth longer than planned", 24, 25, lambda minutes: not took(minutes).late),
    Bound("ticks late, short tasks", "two minutes at the least", 7, 8, lambda minutes: not took(minutes, 5).late),
)


@pytest.mark.parametrize("bound", BOUNDS, ids=lambda bound: bound.name)
def test_a_bound_lies_where_it_is_said_to_lie(bound: Bound) -> None:
    assert bound.why
    assert bound.holds(bound.within), "what lies within is refused"
    assert not bound.holds(bound.beyond), "what lies beyond is taken"


@pytest.mark.parametrize(
    ("name", "value"),
    [
        (engine_tdc.PROVED_WITHIN_DEG, 0.5),
        (true_tdc.MAX_APART_DEG, 10.0),
        (engine_end_play.REPEATS, 3),
        (MIN_POINTS, 7),
        (split_overlap.WELL_UP_MM, 0.5),
        (setting.MAX_PIECES, 4),
        (suspicions.MAX_COUNT, 4),
        (blind_sets.STATION, "marks"),
        (valve_lifts.NOMINAL_PCT, 20.0),
        (valve_lifts.CLAY_MM, 0.1),
        (gaps.HEAD_MM, 3.0),
        (valve_lifts.FADES_DEG, 10.0),
        (valve_lifts.UNPROVED_MOVE_DEG, 1.0),
        (stops.RAMP_MM, 0.1),
        (stops.USUAL_MARGIN_DEG, 20.0),
        (plan.LATE_SHARE, 0.2),
    ],
)
def test_bounds_that_stations_tell_in_words_are_what_they_tell(name: object, value: object) -> None:
    assert name == value


def test_a_bound_moved_by_a_hair_would_be_noticed() -> None:
    """The table has teeth: the same bound, a little further, no longer holds on both sides."""
    bound = BOUNDS[2]
    assert not replace(bound, within=bound.beyond).holds(bound.beyond)
