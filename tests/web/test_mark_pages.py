"""Gears, marks, backlash and sprockets on their pages; passing over, pictures, the diagnosis."""

import json
import re

import pytest
from fastapi.testclient import TestClient

from tests.stations.test_marks import MARKED, THREE, TWO
from uranograph.shop import asides
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

HX = {"HX-Request": "true"}
PIXEL = bytes.fromhex(
    "89504e470d0a1a0a0000000d4948445200000001000000010806000000"
    "1f15c4890000000d49444154789c6360606060000000050001a5f645400000000049454e44ae426082"
)


def described(client: TestClient, key: str, typed: dict[str, str]) -> None:
    answer = client.post(f"/jobs/{key}/train", data={**typed, "unit": "mm"}, follow_redirects=False)
    assert answer.status_code == 303
    assert answer.headers["location"].endswith("/marks")


def waiting_slot(page: str) -> str:
    return re.search(r'name="slot" value="([^"]+)"', page).group(1)


def test_a_train_is_judged_as_it_is_typed(client: TestClient, key: str) -> None:
    page = client.post(f"/jobs/{key}/train/preview", data=THREE | {"g3_teeth": "53"}, headers=HX).text
    assert "with 54 teeth instead of 53" in page
    assert page.count('class="turning') == 3
    page = client.post(f"/jobs/{key}/train/preview", data=THREE | {"g3_there_tooth": "41"}, headers=HX).text
    assert "0 to 40" in page
    loop = client.post(f"/jobs/{key}/train", data=THREE | {"g3_also": "1"})
    assert loop.status_code == 422
    assert "cannot turn" in loop.text
    assert 'value="41"' in loop.text


@pytest.mark.parametrize(
    ("view", "shows"),
    [
        ("marks", "data-train"),
        ("compare", "one tooth early"),
        ("keyways", "read with the level"),
        ("helical", "Helical entry"),
        ("split", "Split overlap"),
        ("blind", "Blind drive"),
    ],
)
def test_every_way_of_looking_at_the_marks_has_its_page_and_fragment(
    client: TestClient, key: str, view: str, shows: str
) -> None:
    typed = MARKED | {"crank_key": "0", "cam_key": "90", "hole_sets": "6"}
    typed |= {"helix_gear": "2", "helix_module": "1", "helix_angle": "20", "helix_travel": "10"}
    described(client, key, typed)
    for headers in ({}, HX):
        answer = client.get(f"/jobs/{key}/marks?method={view}", headers=headers)
        assert answer.status_code == 200
        assert shows in answer.text
    assert client.get(f"/jobs/{key}/marks?method={view}&end=rear").status_code == 200


def test_what_is_seen_is_recorded_one_by_one_and_judged(client: TestClient, key: str) -> None:
    described(client, key, MARKED | {"g2_held": "taper"})
    page = client.get(f"/jobs/{key}/marks").text
    for n in range(12):
        if 'name="slot"' not in page:
            break
        slot = waiting_slot(page)
        options = re.findall(r'name="text" value="([^"]+)"', page)
        text = next(each for each in ("on", "yes", "smooth", *options) if each in options)
        answer = client.post(f"/jobs/{key}/marks", data={"slot": slot, "text": text, "token": f"m{n}"}, headers=HX)
        assert answer.status_code == 200
        page = answer.text
    assert 'class="verdict in' in page
    # All is looked at: the first question does not come again by itself.
    assert 'name="slot"' not in page
    assert waiting_slot(client.get(f"/jobs/{key}/marks?item=turned").text) == "turned.2.seen"
    refused = client.post(f"/jobs/{key}/marks", data={"slot": "mesh-2.9.seen", "text": "perhaps"}, headers=HX)
    assert refused.status_code == 422
    assert "Choose what you see" in refused.text


def test_the_table_of_marks_follows_the_teeth(client: TestClient, key: str) -> None:
    assert client.get(f"/jobs/{key}/train-at?teeth=1").status_code == 404
    described(client, key, THREE)
    assert "80 turns" in client.get(f"/jobs/{key}/train-at?teeth=54").text
    for teeth in (82 * 27, -82 * 27, 10**12, "-" + "9" * 5000, "0" * 40 + "54"):
        assert client.get(f"/jobs/{key}/train-at?teeth={teeth}").status_code == 200
    furthest = client.get(f"/jobs/{key}/train-at?teeth=10000000").text
    assert client.get(f"/jobs/{key}/train-at?teeth={'9' * 5000}").text == furthest
    assert client.get(f"/jobs/{key}/train-at?teeth=many").text == client.get(f"/jobs/{key}/train-at?teeth=0").text


def test_backlash_set_up_wrong_keeps_what_was_typed_and_then_reads_round_the_cam(client: TestClient, key: str) -> None:
    described(client, key, TWO)
    page = client.get(f"/jobs/{key}/backlash").text
    assert "Say what the dial stands on" in page
    bad = {"pitch_radius": "63.33", "spec_min": "0.2", "spec_max": "0.1", "hot_c": "warm", "unit": "mm"}
    answer = client.post(f"/jobs/{key}/sheet/backlash", data=bad)
    assert answer.status_code == 422
    for words in ("least backlash is above the greatest", "“warm” is no temperature", 'value="63.33"', 'value="warm"'):
        assert words in answer.text
    good = bad | {"spec_min": "0.05", "spec_max": "0.12", "hot_c": ""}
    assert client.post(f"/jobs/{key}/sheet/backlash", data=good, follow_redirects=False).status_code == 303
    page = client.get(f"/jobs/{key}/backlash").text
    for n, text in enumerate(("0.06", "0.08", "0.1", "0.11", "0.10", "0.09", "0.07", "0.13")):
        form = {"slot": waiting_slot(page), "text": text, "token": f"b{n}", "second": str(45 * n)}
        page = client.post(f"/jobs/{key}/backlash", data=form, headers=HX).text
    assert "Out: loose" in page
    wrong = client.post(f"/jobs/{key}/backlash", data={"slot": waiting_slot(page), "text": "-1", "second": "0"})
    assert wrong.status_code == 422
    assert 'value="-1"' in wrong.text


