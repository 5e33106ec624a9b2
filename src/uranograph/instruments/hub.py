"""Every instrument of the shop as it stands this moment: its figure, whether it is still, and what is wrong with its line."""

import threading
import time
from collections import deque
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from statistics import median

from uranograph.bench import faults
from uranograph.instruments import lines
from uranograph.instruments.definition import UNIT_OF, Definition
from uranograph.instruments.link import Link, Opener, open_port
from uranograph.instruments.messages import say

# Silent after so long; still within its band for so long.
SILENT_S, STILL_S = 2.0, 0.4
MAX_KEPT = 4000
# Addresses that are not read here: a bridge sends their lines.
FED = "bridge:"
# Faster than this no hand moves one, in its base unit a second: such a figure counts once the next one bears it out.
FASTEST = {"length": 150.0, "angle": 1500.0, "temperature": 400.0, "torque": 2000.0}
LEAST_GAP_S = 0.01
# So many of its last figures jumped: not to be trusted. A torque wrench shows the peak of a pull until the next one begins.
JUMPY, RELEASED = 4, 0.25
# For so long an encoder that was away is said to have been.
AWAY_S = 600.0
# Lines of one instrument faster than this a second are thinned: what is shown and taken is the newest.
MAX_HZ = 250


@dataclass(frozen=True)
class Point:
    """One figure of an instrument, when it came, and the line that it came by."""

    at_s: float
    value: float
    raw: str


@dataclass
class Channel:
    """One instrument: what it says, and the last of what it said."""

    definition: Definition
    link: Link
    points: "deque[Point]" = field(default_factory=lambda: deque(maxlen=MAX_KEPT))
    unread: str = ""
    others: int = 0
    held_back: Point | None = None
    jumps: int = 0
    newest: "deque[float]" = field(default_factory=lambda: deque(maxlen=15))
    # Of an encoder with an index: where that is, what the encoder lost since, and when its line was opened last as it passed there.
    index_deg: float | None = None
    lost_deg: float = 0.0
    indexed: int = 0

    @property
    def last(self) -> Point | None:
        return self.points[-1] if self.points else None


@dataclass(frozen=True)
class Live:
    """An instrument as it stands: `state` is `live`, `connecting`, `not-there`, `silent`, `babbling`, `unread` or `of-another-kind`."""

    name: str
    kind: str
    unit: str
    state: str
    words: str
    value: float | None
    raw: str
    still: bool
    number: int
    note: str = ""


