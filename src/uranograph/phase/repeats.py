"""Repeated wheel and dial readings with nothing moved between, from which reading precision is estimated."""

from collections import defaultdict
from collections.abc import Hashable, Mapping

from uranograph.bench import shop_limits
from uranograph.bench.job import Job
from uranograph.bench.repeats import RepeatedReading
from uranograph.engine.cams import LOBES
from uranograph.engine.tdc import frames
from uranograph.phase import peaks
from uranograph.phase.observations import gathered


def repeats(job: Job) -> Mapping[str, tuple[RepeatedReading, ...]]:
    """Groups of readings of one thing, for the eye (crank degrees) and for the needle (mm).

    Parameters
    ----------
    job
        The job where its cam stands now; a sweep from a file was read by no hand.

    Returns
    -------
    mapping
        `eye` and `needle`, each perhaps empty.
    """
    return {"eye": _eye(job), "needle": _needle(job)}


def _eye(job: Job) -> tuple[RepeatedReading, ...]:
    from uranograph.evidence.covariance import eye_variance, unread_variance

    found = gathered(job)
    if found is None:
        return ()
    groups: dict[tuple[Hashable, ...], list[float]] = defaultdict(list)
    needles: dict[tuple[Hashable, ...], list[float]] = defaultdict(list)
    for seen in found.readings:
        if not seen.on_wheel or seen.own_deg is not None or seen.backward:
            continue
        groups[(*seen.place, seen.frame)].append(seen.at_deg)
        needles[(*seen.place, seen.frame)].append(seen.needle_deg**2)
    again = []
    for place, values in groups.items():
        if len(values) < 2:
            continue
        # The midpoint of a TDC pair averages two readings: half the variance.
        part = 0.5 if place[0] == "stop" else 1.0
        division = frames(job)[int(str(place[-1]))].mounted.division_deg
        needle = sum(needles[place]) / len(values)
        again.append(
            RepeatedReading(tuple(values), part * eye_variance(division), part * unread_variance(division) + needle)
        )
    return tuple(again)


def _needle(job: Job) -> tuple[RepeatedReading, ...]:
    cut = frames(job)
    if not cut:
        return ()
    usual = (shop_limits.LIMITS["needle"].start * cut[-1].mounted.dial_division_mm) ** 2
    values = [
        tuple(reading.mm for reading in slot.taken(job, kinds[lobe]) if not reading.is_by_instrument)
        for slot, kinds in ((peaks.LIFT, peaks.KIND), (peaks.BASE, peaks.BASE_KIND))
        for lobe in LOBES
    ]
    return tuple(RepeatedReading(read, usual) for read in values if len(read) > 1)
