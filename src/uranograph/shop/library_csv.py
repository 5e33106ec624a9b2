"""The library as CSV: one line a thing, one column a field of its form."""

import csv
import io
from collections.abc import Iterator, Mapping, Sequence

from sqlalchemy.orm import Session

from uranograph.bench.forms import Input
from uranograph.bench.job import Job
from uranograph.bench.order import storable
from uranograph.core.errors import InvalidInput
from uranograph.shop import library
from uranograph.stations import ORDER

NAME = "name"
# Largest number of things and longest text in one file.
MAX_LINES, MAX_SIZE = 500, 1_000_000


def inputs(kind: str) -> Iterator[Input]:
    """Every field of a kind, in order."""
    return (ask for group in ORDER.forms[kind].groups for ask in group.asks)


def table(session: Session, kind: str) -> tuple[Sequence[str], list[Sequence[str]]]:
    """What the library has of one kind, as columns and lines; columns that nothing fills are left out.

    Parameters
    ----------
    session
        A session of the shop's file.
    kind
        The kind, such as `card`.

    Returns
    -------
    tuple
        Names of columns, and the lines.
    """
    kept = library.shelf(session, kind)
    names = [each.name for each in inputs(kind)]
    names = [name for name in (*names, "unit") if any(one.typed.get(name) for one in kept)] or [*names, "unit"]
    return (NAME, *names), [(one.name, *(one.typed.get(name, "") for name in names)) for one in kept]


def take_in(session: Session, kind: str, text: str, unit: str, by: str) -> int:
    """Keep every line of a CSV file; nothing is kept where one line cannot be.

    Parameters
    ----------
    session
        A writing session.
    kind
        The kind of all lines.
    text
        The file: a header with `name` and fields by their names or labels, then one thing a line.
    unit
        What bare lengths are in, where a line has no unit of its own.
    by
        Initials of who brings them.

    Returns
    -------
    int
        How many were kept.

    Raises
    ------
    InvalidInput
        With the line and the field that cannot be.
    """
    if len(text) > MAX_SIZE:
        raise InvalidInput("csv", "library-file-too-large")
    lines = list(csv.reader(io.StringIO(text.lstrip("\ufeff"))))
    lines = [line for line in lines if any(cell.strip() for cell in line)]
    if len(lines) < 2 or len(lines) > MAX_LINES + 1:
        raise InvalidInput("csv", "library-file-lines", most=MAX_LINES)
    columns = _columns(kind, lines[0])
    form, taken = ORDER.forms[kind], []
    for number, line in enumerate(lines[1:], 2):
        typed = {name: _text(cell) for name, cell in zip(columns, line, strict=False) if name and cell.strip()}
        name = typed.pop(NAME, "")
        typed.setdefault("unit", unit)
        filled = form.read(typed, Job("", ""))
        if not storable(form, filled.value, filled.errors.values()):
            field, words = next(iter(filled.errors.items()))
            raise InvalidInput("csv", "library-line-cannot-be", line=number, column=_label(kind, field), words=words)
        taken.append((name, typed))
    for name, typed in taken:
        library.keep(session, kind, name, typed, by)
    return len(taken)


def _text(cell: str) -> str:
    """A cell without the apostrophe that keeps a spreadsheet from taking it for a formula."""
    text = cell.strip()
    return text[1:] if text[:2] in ("'=", "'+", "'-", "'@") else text


def _columns(kind: str, header: Sequence[str]) -> list[str]:
    known: Mapping[str, str] = {
        **{each.label.lower(): each.name for each in inputs(kind)},
        **{each.name.lower(): each.name for each in inputs(kind)},
        "unit": "unit",
        NAME: NAME,
    }
    columns = [cell.strip().lower() for cell in header]
    if NAME not in columns:
        raise InvalidInput("csv", "library-name-column")
    for each in columns:
        if each and each not in known:
            raise InvalidInput("csv", "library-unknown-column", column=each[:40])
    return [known.get(each, "") for each in columns]


def _label(kind: str, field: str) -> str:
    return next((each.label for each in inputs(kind) if each.name == field), field)
