"""Sweeps from spreadsheet files."""

import io
import zipfile

import pytest
from fastapi.testclient import TestClient
from openpyxl import Workbook

from tests.hands import a_job, true_top
from uranograph.core.errors import InvalidInput
from uranograph.shop import loading
from uranograph.shop.database import Shop
from uranograph.shop.spreadsheets import first_sheet


def book(rows: list[list[object]]) -> bytes:
    made, out = Workbook(), io.BytesIO()
    for row in rows:
        made.active.append(row)
    made.save(out)
    return out.getvalue()


def test_the_first_sheet_comes_as_text() -> None:
    assert first_sheet(book([["angle_deg", "lift_mm"], [0, 1.5], [2, None]])).splitlines() == [
        "angle_deg,lift_mm",
        "0,1.5",
        "2",
    ]


def test_no_formula_is_worked_out() -> None:
    assert "=1+1" not in first_sheet(book([["a", "b"], ["=1+1", 2]]))


@pytest.mark.parametrize("content", [b"PK\x03\x04 broken", b""])
def test_what_is_no_spreadsheet_is_refused(content: bytes) -> None:
    with pytest.raises(InvalidInput) as refused:
        first_sheet(content)
    assert refused.value.code == "not-a-spreadsheet"


def test_a_zip_of_something_else_is_refused() -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        made.writestr("hello.txt", "hello")
    with pytest.raises(InvalidInput):
        first_sheet(out.getvalue())


def test_a_sweep_comes_from_a_spreadsheet(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
    lift = [max(0.0, 7 - abs(deg - 110) * 0.06) for deg in range(0, 224, 4)]
    rows: list[list[object]] = [["angle_deg", "lift_mm"], *([4 * k, round(mm, 3)] for k, mm in enumerate(lift))]
    files = {"file": ("sweep.xlsx", book(rows))}
    client.post(f"/jobs/{key}/degree/sweep", data={"lobe": "intake", "by": "QZ", "token": "x1"}, files=files)
    with shop.read() as session:
        taken = [r for r in loading.load(session, key).readings if r.slot.startswith("sweep")]
    assert len(taken) > 40
    broken = {"file": ("sweep.xlsx", b"PK\x03\x04 broken")}
    answer = client.post(f"/jobs/{key}/degree/sweep", data={"lobe": "intake", "by": "QZ", "token": "x2"}, files=broken)
    assert answer.status_code == 422
    assert "no spreadsheet file" in answer.text
