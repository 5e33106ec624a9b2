"""The commands."""

import json
import os
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any, NoReturn

import typer

from uranograph.bench.calculations import CALCULATIONS, calculate
from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput, Missing
from uranograph.instruments.commands import instrument, simulate

if TYPE_CHECKING:
    from contextlib import closing

    from uranograph.shop.database import Shop
    from uranograph.web.settings import Settings

# Pages that follow a job keep their line open: so long they are waited for once the server is to end.
GRACE_S = 2
# Shorter pass phrases can be guessed.
SHORTEST_PASS_PHRASE = 8

app = typer.Typer(help="The bench book for degreeing camshafts.", no_args_is_help=True)
app.command()(simulate)
app.command()(instrument)
Database = Annotated[
    Path | None, typer.Option(help="The shop's file; as the settings have it unless given (see `uranograph config`).")
]
Level = Annotated[str | None, typer.Option("--log-level", help="How much is logged: debug, info, warning or error.")]


def _version(wanted: bool) -> None:
    if wanted:
        from uranograph import __version__

        typer.echo(f"uranograph {__version__}")
        raise typer.Exit


@app.callback()
def main(
    version: Annotated[
        bool, typer.Option("--version", callback=_version, is_eager=True, help="Say which version this is.")
    ] = False,
) -> None:
    """The bench book for degreeing camshafts."""


@app.command()
def serve(
    database: Database = None,
    port: Annotated[int | None, typer.Option()] = None,
    host: Annotated[str | None, typer.Option(help="The address to listen at; this machine alone unless given.")] = None,
    open_: Annotated[bool, typer.Option("--open", help="Open the pages in this machine's browser.")] = False,
    log_level: Level = None,
    trust_network: Annotated[
        bool | None,
        typer.Option("--trust-network", help="Everybody who reaches that address may read, write and sign."),
    ] = None,
) -> None:
    """Serve the pages on this machine."""
    _serve(_settings(database, port, host, log_level, trust_network), open_)


@app.command()
def demo(database: Database = Path("var/demo.db"), port: Annotated[int | None, typer.Option()] = None) -> None:
    """Serve a made-up shop; its file is filled once and then kept."""
    from uranograph.demo.shop import furnish
    from uranograph.web.routes.sheet import frozen

    settings = _settings(database, port)
    with _opened(settings.database) as shop:
        furnish(shop, drawn=frozen)
    _serve(settings)


@app.command()
def config(
    database: Database = None,
    port: Annotated[int | None, typer.Option()] = None,
    host: Annotated[str | None, typer.Option()] = None,
    log_level: Level = None,
    as_json: Annotated[bool, typer.Option("--json", help="As one JSON object.")] = False,
) -> None:
    """Show every setting with where it comes from: an option, a variable, a file, or the default."""
    from uranograph.web.settings import origins

    settings = _settings(database, port, host, log_level)
    options = {"database": database, "port": port, "host": host, "log_level": log_level}
    found = origins(settings, {name: value for name, value in options.items() if value is not None})
    values = settings.model_dump(mode="json")
    if as_json:
        typer.echo(json.dumps({name: {"value": values[name], "from": where} for name, where in found.items()}))
        return
    for name, where in found.items():
        typer.echo(f"{name:10} {values[name]!s:28} {where}")


@app.command("help")
def help_(
    context: typer.Context, name: Annotated[str, typer.Argument(help="Which command; all of them unless given.")] = ""
) -> None:
    """Say what a command does and takes."""
    every = context.parent
    if every is None:
        raise Missing("every")
    known = getattr(every.command, "commands", {})
    if name and name not in known:
        _stop(f"There is no command “{name}”. There are: {', '.join(sorted(known))}.")
    if not name:
        typer.echo(every.get_help())
        return
    with type(context)(known[name], info_name=name, parent=every) as own:
        typer.echo(own.get_help())


