"""Forms with rows that are alike, such as gears or adjusters: `g1_name`, `g2_name`, and so on."""

from collections.abc import Iterable, Mapping
from typing import Generic, TypeVar

from uranograph.bench.fields import Field, Fields
from uranograph.bench.forms import Group, Typed
from uranograph.core.quantities import LengthUnit

R = TypeVar("R", bound=Fields)


class Rows(Generic[R]):
    """Rows of one set of typed fields, numbered from 1.

    Parameters
    ----------
    of
        What each row asks.
    prefix
        What its field names begin with, before the row's number.
    most
        The greatest number of rows.
    filled_by
        Fields that make a row count as filled in; an empty row is left out.

    Examples
    --------
    >>> from uranograph.bench.fields import Count, Text
    >>> class Gear(Fields):
    ...     name = Text("name", "Name")
    ...     teeth = Count("teeth", "Teeth", least=3, most=400, counted="teeth cannot be")
    >>> gears = Rows(Gear, "g", 20, filled_by=("name", "teeth"))
    >>> rows, errors = gears.read({"g1_name": "crank", "g1_teeth": "21", "g3_teeth": "2"}, LengthUnit.MM)
    >>> rows[1].teeth, sorted(rows), errors
    (21, [1], {'g3_teeth': '“2” teeth cannot be: a whole number from 3 to 400.'})
    """

    def __init__(self, of: type[R], prefix: str, most: int, filled_by: tuple[str, ...]) -> None:
        self.of, self.prefix, self.most, self.filled_by = of, prefix, most, filled_by

    def name(self, n: int, field: str) -> str:
        """The name of a field of row `n`."""
        return f"{self.prefix}{n}_{field}"

    @property
    def names(self) -> tuple[str, ...]:
        """The names of every field of every row."""
        return tuple(name for n in range(1, self.most + 1) for name in self.of.names(self.name(n, "")))

    def inputs(self, n: int) -> Mapping[str, Field[object]]:
        """The fields of row `n` as a page shows them, by their names in the row."""
        return {field.name: field.prefixed(self.name(n, "")) for field in self.of.fields()}

    def groups(self, title: str) -> tuple[Group, ...]:
        """Each row as a group with its number, for a page that shows any form."""
        return tuple(Group(tuple(self.inputs(n).values()), f"{title} {n}") for n in range(1, self.most + 1))

    def filled(self, typed: Typed) -> list[int]:
        """The numbers of the rows that are filled in."""
        return [n for n in range(1, self.most + 1) if any(self._text(typed, n, name) for name in self.filled_by)]

    def in_error(self, errors: Mapping[str, str], n: int, among: Iterable[str]) -> bool:
        """Whether one of these fields of row `n` has an error beside it."""
        return any(errors.get(self.name(n, name)) for name in among)

    def read(self, typed: Typed, unit: LengthUnit) -> tuple[dict[int, R], dict[str, str]]:
        """Read the rows that are filled in.

        Parameters
        ----------
        typed
            Text by field name.
        unit
            What bare lengths are in, unless the form names its own unit.

        Returns
        -------
        tuple
            Each valid row by its number, and the errors of the others by field name.
        """
        rows, errors = {}, {}
        for n in self.filled(typed):
            of_row = {name: typed.get(name, "") for name in (*self.of.names(self.name(n, "")), "unit")}
            read = self.of.read(of_row, unit, self.name(n, ""))
            errors.update(read.errors)
            if read.value is not None:
                rows[n] = read.value
        return rows, errors

    def _text(self, typed: Typed, n: int, field: str) -> str:
        return typed.get(self.name(n, field), "").strip()
