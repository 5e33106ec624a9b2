"""Whatever is written at a station, lawful or not: every page still stands, and no two of them say different things."""

import random
import re
from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from tests.bench.test_whatever_is_written import FORMS_BEFORE, SLOTS, TEXTS
from tests.hands import a_job, true_top
from tests.shop.test_asides_and_house import PIXEL
from uranograph.bench.finding import Verdict
from uranograph.shop import jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

HX = {"HX-Request": "true"}
DRIVE = {"a1_kind": "choices", "a1_name": "keyway", "a1_options": "R4: -4, 0: 0, A4: 4", "a1_fitted": "0", "unit": "mm"}
READINGS = [text for text in TEXTS.elements if text != "?"] + [
    "²",
    "٣",
    "1e308",
    "0." + "0" * 50 + "1",
    "-1",
    "<b>",
    "\x00",
]
SIDES = ("", "btdc", "atdc", "bbdc", "abdc", "nowhere")


@pytest.fixture
def described(shop: Shop) -> str:
    """A job in which every station has what it needs to be read at."""
    with shop.write() as session:
        key = a_job(session, title="Whatever is sent")
        true_top(session, key)
        for kind, typed in {**FORMS_BEFORE, "drive": DRIVE}.items():
            jobs.save_form(session, key, kind, {**typed, "unit": "mm"}, "QZ")
    return key


def pages(key: str) -> Iterator[str]:
    """Every page that shows anything of a job."""
    yield from ("/", "/house", f"/jobs/{key}/overview", f"/jobs/{key}/sheet", f"/jobs/{key}.json")
    yield from (f"/jobs/{key}/what-if?intake=3", f"/jobs/{key}/lift-line?lift=1.2", f"/jobs/{key}/train-at?teeth=5")
    for station in ORDER.stations:
        yield f"/jobs/{key}/{station.key}"
    for method in ("lifts", "events", "sweep", "overlap"):
        yield f"/jobs/{key}/degree?method={method}"
    for view in ("compare", "keyways", "split", "blind"):
        yield f"/jobs/{key}/marks?method={view}"
    yield from (f"/jobs/{key}/gear-fit?method=heat", f"/jobs/{key}/gear-fit?method=bolts", f"/jobs/{key}/adjust?edit=1")


def every_page_stands(client: TestClient, key: str, after: object, only: tuple[str, ...] = ()) -> None:
    for page in only or pages(key):
        answer = client.get(page)
        assert answer.status_code == 200, (page, after, answer.text[:300])


def waiting(page: str) -> str:
    found = re.search(r'name="slot" value="([^"]+)"', page)
    return found.group(1) if found else "stop.1.before"


@pytest.mark.parametrize("station", [station.key for station in ORDER.stations])
def test_every_kind_of_write_at_a_station_leaves_every_page_standing(
    client: TestClient, shop: Shop, described: str, station: str
) -> None:
    at = f"/jobs/{described}/{station}"
    writes = {
        "picture": lambda: client.post(f"{at}/note", data={"words": "x"}, files={"photo": ("a.png", PIXEL)}),
        "change": lambda: client.post(f"{at}/anew", data={"what": "taken apart"}),
        "act": lambda: client.post(f"{at}/anew", data={"act": ORDER.by_key[station].acts[0], "what": ""}),
        "odd act": lambda: client.post(f"{at}/anew", data={"act": "painted", "what": "red"}),
        "skip": lambda: client.post(f"{at}/skip", data={"reason": "not today"}),
        "reading": lambda: client.post(at, data={"slot": waiting(client.get(at).text), "text": "0.4", "second": "1"}),
        "odd reading": lambda: client.post(at, data={"slot": "skip.1.said", "text": "x"}),
        "sheet": lambda: client.post(f"/jobs/{described}/sheet/{station}", data={"unit": "mm"}),
        "position": lambda: client.post(f"/jobs/{described}/adjust", data={"choice": "both:0"}),
        "moved": lambda: client.post(f"/jobs/{described}/tdc/anew", data={"act": "wheel-moved"}),
        "left": lambda: client.post(f"/jobs/{described}/tdc", data={"slot": "left", "text": ""}),
        "no such void": lambda: client.post(f"{at}/void/9223372036854775807", data={"reason": "gone"}),
        "import": lambda: client.post(
            "/jobs/import", files={"file": ("j.json", client.get(f"/jobs/{described}.json").content)}
        ),
    }
    # The overview has what every station finds; all pages follow once all of this is written, and once it is voided.
    near = (f"/jobs/{described}/overview", at)
    for name, write in writes.items():
        assert write().status_code < 500, name
        every_page_stands(client, described, (station, name), near)
    every_page_stands(client, described, (station, "all of it"))
    with shop.read() as session:
        written = [reading.id for reading in jobs.load(session, described).readings if reading.station == station]
    for reading in written:
        assert client.post(f"{at}/void/{reading}", data={"reason": "again"}).status_code < 500
    every_page_stands(client, described, (station, "void"))


