"""An instrument as it is typed."""

import pytest

from uranograph.instruments.definition import Definition, checked_url
from uranograph.instruments.lines import Sample

DIAL = {"name": "D1", "kind": "length", "url": "socket://bench:7000", "pattern": "number", "line_unit": "mm"}


def read(**typed: str) -> Definition:
    filled = Definition.read(DIAL | typed)
    assert filled.value is not None, filled.errors
    return filled.value


@pytest.mark.parametrize(
    "url",
    [
        "/dev/ttyUSB0",
        "/dev/cu.usbserial-1",
        "COM12",
        "socket://10.0.0.5:7000",
        "rfc2217://bench:2217",
        "bridge:B1",
        "world:7",
    ],
)
def test_an_address_of_an_instrument_is_taken(url: str) -> None:
    assert checked_url(f" {url} ") == url


@pytest.mark.parametrize(
    "url",
    [
        "",
        "/etc/passwd",
        "/dev/sda",
        "/dev/ttyUSB0/../sda",
        "file:///etc/passwd",
        "http://bench:80",
        "loop://",
        "spy:///dev/ttyS0",
        "alt://x",
        "socket://bench",
        "socket://:7000",
        "socket://bench:99999",
        "world:",
        "x" * 200,
    ],
)
def test_nothing_else_is_opened(url: str) -> None:
    assert "url" in Definition.read(DIAL | {"url": url}).errors


def test_direction_scale_zero_and_unit_count() -> None:
    inches = read(line_unit="in", direction="-1", zero="0.5")
    assert inches.measured(Sample("", 0.05)) == pytest.approx(-1.27 - 0.5)
    assert read(scale="0.001").measured(Sample("", 1270.0)) == pytest.approx(1.27)
    # The line's own unit counts before the one that was chosen.
    assert read().measured(Sample("", 0.05, "in")) == pytest.approx(1.27)
    assert read().measured(Sample("", 20.0, "C")) is None


def test_an_encoder_of_counts_and_one_on_the_cam() -> None:
    crank = read(kind="angle", pattern="counts", line_unit="deg", counts="3600")
    assert crank.measured(Sample("count", 905.0)) == pytest.approx(90.5)
    cam = read(kind="angle", pattern="angle-count", line_unit="deg", on_cam="yes", channel="angle")
    assert cam.measured(Sample("angle", 45.0, "deg")) == pytest.approx(90.0)
    assert cam.measured(Sample("count", 3.0)) is None


@pytest.mark.parametrize(
    ("field", "text"),
    [
        ("name", ""),
        ("kind", "smell"),
        ("pattern", "nothing"),
        ("line_unit", "deg"),
        ("scale", "0"),
        ("scale", "x"),
        ("uncertainty", "0"),
        ("uncertainty", "nan"),
        ("zero", "inf"),
        ("baud", "12"),
        ("counts", "0"),
        ("smoothing", "99"),
    ],
)
def test_what_cannot_be_is_refused_at_its_field(field: str, text: str) -> None:
    filled = Definition.read(DIAL | {field: text})
    assert filled.value is None
    assert list(filled.errors) == [field]


def test_an_uncertainty_of_its_own_counts_before_the_usual_one() -> None:
    assert read().doubt == 0.005
    assert read(uncertainty="±0,002").doubt == 0.002
