"""The one error the core raises about what it was given."""

MM_IN_AN_INCH = 25.4


class Impossible(ValueError):
    """A value that cannot be, told in the user's words.

    Parameters
    ----------
    field
        Name of the input at fault, as the caller gave it.
    message
        What was given, why it cannot be, what would be right. Lengths stand in it by name, in braces.
    lengths_mm
        Those lengths, mm: `told` writes them in the unit of whoever reads it.

    Examples
    --------
    >>> error = Impossible("rod_mm", "A rod of {rod} is shorter than half the stroke.", rod=40)
    >>> str(error), error.told("inch")
    ('A rod of 40 mm is shorter than half the stroke.', 'A rod of 1.575 in is shorter than half the stroke.')
    """

    def __init__(self, field: str, message: str, **lengths_mm: float) -> None:
        self.field = field
        self.template = message
        self.lengths_mm = lengths_mm
        super().__init__(self.told("mm"))

    @property
    def message(self) -> str:
        """What is wrong, lengths in mm."""
        return self.told("mm")

    def at(self, field: str) -> "Impossible":
        """The same at another field, where a caller knows it by its own name."""
        return Impossible(field, self.template, **self.lengths_mm)

    def told(self, unit: str) -> str:
        """What is wrong, lengths in this unit, `inch` or `mm`."""
        words = self.template
        for name, mm in self.lengths_mm.items():
            figure = f"{mm / MM_IN_AN_INCH:.4g} in" if unit == "inch" else f"{mm:.4g} mm"
            words = words.replace(f"{{{name}}}", figure)
        return words
