"""What a job is judged by: tolerance of the phase, and which lobes it is taken from."""

from dataclasses import dataclass

from uranograph.bench.forms import Filled, Form, FormReader, Typed, remembered
from uranograph.bench.job import Job
from uranograph.core.degree import Basis
from uranograph.core.errors import Impossible
from uranograph.core.phase import DEFAULT_TOLERANCE_DEG
from uranograph.core.quantities import parse_angle
from uranograph.engine.cams import LOBES
from uranograph.engine.description import engine_of
from uranograph.phase.messages import say

FIELDS = ("tolerance", "basis")
PRESETS = {"strict": 0.5, "usual": 1.0, "easy": 2.0}


@dataclass(frozen=True)
class Rules:
    """Tolerance in crank degrees, and the basis."""

    tolerance_deg: float = DEFAULT_TOLERANCE_DEG
    basis: Basis = Basis.BOTH


@remembered
def read(typed: Typed) -> Filled[Rules]:
    """Read a rules form as typed; empty fields take the usual.

    Examples
    --------
    >>> read({"tolerance": "0.5", "basis": "intake"}).value
    Rules(tolerance_deg=0.5, basis=<Basis.INTAKE: 'intake'>)
    """
    reader = FormReader(typed)
    tolerance = reader.take("tolerance", _tolerance)
    basis = Basis.BOTH
    if reader.text("basis"):
        basis = reader.choose("basis", Basis, say("deciding-lobes-missing")) or basis
    if reader.errors:
        return Filled(None, reader.errors)
    return Filled(Rules(DEFAULT_TOLERANCE_DEG if tolerance is None else tolerance, basis))


FORM = Form("rules", "tolerance", lambda typed, job: read(typed), names=FIELDS, for_house="tolerance", standard=True)


def rules_of(job: Job) -> Rules:
    """What a job is judged by; the usual where nothing is said."""
    return job.form(FORM) or Rules()


def deciding_lobes(job: Job) -> tuple[str, ...]:
    """The lobes that are read and judged: the intake alone where the job says so, unless each has a cam of its own."""
    engine = engine_of(job)
    apart = engine is not None and engine.separate_cams
    return LOBES[:1] if rules_of(job).basis is Basis.INTAKE and not apart else LOBES


def _tolerance(text: str) -> float:
    tolerance = parse_angle(text)
    if not 0.1 <= tolerance <= 10:
        raise Impossible("tolerance", "tolerance-unlikely", typed=text)
    return tolerance
