"""How the end play of each shaft is set."""

from collections.abc import Iterator

from uranograph.bench.fields import Choice, Count, Field, Fields, Length
from uranograph.bench.forms import Filled, Form, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, parse_length
from uranograph.engine import end_play_form as end_play
from uranograph.engine.end_play_form import PARTS
from uranograph.stations.setting.messages import say

KEY = "setting"
MAX_PIECES = 4


def parse_pack(text: str, unit: LengthUnit) -> tuple[float, ...]:
    """Read several thicknesses: apart by spaces, plus signs or semicolons.

    Examples
    --------
    >>> parse_pack("0.20 + 0.15", LengthUnit.MM)
    (0.2, 0.15)
    """
    pieces = text.replace("+", " ").replace(";", " ").replace(", ", " ").split()
    if not pieces:
        raise InvalidInput("pack", "thicknesses-missing")
    if len(pieces) > 60:
        raise InvalidInput("pack", "too-many-thicknesses", count=len(pieces))
    found = tuple(parse_length(piece, unit) for piece in pieces)
    if found == (0.0,):
        return ()
    for piece, mm in zip(pieces, found, strict=True):
        if not 0 < mm <= 20:
            raise InvalidInput("pack", "not-a-shim", most_mm=20, piece=piece)
    return found


class Pack(Field[tuple[float, ...]]):
    """Several thicknesses, mm."""

    def parse(self, text: str, unit: LengthUnit) -> tuple[float, ...]:
        return parse_pack(text, unit)


class Means(Fields):
    """How one shaft's play is set; thicknesses in mm."""

    way = Choice(
        "way",
        "Set by",
        (
            ("", "not set here"),
            ("left", "left as it is"),
            ("shims", "shims"),
            ("spacer", "spacer and plate"),
            ("cheeks", "sanding the thrust faces"),
        ),
        unknown=say("setting-missing"),
    )
    goal_mm = Length("goal", "Wanted play", "mid-spec unless typed", above_zero=True).optional()
    stock_mm = Pack("stock", "Shims in stock", "0.10 0.15 0.20 …", default=(), free=True)
    effect = Choice(
        "adds",
        say("shims-act-so"),
        (
            ("more", "more shims, more play"),
            ("less", "more shims, less play"),
            ("is", "the shim stands the plate off: it is the play"),
        ),
        unknown=say("setting-missing"),
    )
    most = Count("most", say("most-pieces"), least=1, most=6, counted="pieces cannot be", default=MAX_PIECES)

    def check(self) -> Iterator[tuple[str, str]]:
        if self.way == "shims" and not self.stock_mm:
            yield "stock", say("stock-missing")

    @property
    def adds(self) -> bool:
        """Whether more shims give more play."""
        return self.effect != "less"

    @property
    def is_play(self) -> bool:
        """Whether the shim is the play itself."""
        return self.effect == "is"


@remembered
def read(typed: Typed, unit: LengthUnit) -> Filled[dict[str, Means]]:
    """Read how each shaft's play is set, as typed; only those that are.

    Examples
    --------
    >>> filled = read({"crank_way": "shims", "crank_stock": "0.1 0.15; 0,2"}, LengthUnit.MM)
    >>> filled.value["crank"].stock_mm
    (0.1, 0.15, 0.2)
    """
    by_part = {part: Means.read(typed, unit, f"{part}_") for part in PARTS}
    errors = {name: message for filled in by_part.values() for name, message in filled.errors.items()}
    found = {part: filled.value for part, filled in by_part.items() if filled.value and filled.value.way}
    if not found and not errors:
        errors["crank_way"] = say("no-shaft-set")
    return Filled(None, errors) if errors else Filled(found)


SETUP = Form(
    KEY,
    "setting",
    lambda typed, job: read(typed, job.unit),
    instruction="Say how the play is set; the crank first.",
    groups=tuple(
        group for part in PARTS for group in Means.groups(f"{part}_", "" if part == "crank" else part.capitalize())
    ),
    ready=lambda job: end_play.setup(job) is not None,
)


@memoized
def setup(job: Job) -> dict[str, Means]:
    """How each shaft of a job is set; only those that are."""
    return job.form(SETUP) or {}


def goal_mm(job: Job, part: str) -> float | None:
    """The play that is wanted, mm: typed, or the middle of what is allowed."""
    means, loop = setup(job).get(part), end_play.loop_of(job, part)
    if means and means.goal_mm is not None:
        return means.goal_mm
    return loop.middle_mm if loop else None
