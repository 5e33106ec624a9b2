"""Commands about instruments: a made-up engine played over the network, and a bridge to a server elsewhere."""

import re
import sys
import time
from pathlib import Path
from typing import Annotated

import typer


def simulate(
    port: Annotated[int, typer.Option(help="Where to listen; 0 takes a free one.")] = 7000,
    host: Annotated[str, typer.Option()] = "127.0.0.1",
    seed: Annotated[int, typer.Option(help="Of the engine: the same seed is the same engine.")] = 7,
    play: Annotated[bool, typer.Option("--play", help="Degree it by itself: both contacts, then both lobes.")] = False,
    hz: Annotated[float, typer.Option(help="Lines a second.")] = 50.0,
    replay: Annotated[
        Path | None, typer.Option(help="Play the lines of this capture instead, in their own time.")
    ] = None,
) -> None:
    """Play a made-up engine with an encoder and a dial over TCP, to try instruments without any.

    What is typed here is done to it: turn 20, stop 8, dial exhaust, zero-dial, to 360.
    """
    from uranograph.bench.messages import refusal
    from uranograph.core.errors import InvalidInput
    from uranograph.instruments import capture as captures
    from uranograph.instruments.simulator import Server, Simulator, degreeing, engine, step_of

    simulator = Simulator(engine(seed), seed)
    if play:
        simulator.play(degreeing())
    try:
        points = list(captures.read(replay.read_text(encoding="utf-8"))) if replay else None
        server = Server(simulator, host, port, hz, points)
    except UnicodeDecodeError as error:
        typer.echo(f"{replay} is no capture: it is not text.", err=True)
        raise typer.Exit(1) from error
    except InvalidInput as error:
        typer.echo(refusal(error), err=True)
        raise typer.Exit(1) from error
    except FileNotFoundError as error:
        typer.echo(f"{replay} is not there.", err=True)
        raise typer.Exit(1) from error
    except OSError as error:
        typer.echo(f"Port {port} cannot be listened at: {error.strerror or error}.", err=True)
        raise typer.Exit(1) from error
    if points is not None:
        typer.echo(f"{len(points)} lines of {replay} at {server.url}, again and again.")
    else:
        typer.echo(f"Engine {seed} at {server.url}: lines `channels`, channels `angle` (deg) and `dial` (mm).")
    try:
        for line in sys.stdin:
            try:
                simulator.do(*step_of(line))
            except (KeyError, ValueError):
                typer.echo(f"“{line.strip()}” cannot be done: turn 20, stop 8, dial exhaust, zero-dial, to 360.")
        while True:
            time.sleep(1)
    except KeyboardInterrupt:
        server.close()


def instrument(
    url: Annotated[str, typer.Argument(help="A serial port, socket://host:port, or - for lines on standard input.")],
    to: Annotated[str, typer.Option(help="Address of the server that takes the lines.")] = "",
    name: Annotated[str, typer.Option(help="Its name there: the instrument's address is bridge:NAME.")] = "B1",
    baud: Annotated[int, typer.Option()] = 9600,
    capture: Annotated[Path | None, typer.Option(help="Record the lines to this file.")] = None,
) -> None:
    """Read an instrument here and send its lines to a server elsewhere, or record them."""
    from uranograph.instruments import capture as captures
    from uranograph.instruments.bridge import BRIDGE, Bridge
    from uranograph.instruments.link import Link

    if not re.match(BRIDGE, name):
        typer.echo(f"“{name}” is no name of a bridge: letters, digits, - and _.", err=True)
        raise typer.Exit(1)
    if not to and capture is None:
        typer.echo("Say where the lines go: --to http://server:8765, or --capture FILE.", err=True)
        raise typer.Exit(1)
    if to or capture is None:
        try:
            Bridge(url, baud, to, name).run()
        except KeyboardInterrupt:
            return
        return
    count, begun = 0, time.monotonic()
    with capture.open("w", encoding="utf-8") as file:

        def record(line: str) -> None:
            nonlocal count
            file.write(captures.written_line(time.monotonic() - begun, line))
            file.flush()
            count += 1

        link = Link(url, baud, record)
        link.start()
        try:
            while link.is_alive():
                time.sleep(0.1)
        except KeyboardInterrupt:
            link.end()
            link.join(2.0)
    typer.echo(f"{count} lines in {capture}.")
