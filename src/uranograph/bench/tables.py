"""Tables of figures out of files as they come: any coding, any mark between columns, titles, units and blanks among them."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from uranograph.core.errors import InvalidInput

MARKS = ("\t", ";", ",", None)
MAX_COLUMNS = 40
MAX_LINES = 120_000
SAMPLED = 1000
_NUMBER = re.compile(r"[+\-−]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d+)?")


class NotSure(Exception):
    """A table that can be read in more ways than one: its text, what a page shows to choose by, what of a choice is wrong."""

    def __init__(self, text: str, shown: Mapping[str, Any], error: InvalidInput | None = None) -> None:
        super().__init__("not sure how to read it")
        self.text, self.shown, self.error = text, shown, error


@dataclass(frozen=True)
class TableRow:
    """One line of figures, with its number in the file; None where a cell holds no figure."""

    number: int
    cells: tuple[str, ...]
    figures: tuple[float | None, ...]


@dataclass(frozen=True)
class Table:
    """Contents of a table file: column headings and rows of numbers."""

    titles: tuple[str, ...]
    lines: tuple[TableRow, ...]

    @property
    def width(self) -> int:
        return len(self.titles)

    def column(self, k: int) -> list[float | None]:
        return [line.figures[k] if k < len(line.figures) else None for line in self.lines]


def decoded(content: bytes) -> str:
    """Text from a file's bytes, whichever program wrote it.

    Parameters
    ----------
    content
        The file: UTF-8, UTF-16 with or without its mark, or a Western code page.

    Raises
    ------
    InvalidInput
        When it is no text at all.

    Examples
    --------
    >>> decoded("Hub;1,5".encode("utf-16")), decoded(b"\\xb0;1,5")
    ('Hub;1,5', '°;1,5')
    """
    if content.startswith((b"\xff\xfe", b"\xfe\xff")):
        text = content.decode("utf-16", errors="replace")
    elif b"\0" in content[:400]:
        even, odd = content[0:400:2].count(0), content[1:400:2].count(0)
        text = content.decode("utf-16-le" if odd > even else "utf-16-be", errors="replace")
    else:
        try:
            text = content.decode("utf-8-sig")
        except UnicodeDecodeError:
            text = content.decode("cp1252", errors="replace")
    text = text.removeprefix("\ufeff")
    if sum(not (each.isprintable() or each in "\t\r\n\f") for each in text[:2000]) > len(text[:2000]) / 20:
        raise InvalidInput("csv", "file-not-text")
    return text


def table_of(text: str) -> Table:
    """The figures of a text, by the mark between columns that makes most lines alike.

    Parameters
    ----------
    text
        Lines; titles and units may stand over the figures, blank lines and remarks among them.

    Returns
    -------
    Table
        Columns as wide as most lines are; a comma within a figure is a decimal comma wherever it is not the mark.

    Raises
    ------
    InvalidInput
        When there are fewer than two lines of two figures, or more than can be read.

    Examples
    --------
    >>> found = table_of("Intake lobe\\nDegree;Lift\\n-10;0,9\\n\\n-5;1,3")
    >>> found.titles, [line.figures for line in found.lines]
    (('Degree', 'Lift'), [(-10.0, 0.9), (-5.0, 1.3)])
    """
    raw = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    if len(raw) > MAX_LINES:
        raise InvalidInput("csv", "table-too-long", count=len(raw), most=MAX_LINES)
    # The first lines decide the format for the whole file.
    mark = max(MARKS, key=lambda each: _alike(_split(raw[:SAMPLED], each)))
    lines = _split(raw, mark)
    if len(lines) < 2:
        raise InvalidInput("csv", "table-without-figures")
    first, width = lines[0].number, len(lines[0].cells)
    titles = [""] * width
    for over in raw[max(0, first - 4) : first - 1]:
        cells = _cells(over, mark)
        # A header line has as many cells as there are columns; others are titles.
        if len(cells) == width:
            titles = [f"{title} {cell}".strip() for title, cell in zip(titles, cells, strict=True)]
    return Table(tuple(titles), tuple(sorted([*lines, *_spoiled(raw, lines, mark)], key=lambda line: line.number)))


def _spoiled(raw: list[str], lines: list[TableRow], mark: str | None) -> list[TableRow]:
    """Lines among the others that hold one figure only: they are not passed over, for what they lack may be a slip."""
    taken, width = {line.number for line in lines}, len(lines[0].cells)
    found = []
    for number in range(lines[0].number + 1, lines[-1].number):
        if number in taken:
            continue
        cells = _cells(raw[number - 1], mark)
        figures = tuple(_figure(cell, mark) for cell in cells)
        if len(cells) == width and any(figure is not None for figure in figures):
            found.append(TableRow(number, tuple(cells), figures))
    return found


def _alike(lines: list[TableRow]) -> tuple[int, int]:
    """How many lines one mark makes alike, and how many of them are figures throughout."""
    return len(lines), sum(None not in line.figures for line in lines)


def _split(raw: list[str], mark: str | None) -> list[TableRow]:
    """The lines of two figures or more by one mark, as wide as most of them."""
    found = []
    for number, each in enumerate(raw, 1):
        if not any(c.isdigit() for c in each):
            continue
        cells = _cells(each, mark)
        if not 2 <= len(cells) <= MAX_COLUMNS:
            continue
        figures = tuple(_figure(cell, mark) for cell in cells)
        if sum(figure is not None for figure in figures) >= 2:
            found.append(TableRow(number, tuple(cells), figures))
    widths = [len(line.cells) for line in found]
    width = max(set(widths), key=widths.count, default=0)
    return [line for line in found if len(line.cells) == width]


def _cells(line: str, mark: str | None) -> list[str]:
    cells = line.split() if mark is None else [cell.strip().strip('"').strip() for cell in line.split(mark)]
    while len(cells) > 2 and not cells[-1]:
        cells.pop()
    return cells


def _figure(cell: str, mark: str | None) -> float | None:
    if not _NUMBER.fullmatch(cell):
        return None
    # If commas separate columns, they cannot be decimal commas.
    if mark == "," and "," in cell:
        return None
    return float(cell.replace(",", ".").replace("−", "-"))
