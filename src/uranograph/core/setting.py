"""Setting end play: shim pack thickness, and stock to remove from each cheek."""


def pack_wanted(fitted_mm: float, play_mm: float, goal_mm: float, adds: bool) -> float:
    """Say how thick the shim pack must be.

    Parameters
    ----------
    fitted_mm
        Thickness of the pack the play was read with, mm.
    play_mm, goal_mm
        Play as read, and as wanted, mm.
    adds
        Whether more shims give more play.

    Returns
    -------
    float
        mm; negative where not even no pack would do.

    Examples
    --------
    >>> round(pack_wanted(0.2, 0.22, 0.15, adds=False), 6)
    0.27

    References
    ----------
    docs/methods.md, "End play".
    """
    return fitted_mm + (goal_mm - play_mm if adds else play_mm - goal_mm)


def play_with(pack_mm: float, fitted_mm: float, play_mm: float, adds: bool) -> float:
    """Say what play another pack leaves, mm: the inverse of `pack_wanted`.

    Examples
    --------
    >>> round(play_with(0.25, 0.2, 0.22, adds=False), 6)
    0.17
    """
    return play_mm + (pack_mm - fitted_mm if adds else fitted_mm - pack_mm)


def off_each_cheek(play_mm: float, goal_mm: float, off_already_mm: float = 0.0) -> float:
    """Say how much is to come off each cheek from as found, both sides alike.

    Parameters
    ----------
    play_mm, goal_mm
        Play as read, and as wanted, mm.
    off_already_mm
        What was off each side when the play was read, mm.

    Returns
    -------
    float
        mm a side; negative where there is more play than is wanted.

    Examples
    --------
    >>> round(off_each_cheek(0.06, 0.15), 6)
    0.045

    References
    ----------
    docs/methods.md, "End play".
    """
    return (goal_mm - play_mm) / 2 + off_already_mm
