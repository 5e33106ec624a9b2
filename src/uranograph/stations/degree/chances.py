"""How the chances of in, out and something wrong changed with each reading, and what each reading pulls."""

from dataclasses import dataclass
from functools import lru_cache

from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.charts.pen import Figure, Pen
from uranograph.core.quantities import format_angle
from uranograph.engine import positions
from uranograph.phase import judgment, observations
from uranograph.phase.basis import rules_of
from uranograph.phase.influence import OFF_SHARE, Influence, leave_one_out_influence
from uranograph.stations.degree.messages import say

MAX_SHOWN = 8


@dataclass(frozen=True)
class After:
    """Probability of in, out and a set-up fault after each reading."""

    within: float
    out: float
    wrong: float


@memoized
def course(job: Job) -> tuple[After, ...]:
    """Probabilities after each of the newest readings; the last is current."""
    view = positions.at_position(job)
    found = observations.gathered(view)
    cams = judgment.judged(view)
    if found is None or not cams or cams[0].within is None:
        return ()
    from uranograph.evidence.faults import Weighing

    first = cams[0]
    lobes = tuple(result.lobe for result in first.lobes)
    shown = []
    begins = next(n for n, each in enumerate(found.readings) if each.kind in ("event", "lift"))
    for count in range(max(begins + 1, len(found.readings) - MAX_SHOWN + 1), len(found.readings) + 1):
        readings = found.readings[:count]
        own = tuple(lobe for lobe in lobes if any(each.lobe == lobe and each.on_wheel for each in readings))
        if not own:
            continue
        weighing = Weighing(readings, found.expected, found.setup)
        ahead = sum(found.ahead_deg[lobe] for lobe in own) / len(own)
        phase, tolerance = weighing.phase(first.cam, own), rules_of(view).tolerance_deg
        within = phase.chance_within(tolerance, ahead)
        shown.append(After(within, 1 - within, weighing.likeliest_fault))
    return tuple(shown)


def figure(job: Job) -> Figure | None:
    """The strip of chances with the readings below it."""
    after = course(job)
    return _drawn(after, leave_one_out_influence(job)) if after else None


@lru_cache(maxsize=64)
def _drawn(after: tuple[After, ...], by_reading: tuple[Influence, ...]) -> Figure:
    """Draw the strip, 340 by 132: a column per reading with in, out and set-up fault, and each reading's influence."""
    pen, left, top, high, wide = Pen(), 4.0, 8.0, 56.0, 196.0
    column = wide / len(after)
    for n, each in enumerate(after):
        x, y = left + n * column, top + high
        for share, ink in ((each.within, "tolerance"), (each.out, "halo")):
            y -= share * high
            pen.rect(x, y, column - 1, share * high, ink)
    pen.rect(left, top, wide, high, "hair")
    last = after[-1]
    for n, (share, words) in enumerate(
        ((last.wrong, say("chance-of-a-fault")), (last.out, "out"), (last.within, "in"))
    ):
        pen.text((left + wide + 8, top + 13 + n * 19), f"{_percent(share)} {words}", "event", "start")
    level = top + high + 32
    pen.line((left, level), (left + wide, level), "card-line")
    step = wide / max(1, len(by_reading))
    for n, pull in enumerate(by_reading):
        off = max(-1.0, min(1.0, pull.off_deg / (2 * OFF_SHARE * pull.sd_deg)))
        at = (left + (n + 0.5) * step, level - 24 * off)
        if pull.is_outlier:
            pen.path(f"M{at[0]:.1f} {at[1] - 7:.1f}l7 7l-7 7l-7 -7z", "suspect")
        else:
            pen.star(at, 6, "solid")
    pen.text((left + wide + 8, level - 10), "late", "small", "start")
    pen.text((left + wide + 8, level + 18), "early", "small", "start")
    words = f"In {_percent(last.within)}, out {_percent(last.out)}, something wrong {_percent(last.wrong)}."
    return pen.figure(340, 126, words, "chances")


def _percent(share: float) -> str:
    """A share in percent, never 0 or 100 where it is not.

    Examples
    --------
    >>> [_percent(share) for share in (0.9996, 0.5, 0.0004, 0.0, 1.0)]
    ['>99 %', '50 %', '<1 %', '<1 %', '>99 %']
    """
    if share < 0.01:
        return "<1 %"
    return ">99 %" if share > 0.99 else f"{100 * share:.0f} %"


def in_words(pull: Influence) -> tuple[str, str, str]:
    """A reading, how far it is off the others, and what it pulls."""
    late = "late" if pull.off_deg > 0 else "early"
    off = f"{format_angle(abs(pull.off_deg))} {late}, ± {format_angle(2 * pull.sd_deg)}"
    return pull.words, off, format_angle(pull.pulls_deg, 2)
