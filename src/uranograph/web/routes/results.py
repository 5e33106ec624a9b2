"""Results: all jobs of a period in one table, over time, and as a file."""

from collections.abc import Mapping
from datetime import UTC, date, datetime, timedelta
from typing import TYPE_CHECKING

from fastapi import APIRouter, Request
from fastapi.responses import Response

from uranograph.charts.history import Found, history, rows
from uranograph.charts.pen import Figure
from uranograph.core.verdict import judge
from uranograph.shop import loading, results, shelving, workbook
from uranograph.web.pages import render, shop_of
from uranograph.web.tables import csv_table

if TYPE_CHECKING:
    from collections.abc import Sequence

router = APIRouter(include_in_schema=False)
# So many jobs are judged for one page at the most, the newest first.
MAX_JOBS = 400
# Rows of the figure at the most, those of most jobs.
MAX_ROWS = 12
FILTERS = ("since", "until", "who", "customer", "verdict", "group")
# The band about the card that cams as found are held against, crank degrees.
BAND_DEG = 1.0
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
        jobs = loading.page(session, 1, "", MAX_JOBS, shelving.REAL).jobs
    return [
        line
        for line in results.of_jobs(jobs)
        if (since is None or line.last.astimezone().date() >= since)
        and (until is None or line.last.astimezone().date() <= until)
        and (not asked["who"] or asked["who"].upper() in line.by)
        and asked["customer"].lower() in f"{line.customer} {line.cam}".lower()
        and (not asked["verdict"] or line.finding.state == asked["verdict"])
    ]


def _lines(request: Request) -> tuple[list[results.JobResult], dict[str, str]]:
    asked = {name: request.query_params.get(name, "")[:80] for name in FILTERS}
    return wanted(request, asked), asked


@router.get("/results")
def results_page(request: Request) -> Response:
    lines, asked = _lines(request)
    drawn = _figure([line for line in reversed(lines) if line.found_deg is not None], asked["group"])
    context = {
        "lines": lines,
        "asked": asked,
        "figure": drawn,
        "verdicts": VERDICTS,
        "groups": results.GROUPS,
        "query": request.url.query,
        "at_most": MAX_JOBS,
    }
    return render(request, "results.html", context)


def _figure(lines: list[results.JobResult], group: str) -> Figure | None:
    """Cams as found: over time, or in rows by what they are laid beside each other by; oldest first."""
    if not lines:
        return None
    first, last = lines[0].last, lines[-1].last
    span = max((last - first), timedelta(seconds=1))
    marks = [
        Found(
            (line.last - first) / span,
            line.found_deg or 0.0,
            line.found_uncertainty_deg,
            judge(line.found_deg or 0.0, line.found_uncertainty_deg, -BAND_DEG, BAND_DEG).value,
            line.job.title,
        )
        for line in lines
    ]
    if group not in results.GROUPS:
        return history(marks, f"{first.astimezone():%Y-%m-%d}", f"{last.astimezone():%Y-%m-%d}", BAND_DEG)
    laid: dict[str, list[Found]] = {}
    for line, mark in zip(lines, marks, strict=True):
        for name in line.groups(group):
            laid.setdefault(name, []).append(mark)
    most = sorted(laid.items(), key=lambda each: (-len(each[1]), each[0]))[:MAX_ROWS]
    return rows(dict(most), BAND_DEG)


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
