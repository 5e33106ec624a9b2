"""TDC as somebody else set it, taken as stated; and on which cylinder it was found, and which is read."""

from dataclasses import dataclass

from uranograph.bench.fields import angle
from uranograph.bench.forms import Ask, Filled, Form, FormReader, Group, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.kept import kept
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
# What a top set by somebody else is good to, deg, where nobody says better.
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
        """What is stated, within a sentence."""
        by = f" by {self.by_whom}" if self.by_whom else ""
        return f"set{by}, {HOW[self.how]}, ± {self.doubt_deg:g}"


def read(typed: Typed, job: Job) -> Filled[Stated]:
    """Read what is stated of TDC."""
    engine = engine_of(job)
    return _read(typed, engine.firing_order if engine else ())


@remembered
def _read(typed: Typed, order: tuple[Cylinder, ...]) -> Filled[Stated]:
    reader = FormReader(typed)
    how = reader.text("how")
    if how not in HOW:
        reader.errors["how"] = say("tdc-method-missing")
    by_whom = reader.text("by_whom")[:24]
    doubt = reader.take("stated_doubt", angle(0.05, 10))
    if how and not by_whom:
        reader.errors["by_whom"] = say("tdc-source-missing")
    top_of, read_of = (_cylinder(reader, name, order) for name in ("top_cylinder", "read_cylinder"))
    if (top_of is None) != (read_of is None) and not reader.errors:
        reader.errors["top_cylinder" if top_of is None else "read_cylinder"] = say("tdc-cylinders-missing")
    if reader.errors:
        return Filled(None, reader.errors)
    usual = USUAL_DOUBT_DEG.get(how, 0.0)
    lobe = reader.text("lobe_read")[:40]
    return Filled(Stated(how, by_whom, usual if doubt is None else doubt, top_of, read_of, lobe))


def _cylinder(reader: FormReader, name: str, order: tuple[Cylinder, ...]) -> Cylinder | None:
    text = reader.text(name).upper()
    if not text:
        return None
    found = next((each for each in order if str(each) == text), None)
    if found is None:
        reader.errors[name] = (
            say("tdc-cylinder-unknown", typed=reader.text(name)) if order else say("tdc-firing-order-missing")
        )
    return found


FORM = Form(
    "top",
    "TDC as stated",
    read,
    instruction="Say how TDC was set, and on which cylinder.",
    groups=(
        Group(
            (
                Ask("how", "It was set by", options=tuple(HOW.items())),
                Ask("by_whom", "By whom", "initials or a name", free=True),
                Ask("stated_doubt", "Good to ±, deg", "0.25 by stop or dial, 2 by a mark unless typed"),
            )
        ),
        Group(
            (
                Ask("top_cylinder", "TDC is of cylinder", "where another is read", free=True),
                Ask("read_cylinder", "Cylinder that is read", free=True),
                Ask("lobe_read", "Lobe that is read", "where it switches: which is locked", free=True),
            )
        ),
    ),
    needed=False,
    offer="Set before, or on another cylinder",
)


def stated_of(job: Job) -> Stated:
    """What is stated of TDC; nothing unless somebody stated so."""
    return job.form(FORM) or Stated()


@kept
def offset_deg(job: Job) -> float:
    """Crank degrees from the top that the wheel shows to the next top of the cylinder that is read, [0, 360).

    On the second bank that is the cylinder which the engine's form names; where it names none, TDC is found on it anew.
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
