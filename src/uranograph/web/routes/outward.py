"""Exports of a job: readings as a table, figures, and two jobs side by side."""

import base64
from functools import cache
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.exceptions import HTTPException
from fastapi.responses import Response

from uranograph.bench.messages import refusal
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.core.errors import InvalidInput
from uranograph.shop import comparing, workbook
from uranograph.stations import ORDER
from uranograph.web.bench_page import load, station_of
from uranograph.web.pages import HERE, render, shop_of
from uranograph.web.tables import csv_table

router = APIRouter(include_in_schema=False)
# Matches the day colors in the style sheet.
DAY = ':root, [data-light="day"] {'
FACES = (
    ("B612", "b612-latin-400-normal.woff2", ""),
    ("B612", "b612-latin-700-normal.woff2", "font-weight: 700;"),
    ("Spectral", "spectral-latin-400-normal.woff2", ""),
    ("Spectral", "spectral-latin-400-italic.woff2", "font-style: italic;"),
)


@router.get("/jobs/{key}.csv")
def readings(request: Request, key: str) -> Response:
    """All readings of a job as typed, voided ones and acts too, a line each."""
    job = load(request, key)
    return csv_table(f"{key}.csv", workbook.READINGS, workbook.readings(job))


@router.get("/jobs/{key}/results.csv")
def results(request: Request, key: str) -> Response:
    """Findings of every station, one line each."""
    job = load(request, key)
    return csv_table(f"{key}-results.csv", workbook.RESULTS, workbook.results(job))


@router.get("/jobs/{key}.xlsx")
def spreadsheet(request: Request, key: str) -> Response:
    """Results, figures and readings as one workbook."""
    headers = {"Content-Disposition": f'attachment; filename="{key}.xlsx"'}
    return Response(workbook.workbook(load(request, key)), media_type=workbook.MEDIA_TYPE, headers=headers)


@router.get("/jobs/{key}/{name}.svg")
def figure(request: Request, key: str, name: str) -> Response:
    """A station's figure as a standalone SVG, in day colors."""
    job, station = load(request, key), station_of(name)
    query = request.query_params
    prompt = station.prompt(job, query)
    views = station.views(job)
    view = query.get("method", "")
    view_state = ViewState(view if view in views else next(iter(views), ""), prompt, False, query)
    try:
        drawn = station.figure(job, view_state)
        drawn = drawn and drawn.judged(ORDER.overview(job)[station.key].state)
    except InvalidInput as error:
        # An imported file can hold a reading that the bench would refuse.
        raise HTTPException(422, refusal(error, job.unit)) from error
    headers = {"Content-Disposition": f'attachment; filename="{key}-{name}.svg"'}
    return Response(_alone(drawn) if drawn else "", media_type="image/svg+xml", headers=headers)


def _alone(drawn: Figure) -> str:
    """A figure with its inks and its paper in itself."""
    inks = (HERE / "static" / "figures.css").read_text(encoding="utf-8")
    day = (HERE / "static" / "chart-room.css").read_text(encoding="utf-8").partition(DAY)[2]
    tokens = day.partition("}")[0]
    head, _, rest = drawn.svg().partition(">")
    paper = f'<rect width="{drawn.width:g}" height="{drawn.height:g}" style="fill: var(--sheet)"/>'
    return f"{head}><style>{_fonts()}svg {{{tokens}}}\n{inks}</style>{paper}{rest}"


@cache
def _fonts() -> str:
    """The faces that figures are lettered in, within the file: elsewhere they are not installed."""
    faces = []
    for family, name, style in FACES:
        data = base64.b64encode((HERE / "static" / "vendor" / "fonts" / name).read_bytes()).decode("ascii")
        faces.append(f'@font-face {{font-family: "{family}"; {style} src: url(data:font/woff2;base64,{data})}}')
    return "".join(faces)


@router.get("/compare")
def compare(
    request: Request, one: Annotated[str, Query(max_length=40)] = "", other: Annotated[str, Query(max_length=40)] = ""
) -> Response:
    """Two jobs or revisions side by side."""
    with shop_of(request).read() as session:
        found = comparing.compare(session, one, other)
    return render(request, "compare.html", {"found": found})
