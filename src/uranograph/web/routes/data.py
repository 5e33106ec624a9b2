"""Every page's data as JSON, at the page's address with `.json` appended."""

from typing import TYPE_CHECKING, Annotated, Any

from fastapi import APIRouter, Path, Query, Request
from fastapi.exceptions import HTTPException
from fastapi.routing import APIRoute

from uranograph.bench import instruments, shop_limits
from uranograph.bench.job import Job
from uranograph.bench.log import Reading, Written
from uranograph.bench.order import worst_finding
from uranograph.bench.terms import TERMS
from uranograph.shop import comparing, jobs, judging, library, loading, results, shelving, signing
from uranograph.stations import ORDER
from uranograph.web.bench_page import load, station_of
from uranograph.web.pages import NOBODYS, shop_of
from uranograph.web.routes.calc import Refusal
from uranograph.web.routes.results import wanted

if TYPE_CHECKING:
    from collections.abc import Mapping

router = APIRouter(tags=["pages"], responses={422: {"model": Refusal, "description": "What was asked cannot be read."}})
Data = dict[str, Any]
MAX_JOBS = 10_000
NOT_THERE: dict[int | str, dict[str, Any]] = {
    404: {"model": Refusal, "description": "There is no such job, station or page."}
}


@router.get("/jobs.json", summary="The job list: every job of a shelf")
def job_list(
    request: Request,
    shelf: str = "bench",
    q: Annotated[str, Query(max_length=200)] = "",
    page: Annotated[int, Query(ge=1, le=MAX_JOBS)] = 1,
) -> Data:
    with shop_of(request).read() as session:
        on = shelving.Shelf(shelf) if shelf in tuple(shelving.Shelf) else shelving.Shelf.BENCH
        found = loading.page(session, page, q, where=shelving.on(on))
        listed = [_job(job) for job in found.jobs]
    return {"shelf": on.value, "page": found.page, "pages": found.pages, "total": found.total, "jobs": listed}


def _job(job: Job) -> Data:
    worst = worst_finding(ORDER.overview(job))
    where, finding = ORDER.next_station(job)
    return {
        "key": job.key,
        "title": job.title,
        "station": where.key,
        "verdict": finding.verdict.value,
        "worst": {"title": worst.title, "verdict": worst.verdict.value, "words": worst.sentence},
    }


@router.get("/house.json", summary="Shop limits and instruments, with who set them")
def shop_limits_data(request: Request) -> Data:
    with shop_of(request).read() as session:
        values = library.shop_values(session)
    limits = {
        name: {
            "label": limit.label,
            "value": shop_limits.value(values, name),
            "unit": limit.measure.value,
            "set_by": own.by if (own := values.get(name)) else None,
            "set_at": own.at.isoformat() if own else None,
        }
        for name, limit in shop_limits.LIMITS.items()
    }
    named = {
        each.kind: {"name": each.name, "checked": each.checked.isoformat() if each.checked else None}
        for each in instruments.instruments(values)
    }
    return {"limits": limits, "instruments": named}


@router.get("/library.json", summary="The library: what is kept for other jobs, by kind")
def library_data(request: Request) -> Data:
    with shop_of(request).read() as session:
        kept = {kind: library.shelf(session, kind) for kind in library.KINDS}
    return {
        kind: [{"name": each.name, "typed": dict(each.typed), "by": each.by} for each in items]
        for kind, items in kept.items()
    }


@router.get("/results.json", summary="Results: a line for each job, newest first; filters as on the page")
def results_data(
    request: Request,
    since: Annotated[str, Query(max_length=10)] = "",
    until: Annotated[str, Query(max_length=10)] = "",
    customer: Annotated[str, Query(max_length=80)] = "",
    who: Annotated[str, Query(max_length=8)] = "",
    verdict: Annotated[str, Query(max_length=10)] = "",
) -> Data:
    asked = {"group": "", "since": since, "until": until, "customer": customer, "who": who, "verdict": verdict}
    return {
        "jobs": [
            {"key": line.job.key, **dict(zip(results.COLUMNS, line.cells, strict=True))}
            for line in wanted(request, asked)
        ]
    }


@router.get("/help.json", summary="The booklet: stations in five steps, and terms")
def booklet() -> Data:
    stations = [
        {
            "key": each.key,
            "title": each.title,
            "group": each.group,
            "purpose": each.help.purpose,
            "needed": each.help.needed,
        }
        | {"steps": each.help.steps, "goes_wrong": [list(pair) for pair in each.help.wrong], "why": each.help.why}
        for each in ORDER.stations
    ]
    terms = [{"key": term.key, "title": term.title, "also": term.also, "sentence": term.sentence} for term in TERMS]
    return {"stations": stations, "terms": terms}


