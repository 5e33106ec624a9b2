"""Causes of a complaint, each with the evidence for and against it."""

from collections.abc import Mapping
from dataclasses import dataclass

from uranograph.core.slip import SlipVerdict
from uranograph.engine.gear_train import HELD
from uranograph.stations.complaint.messages import say
from uranograph.stations.complaint.reported import Reported

CAUSES = {
    "tooth": "jumped tooth",
    "slipped": "slipped pressed gear",
    "key": "sheared key",
    "worn": "worn chain or belt",
    "gear": "wrong gear",
    "sensor": "sensor or its ring",
    "claim": "a claim that does not hold",
}


# How near a claim in degrees must come, in crank degrees, and in those of the cam.
CLAIM_DEG, CLAIM_CAM_DEG = 0.5, 0.3


@dataclass(frozen=True)
class Cause:
    """One cause, and the reasons for it and against it that are known so far."""

    kind: str
    speaks_for: tuple[str, ...]
    against: tuple[str, ...]

    @property
    def words(self) -> str:
        return CAUSES[self.kind]

    @property
    def weight(self) -> int:
        """Reasons for it less reasons against it; what speaks against it weighs as much."""
        return len(self.speaks_for) - len(self.against)


def weighed(report: Reported, seen: Mapping[str, str]) -> tuple[Cause, ...]:
    """Every cause, the likeliest first.

    Parameters
    ----------
    report
        What is reported.
    seen
        What was looked at, by question: `marks`, `pair`, `witness`, `key`, `slack`, `part`, `sensor`, `teeth`.

    Returns
    -------
    tuple
        By reasons for less reasons against; of those alike the order of `CAUSES`.
    """
    found = [Cause(kind, *_reasons(kind, report, seen)) for kind in CAUSES if kind != "claim" or report.claims]
    return tuple(sorted(found, key=lambda cause: -cause.weight))


def _reasons(kind: str, report: Reported, seen: Mapping[str, str]) -> tuple[tuple[str, ...], tuple[str, ...]]:
    judge = {
        "tooth": _tooth,
        "slipped": _slipped,
        "key": _key,
        "worn": _worn,
        "gear": _gear,
        "sensor": _sensor,
        "claim": _claim,
    }[kind]
    found = judge(report, seen)
    return tuple(words for good, words in found if good), tuple(words for good, words in found if not good)


Reasons = list[tuple[bool, str]]


def _tooth(report: Reported, seen: Mapping[str, str]) -> Reasons:
    found: Reasons = []
    slip = report.slip
    if slip is not None and slip.verdict is SlipVerdict.WHOLE_TEETH:
        found.append((True, say("near-whole-teeth", teeth=abs(slip.nearest_teeth))))
    elif slip is not None and report.offset_deg is not None and abs(report.offset_deg) < slip.per_tooth_deg / 2:
        found.append((False, say("less-than-half-a-tooth", per_deg=slip.per_tooth_deg)))
    elif slip is not None and slip.verdict is SlipVerdict.NOT_WHOLE_TEETH:
        found.append((False, say("not-whole-teeth", per_deg=slip.per_tooth_deg)))
    elif report.teeth_off:
        found.append((True, say("near-whole-teeth", teeth=abs(report.teeth_off))))
    if seen.get("marks") == "whole":
        found.append((True, say("marks-off-by-teeth")))
    if seen.get("marks") == "on":
        found.append((False, say("marks-stand-right")))
    if seen.get("pair") == "off":
        found.append((True, say("pair-is-off")))
    if seen.get("pair") == "on":
        found.append((False, say("pair-stands-right")))
    if seen.get("teeth") == "no":
        found.append((True, say("teeth-show-it")))
    if seen.get("teeth") == "yes":
        found.append((False, say("teeth-are-sound")))
    return found


