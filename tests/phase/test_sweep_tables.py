"""Sweeps out of files as gauges, spreadsheets and people write them."""

import pytest

from tests.hands import a_job
from uranograph.bench import tables
from uranograph.bench.tables import NotSure
from uranograph.core.errors import InvalidInput
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.phase import finding, sweep_points, sweep_tables, sweeps
from uranograph.shop import jobs, loading
from uranograph.shop.database import Shop

LOBES = {
    "intake": CosineLobe(centerline_deg=110, duration_deg=244, check_lift_mm=1.0, max_lift_mm=8.5),
    "exhaust": CosineLobe(centerline_deg=-114, duration_deg=248, check_lift_mm=1.0, max_lift_mm=8.5),
}


def rows(
    lobe: str = "intake",
    angles: range = range(-60, 281, 5),
    turn: float = 1.0,
    zero: float = 0.0,
    wrapped: bool = False,
    mm: float = 1.0,
) -> list[tuple[float, float]]:
    """Angle as a file shows it, and lift, of a lobe."""
    shown = [((a - zero) % 720 if wrapped else a - zero) / turn for a in angles]
    return [(at, round(lift_at(LOBES[lobe], a) / mm, 5)) for at, a in zip(shown, angles, strict=True)]


def written(points: list[tuple[float, float]], head: str, mark: str = ",", comma: bool = False) -> str:
    lines = [
        f"{a:g}{mark}{lift:.5f}" if not comma else f"{a:g}{mark}{lift:.5f}".replace(".", ",") for a, lift in points
    ]
    return "\n".join([head, *lines])


def centerline(text: str, lobe: str = "intake", **stated: str) -> float:
    points, unit, _ = sweep_tables.points_of(text, lobe, stated)
    top = max(lift for _, lift in points)
    assert top * sweep_tables.UNIT_MM[unit] == pytest.approx(8.5, abs=0.02)
    assert [a for a, _ in points] == sorted(a for a, _ in points)
    high = [(a, lift) for a, lift in points if lift > top / 2]
    return (high[0][0] + high[-1][0]) / 2


AS_THEY_COME = {
    "semicolons and decimal commas": written(rows(), "Crank angle;Lift mm", ";", comma=True),
    "tabs and decimal commas": written(rows(), "angle\tlift (mm)", "\t", comma=True),
    "blanks between": written(rows(), "angle lift_mm", "   "),
    "a title and a line of units": written(rows(), "Run 3 of the cam\nangle,lift\ndeg,mm"),
    "blank rows": written(rows(), "angle,lift_mm").replace("\n", "\n\n"),
    "remarks after": written(rows(), "angle,lift_mm") + "\nend of run\n",
    "falling": written(rows()[::-1], "angle,lift_mm"),
    "swapped": "\n".join(["lift_mm,angle", *(f"{lift},{a}" for a, lift in rows())]),
    "more columns": "\n".join(
        ["no,angle,lift mm,temperature", *(f"{n},{a},{lift},{20 + n % 3}" for n, (a, lift) in enumerate(rows()))]
    ),
    "0 to 719": written(rows(angles=range(0, 720, 5), wrapped=True), "angle,lift_mm"),
    "both ends of the cycle": written(
        [*rows(angles=range(0, 720, 5), wrapped=True), (720.0, rows(angles=range(1))[0][1])], "angle,lift_mm"
    ),
    "a count of lines and a turn that ends": "\n".join(
        ["line;crank angle;lift mm", *(f"{n};{a % 720};{lift}" for n, (a, lift) in enumerate(rows()))]
    ),
    "cam degrees": written(rows(turn=2.0), "cam angle,lift_mm"),
    "inches": written(rows(mm=25.4), "angle,lift (in)"),
    "thousandths": written(rows(mm=0.0254), "angle,lift thou"),
}


@pytest.mark.parametrize("text", AS_THEY_COME.values(), ids=AS_THEY_COME.keys())
def test_a_file_as_it_comes_is_understood(text: str) -> None:
    assert centerline(text) == pytest.approx(110, abs=2.6)


@pytest.mark.parametrize("coding", ["utf-8-sig", "utf-16", "utf-16-le", "utf-16-be", "cp1252"])
def test_whichever_program_wrote_it(coding: str) -> None:
    text = written(rows(), "Winkel ° (deg);Lift mm", ";", comma=True)
    assert tables.decoded(text.encode(coding)) == text
    assert centerline(tables.decoded(text.encode(coding))) == pytest.approx(110, abs=2.6)


def test_what_is_no_text_is_refused() -> None:
    with pytest.raises(InvalidInput) as refused:
        tables.decoded(bytes(range(256)) * 20)
    assert refused.value.code == "file-not-text"


