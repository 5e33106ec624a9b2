"""Spec card: what the grind should be."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Station
from uranograph.bench.worded import clash
from uranograph.core.card import CARD_FIELDS
from uranograph.engine import card
from uranograph.engine.card_fields import CardFields


class CardStation(Station):
    """Spec card: what the grind should be."""

    key = "card"
    title = "Spec card"
    group = "Receive"
    position = 30
    workflows = ("degree", "whole", "change")
    docs = "What follows on a spec card"
    calculations = ("card",)
    form = card.FORM

    def form_context(self, value: Any) -> Mapping[str, Any]:
        """Context for the form's template."""
        return {"card_fields": CARD_FIELDS, "clash": clash, "groups": CardFields.groups()}

    def sheet_context(self, job: Job) -> Mapping[str, Any]:
        """Context for the build sheet."""
        return {"card": card.card_of(job)}
