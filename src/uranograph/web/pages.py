"""Shared by all pages: templates, the shop, who is at the bench, day or night colors."""

import secrets
import sys
import time
from collections.abc import Callable, Iterable, Mapping
from contextlib import suppress
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cache, lru_cache
from itertools import groupby
from pathlib import Path
from typing import Any, TypeVar
from urllib.parse import quote, unquote

from fastapi import Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from fastapi.templating import Jinja2Templates
from jinja2.bccache import Bucket, FileSystemBytecodeCache
from jinja2.runtime import Macro
from markupsafe import Markup

from uranograph import __version__
from uranograph.bench import faults
from uranograph.bench.finding import STATE_WORDS, Finding
from uranograph.bench.job import Job
from uranograph.bench.log import Reading, Written
from uranograph.charts.pen import Figure
from uranograph.core.firing import USUAL_ORDERS
from uranograph.core.quantities import format_angle, format_length
from uranograph.shop.database import Shop
from uranograph.shop.loading import NoSuchJob
from uranograph.shop.people import people
from uranograph.stations import ORDER
from uranograph.web.static_files import address

HERE = Path(__file__).parent
BY_COOKIE, LIGHT_COOKIE = "uranograph_by", "uranograph_light"
LIGHTS = ("device", "night", "day")
NOT_WRITTEN = (
    "Not written: the shop's file could not be written just now. What you typed is still here. "
    "Check that the disk is not full and the file not locked, then record it again."
)
# Stand-in for pages that are rendered without a job.
NOBODYS = Job("", "")
YEAR_SECONDS = 365 * 24 * 3600
# The hour at which a new day begins at the bench, and how long the list of people is remembered.
DAY_BEGINS, PEOPLE_SECONDS = 4, 30.0


def _drawn(figure: Figure | None) -> Markup:
    return Markup(attempt("figure", figure.svg, "")) if figure else Markup("")


def _described(entry: Written) -> str:
    return attempt(f"entry {entry.id}", lambda: ORDER.describe(entry), entry.kind_name)


def _briefly(entry: Written) -> str:
    return attempt(f"entry {entry.id}", lambda: ORDER.describe_briefly(entry), entry.kind_name)


def done_words(entry: Written) -> str:
    """One entry as shown in a list, with its station and text."""
    words, text = f"{ORDER.by_key[entry.station].title}, {_described(entry)}", _answered(entry)
    return f"{words}: {text}" if text else words


class TemplateCodeCache(FileSystemBytecodeCache):
    """Bytecode cache of the templates, stored beside Python's: compiling them is a tenth of startup time."""

    def dump_bytecode(self, bucket: Bucket) -> None:
        with suppress(OSError):
            super().dump_bytecode(bucket)


def _template_cache() -> FileSystemBytecodeCache | None:
    folder = HERE / "__pycache__" / "templates"
    if sys.dont_write_bytecode:
        return None
    with suppress(OSError):
        folder.mkdir(parents=True, exist_ok=True)
        return TemplateCodeCache(str(folder))
    return None


# Templates of a station are in its folder.
templates = Jinja2Templates([HERE / "templates", HERE.parent / "stations"])
templates.env.bytecode_cache = _template_cache()
templates.env.auto_reload = False
templates.env.trim_blocks = True
templates.env.lstrip_blocks = True
templates.env.filters["drawn"] = _drawn
templates.env.filters["described"] = _described
templates.env.filters["briefly"] = _briefly
templates.env.filters["done_words"] = done_words


@lru_cache(maxsize=4096)
def _here(moment: datetime) -> tuple[str, str]:
    """Local date and time of the server."""
    local = moment.astimezone()
    return local.strftime("%Y-%m-%d"), local.strftime("%H:%M")


templates.env.filters["clock"] = lambda moment: _here(moment)[1]
templates.env.filters["day"] = lambda moment: _here(moment)[0]


@cache
def _glyph(state: str) -> Markup:
    """The drawn state; there are few, and every page has many of them."""
    return Markup(templates.env.get_template("glyph.html").render(state=state))


@dataclass(frozen=True)
class RailLine:
    """A station in the rail."""

    key: str
    title: str
    group: str
    state: str


def _groups(lines: Iterable[RailLine]) -> list[tuple[str, list[RailLine]]]:
    """Lines by their group, in working order."""
    return [(group, list(own)) for group, own in groupby(lines, lambda line: line.group)]


@lru_cache(maxsize=32)
def _drawn_rail(
    key: str, here: str, way: str, lines: tuple[RailLine, ...], others: tuple[RailLine, ...], holds: bool
) -> Markup:
    """The rail of a job's stations: every fragment has it, and few readings change a state."""
    shown = {"key": key, "here": here, "way": way, "lines": lines, "others": others, "holds": holds}
    return Markup(templates.env.get_template("_rail.html").render(shown))


@lru_cache(maxsize=256)
def _strip_line(reading: Reading, key: str, takes: bool, again: bool) -> Markup:
    """The line of a reading in the strip: a reading never changes, and most lines of a fragment stood there before."""
    shown = {"reading": reading, "key": key, "takes": takes, "again": again}
    return Markup(templates.env.get_template("_strip_line.html").render(shown))