def _slipped(report: Reported, seen: Mapping[str, str]) -> Reasons:
    found: Reasons = []
    if report.held in ("pressed", "screw"):
        found.append((True, say("nothing-but-the-press")))
    elif report.held in ("key", "taper", "dowel", "bolts", "one-piece"):
        found.append((False, say("held-otherwise", held=HELD[report.held])))
    if seen.get("marks") == "on" and seen.get("witness") == "no":
        found.append((True, say("marks-right-witness-wrong")))
    if seen.get("pair") == "on" and seen.get("marks") in ("whole", "part"):
        found.append((True, say("pair-right-top-wrong")))
    if seen.get("pair") == "off":
        found.append((False, say("pair-is-off")))
    if seen.get("witness") == "yes":
        found.append((False, say("witness-right")))
    if seen.get("witness") == "na" and report.held in ("pressed", "screw"):
        found.append((True, say("no-witness-rules-it-out")))
    if report.slip is not None and report.slip.verdict is SlipVerdict.NOT_WHOLE_TEETH:
        found.append((True, say("any-amount")))
    return found


def _key(report: Reported, seen: Mapping[str, str]) -> Reasons:
    found: Reasons = []
    if seen.get("key") == "no":
        found.append((True, say("key-is-not-whole")))
    if seen.get("key") in ("yes", "na"):
        found.append((False, say("key-is-whole")))
    if (
        report.slip is not None
        and report.slip.verdict is SlipVerdict.NOT_WHOLE_TEETH
        and report.held in ("key", "taper")
    ):
        found.append((True, say("any-amount")))
    return found


def _worn(report: Reported, seen: Mapping[str, str]) -> Reasons:
    found: Reasons = []
    if report.drive == "gears":
        found.append((False, say("gears-do-not-stretch")))
    if report.offset_deg is not None and report.offset_deg < 0:
        found.append((False, say("wear-makes-late")))
    elif report.offset_deg is not None and report.slip is not None and report.offset_deg < report.slip.per_tooth_deg:
        found.append((True, say("late-by-little")))
    if seen.get("slack") == "yes":
        found.append((True, say("slack-is-seen")))
    if seen.get("slack") == "no":
        found.append((False, say("no-slack-seen")))
    return found


def _gear(report: Reported, seen: Mapping[str, str]) -> Reasons:
    if seen.get("part") == "no":
        return [(True, say("part-is-not-right"))]
    return [(False, say("part-is-right"))] if seen.get("part") == "yes" else []


def _sensor(report: Reported, seen: Mapping[str, str]) -> Reasons:
    found: Reasons = []
    if seen.get("sensor") == "no":
        found.append((True, say("sensor-is-not-sound")))
    if seen.get("sensor") == "yes":
        found.append((False, say("sensor-is-sound")))
    if report.by == "scan" and seen.get("marks") == "on" and seen.get("witness") in ("yes", "na"):
        found.append((True, say("only-the-scan-says-so")))
    if report.by in ("marks", "degreeing"):
        found.append((False, say("no-sensor-told-it")))
    return found


def _claim(report: Reported, seen: Mapping[str, str]) -> Reasons:
    if report.crank_teeth is None:
        return []
    return [_claim_of(teeth * 360 / report.crank_teeth, deg) for teeth, deg in report.claims]


def _claim_of(true_deg: float, claimed_deg: float) -> tuple[bool, str]:
    if abs(claimed_deg - true_deg) <= CLAIM_DEG:
        return False, say("claim-holds", true_deg=true_deg)
    if abs(claimed_deg - true_deg / 2) <= CLAIM_CAM_DEG:
        return True, say("claim-in-cam-degrees", true_deg=true_deg, half_deg=true_deg / 2)
    return True, say("claim-does-not-hold", true_deg=true_deg)


def teeth_it_takes(report: Reported) -> tuple[int, ...]:
    """How many teeth the crank gear must have for each claim to hold, where nobody counted them.

    Examples
    --------
    >>> report = Reported("x", "scan", None, None, "", "", 1, 15.0)
    >>> teeth_it_takes(report)
    (24,)
    """
    if report.crank_teeth is not None:
        return ()
    return tuple(round(360 * teeth / deg) for teeth, deg in report.claims if deg)
