"""Questions about the set-up when the numbers look wrong, likeliest first."""

from uranograph.bench.job import Job
from uranograph.engine.cams import LOBES, card_centerline
from uranograph.engine.card import card_of
from uranograph.phase import events, lifts, peaks, slack
from uranograph.phase import sweep_points as sweeps
from uranograph.phase.messages import say

MAX_COUNT = 4


def questions(job: Job) -> tuple[str, ...]:
    """Ask about the set-up, each question with its reason, ranked.

    Parameters
    ----------
    job
        The job as seen at one position.

    Returns
    -------
    tuple
        At most a few questions; empty where nothing asks for one.
    """
    asked = [*_lobes_swapped(job), *_max_lift(job), *_suspects(job), *_base(job), *_durations(job), *_lash(job)]
    ranked = sorted(asked, key=lambda item: -item[0])
    return tuple(words for _, words in ranked[:MAX_COUNT])


_Asked = list[tuple[float, str]]


def _max_lift(job: Job) -> _Asked:
    asked: _Asked = []
    for lobe in LOBES:
        swept_lobe = sweeps.swept(job, lobe)
        card = card_of(job)
        card = getattr(card, f"{lobe}_max_lift_mm") if card else None
        top = swept_lobe.found.max_lift_mm if swept_lobe and swept_lobe.found else peaks.measured(job, lobe)
        if top is None or card is None:
            continue
        share = top / card - 1
        if share < -0.01:
            asked.append(
                (
                    60 + 100 * -share,
                    say("lobe-below-card-lift", lobe=lobe, share=100 * -share),
                )
            )
        elif share > 0.01:
            words = say("lobe-above-card-lift", lobe=lobe, share=100 * share)
            asked.append((60 + 100 * share, words + say("lifter-or-valve")))
    return asked


def _lobes_swapped(job: Job) -> _Asked:
    card_intake, card_exhaust = card_centerline(job, "intake"), card_centerline(job, "exhaust")
    found = lifts.measured(job, "intake")
    if found is None or found.error_deg is None or card_intake is None or card_exhaust is None:
        return []
    if abs(found.error_deg) > 30:
        return [
            (
                100,
                say("lobes-may-be-swapped"),
            )
        ]
    return []


def _suspects(job: Job) -> _Asked:
    asked: _Asked = []
    for lobe in LOBES:
        swept_lobe = sweeps.swept(job, lobe)
        for reading, guess in swept_lobe.suspects if swept_lobe else []:
            asked.append(
                (
                    80,
                    say(
                        "lift-off-the-curve",
                        lobe=lobe,
                        drop=reading.second,
                        typed=reading.text,
                        side=_side(reading.side),
                        guess=guess,
                    ),
                )
            )
    return asked


def _side(side: str | None) -> str:
    return f" {side.upper()}" if side else ""


def _base(job: Job) -> _Asked:
    asked: _Asked = []
    for lobe in LOBES:
        swept_lobe = sweeps.swept(job, lobe)
        drift = swept_lobe.found.base_drift_mm if swept_lobe and swept_lobe.found else None
        if drift is not None and abs(drift) > 0.04:
            asked.append(
                (
                    50,
                    say("base-circle-drifts", job.unit, lobe=lobe, drift_mm=abs(drift), unit_name=job.unit.value),
                )
            )
    return asked


def _durations(job: Job) -> _Asked:
    asked: _Asked = []
    for lobe in LOBES:
        pair = [events.measured(job, kind) for kind in events.KINDS if events.LOBE[kind] == lobe]
        card = getattr(card.card, f"{lobe}_duration_deg") if (card := card_of(job)) else None
        if pair[0] and pair[1] and card is not None:
            gap = pair[1].angle_deg - pair[0].angle_deg - card
            if abs(gap) > 3:
                asked.append(
                    (
                        40 + abs(gap),
                        say("duration-off-card", lobe=lobe, gap_deg=abs(gap)),
                    )
                )
    return asked


def _lash(job: Job) -> _Asked:
    free = slack.slack_deg(job)
    if free is None or free < 2:
        return []
    return [(45, say("drive-has-slack", free=free))]
