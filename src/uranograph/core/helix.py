"""How far a helical gear turns as it slides in."""

import math

from pydantic import Field

from uranograph.core.models import Deg, Found, Input, Mm


class HelixInput(Input):
    """A helical gear and how far it slides."""

    teeth: int = Field(ge=3, le=400)
    normal_module_mm: Mm = Field(gt=0)
    helix_deg: Deg = Field(gt=-90, lt=90)
    travel_mm: Mm


class HelicalEntry(Found):
    """How far to start to one side."""

    rotation_deg: float = Field(description="Of this gear.")
    teeth: float


def helical_entry(given: HelixInput) -> HelicalEntry:
    """Say how far a helical gear turns while it slides in mesh.

    Parameters
    ----------
    given
        Teeth, normal module (mm), helix angle (deg), travel (mm).

    Returns
    -------
    Entry
        travel tan(helix) / pitch radius, in degrees of this gear and in teeth.

    Examples
    --------
    >>> found = helical_entry(HelixInput(teeth=30, normal_module_mm=1, helix_deg=45, travel_mm=6))
    >>> round(found.rotation_deg, 3), round(found.teeth, 3)
    (16.206, 1.35)

    References
    ----------
    docs/methods.md, "Helical entry".
    """
    helix = math.radians(given.helix_deg)
    pitch_radius = given.normal_module_mm * given.teeth / (2 * math.cos(helix))
    rotation = math.degrees(given.travel_mm * math.tan(helix) / pitch_radius)
    return HelicalEntry(rotation_deg=rotation, teeth=rotation * given.teeth / 360)
