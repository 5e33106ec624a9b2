"""Drawings of the parts that set a shaft's end play: shims, cheeks, or ring and plate."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.shim_pack import Stack, pack_figure
from uranograph.charts.thrust_faces import cheeks_figure
from uranograph.core.errors import Missing
from uranograph.core.quantities import format_fine
from uranograph.engine import end_play
from uranograph.engine.end_play_drawing import play_figure
from uranograph.stations.setting import advice as setting
from uranograph.stations.setting import means as phase_means


def figure(job: Job, view_state: ViewState) -> Figure:
    """Draw the parts that set one shaft's end play."""
    view = (view_state.prompt.extra.get("method", "") if view_state.prompt else "") or view_state.view
    means = phase_means.setup(job).get(view)
    title = "Set end play"
    if means is None or means.way == "left" or end_play.latest(job, view) is None:
        return play_figure(job, view or next(iter(end_play.views(job)), ""))
    return _cheeks(job, view, title) if means.way == "cheeks" else _packs(job, view, title)


def _cheeks(job: Job, part: str, title: str) -> Figure:
    faces = setting.cheeks(job, part)
    if faces is None:
        raise Missing("faces")

    def passes(side: str) -> tuple[float, ...]:
        taken = faces.thickness_mm.get(side, ())
        return tuple(taken[0] - mm for mm in taken[1:])

    words = [f"{format_fine(faces.taken_mm(side), job.unit)} off" for side in setting.SIDES]
    goal = "" if faces.wanted_mm is None else f"goal {format_fine(faces.wanted_mm, job.unit)}"
    return cheeks_figure(passes("front"), passes("rear"), faces.wanted_mm, (words[0], words[1], goal), title)


def _packs(job: Job, part: str, title: str) -> Figure:
    means, latest = phase_means.setup(job)[part], end_play.latest(job, part)
    goal = phase_means.goal_mm(job, part)
    if latest is None or goal is None:
        raise Missing("latest, goal")
    play, until = latest
    unit = job.unit

    def words(pieces: tuple[float, ...]) -> tuple[str, ...]:
        return tuple(setting.pack_words([mm], unit) for mm in pieces)

    stacks = []
    best: list[float] = []
    if means.way == "shims":
        was = setting.fitted(job, part, until) or ()
        stacks.append(Stack("was", was, words(was), play.low_mm, play.high_mm, end_play.bracket_words(job, play)))
        advice = setting.shim_advice(job, part)
        if advice is not None:
            best = advice.pack.pack_mm
            pieces = tuple(best)
            leaves = f"leaves {format_fine(advice.play_mm, unit)}"
            stacks.append(Stack("fit", pieces, words(pieces), advice.play_mm, advice.play_mm, leaves, True))
        now = setting.fitted(job, part)
        if now is not None and until < end_play.LATEST:
            stacks.append(Stack("fitted", now, words(now), None, None, "prove it: read the play again"))
    else:
        ring = setting.ring(job, part)
        pieces = tuple(mm for mm in (ring.plate_mm,) if mm is not None)
        stacks.append(Stack("was", pieces, words(pieces), play.low_mm, play.high_mm, end_play.bracket_words(job, play)))
        if ring.play_mm is not None and ring.spacer_mm is not None:
            leaves = f"spacer less plate {format_fine(ring.play_mm, unit)}"
            stacks.append(
                Stack("spacer", (ring.spacer_mm,), words((ring.spacer_mm,)), ring.play_mm, ring.play_mm, leaves, True)
            )
    stock = tuple((mm, setting.pack_words([mm], unit), mm in best) for mm in sorted(set(means.stock_mm)))
    window = (play.loop.low_mm, play.loop.high_mm)
    return pack_figure(tuple(stacks), window, goal, f"wanted {format_fine(goal, unit)}", stock, title)
