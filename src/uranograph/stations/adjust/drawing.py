"""Positions that the drive offers, and the tries so far."""

from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.positions import OfCam, Tried, positions_figure
from uranograph.core.errors import InvalidInput
from uranograph.engine import positions
from uranograph.engine.cams import cam_words
from uranograph.phase import banks, move_history, offers, set_live
from uranograph.phase.basis import rules_of

MAX_CAMS = 2


def figure(job: Job, view_state: ViewState) -> Figure:
    """Offered positions and the history of tries."""
    return _drawn(job).judged(banks.find(job).state)


@memoized
def _drawn(job: Job) -> Figure:
    steps = move_history.history(job)
    made = positions.tries(job)
    now = steps[-1].errors
    cams = []
    for group, cam in [(one, cam) for one in offers.cams(job) for cam in set_live.members(job, one)]:
        history = []
        for step in steps:
            error = step.errors.get(cam)
            predicted = None
            if step.number:
                one = made[step.number - 1]
                before = steps[step.number - 1].errors.get(cam)
                moves_it = cam == "both" or cam in one.lobes or f"{cam.removesuffix('both')}intake" in one.lobes
                predicted = before[0] - one.shift_of(cam) if before and moves_it else None
            label = "as found" if step.number == 0 else f"move {step.number}"
            history.append(Tried(label, error[0] if error else None, error[1] if error else 0.0, predicted))
        phase = now.get(cam)
        left = tuple(offer.leaves_of(cam) for offer in _offers(job, group))
        barred = frozenset(offer.number + 1 for offer in _offers(job, group) if offer.barred)
        late, doubt = phase or (None, 0.0)
        cams.append(OfCam(cam_words(cam), late, doubt, left, tuple(history), barred))
    if len(cams) > MAX_CAMS:
        # Of two banks, the one with the larger error.
        halves = [cams[:MAX_CAMS], cams[MAX_CAMS:]]
        cams = max(halves, key=lambda half: max(abs(cam.error_deg or 0.0) for cam in half))
    return positions_figure(tuple(cams), rules_of(job).tolerance_deg, "Cam timing changes")


def _offers(job: Job, cam: str) -> tuple[offers.Offer, ...]:
    try:
        return offers.offers(job, cam)
    except InvalidInput:
        return ()
