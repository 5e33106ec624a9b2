"""Every valve beside the middle of its kind: how far it opens, and when."""

from dataclasses import dataclass
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen

LEFT, RIGHT = 122.0, 716.0
# Where the zero line of each row is, and how far its limits stand from it.
ROWS = ((216.0, 52.0), (442.0, 52.0))
# So many limits are drawn at most; a valve further off stands at the edge.
MOST = 1.9


@dataclass(frozen=True)
class RowOf:
    """One row: its title, the limit as written, and what was read of each valve."""

    title: str
    limit: str
    values: tuple["Mark", ...]


@dataclass(frozen=True)
class Mark:
    """A valve's number, how many limits it is off, how uncertain that is, its words, and its verdict."""

    number: int
    off: float
    uncertain: float
    words: str
    state: str


@lru_cache(maxsize=64)
def valve_rows(names: tuple[str, ...], rows: tuple[RowOf, ...], title: str) -> Figure:
    """Draw how far each valve is from the middle of its kind, 742 by 630.

    Parameters
    ----------
    names
        Every valve by name, such as `3 exhaust`.
    rows
        Lift and timing; a valve's number counts from 1.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "from the middle of its kind; limits dashed", "small", "start")
    step = (RIGHT - LEFT) / len(names)
    for (zero, per_limit), row in zip(ROWS, rows, strict=True):
        pen.text((22, zero - MOST * per_limit - 16), row.title, "small wide", "start")
        pen.line((LEFT, zero), (RIGHT, zero), "ink")
        for sign in (-1, 1):
            pen.line((LEFT, zero + sign * per_limit), (RIGHT, zero + sign * per_limit), "card-line")
        pen.text((LEFT - 8, zero - per_limit + 4), f"+{row.limit}", "small card", "end")
        pen.text((LEFT - 8, zero + per_limit + 4), f"−{row.limit}", "small card", "end")
        read = {mark.number: mark for mark in row.values}
        odd = max(read, key=lambda number: abs(read[number].off)) if read else 0
        for n in range(1, len(names) + 1):
            x = LEFT + step * (n - 0.5)
            if n not in read:
                pen.circle((x, zero), 3.5, "leader")
                continue
            mark = read[n]
            y = zero - per_limit * max(-MOST, min(MOST, mark.off))
            half, high = min(9.0, step * 0.3), per_limit * min(mark.uncertain, MOST)
            pen.begin(f'class="is-{mark.state}"')
            pen.rect(x - half, y - high, 2 * half, max(2 * high, 2), "halo")
            pen.line((x, zero), (x, y), "measured-line")
            pen.star((x, y), 10 if n == odd else 7, "solid")
            pen.end()
            if n == odd or len(names) <= 8:
                pen.text((x, y + (-14 if mark.off >= 0 else 24)), mark.words, "gap" if n == odd else "small wide")
        if not read:
            pen.text(((LEFT + RIGHT) / 2, zero - per_limit / 2 + 4), "not read", "soft")
    foot = ROWS[-1][0] + MOST * ROWS[-1][1] + 34
    for n, name in enumerate(names, 1):
        cylinder, _, lobe = name.partition(" ")
        x = LEFT + step * (n - 0.5)
        pen.text((x, foot), cylinder, "small")
        pen.text((x, foot + 17), lobe[:2], "scale")
    count = max((len(row.values) for row in rows), default=0)
    return pen.figure(742, 630, f"{title}: {count} of {len(names)} valves read.", "room")
