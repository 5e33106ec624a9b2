"""Spec card: what the grind should be."""

from uranograph.bench.station import Station
from uranograph.bench.told import clash
from uranograph.core.card import CARD_FIELDS
from uranograph.engine import card as engine_card
from uranograph.stations.card import rules as card
from uranograph.stations.card.drawing import figure, preview
from uranograph.stations.card.help import HELP

STATION = Station(
    key="card",
    title="Spec card",
    on_sheet="card/on_sheet.html",
    group="Receive",
    find=card.find,
    help=HELP,
    docs="What follows on a spec card",
    calculations=("card",),
    form=engine_card.FORM,
    figure=figure,
    preview=preview,
    told=lambda value: {"card_fields": CARD_FIELDS, "clash": clash},
    printed=lambda job: {"card": engine_card.card_of(job)},
    fields="card/fields.html",
    live="card/live.html",
)
