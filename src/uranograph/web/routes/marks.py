"""Where every mark stands as the train is turned."""

from fastapi import APIRouter, Request
from fastapi.responses import Response

from uranograph.bench import marks, train
from uranograph.shop import jobs
from uranograph.web.bench_page import load
from uranograph.web.pages import render

router = APIRouter(include_in_schema=False)
FURTHEST_TEETH = 10_000_000


@router.get("/jobs/{key}/train-at")
def train_at(request: Request, key: str, teeth: int = 0) -> Response:
    """The table of marks once the crank gear has gone on by some teeth."""
    job = load(request, key)
    of = train.described(job)
    if of is None:
        raise jobs.NoSuchJob(key)
    at = max(-FURTHEST_TEETH, min(FURTHEST_TEETH, teeth))
    context = {"places": marks.places_after(job, at), "teeth": at, "crank_teeth": of.crank.teeth}
    return render(request, "_train_at.html", context)
