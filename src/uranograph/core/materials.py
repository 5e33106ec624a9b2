"""Materials of gears, shafts and cases: thermal expansion, heat capacity, and highest allowed temperature.

Rounded figures of general engineering handbooks, on the careful side; a typed figure always outranks them. What a material
bears is the temperature below which its temper, its hardened skin or its resin is not harmed by the short heat of a fit.
"""

from dataclasses import dataclass


@dataclass(frozen=True)
class Material:
    """Growth per degree Celsius; heat held, J/cm3 K; and the temperature it bears, C."""

    name: str
    alpha: float
    heat_j_per_cm3_k: float
    bears_c: float


MATERIALS = {
    material.name: material
    for material in (
        Material("steel", 11.7e-6, 3.7, 230.0),
        Material("case-hardened steel", 11.7e-6, 3.7, 180.0),
        Material("cast iron", 10.5e-6, 3.6, 300.0),
        Material("aluminum", 23e-6, 2.4, 150.0),
        Material("magnesium", 26e-6, 1.8, 120.0),
        Material("bronze", 18e-6, 3.4, 250.0),
        Material("titanium", 8.6e-6, 2.3, 400.0),
        Material("phenolic cloth", 25e-6, 1.9, 110.0),
        Material("glass-filled polymer", 30e-6, 2.1, 120.0),
        Material("plain polymer", 80e-6, 1.9, 80.0),
    )
}
# The name that older jobs have: all that is known of it is the least it can be.
MATERIALS["polymer"] = Material("polymer", 80e-6, 2.0, 80.0)