def _settings(
    database: Path | None,
    port: int | None,
    host: str | None = None,
    log_level: str | None = None,
    trust_network: bool | None = None,
) -> "Settings":
    from pydantic import ValidationError

    from uranograph.web.settings import NotSettings, Settings

    given: dict[str, Any] = {
        "database": database,
        "port": port,
        "host": host,
        "log_level": log_level,
        "trust_network": trust_network,
    }
    try:
        return Settings(**{name: value for name, value in given.items() if value is not None})
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(map(str, first["loc"]))
        _stop(f"{where}: {first['msg']}. Look at the options, URANOGRAPH_ variables and uranograph.toml.")
    except NotSettings as error:
        _stop(str(error))


def _log(level: str) -> None:
    """Write what happens to standard error, a line each, with when and how grave."""
    import logging
    import time

    writing = logging.Formatter("%(asctime)s %(levelname)-7s %(name)s: %(message)s", "%Y-%m-%dT%H:%M:%SZ")
    writing.converter = time.gmtime
    to = logging.StreamHandler()
    to.setFormatter(writing)
    logging.basicConfig(level=level.upper(), handlers=[to], force=True)


def _serve(settings: "Settings", opens: bool = False) -> None:
    import gc
    import socket

    # What is loaded stays: to look through it for what could go, again and again, is a tenth of the start and of slow answers.
    gc.disable()
    import uvicorn

    from uranograph.web.app import create_app
    from uranograph.web.limits import TimelyProtocol

    gc.freeze()
    gc.enable()
    _log(settings.log_level)
    if not settings.trust_network and not _is_loopback(settings.host):
        _stop(
            f"At {settings.host} everybody on the network can read, write and sign under any name: there is no sign-in. "
            "If that is meant, say --trust-network."
        )
    with _opened(settings.database):
        pass
    family = socket.AF_INET6 if ":" in settings.host else socket.AF_INET
    bound = socket.socket(family)
    bound.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        bound.bind((settings.host, settings.port))
        bound.listen(2048)
    except OSError as error:
        _stop(
            f"{settings.host} port {settings.port} cannot be used: {error.strerror or error}. Name another with --port."
        )
    host, port = bound.getsockname()[:2]
    addresses = [f"http://{f'[{each}]' if ':' in each else each}:{port}{settings.prefix}" for each in _reached_at(host)]
    typer.echo(f"Uranograph is at {' and '.join(addresses)} (stop with Ctrl+C)")
    address = addresses[0]
    if opens:
        typer.launch(address)
    # The server logs to our handler, each request at level info.
    told = uvicorn.Config(
        create_app(settings),
        http=TimelyProtocol,
        log_config=None,
        log_level=settings.log_level.value,
        timeout_graceful_shutdown=GRACE_S,
    )
    uvicorn.Server(told).run(sockets=[bound])


def _is_loopback(host: str) -> bool:
    """Whether an address is this machine's own, which no other machine reaches."""
    from ipaddress import ip_address

    try:
        return ip_address(host).is_loopback
    except ValueError:
        return host in ("localhost", "")


def _reached_at(host: str) -> list[str]:
    """Addresses to open in a browser; for a wildcard address, those of this machine and the network."""
    import socket

    if host not in ("0.0.0.0", "::"):
        return [host]
    found = ["127.0.0.1"]
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asking:
        try:
            # Nothing is sent; connecting a UDP socket only selects the local address. The target is a documentation address.
            asking.connect(("192.0.2.1", 9))
            found.append(asking.getsockname()[0])
        except OSError:
            pass
    return found


def _stop(words: str) -> NoReturn:
    """End with one sentence and status 1."""
    typer.echo(words, err=True)
    raise typer.Exit(1)


