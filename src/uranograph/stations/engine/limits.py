"""Limits and instruments of this job that override the shop's."""

from uranograph.bench import instruments, shop_limits
from uranograph.bench.forms import Filled, Form, Typed
from uranograph.bench.job import LIMITS_FORM, Job


def read(typed: Typed, job: Job) -> Filled[dict[str, str]]:
    """Read limits as typed; an empty one falls back to the shop's.

    A bare figure is in the unit that is kept beside it.
    """
    texts, errors = shop_limits.read({**typed, "unit": typed.get("unit") or job.unit})
    names, unread = instruments.read(typed)
    return Filled(None if errors or unread else {**texts, **names}, errors | unread)


FORM = Form(
    LIMITS_FORM,
    "limits of this job",
    read,
    names=(*shop_limits.LIMITS, *instruments.NAMES, "unit"),
    leads_to="overview",
)
