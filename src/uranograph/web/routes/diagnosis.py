"""A reported deviation between crank and cam: whole teeth or not, and a claim checked. Needs no job."""

from fastapi import APIRouter, Request
from fastapi.responses import Response

from uranograph.bench import diagnosis
from uranograph.charts.slip import slip_figure
from uranograph.web.pages import is_fragment, render

router = APIRouter(include_in_schema=False)


@router.get("/diagnosis")
def diagnose(request: Request) -> Response:
    typed = {name: request.query_params.get(name, "")[:64] for name in diagnosis.FIELDS}
    asked = any(typed.values())
    sheet = diagnosis.read(typed)
    found = sheet.value
    figure = None
    if found and found.slip:
        figure = slip_figure(found.offset_deg, found.slip.per_tooth_deg, found.tolerance_deg, "Whole teeth?")
    context = {
        "typed": typed,
        "errors": sheet.errors if asked else {},
        "found": found,
        "figure": figure,
        "asked": asked,
    }
    return render(request, "_diagnosis_found.html" if is_fragment(request) else "diagnosis.html", context)
