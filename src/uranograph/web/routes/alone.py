"""Pages that need no job, such as the diagnosis of a slipped gear."""

from fastapi import APIRouter, Request
from fastapi.responses import Response

from uranograph.bench.station import Page
from uranograph.stations import ORDER
from uranograph.web.pages import NOBODYS, is_fragment, render

router = APIRouter(include_in_schema=False)


def _serve(name: str, page: Page) -> None:
    @router.get(f"/{name}", name=name)
    def alone(request: Request) -> Response:
        found = page.context(NOBODYS, request.query_params)
        return render(request, page.part if is_fragment(request) else page.whole, found or {})


for _name, _page in ORDER.jobless_pages.items():
    _serve(_name, _page)
