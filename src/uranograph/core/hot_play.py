"""End play when hot: the parts in its loop grow by their own measure."""

from pydantic import Field

from uranograph.core.models import Alpha, Celsius, Found, Input, Mm


class HotPlayInput(Input):
    """A play between two shoulders, mm, what fills the room between them, and how warm it becomes."""

    cold_play_mm: Mm
    length_mm: Mm = Field(gt=0, description="Of the part that fills the room, and so nearly of the room itself.")
    room_alpha: Alpha = Field(ge=0, lt=1e-3, description="Growth per degree of what sets the room.")
    filler_alpha: Alpha = Field(ge=0, lt=1e-3, description="Growth per degree of what fills it.")
    cold_c: Celsius = Field(gt=-100, lt=600)
    hot_c: Celsius = Field(gt=-100, lt=600)


class HotPlay(Found):
    """The play when hot; negative where it is gone."""

    hot_play_mm: float
    change_mm: float


def hot_play(given: HotPlayInput) -> HotPlay:
    """Say what becomes of an end play when the parts are hot.

    Parameters
    ----------
    given
        Cold play and length (mm), growth per degree of what sets the room and of what fills it, temperatures (C).

    Returns
    -------
    HotPlay
        cold + length (alpha of the room - alpha of the filler) (hot - cold), and the change alone.

    Examples
    --------
    >>> given = HotPlayInput(cold_play_mm=0.1, length_mm=40, room_alpha=11.7e-6, filler_alpha=23e-6, cold_c=20, hot_c=90)
    >>> round(hot_play(given).hot_play_mm, 4)
    0.0684

    References
    ----------
    docs/methods.md, "End play".
    """
    change = given.length_mm * (given.room_alpha - given.filler_alpha) * (given.hot_c - given.cold_c)
    return HotPlay(hot_play_mm=given.cold_play_mm + change, change_mm=change)
