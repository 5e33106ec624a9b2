"""The calculations that machines can call, by name."""

import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from pydantic import BaseModel, ValidationError

from uranograph.bench.worded import WordedCard, WordedChoice, worded_card, worded_choice
from uranograph.core.adjust import Adjusted, AdjustInput, adjust
from uranograph.core.backlash import Backlash, BacklashInput, HotBacklash, HotInput, backlash, hot_backlash
from uranograph.core.breathing import Breathing, BreathingInput, breathing
from uranograph.core.card import CardInput
from uranograph.core.centerline import Centerline, LiftPairs, centerline
from uranograph.core.chain import ChainInput, Retard, chain
from uranograph.core.clearance import (
    PistonToValve,
    PistonToValveInput,
    ValveToValve,
    ValveToValveInput,
    piston_to_valve,
    valve_to_valve,
)
from uranograph.core.cooling import Cooling, CoolingInput, cooling
from uranograph.core.degree import Degreed, DegreeInput, degree
from uranograph.core.drive_choice import ChoiceInput
from uranograph.core.end_play import EndPlay, EndPlayInput, end_play
from uranograph.core.errors import InvalidInput
from uranograph.core.heat import HeatFit, HeatInput, heat_fit
from uranograph.core.helix import HelicalEntry, HelixInput, helical_entry
from uranograph.core.hot_play import HotPlay, HotPlayInput, hot_play
from uranograph.core.keyway import Keyway, KeywayInput, keyway
from uranograph.core.lash_stops import LashStops, LashStopsInput, lash_stops
from uranograph.core.overlap import OverlapInput, OverlapShift, overlap_lift
from uranograph.core.piston import PistonAt, PistonDrop, piston
from uranograph.core.plan import PlanInput, Planned, plan
from uranograph.core.runout import Runout, RunoutInput, runout
from uranograph.core.shims import Shims, ShimsInput, shims
from uranograph.core.slip import Slip, SlipInput, tooth_slip
from uranograph.core.split import Split, SplitInput, split_overlap
from uranograph.core.sprocket import LineInput, SprocketLine, sprocket_line
from uranograph.core.sweep import SweepInput, Swept, sweep
from uranograph.core.tdc import Top, TopPairs, tdc
from uranograph.core.train import Train, TrainInput, train
from uranograph.core.wheel import WheelAngle, WheelReading, wheel_angle


@dataclass(frozen=True)
class Calculation:
    """One calculation: its input and output models, and the function between them."""

    name: str
    title: str
    given: type[BaseModel]
    found: type[BaseModel]
    function: Callable[[Any], BaseModel]


@cache
def examples() -> Mapping[str, Mapping[str, Any]]:
    """An input for each calculation, by its name, that can be sent as it is.

    Examples
    --------
    >>> examples()["tdc"]["pairs"]
    [{'before_deg': 41, 'after_deg': 37.5}]
    """
    found: dict[str, dict[str, Any]] = json.loads((Path(__file__).parent / "examples.json").read_text(encoding="utf-8"))
    return found