def test_sprockets_are_read_by_turns(client: TestClient, key: str) -> None:
    page = client.get(f"/jobs/{key}/sprocket").text
    assert waiting_slot(page) == "driver.1.depth"
    page = client.post(f"/jobs/{key}/sprocket", data={"slot": "driver.1.depth", "text": "20"}, headers=HX).text
    assert waiting_slot(page) == "driven.1.depth"
    page = client.post(f"/jobs/{key}/sprocket", data={"slot": "driven.1.depth", "text": "20.6"}, headers=HX).text
    assert "Out of line" in page
    answer = client.post(f"/jobs/{key}/sheet/sprocket", data={"tolerance": "none", "unit": "mm"})
    assert answer.status_code == 422
    assert 'value="none"' in answer.text


def test_a_station_or_the_rest_of_its_group_is_passed_over_never_silently(client: TestClient, key: str) -> None:
    answer = client.post(f"/jobs/{key}/marks/skip", data={"reason": " "})
    assert answer.status_code == 422
    assert "Say why" in answer.text
    data = {"reason": "front end not taken apart", "rest": "1"}
    answer = client.post(f"/jobs/{key}/marks/skip", data=data, follow_redirects=False)
    assert answer.headers["location"].endswith("/wheel")
    page = client.get(f"/jobs/{key}/overview").text
    assert page.count("front end not taken apart") >= 3
    assert client.get(f"/jobs/{key}/train").text.count("Skipped") == 0
    page = client.get(f"/jobs/{key}/sprocket").text
    assert "Skipped by QZ: front end not taken apart" in page
    number = re.search(r"/sprocket/void/(\d+)", page).group(1)
    client.post(f"/jobs/{key}/sprocket/void/{number}", data={"reason": "taken up again"})
    assert "Skipped by" not in client.get(f"/jobs/{key}/sprocket").text


def test_pictures_are_told_by_their_contents_and_kept_once(client: TestClient, shop: Shop, key: str) -> None:
    def send(data: bytes, words: str = "mark <2>") -> int:
        files = {"photo": ("../../etc/x.png", data, "image/png")}
        form = {"words": words, "token": "p"}
        return client.post(f"/jobs/{key}/marks/note", data=form, files=files, follow_redirects=False).status_code

    assert send(b"MZ not a picture") == 422
    assert send(b"", words="") == 422
    assert send(PIXEL + bytes(asides.LARGEST_PHOTO)) == 422
    assert send(PIXEL) == 303
    assert send(PIXEL) == 303
    page = client.get(f"/jobs/{key}/marks").text
    assert "pictures (1)" in page
    assert 'alt="mark &lt;2&gt;"' in page
    path = re.search(r'src="(/jobs/[^"]+/photos/\d+)"', page).group(1)
    kept = client.get(path)
    assert kept.content == PIXEL
    assert kept.headers["content-type"] == "image/png"
    assert kept.headers["x-content-type-options"] == "nosniff"
    assert client.get(path + "9").status_code == 404
    out = client.get(f"/jobs/{key}.json")
    again = client.post("/jobs/import", files={"file": ("job.json", out.content)}, follow_redirects=False)
    new = again.headers["location"].split("/")[2]
    assert client.get(f"/jobs/{new}.json").json() == out.json()
    other = re.search(r'src="(/jobs/[^"]+/photos/\d+)"', client.get(f"/jobs/{new}/marks").text).group(1)
    assert client.get(other).content == PIXEL


def test_a_picture_in_a_file_that_is_none_is_refused(client: TestClient, key: str) -> None:
    client.post(f"/jobs/{key}/marks/note", data={"words": "", "token": "p"}, files={"photo": ("a.png", PIXEL)})
    out = json.loads(client.get(f"/jobs/{key}.json").content)
    for broken in ("not base64 !", "TVqQAAMAAAAE"):
        out["pictures"] = dict.fromkeys(out["pictures"], broken)
        answer = client.post("/jobs/import", files={"file": ("job.json", json.dumps(out).encode())})
        assert answer.status_code == 422


def test_the_overview_has_a_line_for_every_station_and_what_had_better_come_first(client: TestClient, key: str) -> None:
    page = client.get(f"/jobs/{key}/overview").text
    for station in ORDER.stations:
        assert station.title in page
    assert "Better after" in page
    assert client.get(f"/jobs/{key}", follow_redirects=False).headers["location"].endswith("/overview")


def test_the_diagnosis_needs_no_job(client: TestClient) -> None:
    assert 'class="message"' not in client.get("/diagnosis").text
    page = client.get("/diagnosis?offset=-17.1&crank_teeth=21").text
    assert "One tooth early" in page
    fragment = client.get("/diagnosis?offset=8&crank_teeth=21", headers=HX).text
    assert "<html" not in fragment
    assert "<svg" in fragment
    bad = client.get("/diagnosis?offset=much&crank_teeth=21").text
    assert 'value="much"' in bad


def test_mark_stations_stand_before_the_wheel() -> None:
    keys = [station.key for station in ORDER.stations]
    assert keys.index("train") < keys.index("marks") < keys.index("backlash") < keys.index("sprocket")
    assert keys.index("sprocket") < keys.index("wheel")