@router.get("/compare.json", summary="Two jobs or revisions side by side", responses=NOT_THERE)
def compare(
    request: Request, one: Annotated[str, Query(max_length=40)], other: Annotated[str, Query(max_length=40)]
) -> Data:
    with shop_of(request).read() as session:
        found = comparing.compare(session, one, other)
    if found is None:
        raise HTTPException(404)
    lines = [
        {"station": line.station, "label": line.label, "one": line.one, "other": line.other, "change": line.change}
        for line in found.lines
    ]
    return {"one": found.one.address, "other": found.other.address, "later_deg": dict(found.later_deg), "lines": lines}


@router.get(
    "/jobs/{key}/overview.json",
    summary="A job at a glance: every station, offers, and what is next",
    responses=NOT_THERE,
)
def overview(request: Request, key: str) -> Data:
    return _judged(request, key)


@router.get(
    "/jobs/{key}/sheet.json", summary="The build sheet: all findings, what stands open, signatures", responses=NOT_THERE
)
def sheet(request: Request, key: str) -> Data:
    job = load(request, key)
    with shop_of(request).read() as session:
        signed = signing.signatures(session, key)
        proofs = signing.proof_of(session, key)
    stands_open = [{"station": each.station.key, "words": each.finding.sentence} for each in signing.unsettled(job)]
    return _judged(request, key) | {
        "open": stands_open,
        "exceptions": signing.exceptions(job),
        "signed": [_signature(each, proofs[each.revision]) for each in signed],
    }


def _signature(signature: signing.Signature, proof: signing.Proof) -> Data:
    return {
        "holds": proof.holds,
        "state": proof.state.value,
        "revision": signature.revision,
        "name": signature.name,
        "by": signature.by,
        "at": signature.at.isoformat(),
        "changed": signature.changed,
        "rules": signature.rules,
        "digest": signature.digest,
    }


@router.get(
    "/jobs/{key}/signed/{revision}.json", summary="A signed revision, as it was judged then", responses=NOT_THERE
)
def signed(request: Request, key: str, revision: Annotated[int, Path(ge=1, le=100_000)]) -> Data:
    with shop_of(request).read() as session:
        found = signing.page_of(session, key, revision)
    if found is None:
        raise HTTPException(404)
    return _signature(found.signature, found.proof) | {"judged": found.judged}


def _judged(request: Request, key: str) -> Data:
    with shop_of(request).read() as session:
        job, last = loading.load(session, key), judging.Last(*jobs.last_written(session, key))
    return {"key": key, "title": job.title, **judging.judge_job(job, last)}


@router.get(
    "/jobs/{key}/{name}.json",
    summary="A station of a job: what it finds, its readings, and what it asks next",
    responses=NOT_THERE,
)
def station(request: Request, key: str, name: str) -> Data:
    job = load(request, key)
    if name in ORDER.pages:
        of_page = ORDER.pages[name].data
        if of_page is None:
            raise HTTPException(404)
        return dict(of_page(job, request.query_params))
    at = station_of(name)
    prompt = at.prompt(job, request.query_params)
    asked = None if prompt is None else {"slot": prompt.slot, "label": prompt.label, "instruction": prompt.instruction}
    found: dict[str, Any] = _judged(request, key)["stations"][at.key]
    return found | {"readings": [_entry(each) for each in job.entries if each.station == at.key], "asked": asked}


def _entry(entry: Written) -> Data:
    """An entry as JSON: a reading as typed, or an annotation by its type."""
    void = entry.void
    own: Data = {"type": "reading", "slot": entry.slot} if isinstance(entry, Reading) else {"type": entry.TYPE}
    if isinstance(entry, Reading):
        own |= {"side": entry.side, "approach": entry.approach, "drop": entry.second, "unit": entry.unit.value}
    return own | {
        "seq": entry.seq,
        "text": entry.text,
        "words": ORDER.describe(entry),
        "by": entry.by,
        "at": entry.at.isoformat(),
        "void": {"reason": void.reason, "by": void.by, "at": void.at.isoformat()} if void else None,
    }


def _alone(name: str, of_page: Any) -> None:
    @router.get(f"/{name}.json", name=f"{name} data", summary=f"{name.capitalize()}: as the page computes it")
    def alone(request: Request) -> Data:
        told: Mapping[str, Any] = of_page(NOBODYS, request.query_params)
        return dict(told)


for _name, _page in ORDER.jobless_pages.items():
    if _page.data is not None:
        _alone(_name, _page.data)


def addresses() -> list[tuple[str, str]]:
    """Where pages have their data, and what each is."""
    return [(route.path, route.summary or "") for route in router.routes if isinstance(route, APIRoute)]
