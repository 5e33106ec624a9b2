"""Tables as CSV files that a spreadsheet opens without running anything in them."""

import csv
import io
from collections.abc import Iterable, Sequence
from datetime import datetime

from fastapi.responses import Response

# What begins a formula in a spreadsheet.
FORMULA = ("=", "+", "-", "@", "\t", "\r")


def csv_table(name: str, columns: Sequence[str], lines: Iterable[Sequence[object]]) -> Response:
    """A CSV file to download."""
    out = io.StringIO()
    written = csv.writer(out)
    written.writerow(columns)
    for line in lines:
        written.writerow(_cell(each.isoformat() if isinstance(each, datetime) else each) for each in line)
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(f"\ufeff{out.getvalue()}", media_type="text/csv; charset=utf-8", headers=headers)


def _cell(value: object) -> str:
    text = "" if value is None else str(value)
    # A signed number is not a formula.
    number = text.lstrip("+-").replace(".", "", 1).isdecimal()
    return f"'{text}" if text.startswith(FORMULA) and not number else text
