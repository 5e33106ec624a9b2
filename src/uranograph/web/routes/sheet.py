"""The build sheet: the result on one page to print, and the evidence behind it."""

from collections.abc import Mapping
from functools import lru_cache, partial
from typing import Annotated, Any, TypeVar

from fastapi import APIRouter, Path, Request
from fastapi.responses import Response
from markupsafe import Markup
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool

from uranograph.bench import instruments
from uranograph.bench.acts import Act
from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.bench.log import Acceptance, Annotation, Change, Note, Picture, Reading, Written
from uranograph.bench.messages import refusal
from uranograph.bench.order import worst_finding
from uranograph.core.errors import InvalidInput
from uranograph.engine.particulars import particulars_of
from uranograph.shop import comparing, jobs, loading, own_log, signing
from uranograph.shop.letterhead import Letterhead, letterhead
from uranograph.stations import ORDER
from uranograph.web.bench_page import form_of
from uranograph.web.pages import (
    BY_COOKIE,
    NOT_WRITTEN,
    attempt,
    fresh_token,
    lead,
    remember,
    render,
    shop_of,
    templates,
    who,
)

B = TypeVar("B", bound=Annotation)

router = APIRouter(include_in_schema=False)
MAX_PICTURES = 4
MAX_DRAWN = 16
# Stations whose findings have a line each among the evidence.
BESIDES = [station.key for station in ORDER.stations if station.group in ("Fit", "Mark")]
CLOSES = [station.key for station in ORDER.stations if station.group in ("Prove", "Close")]
# Stations whose section of the sheet is a result rather than evidence.
RESULTS = [station.key for station in ORDER.stations if station.group == "Degree"]
# The station that heads the sheet and the label.
LABELED = next(station for station in ORDER.stations if station.has("thumbnail"))
# Policy for untrusted pages: no scripts, forms or external content, framed only by this server.
PAGE_POLICY = (
    "default-src 'none'; style-src 'self'; img-src 'self' data:; font-src 'self'; base-uri 'none'; form-action 'none'; "
    "frame-ancestors 'self'; sandbox allow-same-origin allow-modals"
)
Revision = Annotated[int, Path(ge=1, le=100_000)]


def _compared(job: Job, kind: type[B]) -> list[B]:
    return [entry for entry in job.entries if entry.void is None and isinstance(entry, kind)]


def _about(job: Job, note: Note) -> Written | None:
    """The reading that a note is about."""
    return next((entry for entry in job.entries if entry.seq == note.about), None)


def _headline(findings: Mapping[str, Finding]) -> Finding:
    """What the sheet says first: how the cam was found, or the worst of a job whose cam was not read."""
    of_cam = findings[LABELED.key]
    return of_cam if of_cam.begun else worst_finding(findings)


def _checks(findings: Mapping[str, Finding]) -> list[tuple[str, Finding]]:
    """Every other station that was begun, by title; the skipped ones are listed with their reasons."""
    shown = ((each, findings[each.key]) for each in ORDER.stations if each is not LABELED and each is not ORDER.first)
    return [(each.title, found) for each, found in shown if found.begun and found.state != "skipped"]


def _by_position(job: Job) -> list[tuple[str, list[Reading]]]:
    """Readings in the order taken, parted by what was done in between; sweeps and checks are printed apart."""
    apart = {*BESIDES, *CLOSES}
    found: list[tuple[str, list[Reading]]] = [("", [])]
    for entry in sorted(job.entries, key=lambda each: each.seq):
        if isinstance(entry, Act) and entry.void is None:
            words = f"{ORDER.describe(entry)}{f': {entry.text}' if entry.text else ''}"
            found.append((words, []))
        elif (
            isinstance(entry, Reading)
            and entry.station not in apart
            and (entry.void is not None or not entry.slot.startswith("sweep"))
        ):
            found[-1][1].append(entry)
    return [(words, readings) for words, readings in found if readings]


def _printed(job: Job, shop: Letterhead) -> dict[str, Any]:
    """Context of the build sheet of a job."""
    findings = ORDER.overview(job)
    written = sorted((*job.forms, *job.entries), key=lambda each: each.at)
    context: dict[str, Any] = {
        "history": (),
        "effects": (),
        "frames": (),
        "job": job,
        "shop": shop,
        "by": sorted({each.by for each in written}),
        "first": written[0].at if written else None,
        "last": written[-1].at if written else None,
        "headline": _headline(findings),
        "checks": _checks(findings),
        "by_position": _by_position(job),
        "result_sections": RESULTS,
        "read_with": " ".join(
            filter(
                None,
                (
                    instruments.printed(job.shop_limits, job.entries[-1].at.date() if job.entries else None),
                    instruments.took(job.readings),
                ),
            )
        ),
        "findings": findings,
        "besides": [key for key in BESIDES if findings[key].begun or findings[key].state == "skipped"],
        "closes": [key for key in CLOSES if findings[key].begun or findings[key].state == "skipped"],
        "run_together": (*BESIDES, *CLOSES),
        "done": [entry for entry in job.entries if entry.void is None and isinstance(entry, Act | Change)],
        "accepted": [(ORDER.by_key[r.station].title, r) for r in _compared(job, Acceptance)],
        "notes": [(ORDER.by_key[r.station].title, r, _about(job, r)) for r in _compared(job, Note)],
        "pictures": [each for each in _compared(job, Picture) if not each.is_capture][:MAX_PICTURES],
        "still_open": [(each.station.title, each.finding) for each in signing.unsettled(job)],
        "passed_over": [(each.title, skip) for each in ORDER.stations if (skip := job.skipped(each.key))],
    }
    for station in ORDER.stations:
        where = f"job {job.key}, build sheet, {station.key}"
        empty: Mapping[str, Any] = {}
        context |= attempt(where, partial(station.sheet_context, job), empty)
    return context


