"""The library page: add, correct, copy, remove, many at once by CSV."""

import re

import pytest
from fastapi.testclient import TestClient

from uranograph.shop import library, library_csv
from uranograph.shop.database import Shop

LINE = "IO 12 IC 44 EO 52 EC 4 @ .050"


def item(client: TestClient, name: str) -> str:
    return re.search(rf'href="(/library/\w[\w-]*/\d+)">{name}', client.get("/library").text)[1]


def test_a_card_is_added_corrected_copied_and_removed(client: TestClient, shop: Shop) -> None:
    typed = {"library_name": "Grind 3", "as_printed": LINE, "unit": "inch", "by": "QZ"}
    assert client.post("/library/card", data=typed, follow_redirects=False).status_code == 303
    page = client.get(item(client, "Grind 3")).text
    assert f'value="{LINE}"' in page
    # Corrected under another name the old one goes; as a copy it stays.
    client.post("/library/card", data={**typed, "library_name": "Grind 3b", "before": "Grind 3"})
    client.post("/library/card", data={**typed, "library_name": "Grind 4", "before": "Grind 3b", "copy": "1"})
    with shop.read() as session:
        assert [one.name for one in library.shelf(session, "card")] == ["Grind 3b", "Grind 4"]
    client.post("/library/card/remove", data={"library_name": "Grind 4", "by": "QZ"})
    assert "Grind 4" not in client.get("/library").text
    gone = client.post("/library/card/remove", data={"library_name": "Grind 4", "by": "QZ"})
    assert gone.status_code == 422


@pytest.mark.parametrize(
    ("kind", "typed", "field"),
    [
        ("card", {"library_name": "", "as_printed": LINE}, "library_name"),
        ("card", {"library_name": "X", "as_printed": "IO twelve"}, "as_printed"),
        ("drive", {"library_name": "X", "a1_kind": "slot", "a1_range": "10"}, "a1_step"),
        ("wheel", {"library_name": "X", "scale": "furlongs"}, "scale"),
    ],
)
def test_what_cannot_be_is_said_beside_its_field_and_stays_typed(
    client: TestClient, kind: str, typed: dict[str, str], field: str
) -> None:
    answer = client.post(f"/library/{kind}", data={**typed, "by": "QZ"})
    assert answer.status_code == 422
    assert re.search(rf'id="error-{field}"[^>]*>[^<]', answer.text)
    kept = [text for name, text in typed.items() if name != "scale"]
    assert all(text in answer.text for text in kept)


def test_every_kind_has_its_page(client: TestClient) -> None:
    for kind in library.KINDS:
        page = client.get(f"/library/{kind}/new")
        assert page.status_code == 200
        names = [each.name for each in library_csv.inputs(kind)]
        assert names
        assert all(f'name="{name}"' in page.text for name in names)
    assert client.get("/library/gears/new").status_code == 404
    assert client.get("/library/card/999").status_code == 404


def test_twelve_cards_come_in_a_row_and_go_out_the_same(client: TestClient, shop: Shop) -> None:
    lines = [f"Grind {n},{n},44,52,4,0.050" for n in range(1, 13)]
    text = "\n".join(["name,io_btdc_deg,Intake closes ABDC,eo_bbdc_deg,ec_atdc_deg,check_lift", *lines])
    answer = client.post("/library/card/import", data={"csv": text, "unit": "inch", "by": "QZ"})
    assert "Spec card: 12 kept." in answer.text
    out = client.get("/library/card.csv").text
    with shop.write() as session:
        for one in library.shelf(session, "card"):
            library.remove(session, "card", one.name, "QZ")
        assert library_csv.take_in(session, "card", out, "mm", "QZ") == 12
        found = {one.name: dict(one.typed) for one in library.shelf(session, "card")}
    assert found["Grind 7"] == {
        "io_btdc_deg": "7",
        "ic_abdc_deg": "44",
        "eo_bbdc_deg": "52",
        "ec_atdc_deg": "4",
        "check_lift": "0.050",
        "unit": "inch",
    }


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "A header and one thing a line"),
        ("io_btdc_deg\n12", "a column called name"),
        ("name,color\nX,red", "“color” is no field"),
        ("name,check_lift\nA,0.05\nB,minus", "Line 3, Checking lift"),
    ],
)
def test_a_file_that_cannot_be_keeps_nothing(client: TestClient, shop: Shop, text: str, words: str) -> None:
    answer = client.post("/library/card/import", data={"csv": text, "unit": "inch", "by": "QZ"})
    assert answer.status_code == 422
    assert words in answer.text
    with shop.read() as session:
        assert library.shelf(session, "card") == []
