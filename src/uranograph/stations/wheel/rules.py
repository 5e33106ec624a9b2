"""Find TDC: mounting of the wheel and the dial."""

from uranograph.bench.finding import Finding, Row, Verdict
from uranograph.bench.job import Job
from uranograph.core.errors import Missing
from uranograph.core.quantities import format_fine
from uranograph.core.wheel import SCALE_NAMES, Scale
from uranograph.engine.degree_wheel import END_WORDS, wheel_of
from uranograph.stations.wheel.messages import FINDINGS, say


def find(job: Job) -> Finding:
    """Say how the wheel is mounted."""
    mounted = wheel_of(job)
    if mounted is None:
        return Finding(Verdict.OPEN).judged(Verdict.OPEN, FINDINGS, "not-described", begun=False)
    wheel = mounted.wheel
    if wheel.mount is None:
        raise Missing("wheel.mount")
    faced = wheel.faced_rotation().value
    counting = ""
    if wheel.scale is Scale.FULL:
        counting = say("numbers-count", way="up" if wheel.counts_up() else "down")
    return Finding(
        Verdict.OPEN,
        rows=(
            Row("Wheel read to", f"{mounted.division_deg:g} deg"),
            Row("Dial read to", f"{format_fine(mounted.dial_division_mm, mounted.unit)} {mounted.unit.value}"),
        ),
    ).judged(
        Verdict.IN,
        FINDINGS,
        "described",
        scale=SCALE_NAMES[wheel.scale],
        end=END_WORDS[wheel.mount],
        faced=faced,
        counting=counting,
    )
