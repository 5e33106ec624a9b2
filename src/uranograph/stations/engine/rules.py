"""Receive: the engine."""

from uranograph.bench.finding import Finding, Row, Verdict
from uranograph.bench.job import Job
from uranograph.core.firing import top_after
from uranograph.engine.description import engine_of
from uranograph.stations.engine.messages import FINDINGS


def find(job: Job) -> Finding:
    """Say what is known of the engine."""
    engine = engine_of(job)
    if engine is None:
        return Finding(Verdict.OPEN).judged(Verdict.OPEN, FINDINGS, "not-described", begun=False)
    rotation, order = engine.rotation.value, engine.order_words
    if not engine.firing_order:
        return Finding(Verdict.OPEN).judged(Verdict.IN, FINDINGS, "described-without-order", rotation=rotation)
    companions = ", ".join(f"{one}+{other}" for one, other in engine.rising_together)
    rows = [Row("Firing order", order), Row("Companions", companions or "none")]
    if engine.firing_deg:
        first = engine.firing_order[0]
        tops = ", ".join(
            f"{one} {top_after(engine.firing_order, engine.firing_deg, one, first):g}" for one in engine.firing_order
        )
        rows.append(Row(f"Tops after {first}'s", f"{tops} deg"))
    base = Finding(Verdict.OPEN, rows=tuple(rows))
    if not companions:
        return base.judged(Verdict.IN, FINDINGS, "described-without-companions", order=order, rotation=rotation)
    return base.judged(Verdict.IN, FINDINGS, "described", order=order, rotation=rotation, companions=companions)
