"""Errors as found: one mark a job, over time, or in a row for each cam or hand."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from uranograph.charts.pen import Figure, Pen

WIDTH, HEIGHT, LEFT, RIGHT, TOP, FLOOR = 760.0, 260.0, 70.0, 740.0, 24.0, 224.0
# Height of a row, and letters of its name.
ROW, LONGEST_NAME = 34.0, 24


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


def rows(groups: Mapping[str, Sequence[Found]], tolerance_deg: float = 1.0) -> Figure:
    """How late cams came out, in a row for each group, with its mean.

    Parameters
    ----------
    groups
        The jobs of each group, by its name.
    tolerance_deg
        The band drawn about the card, crank degrees.

    Returns
    -------
    Figure
        Early to the left, late to the right.
    """
    pen = Pen()
    every = [each for found in groups.values() for each in found]
    reach = max([5.0, *(abs(each.late_deg) + each.uncertainty_deg for each in every)])
    reach = float(5 * -(-int(reach + 0.999) // 5))
    left, floor = 240.0, TOP + ROW * len(groups)

    def x(deg: float) -> float:
        return (left + RIGHT) / 2 + deg / reach * (RIGHT - left) / 2

    pen.rect(x(-tolerance_deg), TOP, x(tolerance_deg) - x(-tolerance_deg), floor - TOP, "tolerance")
    pen.line((x(0), TOP), (x(0), floor), "card-line")
    for deg in (-reach, 0.0, reach):
        words = "card" if deg == 0 else f"{abs(deg):g} {'late' if deg > 0 else 'early'}"
        pen.text(
            (x(deg), floor + 18),
            words,
            "card" if deg == 0 else "small",
            "middle" if deg == 0 else "start" if deg < 0 else "end",
        )
    for k, (name, found) in enumerate(groups.items()):
        y = TOP + ROW * (k + 0.5)
        mean = sum(each.late_deg for each in found) / len(found)
        words = f"{name[:LONGEST_NAME]} ({len(found)})"
        pen.text((left - 12, y + 5), words, "small", "end")
        pen.line((left, y + ROW / 2), (RIGHT, y + ROW / 2), "fine")
        pen.line((x(mean), y - ROW / 3), (x(mean), y + ROW / 3), "ink")
        for each in found:
            pen.begin(f'class="is-{each.state}"')
            pen.star((x(each.late_deg), y), 6, "solid")
            pen.end()
    told = "; ".join(
        f"{name} {sum(each.late_deg for each in found) / len(found):+.1f}" for name, found in groups.items()
    )
    return pen.figure(WIDTH, floor + 30, f"Mean of cams as found, crank degrees late: {told}", "history")