class Hub:
    """Instruments of one shop, each line opened once.

    Parameters
    ----------
    opener
        Opens a line; serial ports and network lines unless given.
    clock
        Seconds that only grow.
    """

    def __init__(self, opener: Opener = open_port, clock: Callable[[], float] = time.monotonic) -> None:
        self.opener, self.clock = opener, clock
        self.version = 0
        self._lock, self._points = threading.Lock(), threading.Lock()
        self._links: dict[tuple[str, int], Link] = {}
        self._channels: dict[str, Channel] = {}
        self._sinks: list[Callable[[str, Point], None]] = []

    def sync(self, wanted: Mapping[str, Definition]) -> None:
        """Read these instruments and no others; what did not change goes on as it was."""
        with self._lock:
            before = dict(self._channels)
            links: dict[tuple[str, int], Link] = {}
            channels: dict[str, Channel] = {}
            for name, definition in wanted.items():
                place = (definition.url, definition.baud)
                link = links.get(place) or self._links.get(place)
                if link is None:
                    link = Link(*place, self._taker(place), self.opener, self.clock)
                    if not definition.url.startswith(FED):
                        link.start()
                links[place] = link
                known = before.get(name)
                same = known is not None and known.definition is definition
                channels[name] = known if known is not None and same else Channel(definition, link)
            gone = [link for place, link in self._links.items() if place not in links]
            self._links, self._channels = links, channels
            self.version += 1
        for link in gone:
            link.end()

    def close(self) -> None:
        """Let go of every line."""
        self.sync({})

    def listen(self, sink: Callable[[str, Point], None]) -> Callable[[], None]:
        """Have every point of every instrument passed on, in the thread that read it; answers how to stop that."""
        self._sinks = [*self._sinks, sink]

        def stop() -> None:
            self._sinks = [each for each in self._sinks if each is not sink]

        return stop

    def feed(self, url: str, line: str, at_s: float | None = None) -> None:
        """Take a line of an address as if it had been read there: from a bridge, which says when; now unless it does."""
        for place, link in list(self._links.items()):
            if place[0] == url:
                link.state.open, link.state.last_s = True, self.clock()
                self._take(place, line, at_s)

    def _taker(self, place: tuple[str, int]) -> Callable[[str], None]:
        return lambda line: self._take(place, line)

    def _take(self, place: tuple[str, int], line: str, at_s: float | None = None) -> None:
        at = self.clock() if at_s is None else at_s
        for name, channel in list(self._channels.items()):
            if (channel.definition.url, channel.definition.baud) == place:
                self._measure(name, channel, line, at)

    def _measure(self, name: str, channel: Channel, line: str, at: float) -> None:
        samples = lines.parse(channel.definition.pattern, line)
        if not samples:
            channel.unread = line
            self.version += 1
            return
        found = [value for each in samples if (value := channel.definition.measured(each)) is not None]
        channel.unread = ""
        if not found:
            channel.others += 1
            return
        channel.others = 0
        at_index = any(each.channel == lines.INDEX and each.value == 1 for each in samples)
        value = _by_index(channel, found[0], at_index) if channel.definition.kind == "angle" else found[0]
        definition, last = channel.definition, channel.last
        figure = Point(at, value, line)
        if all(_jumped(definition.kind, before, figure) for before in (last, channel.held_back or last)):
            channel.held_back, channel.jumps = figure, min(2 * JUMPY, channel.jumps + 2)
            self.version += 1
            return
        channel.held_back, channel.jumps = None, max(0, channel.jumps - 1)
        point = replace(figure, value=_smoothed(channel, figure.value))
        with self._points:
            if last is not None and at - last.at_s < 1 / MAX_HZ and len(channel.points) > 1:
                channel.points.pop()
            channel.points.append(point)
        self.version += 1
        for sink in self._sinks:
            try:
                sink(name, point)
            except Exception as error:
                # Whoever listens does not end the line.
                faults.note(error, f"what {name} shows")

    def live(self) -> tuple[Live, ...]:
        """Every instrument as it stands this moment, by name."""
        now = self.clock()
        with self._points:
            recent = {name: _recent(channel, now) for name, channel in self._channels.items()}
        return tuple(
            _live(name, channel, recent[name], now)
            for name, channel in sorted(self._channels.items())
            if name in recent
        )

    def points_since(self, name: str, at_s: float) -> list[Point]:
        """Points of an instrument since a moment, oldest first."""
        channel = self._channels.get(name)
        with self._points:
            return [] if channel is None else [each for each in channel.points if each.at_s >= at_s]

    @property
    def names(self) -> Iterable[str]:
        return tuple(self._channels)

    def definitions(self, names: Iterable[str]) -> tuple[Definition, ...]:
        """Instruments of these names; empty where one of them is not there."""
        found = [self._channels[name].definition for name in names if name in self._channels]
        return tuple(found) if len(found) == len(tuple(names)) else ()


def _recent(channel: Channel, now: float) -> list[Point]:
    """The newest points, back to the first that came before it could have been still so long."""
    found: list[Point] = []
    for point in reversed(channel.points):
        found.append(point)
        if point.at_s < now - STILL_S:
            break
    return found


def _live(name: str, channel: Channel, recent: list[Point], now: float) -> Live:
    definition, last = channel.definition, channel.last
    state, words = _state(channel, now)
    fresh = last is not None and state == "live"
    return Live(
        name,
        definition.kind,
        UNIT_OF[{"length": "mm", "angle": "deg", "temperature": "C", "torque": "N m"}[definition.kind]],
        state,
        words,
        _shown(channel) if fresh else None,
        last.raw if last is not None and fresh else "",
        fresh and is_still(recent, definition.band, now),
        len(channel.points) if last is None else round(1000 * last.at_s),
        _note(channel, now) if fresh else "",
    )


