"""A job as a workbook: what every station found, their figures, and all readings as typed."""

import io
from collections.abc import Iterable, Mapping, Sequence
from datetime import UTC, datetime

from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.core.plain import plain
from uranograph.core.quantities import MM_PER_INCH, LengthUnit
from uranograph.shop import judging
from uranograph.stations import ORDER

Cell = str | float | int | datetime | None
RESULTS = ("job", "written to", "station", "verdict", "value", "unit", "uncertainty", "code", "in words", "next")
FIGURES = ("station", "figure", "card or allowed", "measured", "difference")
READINGS = (
    *("seq", "at", "by", "station", "slot", "reading of", "as typed", "side", "approach", "drop", "unit", "instrument"),
    *("note", "voided", "voided by", "why"),
)
# Decimals of angles and of lengths in mm; inches have one more.
PLACES = 4
MEDIA_TYPE = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def results(job: Job) -> list[Sequence[Cell]]:
    """A line for each station: job and day, its verdict, number, unit and uncertainty, and its words.

    Lengths are in the job's unit, and no figure has more places than it is measured to.
    """
    last = max((each.at for each in (*job.forms, *job.entries)), default=None)
    day = last.astimezone(UTC).date().isoformat() if last else ""
    return [
        (
            *(job.title, day, ORDER.by_key[key].title, each["verdict"]),
            *_measured(each["value"], each["doubt"], each["unit"], job.unit),
            *(each["code"], each["words"], each["next_step"]),
        )
        for key, each in judging.of_job(job).items()
    ]


def _measured(value: float | None, doubt: float | None, unit: str, wanted: LengthUnit) -> tuple[Cell, Cell, Cell]:
    """A figure, its unit and its uncertainty as the job has them."""
    inch = unit == "mm" and wanted is LengthUnit.INCH
    places = 5 if inch else PLACES
    of_it = [None if each is None else round(each / (MM_PER_INCH if inch else 1), places) for each in (value, doubt)]
    return of_it[0], "inch" if inch else unit, of_it[1]


def figures(job: Job) -> list[Sequence[Cell]]:
    """A line for each row of each station's table, as it is shown."""
    return [
        (ORDER.by_key[key].title, row["label"], row["card"], row["measured"], row["difference"])
        for key, each in judging.of_job(job).items()
        for row in each["rows"]
    ]


def readings(job: Job) -> list[Sequence[Cell]]:
    """A line for each reading, voided ones and acts too, as typed."""
    lines: list[Sequence[Cell]] = []
    for entry in job.entries:
        void = entry.void
        own: Sequence[Cell] = ("", ORDER.describe(entry), entry.text, None, None, None, None, None, None)
        if isinstance(entry, Reading):
            typed = (entry.side, entry.approach, entry.second, entry.unit.value, entry.instrument, entry.about)
            own = (entry.slot, ORDER.describe(entry), entry.text, *typed)
        lines.append(
            (
                *(entry.seq, entry.at, entry.by, entry.station, *own),
                *((void.at, void.by, void.reason) if void else (None, None, None)),
            )
        )
    return lines


def _cell(value: Cell) -> Cell:
    """A value as a spreadsheet can hold it: times without their zone, text that can be seen."""
    if isinstance(value, datetime):
        return value.astimezone(UTC).replace(tzinfo=None)
    return plain(value) if isinstance(value, str) else value


def workbook(job: Job) -> bytes:
    """The three tables as an open spreadsheet file (Office Open XML).

    Parameters
    ----------
    job
        Any job; times are written in UTC.

    Returns
    -------
    bytes
        The file. Text stays text, whatever it begins with: no cell is a formula.
    """
    tables = (("Results", RESULTS, results), ("Figures", FIGURES, figures), ("Readings", READINGS, readings))
    return book_of(job.title, {name: (columns, lines(job)) for name, columns, lines in tables})


def book_of(title: str, tables: Mapping[str, tuple[Sequence[str], Sequence[Sequence[Cell]]]]) -> bytes:
    """Tables as an open spreadsheet file, each a sheet of its own.

    Parameters
    ----------
    title
        The title of the file.
    tables
        Columns and lines by the name of the sheet.

    Returns
    -------
    bytes
        The file. Text stays text, whatever it begins with: no cell is a formula.
    """
    from openpyxl import Workbook
    from openpyxl.cell import WriteOnlyCell
    from openpyxl.styles import Font

    book = Workbook(write_only=True)
    book.properties.title = plain(title)
    for name, (columns, lines) in tables.items():
        sheet = book.create_sheet(name)
        sheet.freeze_panes = "A2"

        def row(values: Iterable[Cell], bold: bool = False, sheet: object = sheet) -> list[object]:
            cells: list[object] = []
            for value in values:
                cell = WriteOnlyCell(sheet, value=_cell(value))
                if isinstance(value, str):
                    cell.data_type = "s"
                if bold:
                    cell.font = Font(bold=True)
                cells.append(cell)
            return cells

        sheet.append(row(columns, bold=True))
        for line in lines:
            sheet.append(row(line))
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()
