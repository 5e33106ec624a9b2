"""Criteria of the verdict: phase tolerance and deciding lobes."""

from uranograph.bench.fields import Custom, EnumChoice, Fields
from uranograph.bench.job import Job
from uranograph.core.degree import Basis
from uranograph.core.errors import InvalidInput
from uranograph.core.phase import DEFAULT_TOLERANCE_DEG
from uranograph.core.quantities import parse_angle
from uranograph.engine.cams import LOBES
from uranograph.engine.description import engine_of
from uranograph.phase.messages import say


def _tolerance(text: str) -> float:
    tolerance = parse_angle(text)
    if not 0.1 <= tolerance <= 10:
        raise InvalidInput("tolerance", "tolerance-unlikely", typed=text)
    return tolerance


class Rules(Fields):
    """Criteria of the verdict: tolerance, crank degrees, and whether both lobes decide.

    Examples
    --------
    >>> Rules.read({"tolerance": "0.5", "basis": "intake"}).value.basis
    <Basis.INTAKE: 'intake'>
    """

    tolerance_deg = Custom("tolerance", "Tolerance, crank deg", reads=_tolerance, default=DEFAULT_TOLERANCE_DEG)
    basis = EnumChoice("basis", "Judged by", Basis, unknown=say("deciding-lobes-missing"), default=Basis.BOTH)


FORM = Rules.form("rules", "tolerance", names=Rules.names(), for_house="tolerance", standard=True)
PRESETS = {"strict": 0.5, "usual": 1.0, "easy": 2.0}


def rules_of(job: Job) -> Rules:
    """Return the job's criteria, or the defaults."""
    return job.form(FORM) or Rules.blank(job.unit)


def deciding_lobes(job: Job) -> tuple[str, ...]:
    """The lobes that are read and judged: the intake alone where the job says so, unless each has a cam of its own."""
    engine = engine_of(job)
    apart = engine is not None and engine.separate_cams
    return LOBES[:1] if rules_of(job).basis is Basis.INTAKE and not apart else LOBES
