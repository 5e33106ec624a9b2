"""Both keys as a level reads them: where they are stated to be, and where they are."""

from dataclasses import dataclass
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, arc, polar
from uranograph.core.quantities import format_angle


@dataclass(frozen=True)
class Key:
    """One shaft's key: degrees clockwise from straight up, stated and measured; and the pitch of its gear's teeth."""

    name: str
    stated_deg: float | None
    measured_deg: float | None
    pitch_deg: float


@lru_cache(maxsize=64)
def keyway_figure(keys: tuple[Key, Key], phrase: str, title: str) -> Figure:
    """Draw crank and cam end on, seen from the front, 742 by 630.

    Parameters
    ----------
    keys
        Crank, then cam.
    phrase
        What they say, a few words.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "seen from the front, degrees clockwise from straight up", "small", "start")
    pen.star((29, 84), 7, "hollow")
    pen.text((42, 88), "stated", "small", "start")
    pen.star((29, 104), 7, "solid")
    pen.text((42, 108), "read with the level", "small", "start")
    for key, x in zip(keys, (190.0, 552.0), strict=True):
        _shaft(pen, key, (x, 320.0))
    pen.text((371, 560), phrase, "soft")
    return pen.figure(742, 630, f"{title}: {phrase}", "keyways")


def _shaft(pen: Pen, key: Key, at: tuple[float, float]) -> None:
    for radius in (78, 128):
        pen.circle(at, radius, "ink" if radius == 78 else "hair")
    for deg in range(0, 360, 10):
        pen.line(polar(at, 128, deg), polar(at, 134 if deg % 30 else 140, deg), "tick")
    for deg in range(0, 360, 90):
        x, y = polar(at, 156, deg)
        pen.text((x, y + 4), str(deg), "scale")
    if key.stated_deg is not None:
        pen.path(arc(at, 128, key.stated_deg - key.pitch_deg / 2, key.stated_deg + key.pitch_deg / 2), "tooth-arc")
        pen.line(polar(at, 30, key.stated_deg), polar(at, 128, key.stated_deg), "card-line")
        pen.star(polar(at, 128, key.stated_deg), 10, "hollow")
    if key.measured_deg is not None:
        slot = " ".join(f"{x:.1f},{y:.1f}" for x, y in _slot(at, key.measured_deg))
        pen.path("M" + slot.replace(" ", "L") + "Z", "key-slot")
        pen.line(polar(at, 84, key.measured_deg), polar(at, 120, key.measured_deg), "measured-line")
        pen.star(polar(at, 128, key.measured_deg), 10, "solid")
    pen.text((at[0], at[1] + 4), key.name, "gear-name")
    words = [f"stated {format_angle(key.stated_deg)}" if key.stated_deg is not None else "not stated"]
    words.append(f"read {format_angle(key.measured_deg)}" if key.measured_deg is not None else "not read")
    pen.text((at[0], at[1] + 196), ", ".join(words), "small")
    pen.text((at[0], at[1] + 214), f"one tooth is {format_angle(key.pitch_deg)} deg here", "small")


def _slot(at: tuple[float, float], deg: float) -> list[tuple[float, float]]:
    half = 6.5
    return [
        polar(at, 86, deg - half),
        polar(at, 86, deg + half),
        polar(at, 62, deg + half * 1.35),
        polar(at, 62, deg - half * 1.35),
    ]