def _shown(channel: Channel) -> float:
    """The figure that counts: the newest, or of a pull its peak."""
    return _peak(channel.points) if channel.definition.kind == "torque" else channel.points[-1].value


def _peak(points: "deque[Point]") -> float:
    """The greatest torque of the newest pull: it stays after the wrench is let go of, until the next pull begins."""
    peak, risen = 0.0, False
    for point in points:
        if risen and point.value < RELEASED * peak:
            risen = False
        elif not risen and point.value > RELEASED * peak:
            peak, risen = point.value, True
        elif risen:
            peak = max(peak, point.value)
    return peak


def _note(channel: Channel, now: float) -> str:
    """What is to be known beside its figure."""
    link = channel.link.state
    away = link.opened > 1 and now - link.opened_s < AWAY_S
    if not away or channel.definition.kind != "angle":
        return ""
    if channel.indexed == link.opened:
        return say("note-index-found")
    return say("note-turn-past-index") if channel.index_deg is not None else say("note-was-away")


def _by_index(channel: Channel, shown_deg: float, at_index: bool) -> float:
    """An encoder's angle with what it lost since its index was passed put back; passed again, it is known anew."""
    if at_index:
        if channel.index_deg is None:
            typed = channel.definition.index_deg
            channel.index_deg = shown_deg if typed is None else float(typed)
        lost = (channel.index_deg - shown_deg + 180) % 360 - 180
        if abs((lost - channel.lost_deg + 180) % 360 - 180) > channel.definition.doubt:
            channel.lost_deg = lost
            # What follows is no jump: the angle was wrong before.
            channel.points.clear()
            channel.held_back = None
        channel.indexed = channel.link.state.opened
    return shown_deg + channel.lost_deg


def _jumped(kind: str, before: Point | None, figure: Point) -> bool:
    """Whether a figure is further from the one before it than a hand could have moved in that time."""
    if before is None:
        return False
    apart = abs(figure.value - before.value)
    if kind == "angle":
        apart = abs((figure.value - before.value + 180) % 360 - 180)
    return apart > FASTEST[kind] * max(LEAST_GAP_S, figure.at_s - before.at_s)


def _smoothed(channel: Channel, value: float) -> float:
    """The middle one of its last figures, where it is smoothed; an angle about its newest, so that a turn's end is no step."""
    count, turns = int(channel.definition.smoothing or 1), channel.definition.kind == "angle"
    if count == 1:
        return value
    if turns and channel.newest:
        value = channel.newest[-1] + (value - channel.newest[-1] + 180) % 360 - 180
    channel.newest.append(value)
    middle = float(median(list(channel.newest)[-count:]))
    return middle % 360 if turns else middle


def _state(channel: Channel, now: float) -> tuple[str, str]:
    link, last = channel.link.state, channel.last
    if not link.open and (last is None or now - last.at_s > SILENT_S):
        state = "not-there" if link.last_s else "connecting"
        return state, say(f"state-{state}")
    if link.babbling:
        return "babbling", say("state-babbling")
    if channel.jumps >= JUMPY:
        return "jumping", say("state-jumping")
    if channel.unread:
        return "unread", say("state-unread", line=channel.unread[:24])
    heard = max(last.at_s if last is not None else 0.0, link.last_s if last is None else 0.0)
    if now - heard > SILENT_S:
        return "silent", say("state-silent", s=now - heard)
    if last is None:
        return (
            ("of-another-kind", say("state-of-another-kind"))
            if channel.others
            else ("connecting", say("state-connecting"))
        )
    return "live", say("state-live")


def is_still(points: Iterable[Point], band: float, now: float) -> bool:
    """Whether an instrument has kept within a band for long enough, and still does.

    Examples
    --------
    >>> is_still([Point(k / 10, 1.0, "") for k in range(10)], 0.01, 0.95)
    True
    """
    recent = [each for each in points if each.at_s >= now - STILL_S]
    began = [each for each in points if each.at_s < now - STILL_S]
    if len(recent) < 3 or not began:
        return False
    values = [each.value for each in recent]
    return max(values) - min(values) <= band
