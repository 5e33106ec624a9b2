"""An instrument as the shop describes it: where it is, what its lines mean, its zero, direction, scale and last check."""

import math
import re
from collections.abc import Iterable
from urllib.parse import urlsplit

from uranograph.bench.fields import Angle, Choice, Count, Custom, Fields, Text
from uranograph.core.errors import InvalidInput
from uranograph.instruments import lines
from uranograph.instruments.messages import say

KINDS = {
    "length": "dial, caliper or depth gauge",
    "angle": "encoder on the crank or cam",
    "temperature": "thermometer",
    "torque": "torque wrench",
}
BASE = {"length": "mm", "angle": "deg", "temperature": "C", "torque": "N m"}
UNIT_OF = {"mm": "mm", "in": "in", "deg": "deg", "C": "°C", "F": "°F", "N m": "N m", "ftlb": "ft lb"}
SCHEMES = ("socket", "rfc2217")
_PORT = re.compile(r"/dev/(tty|cu\.)[A-Za-z0-9._-]{1,40}|(?i:COM)[0-9]{1,3}")
_MADE_UP = re.compile(r"world:[0-9]{1,6}|bridge:[A-Za-z0-9_-]{1,24}")
MAX_URL = 120
# An instrument is still where it stays within this for a while, in its base unit.
STILL = {"length": 0.004, "angle": 0.06, "temperature": 0.6, "torque": 0.3}
# Expanded uncertainty (k = 2) of one figure unless its own is given, in its base unit: one step of what is common.
UNCERTAINTY = {"length": 0.005, "angle": 0.1, "temperature": 2.0, "torque": 2.0}
MAX_UNCERTAINTY, MAX_ZERO = 100.0, 10_000.0


def checked_url(text: str) -> str:
    """Where an instrument is: a serial port, `socket://HOST:PORT`, `bridge:NAME`, or `world:SEED` for a made-up engine.

    Raises
    ------
    InvalidInput
        When it is neither.

    Examples
    --------
    >>> checked_url("socket://127.0.0.1:7000"), checked_url("/dev/ttyUSB0"), checked_url("COM3")
    ('socket://127.0.0.1:7000', '/dev/ttyUSB0', 'COM3')
    """
    text = text.strip()
    if 0 < len(text) <= MAX_URL and (_is_port(text) or _is_line(text) or _MADE_UP.fullmatch(text)):
        return text
    raise InvalidInput("url", "no-instrument-address", typed=text[:40])


def _is_port(text: str) -> bool:
    """Whether it names a serial port, and no other file."""
    return bool(_PORT.fullmatch(text))


def _is_line(text: str) -> bool:
    """Whether it is an address of a line over the network."""
    try:
        parts = urlsplit(text)
        return parts.scheme in SCHEMES and bool(parts.hostname) and bool(parts.port)
    except ValueError:
        return False


def checked_scale(text: str) -> float:
    """How much one step of the line is, of its unit.

    Raises
    ------
    InvalidInput
        When it is no number, or nothing.
    """
    try:
        value = float(text.replace(",", "."))
    except ValueError as error:
        raise InvalidInput("scale", "no-scale", typed=text[:20]) from error
    if not (math.isfinite(value) and 1e-9 < abs(value) < 1e9):
        raise InvalidInput("scale", "no-scale", typed=text[:20])
    return value


def checked_zero(text: str) -> float:
    """What the instrument shows where it counts as zero, in its base unit.

    Raises
    ------
    InvalidInput
        When it is no number.
    """
    try:
        value = float(text.replace(",", "."))
    except ValueError as error:
        raise InvalidInput("zero", "no-zero", typed=text[:20]) from error
    if not abs(value) <= MAX_ZERO:
        raise InvalidInput("zero", "no-zero", typed=text[:20])
    return value


def checked_uncertainty(text: str) -> float:
    """How far off a figure of the instrument can be, in its base unit.

    Raises
    ------
    InvalidInput
        When it is no number above 0.
    """
    try:
        value = float(text.removeprefix("±").replace(",", "."))
    except ValueError as error:
        raise InvalidInput("uncertainty", "no-uncertainty", typed=text[:20]) from error
    if not 0 < value <= MAX_UNCERTAINTY:
        raise InvalidInput("uncertainty", "no-uncertainty", typed=text[:20])
    return value