@app.command()
def calc(
    name: Annotated[str, typer.Argument(help="Which calculation; see --list.")] = "",
    list_: Annotated[bool, typer.Option("--list", help="Name all calculations.")] = False,
) -> None:
    """Answer one JSON object, or JSON Lines, on standard input: a line out for a line in."""
    if list_ or not name:
        for calculation in CALCULATIONS.values():
            typer.echo(f"{calculation.name:14} {calculation.title}")
        return
    text = sys.stdin.read()
    failed = False
    for line in _objects(text):
        try:
            answer = calculate(name, json.loads(line))
        except json.JSONDecodeError as error:
            answer = {
                "error": {
                    "field": "input",
                    "code": "not-json",
                    "message": f"This is not JSON: {error.msg} at column {error.colno}.",
                }
            }
        except InvalidInput as error:
            answer = {"error": {"field": error.field, "code": error.code, "message": refusal(error)}}
        failed = failed or "error" in answer
        typer.echo(json.dumps(answer))
    raise typer.Exit(1 if failed else 0)


@app.command()
def judge(file: Annotated[Path | None, typer.Argument(help="A job file, or JSON Lines of them.")] = None) -> None:
    """Judge whole jobs: one job file, or JSON Lines of them, from a file or standard input; a line out for each."""
    from uranograph.shop import exchange, judging

    try:
        text = file.read_text(encoding="utf-8-sig") if file else sys.stdin.read()
    except (OSError, UnicodeDecodeError) as error:
        _stop(f"{file}: {error}")
    failed = False
    for line in _objects(text):
        try:
            answer = judging.judge(exchange.read_job(line))
        except InvalidInput as error:
            answer = {"error": {"field": error.field, "code": error.code, "message": refusal(error)}}
            failed = True
        typer.echo(json.dumps(answer))
    raise typer.Exit(1 if failed else 0)


def _objects(text: str) -> list[str]:
    """One object over several lines, or one to a line."""
    try:
        json.loads(text)
    except ValueError:
        return [line for line in text.splitlines() if line.strip()]
    return [text]


@app.command("export")
def export_(
    key: Annotated[str, typer.Argument(help="The job's key.")] = "",
    all_: Annotated[bool, typer.Option("--all", help="The whole shop, as JSON Lines.")] = False,
    database: Database = None,
) -> None:
    """Write a job as JSON, or the whole shop as JSON Lines, to standard output."""
    from uranograph.shop import exchange, whole
    from uranograph.shop import loading as jobs

    if bool(key) is all_:
        _stop("Name one job by its key, or say --all for the whole shop.")
    with _opened(database) as shop, shop.read() as session:
        if all_:
            for line in whole.lines(session):
                typer.echo(line)
            return
        try:
            typer.echo(exchange.file_of(session, key))
        except jobs.NoSuchJob:
            typer.echo(f"There is no job “{key}” in this file.", err=True)
            raise typer.Exit(1) from None


@app.command("import")
def import_(file: Path, database: Database = None) -> None:
    """Read a job file as a new job and print its key; of a shop's file, bring in all jobs and say how many."""
    from uranograph.shop import exchange, whole

    try:
        content = file.read_bytes()
        if whole.holds_several(content):
            settings, several = whole.read(content)
            with _opened(database) as shop, shop.write() as session:
                typer.echo(f"{whole.bring_in(session, settings, several)} jobs were brought in.")
            return
        kept = exchange.read_job(content)
        with _opened(database) as shop, shop.write() as session:
            key = exchange.import_job(session, kept)
    except (OSError, InvalidInput) as error:
        typer.echo(f"{file}: {refusal(error) if isinstance(error, InvalidInput) else error}", err=True)
        raise typer.Exit(1) from error
    typer.echo(key)


