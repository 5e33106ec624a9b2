"""Cam retard from a stretched chain or a lowered camshaft."""

import math

from pydantic import Field

from uranograph.core.models import Found, Input, Mm, Pct


class ChainInput(Input):
    """A chain's tight span and cam sprocket, mm, and what has changed."""

    tight_span_mm: Mm = Field(gt=0)
    cam_radius_mm: Mm = Field(gt=0, description="Pitch radius of the cam sprocket.")
    elongation_pct: Pct = Field(0.0, description="Of the chain's length.")
    center_drop_mm: Mm = Field(0.0, description="How much the centers came together: decked block or milled head.")


class Retard(Found):
    """How late the cam becomes."""

    retard_deg: float = Field(description="Crank degrees, late positive.")


def chain(given: ChainInput) -> Retard:
    """Say how late a longer tight span makes the cam.

    Parameters
    ----------
    given
        Tight span and cam sprocket radius, mm; elongation, percent; drop of the center distance, mm.

    Returns
    -------
    Retard
        2 (elongation + drop) / radius in crank degrees: the slack is taken up on the cam's way back.

    Examples
    --------
    >>> round(chain(ChainInput(tight_span_mm=250, cam_radius_mm=58, elongation_pct=0.5)).retard_deg, 3)
    2.47

    References
    ----------
    docs/methods.md, "A longer chain, a lower cam".
    """
    longer_mm = given.tight_span_mm * given.elongation_pct / 100 + given.center_drop_mm
    return Retard(retard_deg=math.degrees(2 * longer_mm / given.cam_radius_mm))
