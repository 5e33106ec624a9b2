"""Angles on the crank circle."""


def signed(angle_deg: float) -> float:
    """Bring a crank angle into (-180, 180], negative before TDC.

    Examples
    --------
    >>> signed(319.0), signed(-180.0), signed(540.0)
    (-41.0, 180.0, 180.0)
    """
    return 180.0 - (180.0 - angle_deg) % 360.0


def near(angle_deg: float, target_deg: float) -> float:
    """Add whole crank turns until the angle lies within half a turn of a target.

    Examples
    --------
    >>> near(-159.0, 110.0), near(-64.0, -115.0)
    (201.0, -64.0)
    """
    return target_deg + signed(angle_deg - target_deg)
