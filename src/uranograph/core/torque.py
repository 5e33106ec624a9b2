"""Bolts pulled in stages, in equal steps, in newton meters or foot pounds."""

import re
from dataclasses import dataclass

from uranograph.core.errors import Impossible

NM_PER_FT_LB = 1.3558179483
NM_PER_KGF_M = 9.80665
# As people type them, once points, dashes and spaces are taken out.
_UNITS = {
    **dict.fromkeys(("nm", "newtonmeter", "newtonmeters"), 1.0),
    **dict.fromkeys(("ftlb", "ftlbs", "ftlbf", "lbft", "lbsft", "lbfft", "footpound", "footpounds"), NM_PER_FT_LB),
    **dict.fromkeys(("inlb", "inlbs", "inlbf", "lbin", "lbsin", "lbfin", "inchpounds"), NM_PER_FT_LB / 12),
    **dict.fromkeys(("kgfm", "kgm", "kpm", "mkg", "mkgf", "mkp"), NM_PER_KGF_M),
}
_BETWEEN = re.compile(r"[\s.·⋅*×\-‐–]+")
_TORQUE = re.compile(r"\s*(\d+[.,]?\d*|[.,]\d+)\s*([a-z.·⋅*×\-‐– ]*)", re.IGNORECASE)
STRONGEST_NM = 2000.0


def parse_torque(text: str, unit: str) -> float:
    """Read a torque in N m; a bare figure is in the unit given.

    Parameters
    ----------
    text
        Such as `45`, `45 N m`, `45 N.m`, `33 ft-lb`, `33 lbf ft` or `4.6 kgf m`.
    unit
        `N m` or `ft lb`.

    Returns
    -------
    float
        N m.

    Raises
    ------
    Impossible
        When it does not read as a torque.

    Examples
    --------
    >>> parse_torque("45", "N m"), round(parse_torque("33 lbf-ft", "N m"), 2), round(parse_torque("4.6 kgf m", "N m"), 2)
    (45.0, 44.74, 45.11)
    """
    found = _TORQUE.fullmatch(text[:64])
    word = _BETWEEN.sub("", found[2].lower()) or _BETWEEN.sub("", unit.lower()) if found else ""
    if found is None or word not in _UNITS:
        raise Impossible("torque", "not-a-torque", typed=text.strip())
    value = float(found[1].replace(",", ".")) * _UNITS[word]
    if not 0 < value <= STRONGEST_NM:
        raise Impossible("torque", "torque-outside", typed=text.strip())
    return value


def both(nm: float, unit: str = "N m") -> str:
    """A torque in both units, the wrench's own first.

    Examples
    --------
    >>> both(45).replace("\\u00a0", " "), both(45, "ft lb").replace("\\u00a0", " ")
    ('45 N m, 33.2 ft lb', '33.2 ft lb, 45 N m')
    """
    metric, pounds = f"{nm:.3g} N m".replace(" ", "\u00a0"), f"{nm / NM_PER_FT_LB:.3g} ft lb".replace(" ", "\u00a0")
    return f"{metric}, {pounds}" if unit == "N m" else f"{pounds}, {metric}"


@dataclass(frozen=True)
class Bolts:
    """How many, the torque of each stage in N m, and the threadlocker called for."""

    count: int
    stages_nm: tuple[float, ...]
    locker: str = ""
    unit: str = "N m"


def stages(text: str, number: int | None, unit: str) -> tuple[float, ...]:
    """Read the stages: each typed, or the last alone with a number of equal steps up to it.

    Examples
    --------
    >>> stages("60", 3, "N m"), stages("20; 40; 60", None, "N m")
    ((20.0, 40.0, 60.0), (20.0, 40.0, 60.0))
    """
    typed = [parse_torque(piece, unit) for piece in text.replace(", ", ";").split(";") if piece.strip()]
    if len(typed) == 1 and number:
        return tuple(typed[0] * n / number for n in range(1, number + 1))
    if typed != sorted(typed):
        raise Impossible("torque", "stages-not-rising")
    if not typed or len(typed) > 6:
        raise Impossible("torque", "stages-missing")
    return tuple(typed)