def test_a_slipped_decimal_in_the_heat_fit_is_refused_and_one_that_is_there_is_told(
    client: TestClient, shop: Shop, described: str
) -> None:
    refused = client.post(
        f"/jobs/{described}/sheet/gear-fit", data={"bore": "32", "interference": "0.4", "width": "20"}
    )
    assert refused.status_code == 422
    assert "far too much" in refused.text
    with shop.write() as session:
        jobs.save_form(session, described, "gear-fit", {"bore": "32", "interference": "0.4", "width": "20"}, "QZ")
    every_page_stands(client, described, "a heat fit from an earlier version")


def test_a_station_that_cannot_be_judged_says_so_in_its_place_with_an_id_and_is_voided(
    client: TestClient, shop: Shop, described: str, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    client.post(f"/jobs/{described}/runout", data={"slot": "set-1.1.dial", "text": "0.01", "second": "0"})

    def cannot(job: object) -> None:
        raise ZeroDivisionError("a sister nobody thought of")

    monkeypatch.setattr("uranograph.stations.runout.station.setup", cannot)
    # The rail, the list and the overview still stand; the station says what is the matter and keeps its readings.
    with shop.write() as session:
        jobs.save_form(session, described, "runout", {"places": "12"}, "QZ")
    page = client.get(f"/jobs/{described}/runout").text
    assert "Runout could not be judged" in page
    fault = re.search(r"fault ([0-9a-f]{6})", page).group(1)
    assert any(fault in record.getMessage() for record in caplog.records)
    every_page_stands(client, described, "a fault in one station")
    void = re.search(r'href="(\?void=[0-9]+)"', page).group(1)
    assert "Say why this reading does not count" in client.get(f"/jobs/{described}/runout{void}").text


def consistent(shop: Shop, key: str) -> None:
    """No *in* beside a *cannot tell* of the same figure."""
    with shop.read() as session:
        found = ORDER.overview(jobs.load(session, key))
    assert not any(finding.fault for finding in found.values())
    if found["adjust"].verdict is Verdict.IN:
        assert found["degree"].verdict is Verdict.IN
    if found["setting"].title.endswith("set and proved"):
        assert found["end-play"].verdict is not Verdict.UNSURE
    if found["choice"].verdict is Verdict.IN:
        assert found["runout"].verdict is not Verdict.UNSURE


@pytest.mark.parametrize("seed", [1, 2])
def test_a_random_walk_of_lawful_and_unlawful_writes_breaks_no_page_and_no_agreement(
    client: TestClient, shop: Shop, described: str, seed: int
) -> None:
    pick = random.Random(seed)
    key = described
    texts = READINGS
    for step in range(500):
        station = pick.choice(ORDER.stations)
        at = f"/jobs/{key}/{station.key}"
        act = pick.choices(
            ("waiting", "slot", "sheet", "skip", "anew", "void", "choose", "moved", "note", "accept"),
            (40, 22, 12, 3, 4, 12, 4, 3, 2, 3),
        )[0]
        text, drop, side = pick.choice(texts), pick.choice((*texts, "45", "90", "1.2")), pick.choice(SIDES)
        form = {"text": text, "second": drop, "side": side, "token": f"walk {seed} {step}"}
        if act == "waiting":
            page = client.get(at).text
            offered = re.findall(r'name="text" value="([^"]+)"', page)
            form |= {"slot": waiting(page), "text": pick.choice(offered) if offered else text}
            answer = client.post(at, data=form, headers=HX)
        elif act == "slot" and station.key in SLOTS:
            form["slot"] = pick.choice(SLOTS[station.key]).format(n=pick.choice((1, 2, 3, "x", "1" * 30)))
            answer = client.post(at, data=form, headers=HX)
        elif act == "sheet":
            kind = pick.choice(sorted(ORDER.forms))
            field = pick.choice(ORDER.forms[kind].fields)
            typed = {**FORMS_BEFORE.get(kind, {}), "unit": "mm", field: pick.choice(texts)}
            path = kind if kind in ORDER.by_key and ORDER.by_key[kind].form else f"sheet/{kind}"
            if kind == "engine":
                continue
            answer = client.post(f"/jobs/{key}/{path}", data=typed, headers=HX)
        elif act == "skip":
            answer = client.post(
                f"{at}/skip", data={"reason": pick.choice(("", "no time")), "rest": pick.choice(("", "1"))}
            )
        elif act == "anew":
            done = pick.choice((*station.acts, "other", "painted"))
            answer = client.post(f"{at}/anew", data={"act": done, "what": pick.choice(("", "shim out"))})
        elif act == "void":
            with shop.read() as session:
                there = [reading.id for reading in jobs.load(session, key).readings] or [1]
            answer = client.post(f"{at}/void/{pick.choice(there)}", data={"reason": "walk"})
        elif act == "choose":
            answer = client.post(
                f"/jobs/{key}/adjust", data={"choice": pick.choice(("both:0", "both:²", "x:1", "both:99"))}
            )
        elif act == "note":
            answer = client.post(f"{at}/note", data={"words": text, "about": pick.choice(("", "5", "x"))})
        elif act == "accept":
            answer = client.post(f"{at}/accept", data={"because": pick.choice(("", "as it is"))})
        else:
            answer = client.post(f"/jobs/{key}/tdc", data={"slot": "left", "text": ""})
        assert answer.status_code < 500, (step, act, station.key, form)
        if step % 10 == 0:
            consistent(shop, key)
        if step % 100 == 99:
            every_page_stands(client, key, step)
    again = client.post("/jobs/import", files={"file": ("j.json", client.get(f"/jobs/{key}.json").content)})
    assert again.status_code == 200


@pytest.mark.parametrize(
    ("method", "path", "more"),
    [
        ("get", "/", {"headers": {"Host": "evil.example"}}),
        ("get", "/", {"headers": {"Host": "[::1"}}),
        ("post", "/bench/who", {"headers": {"Origin": "http://["}, "data": {"by": "QZ"}}),
        ("post", "/bench/who", {"headers": {"Origin": "http://evil.example"}, "data": {"by": "QZ"}}),
        ("get", "/jobs/none/photos/99999999999999999999999", {}),
        ("post", "/jobs/none/tdc/void/99999999999999999999999", {"data": {"reason": "x"}}),
        ("get", "/?page=99999999999999999999999999999", {}),
        ("get", "/?page=" + "9" * 5000, {}),
        ("get", "/jobs/none/what-if?intake=1e999", {}),
    ],
)
def test_hostile_requests_are_answered_and_not_broken(
    client: TestClient, method: str, path: str, more: dict[str, object]
) -> None:
    assert client.request(method, path, **more).status_code < 500


def test_another_sites_name_for_this_machine_is_refused_and_a_told_one_is_not(client: TestClient) -> None:
    assert client.get("/", headers={"Host": "rebound.example:8765"}).status_code == 421
    for name in ("localhost:8765", "127.0.0.1:8765", "[::1]:8765", "192.168.1.20"):
        assert client.get("/", headers={"Host": name}).status_code == 200


def test_initials_of_any_letters_are_kept_and_told(client: TestClient, described: str, shop: Shop) -> None:
    form = {"slot": "stop.2.before", "text": "40", "side": "btdc", "by": "жш", "token": "zh"}
    assert client.post(f"/jobs/{described}/tdc", data=form, headers=HX).status_code == 200
    assert ">ЖШ<" in client.get(f"/jobs/{described}/tdc").text
    with shop.read() as session:
        assert jobs.load(session, described).readings[-1].by == "ЖШ"


def test_new_jobs_without_a_token_are_jobs_of_their_own(client: TestClient) -> None:
    from tests.hands import ENGINE

    keys = {
        client.post("/jobs/new", data={**ENGINE, "title": "Bare", "by": "QZ"}, follow_redirects=False).headers[
            "location"
        ]
        for _ in range(2)
    }
    assert len(keys) == 2


def test_a_sweep_file_taken_twice_is_refused_and_pressed_twice_is_once(
    client: TestClient, described: str, shop: Shop
) -> None:
    csv = "angle_deg,lift_mm\n" + "\n".join(f"{a},{8 - 0.0005 * (a - 110) ** 2:.3f}" for a in range(-10, 231, 10))
    send = {"lobe": "intake", "csv": csv, "token": "once"}
    for _ in range(2):
        assert client.post(f"/jobs/{described}/degree/sweep", data=send).status_code == 200
    again = client.post(f"/jobs/{described}/degree/sweep", data={**send, "token": "twice"})
    assert again.status_code == 422
    assert "there already" in again.text
    overlapping = "angle_deg,lift_mm\n" + "\n".join(f"{a},1" for a in range(-105, 106, 5))
    mixed = client.post(
        f"/jobs/{described}/degree/sweep", data={"lobe": "intake", "csv": overlapping, "token": "mixed"}
    )
    assert mixed.status_code == 422
    with shop.read() as session:
        swept = [r for r in jobs.load(session, described).readings if r.slot.startswith("sweep-intake")]
    assert len(swept) == 25
    every_page_stands(client, described, "sweep files")


def test_long_lawful_forms_go_out_and_come_in_again(client: TestClient, described: str) -> None:
    keyways = ", ".join(f"key{n}: {n / 2:g}" for n in range(25))
    stock = " ".join(f"{0.05 + n / 100:.2f}" for n in range(40))
    for kind, typed in (
        ("drive", {"a1_kind": "choices", "a1_options": keyways, "a1_fitted": "key0"}),
        ("setting", {"crank_way": "shims", "crank_stock": stock}),
    ):
        assert client.post(f"/jobs/{described}/sheet/{kind}", data=typed, headers=HX).status_code == 200
    out = client.get(f"/jobs/{described}.json")
    assert out.status_code == 200
    assert keyways in out.text
    answer = client.post("/jobs/import", files={"file": ("job.json", out.content)}, follow_redirects=False)
    assert answer.status_code == 303
    endless = client.post(f"/jobs/{described}/sheet/runout", data={"where": "x" * 1001}, headers=HX)
    assert endless.status_code == 422
    assert "room for 1000" in endless.text