@lru_cache(maxsize=MAX_DRAWN)
def _body(job: Job, shop: Letterhead) -> Markup:
    """Return the build sheet of a job, memoized until something is written to the job."""
    return Markup(templates.get_template("_sheet_body.html").render(_printed(job, shop)))


@router.get("/jobs/{key}/sheet")
def build_sheet(request: Request, key: str) -> Response:
    with shop_of(request).read() as session:
        job, signed = loading.load(session, key), signing.signatures(session, key)
        comparable = comparing.offered(session, key, signed)
    return _sheet(request, job, signed, comparable=comparable)


def _sheet(request: Request, job: Job, signed: list[signing.Signature], status: int = 200, **more: Any) -> Response:
    with shop_of(request).read() as session:
        shop = letterhead(session)
    context = {
        "job": job,
        "body": _body(job, shop),
        "signed": signed,
        "open_points": signing.unsettled(job),
        "exceptions": signing.exceptions(job),
        "typed": {"by": who(request)},
        "errors": {},
    }
    return render(request, "sheet.html", context | more, status)


def frozen(job: Job, signature: signing.Signature, shop: Letterhead = Letterhead()) -> str:
    """The sheet as it is signed, with the shop's name and mark as they are at that moment."""
    return templates.get_template("_sheet_body.html").render(_printed(job, shop) | {"signature": signature})


@router.post("/jobs/{key}/sign")
async def sign(request: Request, key: str) -> Response:
    return await run_in_threadpool(_sign, request, key, await form_of(request))


def _sign(request: Request, key: str, form: dict[str, str]) -> Response:
    with shop_of(request).read() as session:
        job, signed, shop = loading.load(session, key), signing.signatures(session, key), letterhead(session)
    seen = form.get("seen", "")
    by = form.get("by", "") or who(request)
    try:
        with shop_of(request).write() as session:
            revision = signing.sign(
                session,
                key,
                by,
                form.get("name", ""),
                form.get("changed", ""),
                form.get("token", "") or fresh_token(),
                int(seen) if seen.isdecimal() and len(seen) < 10 else -1,
                partial(frozen, shop=shop),
            )
    except InvalidInput as error:
        return _sheet(request, job, signed, 422, typed=form, errors={error.field: refusal(error, job.unit)})
    except jobs.Changed as error:
        return _sheet(request, job, signed, 409, typed=form, message=f"{error} Look at it again, then sign.")
    except SQLAlchemyError:
        return _sheet(request, job, signed, 503, typed=form, message=NOT_WRITTEN)
    response = lead(request, f"/jobs/{key}/signed/{revision}")
    if by.strip():
        remember(response, BY_COOKIE, jobs.initials(by))
    return response


@router.get("/jobs/{key}/signed/{revision}")
def signed_sheet(request: Request, key: str, revision: Revision) -> Response:
    with shop_of(request).read() as session:
        job, found = loading.load(session, key), signing.page_of(session, key, revision)
        after = next((each for each in signing.signatures(session, key) if each.revision == revision + 1), None)
        renamed = own_log.of(session, own_log.Kind.NAME, key)
    if found is None:
        raise loading.NoSuchJob(key)
    since = [change for change in renamed if change.at >= found.signature.at]
    context = {"job": job, "signature": found.signature, "found": found, "superseded": after, "renamed": since}
    return render(request, "signed.html", context)


@router.get("/jobs/{key}/signed/{revision}/page")
def signed_page(request: Request, key: str, revision: Revision) -> Response:
    """The signed page, isolated by a content security policy so that nothing in it can run."""
    with shop_of(request).read() as session:
        found = signing.page_of(session, key, revision)
        if found is None:
            raise loading.NoSuchJob(key)
        page = found.page or frozen(signing.as_signed(session, key, found.signature), found.signature)
    response = render(request, "signed_page.html", {"signature": found.signature, "page": page})
    response.headers["Content-Security-Policy"] = PAGE_POLICY
    return response


@router.get("/jobs/{key}/label")
def label(request: Request, key: str) -> Response:
    with shop_of(request).read() as session:
        job, signed = loading.load(session, key), signing.latest(session, key)
    # The label shows the signature only if nothing was written since.
    signature = signed if signed is not None and signed.seq == job.seq else None
    finding = ORDER.overview(job)[LABELED.key]
    return render(
        request,
        "label.html",
        {"job": job, "signature": signature, "finding": finding, "particulars": particulars_of(job)},
    )
