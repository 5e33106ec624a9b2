"""Card and measured values at a glance: events, centerlines, separation and durations, one column each."""

from dataclasses import dataclass

from uranograph.bench.finding import Row
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import format_angle
from uranograph.engine import positions
from uranograph.engine.cams import LOBES, card_centerline
from uranograph.engine.card import card_of
from uranograph.phase import card_rows, events, results

CENTERLINES = {"intake": "ICL", "exhaust": "ECL"}
DURATIONS = {"intake": "Int dur", "exhaust": "Exh dur"}


@dataclass(frozen=True)
class Glance:
    """Columns, and the labels of the finding's rows they show."""

    columns: tuple[Row, ...] = ()
    stands_for: frozenset[str] = frozenset()


def glance(job: Job) -> Glance:
    """Table below the figure: card, measured and difference of each column; derived values are marked as inferred.

    Parameters
    ----------
    job
        The whole job; its position now is looked at.

    Returns
    -------
    Glance
        Without columns where neither the card nor a reading says anything, or a reading cannot be placed.
    """
    view = positions.at_position(job)
    try:
        found = results.results(view)
        by_event = {row.label: row for row in card_rows.event_rows(view, found)}
        separation = card_rows.separation(view, found)
    except InvalidInput:
        return Glance()
    columns = [_event(view, kind, by_event) for kind in events.KINDS]
    stands_for = set(by_event)
    for lobe in LOBES:
        column, label = _centerline(view, lobe)
        columns.append(column)
        stands_for |= {label}
    columns += [Row("LSA", row.card, row.measured, row.difference) for row in separation or [_on_card(view)]]
    stands_for |= {row.label for row in separation}
    columns += [_duration(view, lobe) for lobe in LOBES]
    kept = tuple(column for column in columns if column.card or column.measured)
    return Glance(kept, frozenset(stands_for - {""}))


def _duration(view: Job, lobe: str) -> Row:
    """A lobe's duration at the checking lift, by both of its events or its sweep."""
    card = card_of(view)
    stated = getattr(card.card, f"{lobe}_duration_deg") if card else None
    found = next((r for r in results.results(view) if r.lobe == lobe and r.opens_deg is not None), None)
    on_card = "" if stated is None else format_angle(stated)
    if found is None or found.opens_deg is None or found.closes_deg is None:
        return Row(DURATIONS[lobe], on_card)
    measured = found.closes_deg - found.opens_deg
    gap = "" if stated is None else card_rows.signed(measured - stated)
    return Row(DURATIONS[lobe], on_card, format_angle(measured), gap)


def _event(view: Job, kind: str, by_event: dict[str, Row]) -> Row:
    row = by_event.get(kind.upper())
    if row is not None:
        return Row(row.label, row.card, row.measured or row.note, row.difference, inferred=row.inferred)
    card = events.card_event(view, kind)
    return Row(kind.upper(), "" if card is None else format_angle(card))


def _on_card(view: Job) -> Row:
    card = card_of(view)
    apart = card.card.lobe_separation_cam_deg if card else None
    return Row("LSA", "" if apart is None else format_angle(apart))


def _centerline(view: Job, lobe: str) -> tuple[Row, str]:
    """The most certain centerline of a lobe, and its row label if only one method gives it."""
    found = results.results(view)
    card = card_centerline(view, lobe)
    own = [result for result in found if result.lobe == lobe and result.centerline_deg is not None]
    on_card = "" if card is None else format_angle(abs(card))
    if not own:
        return Row(CENTERLINES[lobe], on_card), ""
    middle = abs(own[0].centerline_deg or 0.0)
    gap = "" if card is None else card_rows.signed(middle - abs(card))
    label = own[0].label if len({result.method for result in found}) == 1 else ""
    return Row(CENTERLINES[lobe], on_card, format_angle(middle), gap), label
