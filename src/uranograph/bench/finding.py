"""Findings, in one form for page, sheet, list and API."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from uranograph.bench.messages import render
from uranograph.bench.slots import Spot, spot_of
from uranograph.core.quantities import LengthUnit, format_angle, format_fine, format_length
from uranograph.core.verdict import WORST_FIRST, Verdict

__all__ = ["STATE_WORDS", "WORST_FIRST", "Finding", "Prompt", "Row", "Verdict", "worst"]


@dataclass(frozen=True)
class Row:
    """One line of a details table: the card beside what was measured."""

    label: str
    card: str = ""
    measured: str = ""
    difference: str = ""
    note: str = ""
    inferred: bool = False


@dataclass(frozen=True)
class FindingMessage:
    """Message of one finding code: sentence, title, next step and order, with named figures (`bench.messages`).

    Parameters
    ----------
    sentence, title
        Why it is so, and what it is.
    next_step
        What to do next, where no reading is asked for.
    order, order_note
        The move that cures it, in a few words, and what goes with that.
    leads
        What does the next step, where that comes before the reading that is asked for: `void` the last reading, or the
        station's `own` button.
    """

    sentence: str
    title: str = ""
    next_step: str = ""
    order: str = ""
    order_note: str = ""
    leads: str = ""


@dataclass(frozen=True)
class Quantity:
    """The figure that is judged, with its expanded uncertainty (k = 2); what pages show of it follows.

    Parameters
    ----------
    value, uncertainty
        In `unit`; None where it is not known.
    unit
        `mm` or `deg`.
    shown_in
        The unit that lengths are shown in.
    label
        What is said after the unit, such as which way it is off; of an angle instead of the unit.
    digits
        Places of an angle, or one more than usual of a length where it is `fine`.
    unsigned
        Whether the label says the sign.
    span
        Least and greatest, shown instead of the value.
    shown
        Whether pages show it at all.
    at_least
        Whether only a lower bound is known.
    judged
        Whether it is what the verdict is about, rather than shown beside it.

    Examples
    --------
    >>> one = Quantity(-1.96, 0.31, "deg", label="deg before at true TDC", digits=2, unsigned=True)
    >>> one.number, one.unit_words, one.uncertainty_words
    ('1.96', 'deg before at true TDC', '± 0.31')
    """

    value: float
    uncertainty: float | None
    unit: str
    shown_in: LengthUnit = LengthUnit.MM
    label: str = ""
    digits: int = 1
    fine: bool = False
    unsigned: bool = False
    span: tuple[float, float] | None = None
    shown: bool = True
    at_least: bool = False
    judged: bool = True

    def _written(self, value: float, fine: bool) -> str:
        if self.unit == "deg":
            return format_angle(value, self.digits)
        return (format_fine if fine else format_length)(value, self.shown_in).replace("-", "−")

    @property
    def number(self) -> str:
        """The value as shown, without its unit."""
        if self.span is not None:
            return "–".join(self._written(each, self.fine) for each in self.span)
        return self._written(abs(self.value) if self.unsigned else self.value, self.fine)

    @property
    def unit_words(self) -> str:
        """The unit, and what the value is of."""
        if self.unit == "deg":
            return self.label or self.unit
        apart = "" if self.label.startswith(",") else " "
        return f"{self.shown_in.value}{apart}{self.label}".strip()

    @property
    def uncertainty_words(self) -> str:
        """The uncertainty as shown."""
        fine = self.fine or self.span is not None
        if self.uncertainty is None:
            return "at the least" if self.at_least else ""
        return f"± {self._written(self.uncertainty, fine)}"


@dataclass(frozen=True)
class Finding:
    """A verdict with the code and the figures that show it, its number, one plain sentence, and the next step."""

    verdict: Verdict
    sentence: str = ""
    title: str = ""
    next_step: str = ""
    order: str = ""
    order_note: str = ""
    leads: str = ""
    begun: bool = True
    quantity: Quantity | None = None
    cautions: tuple[str, ...] = ()
    rows: tuple[Row, ...] = ()
    columns: tuple[str, str, str, str] = ("", "card", "measured", "diff")
    doubts: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    fault: str = ""
    code: str = ""
    values: Mapping[str, object] = field(default_factory=dict)

    @property
    def number(self) -> str:
        """The figure that is judged, as shown; empty where there is none."""
        return self.quantity.number if self.quantity and self.quantity.shown else ""

    @property
    def unit(self) -> str:
        """Its unit, and what it is of."""
        return self.quantity.unit_words if self.quantity and self.quantity.shown else ""

    @property
    def uncertainty(self) -> str:
        """Its uncertainty, as shown."""
        return self.quantity.uncertainty_words if self.quantity and self.quantity.shown else ""

    def judged(
        self,
        verdict: Verdict,
        table: Mapping[str, FindingMessage],
        code: str,
        unit: LengthUnit = LengthUnit.MM,
        /,
        *,
        begun: bool = True,
        **values: object,
    ) -> "Finding":
        """The same figures with a verdict, by a code and the figures that show it; their words stand in a table."""
        words = table[code]
        return replace(
            self,
            verdict=verdict,
            code=code,
            values=values,
            sentence=render(words.sentence, values, unit),
            title=render(words.title, values, unit),
            next_step=render(words.next_step, values, unit),
            order=render(words.order, values, unit),
            order_note=render(words.order_note, values, unit),
            leads=words.leads,
            begun=begun,
        )

    @property
    def state(self) -> str:
        """The state as drawn: `open` is split into under way and not begun."""
        if self.verdict is Verdict.OPEN:
            return "under-way" if self.begun else "not-begun"
        return self.verdict.value


STATE_WORDS = {
    "in": "in",
    "out": "out",
    "unsure": "cannot tell",
    "under-way": "under way",
    "not-begun": "not begun",
    "skipped": "skipped",
}


@dataclass(frozen=True)
class Prompt:
    """The one reading or act the bench waits for.

    `by_wheel` is whether it is read off the wheel, with a side and a way of turning; `leads` is the field that the hand types
    into, where another is filled in by itself.
    """

    slot: str
    label: str
    instruction: str
    hint: str = ""
    side: str | None = None
    approach: str = "forward"
    second: str | None = None
    second_fixed: bool = False
    second_label: str = ""
    by_wheel: bool = False
    leads: str = "text"
    unit: str = ""
    options: tuple[tuple[str, str], ...] = ()
    extra: dict[str, str] = field(default_factory=dict)

    @property
    def spot(self) -> Spot:
        """Where the reading belongs."""
        return spot_of(self.slot)


def worst(findings: list[Finding]) -> Finding:
    """Pick the finding that most needs a person.

    Examples
    --------
    >>> worst([Finding(Verdict.IN, "a"), Finding(Verdict.OUT, "b"), Finding(Verdict.OPEN, "c")]).sentence
    'b'
    """
    return min(findings, key=lambda finding: WORST_FIRST.index(finding.verdict))
