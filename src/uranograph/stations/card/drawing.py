"""The card's picture: both lobes over two turns."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.cycle import cycle_chart
from uranograph.charts.pen import Figure
from uranograph.engine.card import card_of
from uranograph.engine.card_drawing import card_lobes
from uranograph.engine.card_model import SpecCard


def figure(job: Job, view_state: ViewState) -> Figure:
    """Both lobes as the card has them."""
    return preview(card_of(job), True)


def preview(card: SpecCard | None, clockwise: bool) -> Figure:
    """The same while the form is typed."""
    return cycle_chart(card_lobes(card), "Spec card")
