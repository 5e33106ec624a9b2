"""What lines say, by the patterns that ship and by others."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.core.errors import InvalidInput
from uranograph.instruments import lines
from uranograph.instruments.lines import Sample, in_base, parse


@pytest.mark.parametrize(
    ("pattern", "line", "expected"),
    [
        ("number", "+0001.270 mm", (Sample("", 1.27, "mm"),)),
        ("number", "-.05in", (Sample("", -0.05, "in"),)),
        ("number", "0,0500 in", (Sample("", 0.05, "in"),)),
        ("number", "21.5 °C", (Sample("", 21.5, "°C"),)),
        ("number", "80", (Sample("", 80.0, ""),)),
        ("number", "1.2e-2 mm", (Sample("", 0.012, "mm"),)),
        ("angle-count", "123.45;17", (Sample("angle", 123.45, "deg"), Sample("count", 17.0))),
        ("counts", "1843", (Sample("count", 1843.0),)),
        ("channels", "angle=12.5 deg; dial=-0,04 mm", (Sample("angle", 12.5, "deg"), Sample("dial", -0.04, "mm"))),
        ("{any}:{value}{unit}", "01A:+3.21mm", (Sample("", 3.21, "mm"),)),
        ("D{value};T{any}", "D1.5;T20", (Sample("", 1.5),)),
    ],
)
def test_lines_in_general_use_are_read(pattern: str, line: str, expected: tuple[Sample, ...]) -> None:
    assert parse(pattern, line) == expected


@pytest.mark.parametrize(
    "line",
    [
        "",
        "nan mm",
        "inf mm",
        "1.2.3 mm",
        "1.27 parsecs",
        "mm 1.27",
        "+-1 mm",
        "1e999 mm",
        "ÿÿ",
        "1.27 mm 1.28 mm",
        "0x1F mm",
        "1" * 400,
    ],
)
def test_what_is_no_figure_is_none(line: str) -> None:
    assert parse("number", line) == ()


def test_one_bad_part_spoils_a_line_of_several() -> None:
    assert parse("channels", "angle=12.5 deg; dial=nan mm") == ()
    assert parse("channels", "angle=12.5 deg; di") == ()


@pytest.mark.parametrize("pattern", ["", "mm", "{unit}", "{value}{value}", "{nothing}{value}", "{value}" + "x" * 90])
def test_a_pattern_without_a_figure_is_refused(pattern: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        lines.compiled(pattern)
    assert refused.value.field == "pattern"


@given(st.text(max_size=60), st.sampled_from(sorted(lines.PATTERNS)))
def test_nothing_that_comes_breaks_it_and_what_is_read_is_finite(line: str, pattern: str) -> None:
    for sample in parse(pattern, line):
        assert abs(sample.value) < float("inf")


@given(st.floats(-999, 999), st.sampled_from(["mm", "in", "deg", "C", ""]))
def test_what_is_written_is_read_back(value: float, unit: str) -> None:
    (sample,) = parse("number", f"{value:+.4f} {unit}")
    assert sample.value == pytest.approx(value, abs=1e-4)
    assert sample.unit == unit


def test_lengths_and_temperatures_come_to_one_unit() -> None:
    assert in_base(0.05, "in") == (pytest.approx(1.27), "mm")
    assert in_base(32.0, "F") == (0.0, "C")
    assert in_base(1.0, "ftlb") == (pytest.approx(1.3558, abs=1e-4), "N m")
    assert in_base(3.0, "furlong") == (3.0, "furlong")
