"""Messages of backlash."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

_PLACES = "Tightest {tight_mm:fine} at {tight_at_deg:0} cam deg, loosest {loose_mm:fine} {unit}."
_SWING = f"{_PLACES} The mean {{mean_mm:fine}} looks good; the swing of {{swing_mm:fine}} is the fault."
_ALIKE = "Another gear size moves all places alike; choose it for the tightest place."
_TRUE_IT = "Cure the runout: another gear size moves the mean, never the swing."
FINDINGS = {
    "tight": FindingMessage(_PLACES, "Out: tight", _ALIKE),
    "loose": FindingMessage(_PLACES, "Out: loose", _ALIKE),
    "both": FindingMessage(_PLACES, "Out: tight and loose", _TRUE_IT),
    "tight-swing": FindingMessage(_SWING, "Out: tight", _ALIKE),
    "loose-swing": FindingMessage(_SWING, "Out: loose", _ALIKE),
    "both-swing": FindingMessage(_SWING, "Out: tight and loose", _TRUE_IT),
    "within": FindingMessage("Tightest and loosest place are both within.", "In", "Go on."),
    "no-teeth-to-rock": FindingMessage(
        "The train is driven by chain or belt: no gear teeth to rock.", "Nothing to read here", "Go on."
    ),
    "set-up-missing": FindingMessage(
        "Backlash needs its radii and its window.", next_step="Say what the dial stands on."
    ),
    "nothing-read": FindingMessage("Nothing is read yet.", "No backlash yet", "Read round the cam."),
    "no-window": FindingMessage(
        "No allowed window is given: nothing to judge by.", "Cannot tell", "Type the least and the greatest allowed."
    ),
    "nothing-out-so-far": FindingMessage(
        "{read} of {places} places: what lies between them is not known yet.",
        "Nothing out, so far",
        "Read on round the cam.",
    ),
    "gone-when-hot": FindingMessage(
        "Cold it is within; hot, the tightest place has no backlash left and it will bind.",
        "Out: gone when hot",
        "Give it more backlash cold: a smaller gear size.",
    ),
    "hot-too-near": FindingMessage(
        "Hot, what is left at the tightest place is no more than the dial's uncertainty.",
        "Cannot tell",
        "Read that place again, finer.",
    ),
    "too-near-limit": FindingMessage(
        "The tightest or the loosest place is within the dial's uncertainty of its limit: read it again, finer.",
        "Cannot tell",
        "Read that place again.",
    ),
}
REFUSALS = {
    "set-up-missing-backlash": "Say what the dial stands on first.",
    "travel-below-nothing": "A travel is not less than nothing: type how far the dial moves.",
    "more-than-any-backlash": "“{typed}” is more than any backlash: inches or mm?",
    "no-place-round-cam": "“{typed}” is no place round the cam: 0 to 360 cam degrees.",
}
MESSAGES = {
    "dial-travel": "Travel of the dial",
    "dial-setup-hint": "Near the pitch line, square to the tooth; turn the cam on by hand, forward.",
    "every-place-read": "Every place is read. Read any of them again, or go on.",
    "read-travel-at": "Cam at {place_deg:0} deg: lock one gear, rock the other. Read the travel.",
    "backlash-at": "backlash at {typed} cam deg",
    "tightest-at": "Tightest at, cam deg",
    "cam-gear-eccentricity": "Cam gear off center by",
    "crank-gear-eccentricity": "Crank gear off center by",
    "hot-backlash-row": "Hot, tight and loose",
    "other-gear-row": "With the other gear",
    "drive-slack-row": "Drive slack, crank deg",
    "hot-backlash": "Hot it is {low_mm:fine} to {high_mm:fine} {unit_name}.",
    "drive-slack": (
        "Drive slack{gear}: {lash_crank_deg:2} crank deg. It blurs every event read backward; degreeing allows for it."
    ),
}
say = partial(message, MESSAGES)