CALCULATIONS = {
    calculation.name: calculation
    for calculation in (
        Calculation("wheel-angle", "Wheel reading to crank angle", WheelReading, WheelAngle, wheel_angle),
        Calculation("piston", "Piston drop at a crank angle", PistonAt, PistonDrop, piston),
        Calculation("tdc", "True TDC from pairs", TopPairs, Top, tdc),
        Calculation("centerline", "Lobe centerline by equal lifts", LiftPairs, Centerline, centerline),
        Calculation("card", "Spec card completed and checked", CardInput, WordedCard, worded_card),
        Calculation("degree", "Four events read against the card", DegreeInput, Degreed, degree),
        Calculation("sweep", "A lobe from lifts read round it", SweepInput, Swept, sweep),
        Calculation("adjust", "Adjuster positions that cure an error", AdjustInput, Adjusted, adjust),
        Calculation("overlap-lift", "Shift from the lift at overlap TDC", OverlapInput, OverlapShift, overlap_lift),
        Calculation("train", "A gear train: half speed, marks, one tooth", TrainInput, Train, train),
        Calculation("tooth-slip", "A deviation in whole teeth, or not", SlipInput, Slip, tooth_slip),
        Calculation(
            "helical-entry", "How far a helical gear turns sliding in", HelixInput, HelicalEntry, helical_entry
        ),
        Calculation("keyways", "Marks against keyways", KeywayInput, Keyway, keyway),
        Calculation("split-overlap", "Both lifters at overlap TDC", SplitInput, Split, split_overlap),
        Calculation("backlash", "Backlash round the cam", BacklashInput, Backlash, backlash),
        Calculation("hot-backlash", "Backlash when hot", HotInput, HotBacklash, hot_backlash),
        Calculation("sprocket-line", "Sprockets in line", LineInput, SprocketLine, sprocket_line),
        Calculation("runout", "Runout: eccentricity and out-of-round", RunoutInput, Runout, runout),
        Calculation("drive-choice", "Which drives a runout allows", ChoiceInput, WordedChoice, worded_choice),
        Calculation("end-play", "End play by feelers or dial", EndPlayInput, EndPlay, end_play),
        Calculation("shims", "The shim pack nearest to a thickness", ShimsInput, Shims, shims),
        Calculation("heat-fit", "How hot a gear must be to slip on", HeatInput, HeatFit, heat_fit),
        Calculation("hot-play", "End play when hot", HotPlayInput, HotPlay, hot_play),
        Calculation("cooling", "How long a heated gear stays loose", CoolingInput, Cooling, cooling),
        Calculation("chain", "Retard of a longer chain or lower cam", ChainInput, Retard, chain),
        Calculation(
            "piston-to-valve", "Gap between piston and valve", PistonToValveInput, PistonToValve, piston_to_valve
        ),
        Calculation("valve-to-valve", "Gap between the valves", ValveToValveInput, ValveToValve, valve_to_valve),
        Calculation("breathing", "Effective stroke, trapped ratio", BreathingInput, Breathing, breathing),
        Calculation("lash-stops", "The fewest stops to set every valve", LashStopsInput, LashStops, lash_stops),
        Calculation("plan", "The shortest plan for the hands there are", PlanInput, Planned, plan),
    )
}


def _with_integers(value: Any) -> Any:
    """The same data with 3.0 as 3: a spreadsheet writes a count so, and it is one."""
    if isinstance(value, float) and value.is_integer() and abs(value) < 2**53:
        return int(value)
    if isinstance(value, Mapping):
        return {name: _with_integers(each) for name, each in value.items()}
    return [_with_integers(each) for each in value] if isinstance(value, list | tuple) else value


def calculate(name: str, data: Any) -> dict[str, Any]:
    """Run a calculation on plain data.

    Parameters
    ----------
    name
        One of `CALCULATIONS`.
    data
        A mapping with the input's fields; see `uranograph calc --list`.

    Returns
    -------
    dict
        The output's fields.

    Raises
    ------
    InvalidInput
        When there is no such calculation or the data cannot be; the field at fault is named.

    Examples
    --------
    >>> calculate("wheel-angle", {"scale": "half", "reading_deg": 41, "side": "btdc"})
    {'angle_deg': -41.0}
    """
    calculation = CALCULATIONS.get(name)
    if calculation is None:
        raise InvalidInput("name", "no-such-calculation", name=name, known=", ".join(CALCULATIONS))
    if not isinstance(data, Mapping):
        raise InvalidInput("input", "not-an-object")
    try:
        given = calculation.given.model_validate_json(json.dumps(_with_integers(data)), strict=True)
    except ValidationError as error:
        first = error.errors(include_url=False, include_context=False)[0]
        where = ".".join(str(part) for part in first["loc"]) or "input"
        raise InvalidInput(where, "not-valid", where=where, detail=first["msg"]) from error
    try:
        return calculation.function(given).model_dump(mode="json", by_alias=True)
    except InvalidInput:
        raise
    except (ValidationError, ArithmeticError, ValueError) as error:
        raise InvalidInput("input", "beyond-reckoning") from error