def checked_pattern(text: str) -> str:
    """Name of a shipped pattern, or a pattern that can be read by.

    Raises
    ------
    InvalidInput
        When it has no figure.
    """
    text = text.strip()
    if text not in lines.PATTERNS:
        lines.compiled(text)
    return text


class Definition(Fields):
    """One instrument of the shop.

    Examples
    --------
    >>> typed = {"name": "D1", "kind": "length", "url": "/dev/ttyUSB0", "pattern": "number", "line_unit": "mm"}
    >>> Definition.read(typed).value.measured(lines.Sample("", 1.5)), Definition.read({**typed, "url": "ftp://x"}).value
    (1.5, None)
    """

    name = Text("name", "Name", "D1, E1 ...", longest=14, required=say("instrument-name-missing"))
    kind = Choice("kind", "It is a", KINDS.items(), unknown=say("instrument-kind-missing"))
    url = Custom(
        "url",
        "Where it is",
        "/dev/ttyUSB0, COM3, socket://host:port, world:7",
        reads=checked_url,
        required=say("instrument-url-missing"),
    )
    baud = Count("baud", "Speed of the line", "baud", least=300, most=921_600, counted="baud cannot be", default=9600)
    pattern = Custom(
        "pattern",
        "Its lines",
        "number, channels, angle-count, counts, counts-index, or your own",
        reads=checked_pattern,
        required=say("instrument-pattern-missing"),
    )
    channel = Text("channel", "Channel", "its name on the line, where there are several", longest=16)
    line_unit = Choice("line_unit", "Unit of the line", UNIT_OF.items(), unknown=say("instrument-unit-missing"))
    direction = Choice(
        "direction", "Direction", (("1", "as read"), ("-1", "the other way")), unknown=say("instrument-kind-missing")
    )
    scale = Custom("scale", "Scale", "1 unless the line is in other steps", reads=checked_scale, default=1.0)
    zero = Custom("zero", "Zero at", "what it shows where it counts as 0", reads=checked_zero, default=0.0)
    counts = Count(
        "counts",
        "Counts a turn",
        "of an encoder whose lines are counts",
        least=1,
        most=10_000_000,
        counted="counts cannot be",
    ).optional()
    index_deg = Angle(
        "index_at",
        "Its index is at",
        "deg that it shows at its index pulse; found by itself if empty",
        least=-360,
        most=360,
    ).optional()
    on_cam = Choice(
        "on_cam", "It turns with the", (("", "crank"), ("yes", "cam")), unknown=say("instrument-kind-missing")
    )
    uncertainty = Custom(
        "uncertainty",
        "Uncertainty ±",
        "of one figure, k = 2: mm, deg, °C or N m; as usual for its kind if empty",
        reads=checked_uncertainty,
    ).optional()
    smoothing = Count(
        "smoothing",
        "Smoothing",
        "lines, of which the middle figure counts",
        least=1,
        most=15,
        counted="lines cannot be",
        default=1,
    )
    checked = Text("checked", "Last checked", "2026-03-01", longest=10)

    def check(self) -> Iterable[tuple[str, str]]:
        base = lines.in_base(0.0, self.texts["line_unit"] or "")[1]
        if base != BASE[str(self.values["kind"])] and not self.values["counts"]:
            yield "line_unit", say("instrument-unit-unfit")

    @property
    def doubt(self) -> float:
        """Expanded uncertainty of one figure, in the base unit."""
        return float(self.uncertainty or UNCERTAINTY[self.kind])

    @property
    def band(self) -> float:
        """Within which it counts as still, in the base unit: as usual for its kind, and no less than it flickers by."""
        return max(STILL[self.kind], 1.05 * self.doubt)

    def measured(self, sample: lines.Sample) -> float | None:
        """What a sample of this instrument's channel comes to, in its base unit; None where the sample is of something else."""
        if self.channel and sample.channel != self.channel:
            return None
        if self.counts:
            value = 360.0 * sample.value / self.counts
        else:
            value, base = lines.in_base(sample.value, sample.unit or self.line_unit)
            if base != BASE[self.kind]:
                return None
        turned = value * self.scale * float(self.direction) * (2.0 if self.on_cam and self.kind == "angle" else 1.0)
        return turned - self.zero
