"""Errors as found, over time: one mark a job."""

from collections.abc import Sequence
from dataclasses import dataclass

from uranograph.charts.pen import Figure, Pen

WIDTH, HEIGHT, LEFT, RIGHT, TOP, FLOOR = 760.0, 260.0, 70.0, 740.0, 24.0, 224.0


@dataclass(frozen=True)
class Found:
    """One job: how late its cam was, crank degrees, with its uncertainty, its verdict, and when, as a share of the period."""

    share: float
    late_deg: float
    uncertainty_deg: float
    state: str
    title: str


def history(found: Sequence[Found], first: str, last: str, tolerance_deg: float = 1.0) -> Figure:
    """How late each cam came out, over time.

    Parameters
    ----------
    found
        The jobs, oldest first.
    first, last
        The ends of the period, in words.
    tolerance_deg
        The band drawn about the card, crank degrees.

    Returns
    -------
    Figure
        Early below, late above; each mark in the color of its verdict.
    """
    pen = Pen()
    reach = max([5.0, *(abs(each.late_deg) + each.uncertainty_deg for each in found)])
    reach = float(5 * -(-int(reach + 0.999) // 5))

    def y(deg: float) -> float:
        return (TOP + FLOOR) / 2 - deg / reach * (FLOOR - TOP) / 2

    pen.rect(LEFT, y(tolerance_deg), RIGHT - LEFT, y(-tolerance_deg) - y(tolerance_deg), "tolerance")
    pen.line((LEFT, y(0)), (RIGHT, y(0)), "card-line")
    pen.line((LEFT, TOP), (LEFT, FLOOR), "ink")
    for deg in (-reach, 0.0, reach):
        pen.line((LEFT - 5, y(deg)), (LEFT, y(deg)), "ink")
        words = "card" if deg == 0 else f"{abs(deg):g} {'late' if deg > 0 else 'early'}"
        pen.text((LEFT - 9, y(deg) + 4), words, "card" if deg == 0 else "small", "end")
    pen.text((LEFT, HEIGHT - 8), first, "small", "start")
    pen.text((RIGHT, HEIGHT - 8), last, "small", "end")
    for each in found:
        x = LEFT + 12 + each.share * (RIGHT - LEFT - 24)
        pen.begin(f'class="is-{each.state}"')
        high = y(each.late_deg + each.uncertainty_deg)
        pen.rect(x - 6, high, 12, y(each.late_deg - each.uncertainty_deg) - high, "halo")
        pen.star((x, y(each.late_deg)), 7, "solid")
        pen.end()
    words = f"{len(found)} cams as found: " + "; ".join(f"{each.title} {each.late_deg:+.1f}" for each in found[:12])
    return pen.figure(WIDTH, HEIGHT, words, "history")
