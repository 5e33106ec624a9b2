"""Notes, pictures with them, and what is accepted as it is, on the pages."""

import re

from fastapi.testclient import TestClient

from tests.hands import a_job, take, true_top
from tests.web.test_mark_pages import HX, PIXEL
from uranograph.bench.log import Note
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop


def out_of_tolerance(shop: Shop) -> str:
    with shop.write() as session:
        key = a_job(session, title="Notes")
        true_top(session, key)
        # The card: IO 12, IC 52; ten early by both.
        take(session, key, "degree", [("io.1.forward", "22", "btdc"), ("ic.1.forward", "138", "btdc")])
    return key


def test_a_note_with_a_picture_stands_beside_the_readings_and_on_the_sheet(client: TestClient, shop: Shop) -> None:
    key = out_of_tolerance(shop)
    form = {"words": "dial on a <magnet>", "token": "n"}
    for _ in range(2):
        answer = client.post(
            f"/jobs/{key}/degree/note", data=form, files={"photo": ("a.png", PIXEL)}, follow_redirects=False
        )
        assert answer.status_code == 303
    for page in (client.get(f"/jobs/{key}/degree").text, client.get(f"/jobs/{key}/sheet").text):
        assert "dial on a &lt;magnet&gt;" in page
        assert len(set(re.findall(r'src="/jobs/[^"]+/photos/(\d+)"', page))) == 1
    with shop.read() as session:
        job = jobs.load(session, key)
    assert len(job.annotations("degree", Note)) == 1


def test_a_note_on_one_reading_names_it_on_the_sheet(client: TestClient, shop: Shop) -> None:
    key = out_of_tolerance(shop)
    page = client.get(f"/jobs/{key}/degree").text
    about = re.search(r'href="\?note=(\d+)"', page).group(1)
    asked = client.get(f"/jobs/{key}/degree?note={about}").text
    assert f'name="about" value="{about}"' in asked
    refused = client.post(
        f"/jobs/{key}/degree/note",
        data={"words": "needle stuck", "about": about, "token": "r"},
        files={"photo": ("a.png", b"MZ")},
    )
    assert refused.status_code == 422
    assert f'name="about" value="{about}"' in refused.text
    client.post(f"/jobs/{key}/degree/note", data={"words": "needle stuck", "about": about, "token": "r"})
    filled = client.get(f"/jobs/{key}/sheet").text
    line = filled[filled.index("<h2>Notes</h2>") :]
    assert "intake" in line[: line.index("needle stuck")]


def test_an_empty_note_or_a_picture_that_is_none_is_told_and_keeps_what_was_typed(
    client: TestClient, shop: Shop
) -> None:
    key = out_of_tolerance(shop)
    empty = client.post(f"/jobs/{key}/degree/note", data={"words": " ", "token": "e"}, headers=HX)
    assert empty.status_code == 422
    assert "Write the note" in empty.text
    bad = client.post(
        f"/jobs/{key}/degree/note",
        data={"words": "see the picture", "token": "b"},
        files={"photo": ("a.png", b"MZ")},
        headers=HX,
    )
    assert bad.status_code == 422
    assert "see the picture" in bad.text
    with shop.read() as session:
        assert jobs.load(session, key).annotations("degree", Note) == []


def test_what_is_out_is_accepted_with_a_reason_and_stays_out(client: TestClient, shop: Shop) -> None:
    key = out_of_tolerance(shop)
    page = client.get(f"/jobs/{key}/degree").text
    assert 'name="because"' in page
    assert client.post(f"/jobs/{key}/degree/accept", data={"because": ""}, headers=HX).status_code == 422
    for _ in range(2):
        client.post(f"/jobs/{key}/degree/accept", data={"because": "the owner wants it", "token": "a"})
    page = client.get(f"/jobs/{key}/degree").text
    assert page.count("Accepted as it is by") == 1
    assert 'class="verdict out"' in page
    filled = client.get(f"/jobs/{key}/sheet").text
    assert "the owner wants it" in filled
    refused = client.post(f"/jobs/{key}/tdc/accept", data={"because": "why not"}, headers=HX)
    assert refused.status_code == 422
    assert "nothing to accept" in refused.text


def test_a_note_of_the_whole_job_and_its_own_limits_stand_on_the_overview(client: TestClient, shop: Shop) -> None:
    key = out_of_tolerance(shop)
    client.post(f"/jobs/{key}/engine/note", data={"words": "found in a barn", "back": "overview", "token": "o"})
    assert "found in a barn" in client.get(f"/jobs/{key}/overview").text
    assert client.post(f"/jobs/{key}/sheet/limits", data={"sprocket_line": "0.4", "unit": "mm"}).status_code == 200
    assert 'name="sprocket_line" value="0.4"' in client.get(f"/jobs/{key}/overview").text
    refused = client.post(f"/jobs/{key}/sheet/limits", data={"sprocket_line": "9", "unit": "mm"})
    assert refused.status_code == 422
    assert 'name="sprocket_line" value="9"' in refused.text
    assert "such a limit lies between" in refused.text


def test_an_answer_given_again_replaces_the_earlier_one_struck_through(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, title="Again")
    client.post(f"/jobs/{key}/gear-fit", data={"slot": "bearing.1.seen", "text": "no", "token": "1"})
    client.post(f"/jobs/{key}/gear-fit", data={"slot": "bearing.2.seen", "text": "yes", "token": "2"})
    page = client.get(f"/jobs/{key}/gear-fit").text
    assert page.count('<tr class="voided">') == 1
    assert "answered again" in page


def test_pictures_of_three_looks_stand_beside_each_other(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, title="Looks")
    client.post(f"/jobs/{key}/sheet/by-eye", data={"m1_on": "cam gear", "m1_other": "crank gear"})
    for n, look in enumerate(("a tooth early", "right", "a tooth late")):
        form = {"words": look, "token": f"look{n}"}
        client.post(f"/jobs/{key}/by-eye/note", data=form, files={"photo": ("a.png", PIXEL)})
    page = client.get(f"/jobs/{key}/by-eye?method=compare").text
    beside = page[page.index("side-by-side") : page.index("</section>", page.index("side-by-side"))]
    assert [beside.index(look) for look in ("a tooth early", "right", "a tooth late")] == sorted(
        beside.index(look) for look in ("a tooth early", "right", "a tooth late")
    )
    assert "side-by-side" not in client.get(f"/jobs/{key}/by-eye?method=marks").text


def test_one_note_after_the_other_on_the_overview_is_kept_though_nothing_changed_between(
    client: TestClient, shop: Shop
) -> None:
    key = out_of_tolerance(shop)
    for words in ("first of all", "and another"):
        page = client.get(f"/jobs/{key}/overview").text
        note_form = page[page.index('id="words"') - 600 :]
        token = re.search(r'name="token" value="([0-9a-f]{24})"', note_form)[1]
        client.post(f"/jobs/{key}/engine/note", data={"words": words, "token": token, "back": "overview"})
    page = client.get(f"/jobs/{key}/overview").text
    assert "first of all" in page
    assert "and another" in page
