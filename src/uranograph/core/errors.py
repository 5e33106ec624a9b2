"""The one error that is raised about what was given."""


class InvalidInput(ValueError):
    """A value that cannot be: where, which rule it breaks, and the figures that show it. Words are made elsewhere.

    Parameters
    ----------
    field
        Name of the input at fault, as the caller gave it.
    code
        What is wrong, by a name that stays.
    values
        The figures that show it, by names that end in their unit (`_mm`, `_deg`), and what was typed.

    Examples
    --------
    >>> error = InvalidInput("rod_mm", "rod-too-short", rod_mm=40, throw_mm=48)
    >>> error.code, error.values
    ('rod-too-short', {'rod_mm': 40, 'throw_mm': 48})
    >>> str(error)
    'rod_mm: rod-too-short (rod_mm=40, throw_mm=48)'
    """

    def __init__(self, field: str, code: str, **values: object) -> None:
        self.field = field
        self.code = code
        self.values = values
        shown = ", ".join(f"{name}={value}" for name, value in values.items())
        super().__init__(f"{field}: {code}" + (f" ({shown})" if shown else ""))

    def at(self, field: str) -> "InvalidInput":
        """The same at another field, where a caller knows it by its own name."""
        return InvalidInput(field, self.code, **self.values)


class Missing(LookupError):
    """Something is not there that an earlier step had found: an error of this program, never of what was typed.

    Parameters
    ----------
    what
        The name of what is missing.
    """
