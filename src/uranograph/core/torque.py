"""Bolts pulled in stages, in equal steps, in newton meters or foot pounds."""

import re
from dataclasses import dataclass

from uranograph.core.errors import InvalidInput

NM_PER_FT_LB = 1.3558179483
NM_PER_KGF_M = 9.80665
# Spellings of units, without periods, dashes and spaces.
_UNITS = {
    **dict.fromkeys(("nm", "newtonmeter", "newtonmeters"), 1.0),
    **dict.fromkeys(("ftlb", "ftlbs", "ftlbf", "lbft", "lbsft", "lbfft", "footpound", "footpounds"), NM_PER_FT_LB),
    **dict.fromkeys(("inlb", "inlbs", "inlbf", "lbin", "lbsin", "lbfin", "inchpounds"), NM_PER_FT_LB / 12),
    **dict.fromkeys(("kgfm", "kgm", "kpm", "mkg", "mkgf", "mkp"), NM_PER_KGF_M),
}
_BETWEEN = re.compile(r"[\s.·⋅*×\-‐–]+")
_TORQUE = re.compile(r"\s*(\d+[.,]?\d*|[.,]\d+)\s*([a-z.·⋅*×\-‐– ]*)", re.IGNORECASE)
STRONGEST_NM = 2000.0
MAX_TURN_DEG = 720.0


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
    InvalidInput
        When it does not read as a torque.

    Examples
    --------
    >>> parse_torque("45", "N m"), round(parse_torque("33 lbf-ft", "N m"), 2), round(parse_torque("4.6 kgf m", "N m"), 2)
    (45.0, 44.74, 45.11)
    """
    found = _TORQUE.fullmatch(text[:64])
    word = _BETWEEN.sub("", found[2].lower()) or _BETWEEN.sub("", unit.lower()) if found else ""
    if found is None or word not in _UNITS:
        raise InvalidInput("torque", "not-a-torque", typed=text.strip())
    value = float(found[1].replace(",", ".")) * _UNITS[word]
    if not 0 < value <= STRONGEST_NM:
        raise InvalidInput("torque", "torque-outside", typed=text.strip())
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


# How far a wrench may be off a single figure, as a part of it, and a part of a turn off what is called for.
PULLED_WITHIN = 0.04
TURNED_WITHIN_DEG = 5.0
_SNUG = re.compile(r"(?:snug|hand[ -]tight)\b\s*(?:\+|and|then|,)?\s*", re.IGNORECASE)
_RANGE = re.compile(r"\s*([\d.,]+)\s*(?:-|–|to)\s*([\d.,]+)\s*(.*)", re.IGNORECASE)
_TURN = re.compile(r"(?:(\d+)\s*/\s*(\d+)|([\d.]+))\s*(turns?|deg(?:rees)?|°)(?:\s*of a turn)?", re.IGNORECASE)


@dataclass(frozen=True)
class Stage:
    """One tightening stage: a torque range, N m; a further angle, deg; or snug by hand."""

    least_nm: float | None = None
    most_nm: float | None = None
    turn_deg: float | None = None

    @property
    def snug(self) -> bool:
        return self.least_nm is None and self.turn_deg is None

    @property
    def unit(self) -> str:
        """Unit of the typed value: torque, degrees, or none."""
        return "" if self.snug else "deg" if self.turn_deg is not None else "torque"

    def against(self, pulled: float) -> int:
        """Whether it was pulled short of what is called for (-1), as called for (0), or past it (1)."""
        if self.turn_deg is not None:
            least, most = self.turn_deg - TURNED_WITHIN_DEG, self.turn_deg + TURNED_WITHIN_DEG
        elif self.least_nm is None or self.most_nm is None:
            return 0
        elif self.least_nm == self.most_nm:
            least, most = self.least_nm * (1 - PULLED_WITHIN), self.least_nm * (1 + PULLED_WITHIN)
        else:
            least, most = self.least_nm, self.most_nm
        return -1 if pulled < least else 1 if pulled > most else 0

    def words(self, unit: str = "N m") -> str:
        """The stage as a phrase.

        Examples
        --------
        >>> Stage(55, 65).words().replace("\\u00a0", " "), Stage(turn_deg=90).words(), Stage().words()
        ('55 to 65 N m, 40.6 to 47.9 ft lb', '90 deg further', 'snug by hand')
        """
        if self.turn_deg is not None:
            return f"{self.turn_deg:.3g} deg further"
        if self.least_nm is None or self.most_nm is None:
            return "snug by hand"
        if self.least_nm == self.most_nm:
            return both(self.least_nm, unit)
        least, most = both(self.least_nm, unit).split(", "), both(self.most_nm, unit)
        figures = [each.split("\u00a0")[0] for each in least]
        return ", ".join(f"{low} to {high}" for low, high in zip(figures, most.split(", "), strict=True))


@dataclass(frozen=True)
class Bolts:
    """How many, what each stage calls for, and the threadlocker called for."""

    count: int
    stages: tuple[Stage, ...]
    locker: str = ""
    unit: str = "N m"


def stages(text: str, number: int | None, unit: str) -> tuple[Stage, ...]:
    """Read the stages: each typed, or the last alone with a number of equal steps up to it.

    Parameters
    ----------
    text
        Stages apart by semicolons: a torque, a range of torque, `snug`, or a part of a turn.
    number
        How many equal steps, where the last alone is typed.
    unit
        Of bare figures, `N m` or `ft lb`.

    Raises
    ------
    InvalidInput
        When a stage does not read as one, or torques fall.

    Examples
    --------
    >>> [stage.most_nm for stage in stages("60", 3, "N m")], [stage.most_nm for stage in stages("20; 40; 60", None, "N m")]
    ([20.0, 40.0, 60.0], [20.0, 40.0, 60.0])
    >>> [stage.words() for stage in stages("snug + 1/4 turn", None, "N m")]
    ['snug by hand', '90 deg further']
    """
    typed = [stage for piece in text.replace(", ", ";").split(";") if piece.strip() for stage in _stage(piece, unit)]
    pulled = [stage.most_nm for stage in typed if stage.most_nm is not None]
    if len(typed) == 1 and number and pulled:
        steps = [Stage(pulled[0] * n / number, pulled[0] * n / number) for n in range(1, number)]
        return (*steps, typed[0])
    if pulled != sorted(pulled):
        raise InvalidInput("torque", "stages-not-rising")
    if not typed or len(typed) > 6:
        raise InvalidInput("torque", "stages-missing")
    return tuple(typed)


def _stage(piece: str, unit: str) -> list[Stage]:
    rest = piece.strip().lower().replace("a quarter turn", "1/4 turn").replace("half a turn", "1/2 turn")
    found = []
    if snug := _SNUG.match(rest):
        found.append(Stage())
        rest = rest[snug.end() :].removeprefix("+").strip()
        if not rest:
            return found
    for part in rest.split("+"):
        if turn := _TURN.fullmatch(part.strip()):
            amount = int(turn[1]) / max(int(turn[2]), 1) if turn[1] else float(turn[3])
            degrees = amount * (360 if turn[4].startswith("turn") else 1)
            if not 0 < degrees <= MAX_TURN_DEG:
                raise InvalidInput("torque", "turn-outside", typed=piece.strip())
            found.append(Stage(turn_deg=degrees))
        elif between := _RANGE.fullmatch(part):
            least, most = (parse_torque(f"{between[n]} {between[3]}", unit) for n in (1, 2))
            if least > most:
                raise InvalidInput("torque", "range-upside-down", typed=piece.strip())
            found.append(Stage(least, most))
        else:
            nm = parse_torque(part, unit)
            found.append(Stage(nm, nm))
    return found
