"""What a job is taken out as: readings as a table, figures, and two jobs side by side."""

import csv
import io
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response

from uranograph.bench.job import BESIDE
from uranograph.bench.station import Look
from uranograph.charts.pen import Figure
from uranograph.shop import comparing
from uranograph.stations import ORDER
from uranograph.web.bench_page import load, station_of
from uranograph.web.pages import HERE, render, shop_of

router = APIRouter(include_in_schema=False)
COLUMNS = (
    *("seq", "at", "by", "station", "slot", "reading of", "as typed", "side", "approach", "drop", "unit", "instrument"),
    *("note", "voided", "voided by", "why"),
)
# Where the inks of the day stand in the style sheet.
DAY = ':root, [data-light="day"] {'
# A cell that a spreadsheet would take for a formula is told as text.
FORMULA = ("=", "+", "-", "@", "\t", "\r")


@router.get("/jobs/{key}.csv")
def readings(request: Request, key: str) -> Response:
    """All readings of a job as typed, voided ones and acts too, a line each."""
    job = load(request, key)
    out = io.StringIO()
    lines = csv.writer(out)
    lines.writerow(COLUMNS)
    for reading in job.readings:
        void = reading.void
        lines.writerow(
            _cell(each)
            for each in (
                *(reading.seq, reading.at.isoformat(), reading.by, reading.station, reading.slot),
                *(ORDER.describe(reading) if reading.spot.kind not in BESIDE else reading.spot.kind, reading.text),
                *(reading.side, reading.approach, reading.second, reading.unit.value, reading.instrument, reading.note),
                *((void.at.isoformat(), void.by, void.reason) if void else ("", "", "")),
            )
        )
    headers = {"Content-Disposition": f'attachment; filename="{key}.csv"'}
    return Response(f"\ufeff{out.getvalue()}", media_type="text/csv; charset=utf-8", headers=headers)


def _cell(value: object) -> str:
    text = "" if value is None else str(value)
    # A number with its sign is no formula.
    number = text.lstrip("+-").replace(".", "", 1).isdecimal()
    return f"'{text}" if text.startswith(FORMULA) and not number else text


@router.get("/jobs/{key}/{name}.svg")
def figure(request: Request, key: str, name: str) -> Response:
    """The figure of a station by itself, in the day's inks."""
    job, station = load(request, key), station_of(name)
    query = request.query_params
    prompt = station.prompt(job, query) if station.prompt else None
    views = station.views(job)
    view = query.get("method", "")
    drawn = station.figure(job, Look(view if view in views else next(iter(views), ""), prompt, False, query))
    headers = {"Content-Disposition": f'attachment; filename="{key}-{name}.svg"'}
    return Response(_alone(drawn) if drawn else "", media_type="image/svg+xml", headers=headers)


def _alone(drawn: Figure) -> str:
    """A figure with its inks and its paper in itself."""
    inks = (HERE / "static" / "figures.css").read_text(encoding="utf-8")
    day = (HERE / "static" / "chart-room.css").read_text(encoding="utf-8").partition(DAY)[2]
    tokens = day.partition("}")[0]
    head, _, rest = drawn.svg().partition(">")
    paper = f'<rect width="{drawn.width:g}" height="{drawn.height:g}" style="fill: var(--sheet)"/>'
    return f"{head}><style>svg {{{tokens}}}\n{inks}</style>{paper}{rest}"


@router.get("/compare")
def compare(
    request: Request, one: Annotated[str, Query(max_length=40)] = "", other: Annotated[str, Query(max_length=40)] = ""
) -> Response:
    """Two jobs or revisions side by side."""
    with shop_of(request).read() as session:
        found = comparing.compare(session, one, other)
    return render(request, "compare.html", {"found": found})
