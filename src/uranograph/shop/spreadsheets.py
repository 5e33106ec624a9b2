"""Tables from spreadsheet files (Office Open XML), as text that the readers of tables take."""

import csv
import io
from zipfile import BadZipFile

from uranograph.core.errors import InvalidInput

# What such a file begins with; and how much of its first sheet is read.
SIGNATURE = b"PK\x03\x04"
MAX_ROWS, MAX_COLUMNS = 20_000, 12


def first_sheet(content: bytes) -> str:
    """The first sheet of a spreadsheet file as CSV: values only, no formula is worked out.

    Parameters
    ----------
    content
        The file.

    Returns
    -------
    str
        One line a row; rows past twenty thousand and columns past twelve are left out.

    Raises
    ------
    InvalidInput
        When it is no such file.
    """
    from openpyxl import load_workbook
    from openpyxl.utils.exceptions import InvalidFileException

    out = io.StringIO()
    written = csv.writer(out)
    try:
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        sheet = book.worksheets[0]
        for row in sheet.iter_rows(max_row=MAX_ROWS, max_col=MAX_COLUMNS, values_only=True):
            cells = ["" if cell is None else cell for cell in row]
            while cells and cells[-1] == "":
                cells.pop()
            written.writerow(cells)
    except (BadZipFile, InvalidFileException, KeyError, IndexError, ValueError, OSError) as error:
        raise InvalidInput("csv", "not-a-spreadsheet") from error
    return out.getvalue()