def rail(job: Job, here: str, findings: Mapping[str, Finding], holds: bool = True) -> Markup:
    """The stations of a job with their states; `here` is a station's key, `overview` or `what-if`.

    Those off the job's way that nobody began stand under one fold. Where not all of the findings hold any more, the rail
    asks for itself again as soon as it is shown.
    """
    on_way, way = ORDER.in_workflow(job), ORDER.workflow_of(job)
    lines = [RailLine(each.key, each.title, each.group, findings[each.key].state) for each in ORDER.stations]
    kept = {each.key for each in on_way} | {here} | {line.key for line in lines if line.state != "not-begun"}
    return _drawn_rail(
        job.key,
        here,
        way.title if way else "",
        tuple(line for line in lines if line.key in kept),
        tuple(line for line in lines if line.key not in kept),
        holds,
    )


def _swept_by(readings: Iterable[Reading], lobe: str) -> list[list[Reading]]:
    """The sweep of a lobe as one run of readings, for printing close together; nothing where there is none."""
    own = [reading for reading in readings if reading.void is None and reading.slot.startswith(f"sweep-{lobe}.")]
    return [own] if own else []


def _taken_at(readings: Iterable[Reading], station: str) -> list[Reading]:
    """A station's readings, including voided ones, for compact printing; reasons for skipping are shown elsewhere."""
    return [reading for reading in readings if reading.station == station]


def _answered(entry: Written) -> str:
    """The text of a reading; answers appear under the label they were offered with."""
    return attempt(f"entry {entry.id}", lambda: ORDER.answered(entry), entry.text)


templates.env.filters["answered"] = _answered
templates.env.filters["swept_by"] = _swept_by
templates.env.filters["list_of"] = list
templates.env.filters["taken_at"] = _taken_at
templates.env.filters["length_in"] = format_length
templates.env.filters["angle"] = format_angle


def _usual_orders(cylinders: str) -> tuple[str, ...]:
    """Firing orders in general use for so many cylinders, as typed."""
    return USUAL_ORDERS.get(int(cylinders), ()) if cylinders.strip().isdecimal() and len(cylinders) < 4 else ()


templates.env.globals["usual_orders"] = _usual_orders
templates.env.globals.update(
    glyph=_glyph,
    static=address,
    rail=rail,
    groups=_groups,
    strip_line=_strip_line,
    ORDER=ORDER,
    STATIONS=ORDER.stations,
    STATE_WORDS=STATE_WORDS,
    VERSION=__version__,
)


# Every template has the macros at hand: each that imports them itself looks through all that is global once more.
_MACROS = templates.env.get_template("macros.html").module
templates.env.globals.update({name: macro for name, macro in vars(_MACROS).items() if isinstance(macro, Macro)})
templates.env.globals["pad"] = Markup(templates.env.get_template("_pad.html").render())


def shop_of(request: Request) -> Shop:
    """The shop this application serves."""
    shop: Shop = request.app.state.shop
    return shop


def who(request: Request) -> str:
    """Initials of the person at the bench, from this browser's cookie."""
    return unquote(request.cookies.get(BY_COOKIE, ""))


def remember(response: Response, cookie: str, value: str) -> None:
    """Keep a choice in this browser; initials may have any letters, a header may not. Who is here is asked again each day."""
    seconds = _until_tomorrow() if cookie == BY_COOKIE else YEAR_SECONDS
    response.set_cookie(cookie, quote(value), max_age=seconds, samesite="lax", httponly=True)


def _until_tomorrow() -> int:
    """Seconds until nobody is at work any more and a new day begins."""
    now = datetime.now().astimezone()
    next_day = (now + timedelta(days=1) if now.hour >= DAY_BEGINS else now).replace(
        hour=DAY_BEGINS, minute=0, second=0, microsecond=0
    )
    return max(60, int((next_day - now).total_seconds()))


def people_of(request: Request) -> tuple[str, ...]:
    """The shop's people; looked up again after half a minute."""
    state = request.app.state
    known: tuple[float, tuple[str, ...]] | None = getattr(state, "people", None)
    if known is not None and time.monotonic() - known[0] < PEOPLE_SECONDS:
        return known[1]

    def looked_up() -> tuple[str, ...]:
        with shop_of(request).read() as session:
            return people(session)

    nobody: tuple[str, ...] = ()
    found = attempt("people", looked_up, nobody)
    state.people = (time.monotonic(), found)
    return found


T = TypeVar("T")


def attempt(where: str, make: Callable[[], T], instead: T) -> T:
    """Render a fragment; on failure, a placeholder is shown and the error logged.

    What a job does not have (`LookupError` of its key) goes on to the page that says so.
    """
    try:
        return make()
    except NoSuchJob:
        raise
    except Exception as error:
        faults.note(error, where)
        return instead


def _light(request: Request) -> str:
    """Day, night, or as the device has it."""
    kept = request.cookies.get(LIGHT_COOKIE)
    return kept if kept in LIGHTS else LIGHTS[0]


def fresh_token() -> str:
    """A token for one form drawn once."""
    return secrets.token_hex(12)


def is_fragment(request: Request) -> bool:
    """Whether the page asks for its changed part only."""
    return request.headers.get("HX-Request") == "true" and request.headers.get("HX-History-Restore-Request") != "true"


def lead(request: Request, path: str) -> Response:
    """Send the browser on to another page, whichever way it asked."""
    if is_fragment(request):
        return Response(headers={"HX-Redirect": path})
    return RedirectResponse(path, 303)


def render(request: Request, template: str, context: Mapping[str, Any], status: int = 200) -> HTMLResponse:
    """Render a template with what every page needs."""
    shared = {
        "by": who(request),
        "shop_people": people_of(request),
        "light": _light(request),
        "token": fresh_token(),
        "fragment": is_fragment(request),
    }
    response = templates.TemplateResponse(request, template, {**shared, **context}, status_code=status)
    response.headers["Cache-Control"] = "no-store"
    return response
