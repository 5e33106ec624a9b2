import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.core.angles import signed
from uranograph.core.errors import InvalidInput
from uranograph.core.wheel import SIDES, End, Scale, Side, Turn, Wheel, WheelReading, as_read, wheel_angle

wheels = st.builds(
    Wheel,
    scale=st.sampled_from(Scale),
    mount=st.sampled_from(End),
    numbers_rise=st.sampled_from(Turn),
    rotation=st.sampled_from(Turn),
)
angles = st.floats(-180, 180, exclude_min=True, allow_nan=False).map(lambda a: round(a, 6))


def reading(wheel: Wheel, value: float, side: Side | None = None) -> float:
    return wheel_angle(WheelReading(**wheel.model_dump(), reading_deg=value, side=side)).angle_deg


@given(wheels, angles)
def test_an_angle_read_off_any_wheel_and_typed_back_is_the_same_angle(wheel: Wheel, angle: float) -> None:
    value, side = as_read(wheel, angle)
    assert reading(wheel, value, side) == pytest.approx(signed(angle), abs=1e-9)


@given(wheels, st.data())
def test_a_reading_typed_and_read_again_is_the_same_reading(wheel: Wheel, data: st.DataObject) -> None:
    top = {Scale.FULL: 359, Scale.HALF: 179, Scale.QUARTER: 89}[wheel.scale]
    value = float(data.draw(st.integers(1, top)))
    side = data.draw(st.sampled_from(SIDES[wheel.scale])) if SIDES[wheel.scale] else None
    assert as_read(wheel, reading(wheel, value, side)) == (pytest.approx(value), side)


@pytest.mark.parametrize(
    ("mount", "rise", "rotation", "angle"),
    [
        # Clockwise turning carries to the pointer what stood counterclockwise of it.
        ("front", "counterclockwise", "clockwise", 41),
        ("front", "clockwise", "clockwise", -41),
        ("rear", "clockwise", "clockwise", 41),
        ("rear", "counterclockwise", "clockwise", -41),
        ("front", "clockwise", "counterclockwise", 41),
        ("rear", "counterclockwise", "counterclockwise", 41),
    ],
)
def test_a_full_circle_wheel_counts_by_end_and_direction(mount: str, rise: str, rotation: str, angle: float) -> None:
    wheel = Wheel(scale="full", mount=mount, numbers_rise=rise, rotation=rotation)
    assert reading(wheel, 41) == angle
    assert reading(wheel, 319) == -angle


@pytest.mark.parametrize(("side", "angle"), [("btdc", -21), ("atdc", 21), ("bbdc", 159), ("abdc", -159)])
def test_the_four_sides_of_a_quarter_wheel(side: str, angle: float) -> None:
    assert reading(Wheel(scale="quarter"), 21, Side(side)) == angle


@pytest.mark.parametrize(
    ("scale", "value", "side", "field"),
    [
        ("quarter", 91, "btdc", "reading_deg"),
        ("half", 181, "atdc", "reading_deg"),
        ("half", -1, "atdc", "reading_deg"),
        ("full", 361, None, "reading_deg"),
        ("quarter", 12, None, "side"),
        ("half", 12, "bbdc", "side"),
        ("full", 12, None, "numbers_rise"),
    ],
)
def test_what_a_wheel_cannot_show_is_refused(scale: str, value: float, side: str | None, field: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        reading(Wheel(scale=scale), value, Side(side) if side else None)
    assert caught.value.field == field


def test_the_middle_of_bottom_dead_center_is_one_place() -> None:
    assert reading(Wheel(scale="quarter"), 0, Side.ABDC) == reading(Wheel(scale="quarter"), 0, Side.BBDC) == 180
