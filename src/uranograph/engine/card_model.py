"""A spec card as it is read."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from uranograph.bench.worded import FIELD_WORDS
from uranograph.core.card import Card
from uranograph.core.lobe import CosineLobe
from uranograph.core.phase import Events
from uranograph.engine.messages import say

LINE_WORDS = FIELD_WORDS | {
    "check_lift": "checking lift",
    "intake_max_lift": "intake lift",
    "exhaust_max_lift": "exhaust lift",
}
EVENT_FIELDS = {"intake": ("io_btdc_deg", "ic_abdc_deg"), "exhaust": ("ec_atdc_deg", "eo_bbdc_deg")}
DRAWN_LOBE = CosineLobe(centerline_deg=110, duration_deg=230, check_lift_mm=1.27, max_lift_mm=9)


@dataclass(frozen=True)
class SpecCard:
    """A card completed, with the lifts it speaks of.

    Lifts and the checking lift are where `lift_at` and `check_at` say, at the dial where those are empty; `card_of` has them at the
    dial. `peaks` are centerlines of peaks, printed beside events that lie elsewhere: events decide.
    """

    card: Card
    check_lift_mm: float | None
    intake_max_lift_mm: float | None
    exhaust_max_lift_mm: float | None
    overlap_ranges: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    printed: Mapping[str, str] = field(default_factory=dict)
    peaks: Mapping[str, float] = field(default_factory=dict)
    prints_events: bool = False
    centerline_of: str = ""
    lift_at: str = ""
    check_at: str = ""
    valve_lifts_mm: Mapping[str, float] = field(default_factory=dict)
    lash_mm: Mapping[str, float] = field(default_factory=dict)
    seat_lift_mm: float | None = None
    seat_durations_deg: Mapping[str, float] = field(default_factory=dict)
    high_durations_deg: Mapping[str, float] = field(default_factory=dict)

    def middle_deg(self, lobe: str) -> float | None:
        """A lobe's middle about overlap TDC, crank degrees: of its events where both are printed, else its centerline."""
        opens, closes = EVENT_FIELDS[lobe]
        near, far = getattr(self.card, opens), getattr(self.card, closes)
        middle: float | None = getattr(self.card, f"{lobe}_centerline_deg")
        if near is not None and far is not None and not {opens, closes} & set(self.card.derived):
            middle = (180 + far - near) / 2
        return middle if middle is None or lobe == "intake" else -middle

    def max_lift_mm(self, lobe: str) -> float | None:
        """Greatest lift of a lobe where the card gives it."""
        return self.intake_max_lift_mm if lobe == "intake" else self.exhaust_max_lift_mm

    @property
    def understood(self) -> str:
        """Figures parsed from the printed line, as a sentence; empty if no line was typed."""
        if not self.printed:
            return ""
        return say("understood", listed=", ".join(f"{LINE_WORDS[name]} {text}" for name, text in self.printed.items()))

    @property
    def events(self) -> Events | None:
        """All four events, where the card determines them."""
        c = self.card
        if c.io_btdc_deg is None or c.ic_abdc_deg is None or c.eo_bbdc_deg is None or c.ec_atdc_deg is None:
            return None
        return Events(
            io_btdc_deg=c.io_btdc_deg, ic_abdc_deg=c.ic_abdc_deg, eo_bbdc_deg=c.eo_bbdc_deg, ec_atdc_deg=c.ec_atdc_deg
        )

    def overlap_range(self, lobe: str) -> tuple[float, float] | None:
        """Least and greatest lift at overlap TDC, mm, where the card gives them."""
        return self.overlap_ranges.get(lobe)

    def lobe(self, name: str) -> CosineLobe | None:
        """The lobe as it is drawn: card middle and duration, nominal flanks; None without a centerline."""
        intake = name == "intake"
        middle = self.middle_deg(name)
        if middle is None:
            return None
        duration = self.card.intake_duration_deg if intake else self.card.exhaust_duration_deg
        top = (self.intake_max_lift_mm if intake else self.exhaust_max_lift_mm) or DRAWN_LOBE.max_lift_mm
        check = min(self.check_lift_mm or DRAWN_LOBE.check_lift_mm, top * 0.6)
        return CosineLobe(
            centerline_deg=middle,
            duration_deg=duration or DRAWN_LOBE.duration_deg,
            check_lift_mm=check,
            max_lift_mm=top,
        )
