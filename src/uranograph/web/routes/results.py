"""Results: all jobs of a period in one table, over time, and as a file."""

from collections.abc import Mapping
from datetime import UTC, date, datetime, timedelta
from typing import TYPE_CHECKING

from fastapi import APIRouter, Request
from fastapi.responses import Response

from uranograph.charts.history import Found, history
from uranograph.shop import loading, results, workbook
from uranograph.web.pages import render, shop_of
from uranograph.web.tables import csv_table

if TYPE_CHECKING:
    from collections.abc import Sequence

router = APIRouter(include_in_schema=False)
# So many jobs are judged for one page at the most, the newest first.
MAX_JOBS = 400
FILTERS = ("since", "until", "who", "customer", "verdict")
VERDICTS = {"in": "in", "out": "out", "unsure": "cannot tell"}


def _day(text: str) -> date | None:
    try:
        return date.fromisoformat(text)
    except ValueError:
        return None


def wanted(request: Request, asked: Mapping[str, str]) -> list[results.JobResult]:
    """The lines of jobs that the filters leave, newest first; a day that is none filters nothing."""
    since, until = _day(asked["since"]), _day(asked["until"])
    with shop_of(request).read() as session:
        jobs = loading.page(session, 1, "", MAX_JOBS).jobs
    return [
        line
        for line in results.of_jobs(jobs)
        if (since is None or line.last.astimezone().date() >= since)
        and (until is None or line.last.astimezone().date() <= until)
        and (not asked["who"] or asked["who"].upper() in line.by)
        and asked["customer"].lower() in f"{line.customer} {line.grind}".lower()
        and (not asked["verdict"] or line.finding.state == asked["verdict"])
    ]


def _lines(request: Request) -> tuple[list[results.JobResult], dict[str, str]]:
    asked = {name: request.query_params.get(name, "")[:80] for name in FILTERS}
    return wanted(request, asked), asked


@router.get("/results")
def results_page(request: Request) -> Response:
    lines, asked = _lines(request)
    judged = [line for line in reversed(lines) if line.late_deg is not None]
    drawn = None
    if judged:
        first, last = judged[0].last, judged[-1].last
        span = max((last - first), timedelta(seconds=1))
        drawn = history(
            [
                Found(
                    (line.last - first) / span,
                    line.late_deg or 0.0,
                    line.uncertainty_deg or 0.0,
                    line.finding.state,
                    line.job.title,
                )
                for line in judged
            ],
            f"{first.astimezone():%Y-%m-%d}",
            f"{last.astimezone():%Y-%m-%d}",
        )
    context = {
        "lines": lines,
        "asked": asked,
        "figure": drawn,
        "verdicts": VERDICTS,
        "query": request.url.query,
        "at_most": MAX_JOBS,
    }
    return render(request, "results.html", context)


@router.get("/results.csv")
def as_csv(request: Request) -> Response:
    lines, _ = _lines(request)
    return csv_table("results.csv", results.COLUMNS, (line.cells for line in lines))


@router.get("/results.xlsx")
def as_workbook(request: Request) -> Response:
    lines, _ = _lines(request)
    rows: list[Sequence[workbook.Cell]] = [line.cells for line in lines]
    content = workbook.book_of("Results", {"Results": (results.COLUMNS, rows)})
    headers = {"Content-Disposition": f'attachment; filename="results-{datetime.now(UTC):%Y%m%d}.xlsx"'}
    return Response(content, media_type=workbook.MEDIA_TYPE, headers=headers)
