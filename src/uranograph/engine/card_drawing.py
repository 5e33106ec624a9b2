"""The lobes of a card as the cycle chart takes them."""

from uranograph.charts.cycle import LobeMarks
from uranograph.core.phase import Events
from uranograph.engine.card_model import SpecCard

LOBES = ("intake", "exhaust")


def events_of(lobe: str, events: Events) -> tuple[tuple[str, float, float], ...]:
    """A lobe's two events: name, as the card says it, and crank degrees from overlap TDC."""
    if lobe == "intake":
        return (("IO", events.io_btdc_deg, -events.io_btdc_deg), ("IC", events.ic_abdc_deg, 180 + events.ic_abdc_deg))
    return (("EO", events.eo_bbdc_deg, -180 - events.eo_bbdc_deg), ("EC", events.ec_atdc_deg, events.ec_atdc_deg))


def card_lobes(card: SpecCard | None) -> tuple[LobeMarks, ...]:
    """Both lobes as the card has them."""
    if card is None:
        return ()
    events = card.events
    return tuple(
        LobeMarks(
            name,
            card.lobe(name),
            card_events=getattr(card.card, f"{name}_duration_deg") is not None,
            event_labels=events_of(name, events) if events else (),
        )
        for name in LOBES
    )
