"""What a station has to say, in one form for page, sheet, list and machine."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from uranograph.bench.slots import Spot, spot_of
from uranograph.bench.words import put
from uranograph.core.quantities import LengthUnit
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
class Said:
    """What is said of a finding of one code: a sentence, a title and the next step, with figures by name (`bench.words`)."""

    sentence: str
    title: str = ""
    next_step: str = ""


@dataclass(frozen=True)
class Measured:
    """The figure that is judged: its value and doubt in one unit, `mm` or `deg`; None where there is none."""

    value: float | None = None
    unit: str = ""
    doubt: float | None = None


@dataclass(frozen=True)
class Finding:
    """A verdict with the code and the figures that show it, its number, one plain sentence, and the next step."""

    verdict: Verdict
    sentence: str = ""
    title: str = ""
    next_step: str = ""
    begun: bool = True
    number: str = ""
    unit: str = ""
    uncertainty: str = ""
    cautions: tuple[str, ...] = ()
    rows: tuple[Row, ...] = ()
    columns: tuple[str, str, str, str] = ("", "card", "measured", "diff")
    doubts: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    fault: str = ""
    code: str = ""
    values: Mapping[str, object] = field(default_factory=dict)
    measured: Measured = Measured()

    def judged(
        self,
        verdict: Verdict,
        table: Mapping[str, Said],
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
            sentence=put(words.sentence, values, unit),
            title=put(words.title, values, unit),
            next_step=put(words.next_step, values, unit),
            begun=begun,
        )

    @property
    def state(self) -> str:
        """The state as drawn: `open` is told apart as under way or not begun."""
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
