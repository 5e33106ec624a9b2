"""Degree wheels: from what the eye reads to a signed crank angle, and back."""

from enum import StrEnum

from pydantic import Field

from uranograph.core.angles import signed
from uranograph.core.errors import InvalidInput
from uranograph.core.models import Deg, Found, Input


class Scale(StrEnum):
    """How a wheel is numbered round its circle."""

    FULL = "full"
    HALF = "half"
    QUARTER = "quarter"


class End(StrEnum):
    """The end of the crankshaft that carries the wheel."""

    FRONT = "front"
    REAR = "rear"


class Turn(StrEnum):
    """A sense of rotation."""

    CLOCKWISE = "clockwise"
    COUNTERCLOCKWISE = "counterclockwise"

    @property
    def other(self) -> "Turn":
        return Turn.COUNTERCLOCKWISE if self is Turn.CLOCKWISE else Turn.CLOCKWISE


class Side(StrEnum):
    """Before or after which dead center a reading is."""

    BTDC = "btdc"
    ATDC = "atdc"
    BBDC = "bbdc"
    ABDC = "abdc"


SCALE_NAMES = {Scale.FULL: "0-360", Scale.HALF: "0-180-0", Scale.QUARTER: "0-90-0-90"}
SCALE_TOP = {Scale.FULL: 360.0, Scale.HALF: 180.0, Scale.QUARTER: 90.0}
SIDES: dict[Scale, tuple[Side, ...]] = {
    Scale.FULL: (),
    Scale.HALF: (Side.BTDC, Side.ATDC),
    Scale.QUARTER: (Side.BTDC, Side.ATDC, Side.BBDC, Side.ABDC),
}


class Wheel(Input):
    """A wheel as it is mounted. The last three say which way a 0-360 wheel counts; others do not need them."""

    scale: Scale
    mount: End | None = None
    numbers_rise: Turn | None = Field(None, description="Way the numbers rise as one faces the wheel.")
    rotation: Turn | None = Field(None, description="Running direction seen from the front.")

    def faced_rotation(self) -> Turn:
        """Running direction as one faces the wheel.

        Raises
        ------
        InvalidInput
            When the running direction or the end the wheel is on is not known.
        """
        if self.rotation is None:
            raise InvalidInput("rotation", "rotation-missing")
        if self.mount is None:
            raise InvalidInput("mount", "mount-missing")
        return self.rotation if self.mount is End.FRONT else self.rotation.other

    def counts_up(self) -> bool:
        """Whether the number under a fixed pointer grows as the crank turns forward.

        A wheel that turns clockwise carries to the pointer what stood counterclockwise of it, so the
        number grows only where numbers rise against the turning.

        Raises
        ------
        InvalidInput
            When the way the numbers rise, the end or the running direction is not known.
        """
        if self.numbers_rise is None:
            raise InvalidInput("numbers_rise", "numbers-rise-missing")
        return self.numbers_rise is not self.faced_rotation()


class WheelReading(Wheel):
    """A wheel and what the eye reads on it."""

    reading_deg: Deg
    side: Side | None = None


class WheelAngle(Found):
    """The crank angle of a wheel reading."""

    angle_deg: float = Field(description="Crank degrees from the wheel's TDC mark, (-180, 180], negative before.")


def wheel_angle(given: WheelReading) -> WheelAngle:
    """Turn what the eye reads on a wheel into a signed crank angle.

    Parameters
    ----------
    given
        The mounted wheel, the number read (degrees, never negative) and, on half and quarter scales, its side.

    Returns
    -------
    WheelAngle
        Crank degrees in (-180, 180], negative before TDC.

    Raises
    ------
    InvalidInput
        When the scale cannot show the number, or a side is missing or does not exist on this scale.

    Examples
    --------
    >>> wheel_angle(WheelReading(scale="quarter", reading_deg=21, side="abdc")).angle_deg
    -159.0

    References
    ----------
    docs/methods.md, "What the wheel shows".
    """
    return WheelAngle(angle_deg=as_signed(given, given.reading_deg, given.side))


def as_signed(wheel: Wheel, reading_deg: float, side: Side | None) -> float:
    """The crank angle a reading on a wheel stands for: `wheel_angle` for a wheel already at hand.

    Parameters
    ----------
    wheel
        The wheel as mounted.
    reading_deg, side
        What the eye reads, degrees, and on which side (None on a 0-360 wheel).

    Returns
    -------
    float
        Crank degrees in (-180, 180], negative before TDC.

    Raises
    ------
    InvalidInput
        When the scale cannot show the number, or a side is missing or does not exist on this scale.

    Examples
    --------
    >>> as_signed(Wheel(scale="half"), 41, Side.BTDC)
    -41.0
    """
    top = SCALE_TOP[wheel.scale]
    name = SCALE_NAMES[wheel.scale]
    if not 0 <= reading_deg <= top:
        raise InvalidInput("reading_deg", "not-on-wheel", reading_deg=reading_deg, scale=name, top_deg=top)
    if wheel.scale is Scale.FULL:
        return signed(reading_deg if wheel.counts_up() else -reading_deg)
    if side is None:
        raise InvalidInput("side", "side-missing", scale=name, sides=SIDES[wheel.scale])
    if side not in SIDES[wheel.scale]:
        raise InvalidInput("side", "side-not-on-wheel", scale=name, sides=SIDES[wheel.scale])
    if side is Side.BTDC:
        return signed(-reading_deg)
    if side is Side.ATDC:
        return signed(reading_deg)
    return signed(180 - reading_deg if side is Side.BBDC else reading_deg - 180)


def as_read(wheel: Wheel, angle_deg: float) -> tuple[float, Side | None]:
    """Say what the eye reads on a wheel at a crank angle: the inverse of `wheel_angle`.

    Parameters
    ----------
    wheel
        The wheel as mounted.
    angle_deg
        Crank degrees from the wheel's TDC mark.

    Returns
    -------
    tuple
        The number read, degrees, and its side (None on a 0-360 wheel).

    Examples
    --------
    >>> as_read(Wheel(scale="quarter"), -159.0)
    (21.0, <Side.ABDC: 'abdc'>)
    """
    angle = signed(angle_deg)
    if wheel.scale is Scale.FULL:
        return (angle if wheel.counts_up() else -angle) % 360.0, None
    if wheel.scale is Scale.HALF or abs(angle) <= 90:
        return abs(angle), Side.BTDC if angle < 0 else Side.ATDC
    return (180 - angle, Side.BBDC) if angle > 0 else (180 + angle, Side.ABDC)
