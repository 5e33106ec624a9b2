"""The instruments of the shop, or of one job: what each is called, and when it was last checked."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date

from uranograph.bench.log import Reading
from uranograph.bench.shop_limits import LIMITS, LimitSource

KINDS = {"wheel": "Degree wheel", "dial": "Dial indicator", "blades": "Feeler blades", "wrench": "Torque wrench"}
NAMES = tuple(f"{kind}_{part}" for kind in KINDS for part in ("name", "checked"))
# All shop settings by name: limits and instruments.
HOUSE_NAMES = (*LIMITS, *NAMES)
MAX_NAME_LENGTH = 40
FIRST_YEAR, LAST_YEAR = 1950, 2100
OLD_DAYS = 366


@dataclass(frozen=True)
class Instrument:
    """One instrument: its kind, its name, and the day it was last checked, where these are known."""

    kind: str
    name: str = ""
    checked: date | None = None

    @property
    def known(self) -> bool:
        return bool(self.name or self.checked)

    def words(self, used: date | None = None) -> str:
        """The instrument as it is printed; `used` is the day of the last reading, to which an old check is held.

        Examples
        --------
        >>> Instrument("dial", "D2", date(2026, 3, 1)).words(date(2026, 5, 1))
        'dial indicator D2, checked 2026-03-01'
        >>> Instrument("wheel", "W1").words()
        'degree wheel W1, not calibrated'
        >>> Instrument("wheel", "W1", date(2024, 3, 1)).words(date(2026, 5, 1))
        'degree wheel W1, checked 2024-03-01, over a year before it was read'
        """
        first = " ".join(part for part in (KINDS[self.kind].lower(), self.name) if part)
        if self.checked is None:
            return f"{first}, not calibrated"
        words = f"{first}, checked {self.checked.isoformat()}"
        if used is not None and (used - self.checked).days > OLD_DAYS:
            words += ", over a year before it was read"
        elif used is not None and used < self.checked:
            words += ", after it was read"
        return words


def instruments(house: LimitSource) -> tuple[Instrument, ...]:
    """Instruments of a job: its own settings, or the shop's.

    A name of the job's own goes with a date of its own: the shop's date belongs to the shop's instrument.
    """
    found = []
    for kind in KINDS:
        name, checked = house.get(f"{kind}_name"), house.get(f"{kind}_checked")
        if name and name.of_job and checked and not checked.of_job:
            checked = None
        found.append(Instrument(kind, name.text if name else "", _day(checked.text) if checked else None))
    return tuple(found)


def _day(text: str) -> date | None:
    """A day as it is kept; None where a file from elsewhere has something else in its place."""
    try:
        return date.fromisoformat(text)
    except ValueError:
        return None


def printed(house: LimitSource, used: date | None) -> str:
    """The sentence on a build sheet that says what it was read with."""
    known = [each for each in instruments(house) if each.known]
    if not known:
        return "Shop instruments, not calibrated: no date of a check is given."
    others = "" if len(known) == len(KINDS) else "; the others are shop instruments, not calibrated"
    return f"Read with {'; '.join(each.words(used) for each in known)}{others}."


def took(readings: Iterable[Reading]) -> str:
    """The sentence on a build sheet that says which readings no eye took, and how good they are; empty where there are none.

    Examples
    --------
    >>> took([Reading("tdc", "stop.1.before", "35.2", "btdc", instrument="E1", uncertainty=(0.1,))])
    'Taken by instrument, not by eye, where one is named: E1 (± 0.1 deg).'
    """
    found: dict[str, str] = {}
    for reading in readings:
        names = reading.instrument.split(", ")
        figures = [each for each in reading.uncertainty if each > 0]
        for name, figure in zip(names, figures, strict=False):
            is_angle = reading.side is not None and figure == reading.uncertainty[0]
            found[name] = f"{name} (± {figure:g}{' deg' if is_angle else ''})"
    if not found:
        return ""
    return f"Taken by instrument, not by eye, where one is named: {', '.join(found[name] for name in sorted(found))}."


def read(typed: Mapping[str, str]) -> tuple[dict[str, str], dict[str, str]]:
    """Read names and days as typed: texts, and what is wrong beside the others.

    Examples
    --------
    >>> read({"wheel_name": "W1", "wheel_checked": "1.3.2026"})[1]
    {'wheel_checked': '“1.3.2026” is no day as written here: year, month and day, such as 2026-03-01.'}
    """
    texts: dict[str, str] = {}
    errors: dict[str, str] = {}
    for kind in KINDS:
        name, checked = (typed.get(f"{kind}_{part}", "").strip() for part in ("name", "checked"))
        texts |= {f"{kind}_name": name, f"{kind}_checked": checked}
        if len(name) > MAX_NAME_LENGTH:
            errors[f"{kind}_name"] = f"At most {MAX_NAME_LENGTH} characters; these are {len(name)}."
        if not checked:
            continue
        try:
            day = date.fromisoformat(checked)
        except ValueError:
            errors[f"{kind}_checked"] = (
                f"“{checked}” is no day as written here: year, month and day, such as 2026-03-01."
            )
            continue
        texts[f"{kind}_checked"] = day.isoformat()
        if not FIRST_YEAR <= day.year <= LAST_YEAR:
            errors[f"{kind}_checked"] = f"“{checked}” is not a day that an instrument was checked."
    return texts, errors