UNCLEAR = {
    "no titles": ("\n".join(f"{a},{lift}" for a, lift in rows()), {}),
    "no unit": (written(rows(), "angle,lift"), {}),
    "from the firing top": (
        written(rows(angles=range(0, 720, 5), zero=360, wrapped=True), "angle,lift_mm"),
        {"zero": "firing"},
    ),
    "cam degrees that say nothing": (written(rows(turn=2.0), "angle,lift_mm"), {"turn": "cam"}),
    "cam degrees across the end of a turn": (
        "\n".join(f"{a % 360:g};{lift}" for a, lift in rows(turn=2.0)),
        {"turn": "cam", "angle": 0},
    ),
    "two lifts": (
        "\n".join(["angle,lift A mm,lift B mm", *(f"{a},{lift},{lift / 2}" for a, lift in rows())]),
        {"lift": 1},
    ),
}


@pytest.mark.parametrize(("text", "likely"), UNCLEAR.values(), ids=UNCLEAR.keys())
def test_what_is_not_sure_is_asked_with_the_likeliest_chosen(text: str, likely: dict[str, str]) -> None:
    with pytest.raises(NotSure) as asked:
        sweep_tables.points_of(text, "intake", {})
    layout = asked.value.shown["table_likely"]
    assert {name: getattr(layout, name) for name in likely} == likely
    with pytest.raises(NotSure) as drawn:
        sweep_tables.points_of(text, "intake", {"angle_column": "0", "lift_column": "1", "look": "1"})
    assert drawn.value.error is None
    stated = {
        "angle_column": str(layout.angle),
        "lift_column": str(layout.lift),
        "lift_unit": layout.unit,
        "turn": layout.turn,
        "zero": layout.zero,
    }
    assert centerline(asked.value.text, **stated) == pytest.approx(110, abs=2.6)


def test_an_exhaust_lobe_is_looked_for_before_the_top() -> None:
    assert centerline(written(rows("exhaust", range(-290, 61, 5)), "angle,lift_mm"), "exhaust") == pytest.approx(
        -114, abs=2.6
    )
    with pytest.raises(NotSure):
        sweep_tables.points_of(written(rows("exhaust", range(-290, 61, 5)), "angle,lift_mm"), "intake", {})


@pytest.mark.parametrize(
    ("stated", "code"),
    [
        ({"angle_column": "9", "lift_column": "1"}, "no-such-column"),
        ({"angle_column": "0", "lift_column": "x"}, "no-such-column"),
        ({"angle_column": "1", "lift_column": "1"}, "same-column"),
    ],
)
def test_a_column_that_cannot_be_is_asked_for_again(stated: dict[str, str], code: str) -> None:
    with pytest.raises(NotSure) as asked:
        sweep_tables.points_of(written(rows(), "angle,lift"), "intake", stated)
    assert asked.value.error.code == code
    assert asked.value.error.field in stated


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("", "table-without-figures"),
        ("only words\nand more", "table-without-figures"),
        ("1,2\n" * 120_001, "table-too-long"),
    ],
)
def test_what_nobody_could_read_is_refused(text: str, code: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        sweep_tables.points_of(text, "intake", {})
    assert refused.value.code == code


def test_an_angle_that_is_there_twice_with_another_lift_is_named() -> None:
    text = written([*rows(), (-60.0, 3.0)], "angle,lift_mm")
    with pytest.raises(NotSure) as asked:
        sweep_tables.points_of(text, "intake", {"angle_column": "0", "lift_column": "1", "lift_unit": "mm"})
    error = asked.value.error
    assert (error.code, error.values["number"], error.values["seen"]) == ("sweep-line-again", 71, 2)


def test_a_slip_among_the_lines_is_named_and_not_passed_over() -> None:
    lines = written(rows(), "Crank angle;Lift mm", ";").splitlines()
    lines[20] = lines[20].replace(";", ";x")
    with pytest.raises(InvalidInput, match=r"sweep-line-figures .*number=21"):
        sweep_tables.points_of("\n".join(lines), "intake", {})


def test_a_hundred_thousand_points_are_thinned_with_a_word(shop: Shop) -> None:
    many = [(-60 + k * 0.0034, lift_at(LOBES["intake"], -60 + k * 0.0034)) for k in range(100_000)]
    text = "\n".join(["angle;lift mm", *(f"{a:.4f};{lift:.5f}" for a, lift in many)])
    entries = sweeps.read_any(text, "intake", 1, {})
    assert len(entries) == sweep_tables.MAX_POINTS
    with shop.write() as session:
        key = a_job(session)
        jobs.record_all(session, key, entries, "QZ")
        job = loading.load(session, key)
    assert sweep_points.swept(job, "intake").found.centerline_events_deg == pytest.approx(110, abs=0.1)
    assert any("100000 points: 1440 of them are kept" in note for note in finding.find(job).notes)
