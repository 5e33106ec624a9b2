"""Receive: the spec card."""

from uranograph.bench.finding import Finding, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.worded import clash
from uranograph.core.card import CARD_FIELDS
from uranograph.core.quantities import format_angle
from uranograph.engine.card import fields_named, lifts_clash, printed_card
from uranograph.engine.card_model import SpecCard
from uranograph.stations.card.messages import FINDINGS, say


def find(job: Job) -> Finding:
    """Say whether the card is complete enough to judge by, and what on it clashes."""
    given = printed_card(job)
    if given is None:
        return Finding(Verdict.OPEN).judged(Verdict.OPEN, FINDINGS, "no-card", begun=False)
    found, notes = given.card, _meant(given)
    rows = tuple(
        Row(
            fields_named(name),
            format_angle(value),
            note="follows" if name in found.derived else "given",
        )
        for name in (*CARD_FIELDS, "overlap_deg")
        if (value := getattr(found, name)) is not None
    )
    if found.conflicts:
        return Finding(Verdict.OPEN, rows=rows).judged(
            Verdict.UNSURE, FINDINGS, "contradicts-itself", why=clash(found.conflicts[0])
        )
    if why := lifts_clash(job):
        return Finding(Verdict.OPEN, rows=rows).judged(Verdict.UNSURE, FINDINGS, "contradicts-itself", why=why)
    ranges = given.overlap_ranges
    if found.intake_centerline_deg is None and found.exhaust_centerline_deg is None and ranges:
        phrase = " and ".join(ranges)
        return Finding(Verdict.OPEN, rows=rows).judged(Verdict.IN, FINDINGS, "lifts-only", lobes=phrase)
    if found.intake_centerline_deg is None and found.exhaust_centerline_deg is None:
        return Finding(Verdict.OPEN, rows=rows).judged(Verdict.OPEN, FINDINGS, "more-needed")
    middles = [
        f"{word} {format_angle(value)}"
        for word, value in (("intake", found.intake_centerline_deg), ("exhaust", found.exhaust_centerline_deg))
        if value is not None
    ]
    return Finding(Verdict.OPEN, rows=rows, notes=notes).judged(
        Verdict.IN, FINDINGS, "holds-together", middles=", ".join(middles)
    )


def _meant(given: SpecCard) -> tuple[str, ...]:
    """How the card's centerlines are interpreted."""
    middles = {"intake": given.card.intake_centerline_deg, "exhaust": given.card.exhaust_centerline_deg}
    sentences = [
        say(
            "centerline-is-of-peak",
            lobe=lobe.capitalize(),
            peak=format_angle(peak),
            middle=format_angle(middles[lobe] or 0.0),
        )
        for lobe, peak in given.peaks.items()
    ]
    if not given.prints_events and not given.centerline_of and any(middles.values()):
        sentences.append(say("centerline-may-be-of-peak"))
    return tuple(sentences)
