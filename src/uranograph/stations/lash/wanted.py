"""Specified lash or preload."""

from collections.abc import Iterator

from uranograph.bench.fields import Angle, ByUnit, Choice, Custom, Fields, Fold, Length
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import parse_number
from uranograph.engine.lash import KEY
from uranograph.stations.lash.messages import say
from uranograph.stations.lash.stops import USUAL_MARGIN_DEG

MAX_LASH_MM, MAX_TURNS = 3.0, 3.0


def turns_of(text: str) -> float:
    """Read turns of preload: 3/4, 1 1/2 or 0.5."""
    whole, _, rest = text.strip().rpartition(" ")
    try:
        parts = [float(each) for each in rest.split("/")]
        value = (parse_number(whole) if whole else 0.0) + (parts[0] / parts[1] if len(parts) == 2 else parts[0])
    except (ValueError, ZeroDivisionError) as error:
        raise InvalidInput("turns", "turns-outside", typed=text) from error
    if not 0 <= value <= MAX_TURNS or len(parts) > 2:
        raise InvalidInput("turns", "turns-outside", typed=text)
    return value


class Wanted(Fields):
    """Specified lash, mm, or preload, turns; the tolerance; and how the stops are found.

    Examples
    --------
    >>> found = Wanted.read({"intake_lash": "0.20", "exhaust_lash": "0.25"}).value
    >>> found.of_lobe("exhaust"), round(found.tolerance_mm, 3), found.margin_deg
    (0.25, 0.03, 20.0)
    """

    intake_mm = Length("intake_lash", "Intake lash", most_mm=MAX_LASH_MM).optional()
    exhaust_mm = Length(
        "exhaust_lash", "Exhaust lash", "as the intake unless typed", most_mm=MAX_LASH_MM, default_from="intake_mm"
    ).optional()
    tolerance_mm = Length("tolerance", "Within", most_mm=MAX_LASH_MM, default=ByUnit(0.03, 0.0254))
    temperature = Choice("temperature", "Set", (("cold", "cold"), ("hot", "hot")), unknown=say("lash-choice-unknown"))
    hydraulic = Fold("Hydraulic")
    turns = Custom(
        "turns", "Turns past no lash", "hydraulic lifters only, such as 3/4", reads=turns_of, free=True
    ).optional()
    stops_fold = Fold("Stops and card")
    margin_deg = Angle(
        "margin", "Kept free of the ramps", "20 deg of the crank", least=0, most=90, default=USUAL_MARGIN_DEG
    )
    rim_mm = Length("rim", "Balancer across", "for marks on its rim").optional()
    card_with = Choice(
        "card_with",
        "Card is checked",
        (("with", "with lash"), ("without", "without lash")),
        unknown=say("lash-choice-unknown"),
    )

    def check(self) -> Iterator[tuple[str, str]]:
        if self.intake_mm is None and self.turns is None:
            yield "intake_lash", say("lash-missing")

    @property
    def lash_mm(self) -> tuple[float, float]:
        """The lash wanted of intake and exhaust, mm; 0 where only preload is wanted."""
        return self.of_lobe("intake"), self.of_lobe("exhaust")

    def of_lobe(self, lobe: str) -> float:
        """The lash wanted of one lobe's valves, mm; 0 where only preload is wanted."""
        return (self.exhaust_mm if lobe == "exhaust" else self.intake_mm) or 0.0

    @property
    def turns_within(self) -> float:
        """How far from the turns wanted is still good."""
        return 0.25

    @property
    def hot(self) -> bool:
        """Whether lash is set hot."""
        return self.temperature == "hot"

    @property
    def with_lash(self) -> bool:
        """Whether the card is checked with lash."""
        return self.card_with == "with"


SETUP = Wanted.form(
    KEY,
    "valve lash",
    instruction="Say what lash is wanted.",
    blank={"temperature": "cold", "card_with": "with"},
)


def wanted_of(job: Job) -> Wanted | None:
    """Specified lash, if entered."""
    return job.form(SETUP)
