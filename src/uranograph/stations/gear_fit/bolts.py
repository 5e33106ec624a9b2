"""Bolts pulled stage by stage, crosswise."""

from dataclasses import dataclass

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.core import torque
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.quantities import parse_angle
from uranograph.core.torque import Stage
from uranograph.stations.gear_fit.fit import setup
from uranograph.stations.gear_fit.messages import say
from uranograph.stations.gear_fit.temperatures import KEY

STAGE = Slot[str](KEY, ("torque-#-#",), ("pulled",), rests_on=("gear",))


@dataclass(frozen=True)
class BoltPull:
    """One bolt at one stage: what is called for, and what was pulled, in N m or deg; None where it was not."""

    stage: int
    bolt: int
    called: Stage
    pulled: float | None
    unit: str = "N m"

    @property
    def right(self) -> bool:
        return self.pulled is not None and self.called.against(self.pulled) == 0

    @property
    def called_words(self) -> str:
        return self.called.words(self.unit)

    @property
    def words(self) -> str:
        """The completed stage as specified; empty until done."""
        if self.pulled is None:
            return ""
        if self.called.snug:
            return "snug"
        return f"{self.pulled:.3g} deg" if self.called.turn_deg is not None else torque.both(self.pulled, self.unit)


def pulled_as(called: Stage, text: str, unit: str) -> float:
    """Tightening at a stage: torque, N m, angle, deg, or snug.

    Raises
    ------
    InvalidInput
        When it does not read as that.
    """
    if called.snug:
        return 0.0
    return parse_angle(text.removesuffix("deg")) if called.turn_deg is not None else torque.parse_torque(text, unit)


@memoized
def pulls(job: Job) -> tuple[BoltPull, ...]:
    """Every bolt at every stage, in the order they are pulled."""
    bolts = setup(job).bolts
    if bolts is None:
        return ()
    newest: dict[tuple[int, int], float] = {}
    for reading in job.active_readings(KEY):
        kind, _, place = reading.spot
        if place == "pulled":
            stage, bolt = int(kind.split("-")[1]), int(kind.split("-")[2])
            if stage > len(bolts.stages):
                continue
            called = bolts.stages[stage - 1]
            try:
                pulled = pulled_as(called, reading.text, bolts.unit)
            except InvalidInput:
                # Tightened to the specification in force before the stages were rewritten.
                continue
            if called.against(pulled) > 0:
                # An overtightened bolt is loosened and all its stages are repeated.
                newest = {key: nm for key, nm in newest.items() if key[1] != bolt}
            newest[(stage, bolt)] = pulled
    return tuple(
        BoltPull(stage, bolt, called, newest.get((stage, bolt)), bolts.unit)
        for stage, called in enumerate(bolts.stages, 1)
        for bolt in crosswise(bolts.count)
    )


def crosswise(number: int) -> tuple[int, ...]:
    """An order of pulling that goes across the circle.

    Examples
    --------
    >>> crosswise(6), crosswise(5), crosswise(1)
    ((1, 4, 2, 5, 3, 6), (1, 3, 5, 2, 4), (1,))
    """
    if number % 2:
        step = 2 if number > 3 else 1
        return tuple(n * step % number + 1 for n in range(number))
    half = number // 2
    return tuple(each for n in range(1, half + 1) for each in (n, n + half))


def pull_prompt(job: Job) -> Prompt:
    """Ask for the next pull."""
    bolts = setup(job).bolts
    if bolts is None:
        raise Missing("bolts")
    waiting = next((pull for pull in pulls(job) if not pull.right), pulls(job)[-1])
    kind = f"torque-{waiting.stage}-{waiting.bolt}"
    return Prompt(
        slot=STAGE.next(job, kind),
        label=f"Pulled, bolt {waiting.bolt}",
        instruction=(
            say("every-bolt-torqued")
            if all(pull.right for pull in pulls(job))
            else say(
                "torque-bolt",
                stage=waiting.stage,
                count=len(bolts.stages),
                bolt=waiting.bolt,
                both=waiting.called_words,
            )
        ),
        hint=say("torque-turn-hint") if waiting.called.unit != "torque" else say("torque-hint"),
        unit="deg" if waiting.called.unit == "deg" else bolts.unit,
        options=(("snug", "snug by hand"),) if waiting.called.snug else (),
        extra={"method": "bolts"},
    )