@app.command()
def backup(
    file: Path,
    database: Database = None,
    with_key: Annotated[
        bool, typer.Option(help="The key that signs as well, in FILE.key, under a pass phrase.")
    ] = False,
) -> None:
    """Copy a shop whole into a file of its own, while it may be in use; a file that is there already is left as it is."""
    from uranograph.shop import own_log
    from uranograph.shop.database import NotAShop, copy_database
    from uranograph.shop.keys import NoKey

    with _opened(database) as shop:
        try:
            if with_key and shop.key.id:
                shop.key.back_up(Path(f"{file}.key"), _pass_phrase(new=True))
            count = copy_database(shop.path, file)
            with shop.write() as session:
                own_log.backed_up(session, "")
        except (NotAShop, NoKey, OSError) as error:
            _stop(str(error))
        signs = bool(shop.key.id)
    typer.echo(f"{count} jobs are in {file}.")
    if signs:
        typer.echo(
            f"The key that signs is in {file}.key. Keep its pass phrase elsewhere."
            if with_key
            else f"The key that signs, {shop.key.file}, is not in it: --with-key takes it along under a pass phrase."
        )


@app.command()
def restore(file: Path, database: Database = None) -> None:
    """Put a shop's backup in the place of a shop's file, and its key where FILE.key is there. Stop the server first.

    What is there, file and key, is kept beside it.
    """
    from datetime import UTC, datetime

    from uranograph.shop.database import NotAShop, restore_database
    from uranograph.shop.keys import NoKey, ShopKey

    at = datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
    path = database or _settings(None, None).database
    key, backed_up = ShopKey(path), Path(f"{file}.key")
    try:
        opened = key.opened(backed_up, _pass_phrase(new=False)) if backed_up.exists() else None
        count, kept = restore_database(file, path, at)
        if opened is not None:
            key.restore(opened, at)
    except (NotAShop, NoKey, OSError) as error:
        _stop(str(error))
    typer.echo(f"{count} jobs are back." + (f" What was there is {kept}." if kept else ""))
    if opened is not None:
        typer.echo(f"The key that signs is {key.file}.")


def _pass_phrase(new: bool) -> str:
    """The pass phrase of a backup's key: from the environment, or asked for without showing it."""
    known = os.environ.get("URANOGRAPH_PASS_PHRASE", "")
    if not known and not sys.stdin.isatty():
        _stop(
            "The key of a backup has a pass phrase: set URANOGRAPH_PASS_PHRASE, or run this where it can be asked for."
        )
    phrase = known or str(typer.prompt("Pass phrase of the key", hide_input=True, confirmation_prompt=new))
    if len(phrase) < SHORTEST_PASS_PHRASE:
        _stop(f"A pass phrase has at least {SHORTEST_PASS_PHRASE} letters.")
    return phrase


@app.command()
def check(database: Database = None) -> None:
    """Prove every signed build sheet of a shop: its bytes, the log, the page, the shop's key; status 1 where one does not hold."""
    from uranograph.shop import signing

    held = failed = 0
    with _opened(database) as shop, shop.read() as session:
        for proof in signing.proofs(session):
            held, failed = held + proof.holds, failed + (not proof.holds)
            why = f": {proof.why}" if proof.why else ""
            state = proof.state if proof.holds else f"DOES NOT HOLD, {proof.state}"
            typer.echo(f"{proof.short}  revision {proof.revision} of {proof.title or '?'} ({proof.key}): {state}{why}")
    typer.echo(f"{held} signed sheets hold, {failed} do not.")
    raise typer.Exit(1 if failed else 0)


def _opened(database: Path | None) -> "closing[Shop]":
    from contextlib import closing

    from sqlalchemy.exc import SQLAlchemyError

    from uranograph.shop.database import NotAShop, Shop

    path = database or _settings(None, None).database
    try:
        shop = Shop(path)
        shop.migrate()
    except NotAShop as error:
        _stop(str(error))
    except (OSError, SQLAlchemyError) as error:
        reason = getattr(error, "strerror", None) or getattr(error, "orig", None) or error
        _stop(f"The shop's file {path} cannot be opened or made: {reason}. Name another with --database.")
    return closing(shop)


if __name__ == "__main__":
    app()
