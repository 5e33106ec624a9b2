"""TDC as somebody else set it, taken as stated; and on which cylinder it was found, and which is read."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from uranograph.bench.fields import Angle, Choice, Fields, Fold, Text
from uranograph.bench.forms import Filled, Form, Typed
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.core.firing import Cylinder, top_after
from uranograph.engine.description import Engine, engine_of
from uranograph.engine.messages import say

HOW = {
    "": "to be found here",
    "stop": "piston stop",
    "dial": "dial indicator, equal drop each side",
    "mark": "a mark of the engine",
    "other": "some other way",
}
# Default uncertainty of a TDC set by somebody else, deg.
USUAL_DOUBT_DEG = {"stop": 0.25, "dial": 0.25, "mark": 2.0, "other": 1.0}


@dataclass(frozen=True)
class Stated:
    """How TDC was set and by whom, its doubt in crank degrees; the cylinder it is of, and the one that is read."""

    how: str = ""
    by_whom: str = ""
    doubt_deg: float = 0.0
    top_of: Cylinder | None = None
    read_of: Cylinder | None = None
    lobe: str = ""

    @property
    def words(self) -> str:
        """The statement as a phrase."""
        by = f" by {self.by_whom}" if self.by_whom else ""
        return f"set{by}, {HOW[self.how]}, ± {self.doubt_deg:g}"


def read(typed: Typed, job: Job) -> Filled[Stated]:
    """Read what is stated of TDC."""
    engine = engine_of(job)
    filled = StatedFields.read(typed)
    if filled.value is None:
        return Filled(None, filled.errors)
    return _stated(filled.value, engine.firing_order if engine else ())


class StatedFields(Fields):
    """How TDC was set, by whom, and on which cylinder."""

    how = Choice("how", "It was set by", HOW.items(), unknown=say("tdc-method-missing"))
    by_whom = Text("by_whom", "By whom", "initials or a name", longest=24)
    doubt_deg = Angle(
        "stated_doubt", "Good to ±, deg", "0.25 by stop or dial, 2 by a mark unless typed", least=0.05, most=10
    ).optional()
    cylinders = Fold("")
    top_cylinder = Text("top_cylinder", "TDC is of cylinder", "where another is read")
    read_cylinder = Text("read_cylinder", "Cylinder that is read")
    lobe_read = Text("lobe_read", "Lobe that is read", "where it switches: which is locked", longest=40)

    def check(self) -> Iterator[tuple[str, str]]:
        if self.how and not self.by_whom:
            yield "by_whom", say("tdc-source-missing")


@lru_cache(maxsize=64)
def _stated(found: StatedFields, order: tuple[Cylinder, ...]) -> Filled[Stated]:
    errors: dict[str, str] = {}
    cylinders = []
    for name in ("top_cylinder", "read_cylinder"):
        text = found.values[name]
        cylinder = next((each for each in order if str(each) == text.upper()), None)
        if text and cylinder is None:
            unknown = say("tdc-cylinder-unknown", typed=text) if order else say("tdc-firing-order-missing")
            errors[name] = unknown
        cylinders.append(cylinder)
    if not errors and (cylinders[0] is None) != (cylinders[1] is None):
        errors["top_cylinder" if cylinders[0] is None else "read_cylinder"] = say("tdc-cylinders-missing")
    if errors:
        return Filled(None, errors)
    usual = USUAL_DOUBT_DEG.get(found.how, 0.0)
    doubt = usual if found.doubt_deg is None else found.doubt_deg
    return Filled(Stated(found.how, found.by_whom, doubt, cylinders[0], cylinders[1], found.lobe_read))


FORM = Form(
    "top",
    "TDC as stated",
    read,
    instruction="Say how TDC was set, and on which cylinder.",
    groups=StatedFields.groups(),
    needed=False,
    offer="TDC already set, or found on another cylinder",
)


def stated_of(job: Job) -> Stated:
    """Return the stated TDC, or None."""
    return job.form(FORM) or Stated()


@memoized
def offset_deg(job: Job) -> float:
    """Crank degrees from the top that the wheel shows to the next top of the cylinder that is read, [0, 360).

    On the second bank that is the cylinder which the engine's form names; where it names none, TDC is found on it again.
    """
    stated, engine = stated_of(job), engine_of(job)
    if engine is not None and job.bank > 1:
        top_of = stated.top_of if stated.top_of in engine.firing_order else next(iter(engine.firing_order), None)
        read_of = engine.bank2_cylinder
        return 0.0 if top_of is None or read_of is None else _between(engine, top_of, read_of)
    if engine is None or stated.top_of not in engine.firing_order or stated.read_of not in engine.firing_order:
        return 0.0
    return _between(engine, stated.top_of, stated.read_of)


def _between(engine: Engine, one: Cylinder, other: Cylinder) -> float:
    return top_after(engine.firing_order, engine.firing_deg, other, one)
