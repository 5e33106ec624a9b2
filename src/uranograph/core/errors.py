"""The one error the core raises about what it was given."""


class Impossible(ValueError):
    """A value that cannot be, told in the user's words.

    Parameters
    ----------
    field
        Name of the input at fault, as the caller gave it.
    message
        What was given, why it cannot be, what would be right.

    Examples
    --------
    >>> str(Impossible("rod_mm", "A rod of 40 mm is shorter than half the stroke."))
    'A rod of 40 mm is shorter than half the stroke.'
    """

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field
        self.message = message
