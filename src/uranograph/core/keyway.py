"""Marks against keyways: offset of the cam's key from the position implied by the crank's key."""

from pydantic import Field

from uranograph.core.angles import signed
from uranograph.core.models import Deg, Found, Input


class KeywayInput(Input):
    """Directions of both keys, degrees clockwise from straight up as seen from the front."""

    crank_stated_deg: Deg
    crank_measured_deg: Deg
    cam_stated_deg: Deg
    cam_measured_deg: Deg
    cam_teeth: int = Field(ge=3, le=1000)
    turns_opposite: bool = Field(description="Whether the cam turns against the crank.")
    clockwise: bool = Field(True, description="The crank turns clockwise seen from the front.")
    level_deg: Deg = Field(1.0, ge=0, description="How far the level can be trusted, degrees.")


class Keyway(Found):
    """Result of comparing the keyways."""

    difference_cam_deg: float = Field(description="Cam ahead of its stated place in its running direction.")
    difference_teeth: float
    per_tooth_cam_deg: float
    nearest_teeth: int
    neighbors_clearly_worse: bool
    other_turn: bool = Field(
        description="The cam stands half a turn round: the crank was read on its other turn, not many teeth out."
    )


def keyway(given: KeywayInput) -> Keyway:
    """Compare the cam's key with its stated direction, the crank's own deviation allowed for.

    Parameters
    ----------
    given
        Stated and measured directions, the cam gear's teeth, and how the shafts turn.

    Returns
    -------
    Keyway
        The difference in cam degrees (ahead in its running direction positive) and in teeth of the cam gear, the
        nearest whole tooth, whether one tooth either way is worse by more than the level's doubt, and whether the crank
        was on its other turn.

    Examples
    --------
    >>> found = keyway(KeywayInput(crank_stated_deg=0, crank_measured_deg=0, cam_stated_deg=180, cam_measured_deg=172,
    ...     cam_teeth=42, turns_opposite=True))
    >>> found.difference_cam_deg, found.nearest_teeth, found.neighbors_clearly_worse
    (8.0, 1, True)

    References
    ----------
    docs/methods.md, "Marks against keyways".
    """
    crank_way = 1 if given.clockwise else -1
    cam_way = -crank_way if given.turns_opposite else crank_way
    crank_ahead = crank_way * signed(given.crank_measured_deg - given.crank_stated_deg)
    cam_ahead = cam_way * signed(given.cam_measured_deg - given.cam_stated_deg)
    difference = signed(cam_ahead - crank_ahead / 2)
    pitch = 360 / given.cam_teeth
    nearest = round(difference / pitch)
    left = abs(difference - nearest * pitch)
    return Keyway(
        difference_cam_deg=difference,
        difference_teeth=difference / pitch,
        per_tooth_cam_deg=pitch,
        nearest_teeth=nearest,
        neighbors_clearly_worse=(pitch - left) - left > 2 * given.level_deg,
        other_turn=abs(difference) > 90,
    )
