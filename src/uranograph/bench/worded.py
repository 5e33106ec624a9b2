"""Words of what core finds of a card or a shaft, where machines are promised words beside the figures."""

from pydantic import Field

from uranograph.bench.messages import render
from uranograph.core.card import Card, CardInput, Conflict, card
from uranograph.core.drive_choice import ChoiceInput, DriveChoice, DriveOption, drive_choice
from uranograph.core.quantities import LengthUnit

FIELD_WORDS = {
    "io_btdc_deg": "intake opens",
    "ic_abdc_deg": "intake closes",
    "eo_bbdc_deg": "exhaust opens",
    "ec_atdc_deg": "exhaust closes",
    "intake_duration_deg": "intake duration",
    "exhaust_duration_deg": "exhaust duration",
    "intake_centerline_deg": "intake centerline",
    "exhaust_centerline_deg": "exhaust centerline",
    "lobe_separation_cam_deg": "lobe separation (LSA)",
    "advance_deg": "advance",
    "overlap_deg": "overlap",
}
_TRAP = "Smaller gears bring the mean backlash right, never the swing."
REASONS = {
    "gears-past-runout": "Runout {tir_mm:full} is past {never_mm:full}: backlash swings {swing_mm:full}. " + _TRAP,
    "gears-past-window": "Backlash swings {swing_mm:full}, more than the {window_mm:full} allowed. " + _TRAP,
    "gears-too-near": "Backlash swings {swing_mm:full}, give or take {doubt_mm:full}: too near what is allowed to tell.",
    "gears-if-it-fits": (
        "Runout {tir_mm:full}: backlash swings {swing_mm:full}; only if that fits the gears' own window all round."
    ),
    "gears-good": "Runout is within the {good_mm:full} gears are good to; backlash swings {swing_mm:full}.",
    "gears-good-in-window": (
        "Runout is within the {good_mm:full} gears are good to; backlash swings {swing_mm:full} within the "
        "{window_mm:full} allowed."
    ),
    "hydraulic-good": "It follows runout up to {limit_mm:full}.",
    "hydraulic-past": "It follows runout only up to {limit_mm:full}.",
    "hydraulic-too-near": (
        "It follows runout up to {limit_mm:full}, and this runout is too near that for the reading's uncertainty: only if a "
        "finer reading says so."
    ),
    "spring-good": "Little runout, little wear of its shoe.",
    "spring-wears": "Its shoe wears with every turn: only with the shoe watched.",
    "pump-good": "Within the {limit_mm:full} allowed for it.",
    "pump-past": "Past the {limit_mm:full} allowed for it.",
    "pump-too-near": (
        "Within the {limit_mm:full} allowed for it, and this runout is too near that for the reading's uncertainty: only if a "
        "finer reading says so."
    ),
}
_BEYOND = (
    " The shaft is not surely within its own {shaft_own_mm:full}: its bearings and seal suffer whatever the drive."
)
CURES = {
    "true": "true the crank, then measure again",
    "true-or-makers-word": "true the crank, then measure again, or its maker's word",
    "finer-reading": "a finer reading, with a finer dial",
    "window-or-true": "a stated backlash window, or truing the crank",
    "hydraulic-or-true": "a hydraulic tensioner, or truing the crank",
    "clearance-or-true": "a pump with more clearance, or truing the crank",
    "more-runout": "more runout",
    # Where the shaft was trued just now.
    "trued-already": "another drive, or another crank: this one was trued already",
    "trued-or-makers-word": "its maker's word, or another crank: this one was trued already",
    "trued-or-window": "a stated backlash window, or another drive: the crank was trued already",
    "trued-or-hydraulic": "a hydraulic tensioner: the crank was trued already",
    "trued-or-clearance": "a pump with more clearance: the crank was trued already",
}
# Each cure that is truing, and what is left where that was done.
AFTER_TRUING = {
    "true": "trued-already",
    "true-or-makers-word": "trued-or-makers-word",
    "window-or-true": "trued-or-window",
    "hydraulic-or-true": "trued-or-hydraulic",
    "clearance-or-true": "trued-or-clearance",
}


def reason(option: DriveOption, unit: LengthUnit) -> str:
    """Why a drive may be chosen, or not."""
    return render(REASONS[option.code] + (_BEYOND if option.beyond_the_shaft else ""), option.values, unit)


def clash(conflict: Conflict) -> str:
    """Contradictions on a card."""
    *others, last = conflict.fields
    sentences = [f"{FIELD_WORDS[name]} {conflict.values[name]:g}" for name in others]
    told_together = f"{', '.join(sentences[:-1])} and {sentences[-1]}"
    return (
        f"{told_together[0].upper()}{told_together[1:]} make the {FIELD_WORDS[last]} {round(conflict.follows_deg, 2):g}, not "
        f"{conflict.stated_deg:g}: {round(conflict.gap_deg, 2):g} deg apart. Look at the card again."
    )


class WordedOption(DriveOption):
    """One drive and what is to be said of it, in words too."""

    reason: str
    would_change: str = Field(description="What would change the answer.")


class WordedChoice(DriveChoice):
    """Every drive considered, in words too."""

    options: list[WordedOption]  # type: ignore[assignment]


class WordedConflict(Conflict):
    """Fields of a card that cannot all be true, in words too."""

    message: str


class WordedCard(Card):
    """A card completed, in words too."""

    conflicts: list[WordedConflict]  # type: ignore[assignment]


def worded_choice(given: ChoiceInput) -> WordedChoice:
    """`drive_choice` with its words, in the unit asked for."""
    found = drive_choice(given)
    options = [
        WordedOption(**option.model_dump(), reason=reason(option, given.unit), would_change=CURES[option.cure])
        for option in found.options
    ]
    return WordedChoice(**{**found.model_dump(), "options": options})


def worded_card(given: CardInput) -> WordedCard:
    """`card` with the words of its conflicts."""
    found = card(given)
    conflicts = [WordedConflict(**each.model_dump(), message=clash(each)) for each in found.conflicts]
    return WordedCard(**{**found.model_dump(), "conflicts": conflicts})
