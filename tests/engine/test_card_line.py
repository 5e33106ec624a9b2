"""A card's line as it is printed, taken apart."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.engine import card
from uranograph.engine.printed_card import parse_printed

FOUR = {"io_btdc_deg": "12", "ic_abdc_deg": "44", "eo_bbdc_deg": "52", "ec_atdc_deg": "4"}


@pytest.mark.parametrize(
    ("line", "fields"),
    [
        ("IO 12 IC 44 EO 52 EC 4 @ .050", FOUR | {"check_lift": ".050"}),
        ("IVO 12 BTDC, IVC 44 ABDC, EVO 52 BBDC, EVC 4 ATDC at 1.0mm", FOUR | {"check_lift": "1.0mm"}),
        ("I.O. 12° I.C. 44° E.O. 52° E.C. 4°", FOUR),
        ("Intake opens 12 closes 44; exhaust opens 52 closes 4", FOUR),
        ("IO 12\nIC 44\nEO 52\nEC 4\nlift 9.8/9.6 mm", FOUR | {"intake_max_lift": "9.8", "exhaust_max_lift": "9.6 mm"}),
        (
            "IO 6 ATDC IC 40 ABDC EO 40 BBDC EC 8 BTDC",
            {"io_btdc_deg": "-6", "ic_abdc_deg": "40", "eo_bbdc_deg": "40", "ec_atdc_deg": "-8"},
        ),
        ("int opens 8 BTDC, int closes 38 ABDC", {"io_btdc_deg": "8", "ic_abdc_deg": "38"}),
        ("12 BTDC intake opens 44 ABDC intake closes", {"io_btdc_deg": "12", "ic_abdc_deg": "44"}),
        ("12 IO 44 IC 52 EO 4 EC @ .050", FOUR | {"check_lift": ".050"}),
        ("12 44 52 4", FOUR),
        ("12/44/52/4 @ 1.0mm", FOUR | {"check_lift": "1.0mm"}),
        ("-6, 40, 40, -8", {"io_btdc_deg": "-6", "ic_abdc_deg": "40", "eo_bbdc_deg": "40", "ec_atdc_deg": "-8"}),
        ("110 LSA 106 ICL", {"lobe_separation_cam_deg": "110", "intake_centerline_deg": "106"}),
        ("LSA 110 ICL 106", {"lobe_separation_cam_deg": "110", "intake_centerline_deg": "106"}),
        ("Exh. opening 52 exh closing 4", {"eo_bbdc_deg": "52", "ec_atdc_deg": "4"}),
        ("IO -6 IC 30", {"io_btdc_deg": "-6", "ic_abdc_deg": "30"}),
        (
            "228/236 LSA 110 +4",
            {
                "intake_duration_deg": "228",
                "exhaust_duration_deg": "236",
                "lobe_separation_cam_deg": "110",
                "advance_deg": "4",
            },
        ),
        (
            "226/234 111 LSA",
            {"intake_duration_deg": "226", "exhaust_duration_deg": "234", "lobe_separation_cam_deg": "111"},
        ),
        ("LSA 110 straight up", {"lobe_separation_cam_deg": "110", "advance_deg": "0"}),
        ("LSA 110 2 ret", {"lobe_separation_cam_deg": "110", "advance_deg": "-2"}),
        ("LSA 110 -2", {"lobe_separation_cam_deg": "110", "advance_deg": "-2"}),
        ("ICL 106 ECL 114", {"intake_centerline_deg": "106", "exhaust_centerline_deg": "114"}),
        (
            "duration 240 lift .480 in",
            {
                "intake_duration_deg": "240",
                "exhaust_duration_deg": "240",
                "intake_max_lift": ".480 in",
                "exhaust_max_lift": ".480 in",
            },
        ),
    ],
)
def test_a_line_is_taken_apart(line: str, fields: dict[str, str]) -> None:
    assert dict(parse_printed(line)) == fields


@pytest.mark.parametrize(
    ("line", "code"),
    [
        ("foo 12", "card-line-left-over"),
        ("12 44 52", "card-line-left-over"),
        ("12 44 52 4 7", "card-line-left-over"),
        ("IO 12 IC 44 and 7 more", "card-line-left-over"),
        ("IO 12 IO 13", "card-line-twice"),
        ("grind no.", "card-line-empty"),
        ("x" * 601, "card-line-too-long"),
    ],
)
def test_what_is_not_understood_is_named_and_never_guessed(line: str, code: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        parse_printed(line)
    assert refused.value.code == code


@given(st.tuples(*[st.integers(-30, 90)] * 4))
def test_every_four_events_come_back_as_they_were_printed(events: tuple[int, ...]) -> None:
    line = " ".join(f"{kind} {deg}" for kind, deg in zip(("IO", "IC", "EO", "EC"), events, strict=True))
    assert tuple(int(text) for text in parse_printed(line).values()) == events


@given(st.text(max_size=80))
def test_whatever_is_pasted_is_taken_apart_or_refused(text: str) -> None:
    try:
        found = parse_printed(text)
    except InvalidInput:
        return
    assert found


def test_the_line_fills_the_card_and_a_field_of_its_own_stands_before_it() -> None:
    filled = card.read({"as_printed": "IO 12 IC 44 EO 52 EC 4 @ .050", "ec_atdc_deg": "6"}, LengthUnit.INCH)
    assert filled.errors == {}
    assert filled.value.events.io_btdc_deg == 12
    assert filled.value.events.ec_atdc_deg == 6
    assert filled.value.check_lift_mm == pytest.approx(1.27)
    assert "intake opens" in filled.value.understood.lower()


def test_a_line_that_is_not_understood_is_told_beside_it_and_kept_nowhere() -> None:
    filled = card.read({"as_printed": "IO twelve"}, LengthUnit.MM)
    assert "“IOtwelve”" in filled.errors["as_printed"]
    assert filled.value is None
