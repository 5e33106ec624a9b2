"""Marks as they were seen, each on its gear; or both lifters at the top."""

from functools import lru_cache

from uranograph.bench.checks import CheckAnswer
from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.lifters import lifters_figure
from uranograph.charts.pen import Figure, Pen, polar
from uranograph.core.wheel import Turn
from uranograph.engine.description import rotation_of
from uranograph.engine.marks_by_eye import listed
from uranograph.phase import marks_by_eye
from uranograph.stations.by_eye import rules as eye

# Nominal heights that illustrate the answer, mm; they are not measurements.
HEIGHTS = {
    "same": (1.0, 1.0),
    "intake": (1.4, 0.7),
    "exhaust": (0.7, 1.4),
    "intake-alone": (2.0, 0.0),
    "exhaust-alone": (0.0, 2.0),
    "down": (0.0, 0.0),
}


def figure(job: Job, view_state: ViewState) -> Figure:
    """The marks that are listed; where there are none, or by choice, the lifters."""
    answers = {answer.check.kind: answer for answer in marks_by_eye.answers(job)}
    marks = listed(job).marks
    if marks and view_state.view != "top":
        seen = tuple(
            (mark.on, mark.words.partition(" to ")[2], *_seen(answers.get(f"look-{mark.n}"))) for mark in marks
        )
        return marks_figure(seen, "Marks by eye", turns_clockwise=_clockwise(job) != (listed(job).end == "rear"))
    lifters = answers.get("lifters")
    heights = HEIGHTS.get(lifters.text) if lifters else None
    phrase = lifters.words if lifters and lifters.reading else "Look at both lifters with number one at the top."
    intake, exhaust = heights or (None, None)
    return lifters_figure(intake, exhaust, ("", ""), phrase, "Lifters at TDC")


def _clockwise(job: Job) -> bool:
    return rotation_of(job) is not Turn.COUNTERCLOCKWISE


def _seen(answer: CheckAnswer | None) -> tuple[str, int, str]:
    if answer is None or answer.reading is None:
        return "not-begun", 0, "not looked at"
    teeth = eye.teeth_of(answer) if answer.text in marks_by_eye.OFF else 0
    words = f"{teeth} {answer.text}" if teeth else answer.words
    return answer.state, teeth if answer.text == "early" else -teeth, words


@lru_cache(maxsize=64)
def marks_figure(marks: tuple[tuple[str, str, str, int, str], ...], title: str, turns_clockwise: bool = True) -> Figure:
    """Draw each mark on its gear, with what it meets above it, 742 by 630.

    Parameters
    ----------
    marks
        What carries it, what it meets, the state, teeth early (late negative), and the answer in words.
    title
        Stands at the upper left.
    turns_clockwise
        Whether the gears run clockwise as they are seen; early is ahead in that way.
    """
    pen = Pen()
    ahead = 30 if turns_clockwise else -30
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "hollow: where the mark belongs; solid: where it was seen; not to scale", "small", "start")
    across = 3 if len(marks) > 2 else max(len(marks), 1)
    wide = 742 / across
    for n, (on, meets, state, early, words) in enumerate(marks):
        center = (wide * (n % across + 0.5), 210.0 + 270 * (n // across))
        radius = 66.0
        pen.circle(center, radius, "ink")
        pen.circle(center, radius - 14, "fine")
        pen.line((center[0], center[1] - radius - 26), (center[0], center[1] - radius - 8), "card-line")
        pen.star((center[0], center[1] - radius - 4), 11, "hollow")
        if state in ("in", "out") and words != "there is none":
            # A tooth is drawn as a twelfth of a turn to be visible.
            pen.star(polar(center, radius - 4, max(-3, min(3, early)) * ahead), 11, "solid")
        pen.text((center[0], center[1] - radius - 34), meets[:40], "small card")
        pen.text((center[0], center[1] + 5), on[:20], "subtitle")
        pen.text((center[0], center[1] + radius + 26), words, "gap" if state == "out" else "soft")
    listed_words = "; ".join(f"{on}: {words}" for on, _, _, _, words in marks)
    return pen.figure(742, 630, f"{title}: {listed_words}.", "by-eye")
