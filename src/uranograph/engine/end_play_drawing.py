"""The end play of a shaft as its drawing takes it."""

from uranograph.bench.job import Job
from uranograph.charts.end_play import Blade, PlayGap, gap_figure
from uranograph.charts.pen import Figure
from uranograph.core.quantities import format_fine
from uranograph.engine import end_play, end_play_form


def play_figure(job: Job, view: str) -> Figure:
    """One shaft's play as the gap it is."""
    loop = end_play_form.loop_of(job, view)
    if loop is None:
        return gap_figure(PlayGap(view or "shaft", 0.1, 0.2, ("least", "greatest")), "End play")
    unit, play = job.unit, end_play.measured(job, view)
    allowed = (f"least {format_fine(loop.low_mm, unit)}", f"greatest {format_fine(loop.high_mm, unit)}")
    if play is None:
        return gap_figure(PlayGap(view, loop.low_mm, loop.high_mm, allowed), "End play")
    tries = [Blade(mm, format_fine(mm, unit), True) for mm in play.went_mm]
    tries += [Blade(mm, format_fine(mm, unit), False) for mm in play.stopped_mm]
    hot = play.hot_change_mm
    coming = None if play.next_blade_mm is None else end_play.next_blade(job, view)
    return gap_figure(
        PlayGap(
            view,
            loop.low_mm,
            loop.high_mm,
            allowed,
            play.low_mm,
            play.high_mm,
            end_play.bracket_words(job, play),
            tuple(sorted(tries, key=lambda blade: blade.mm)),
            tuple((mm, format_fine(mm, unit)) for mm in play.travels_mm),
            coming,
            "" if coming is None else f"try {format_fine(coming, unit)} next",
            hot,
            "" if hot is None else f"hot, {'more' if hot > 0 else 'less'} by {format_fine(abs(hot), unit)}",
        ),
        "End play",
    )
