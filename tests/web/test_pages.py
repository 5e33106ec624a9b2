import re
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from jinja2 import DictLoader, Environment
from sqlalchemy.exc import OperationalError

from tests import cut_styles
from tests.hands import CARD, ENGINE, take, true_top
from uranograph.shop import jobs, loading
from uranograph.shop.database import Shop
from uranograph.web.app import create_app
from uranograph.web.pages import TemplateCodeCache
from uranograph.web.settings import Settings
from uranograph.web.static_files import FOLDER, TOGETHER, lean

HX = {"HX-Request": "true"}
STOP = {"slot": "stop.1.before", "text": "40 1/8", "side": "btdc", "token": "a", "by": "QZ"}


def new_job(client: TestClient, **change: str) -> str:
    form = {**ENGINE, "title": "Made four", "by": "QZ", "token": "t", **change}
    answer = client.post("/jobs/new", data=form, follow_redirects=False)
    assert answer.status_code == 303
    return answer.headers["location"].split("/")[2]


def test_an_empty_shop_says_what_to_do_first(client: TestClient) -> None:
    page = client.get("/").text
    assert "No jobs yet" in page
    assert 'href="/jobs/new"' in page


def test_a_job_from_nothing_and_a_double_submit_is_one_job(client: TestClient) -> None:
    assert new_job(client) == new_job(client)
    page = client.get("/").text
    assert page.count("Made four") == 1
    assert "Spec card" in page


def test_bad_engine_fields_keep_what_was_typed(client: TestClient) -> None:
    form = {**ENGINE, "title": "", "firing_order": "1-3-4-4", "rod": "4 furlongs", "by": ""}
    answer = client.post("/jobs/new", data=form)
    assert answer.status_code == 422
    for typed in ("1-3-4-4", "4 furlongs"):
        assert f'value="{typed}"' in answer.text
    for words in ("stands twice", "no unit of length", "Give the job a name", "Who is here?"):
        assert words in answer.text


@pytest.mark.parametrize("station", ["engine", "card", "wheel", "tdc", "degree", "sheet", "what-if"])
def test_every_station_of_a_fresh_job_says_what_to_do(client: TestClient, station: str) -> None:
    key = new_job(client)
    answer = client.get(f"/jobs/{key}/{station}")
    assert answer.status_code == 200
    assert "Made four" in answer.text


def test_a_live_card_fills_in_what_follows_and_names_what_clashes(client: TestClient, key: str) -> None:
    form = {"intake_duration_deg": "226", "intake_centerline_deg": "107", "unit": "mm"}
    page = client.post(f"/jobs/{key}/card/preview", data=form, headers=HX).text
    assert re.search(r'id="follows-io_btdc_deg"[^>]*>.*= 6\.0 \(calculated\)', page)
    assert not re.search(r'id="follows-eo_bbdc_deg"[^>]*>[^<]*calculated', page)
    clash = client.post(f"/jobs/{key}/card/preview", data={**form, "io_btdc_deg": "12"}, headers=HX).text
    assert re.search(r'id="error-io_btdc_deg"[^>]*>[^<]*deg apart', clash)
    assert len(re.findall(r'id="error-[^>]*>[^<]*deg apart', clash)) == 1
    assert "The card contradicts itself" in clash
    half = client.post(f"/jobs/{key}/card/preview", data={"io_btdc_deg": "1.2.3"}, headers=HX).text
    assert "1.2.3" in half


def test_a_live_engine_shows_companions_and_nothing_is_wrong_yet_that_is_only_empty(client: TestClient) -> None:
    page = client.post("/sheets/engine/preview", data=ENGINE, headers=HX).text
    assert "<b>1 and 4</b>" in page
    empty = client.post("/sheets/engine/preview", data={"cylinders": "4"}, headers=HX).text
    assert "such as 1-3-4-2." not in empty
    assert client.post("/sheets/card/preview", data={}, headers=HX).status_code == 404


def test_a_contradicting_card_is_kept_and_stays_in_doubt(client: TestClient, key: str) -> None:
    answer = client.post(f"/jobs/{key}/card", data={**CARD, "intake_centerline_deg": "115"}, follow_redirects=False)
    assert answer.headers["location"].endswith("/card")
    page = client.get(f"/jobs/{key}/card").text
    assert 'value="115"' in page
    assert "cannot tell" in page


def test_a_bad_card_is_not_kept_but_stays_as_typed(client: TestClient, key: str) -> None:
    answer = client.post(f"/jobs/{key}/card", data={**CARD, "io_btdc_deg": "12 mm"})
    assert answer.status_code == 422
    assert 'value="12 mm"' in answer.text
    assert 'value="12"' in client.get(f"/jobs/{key}/card").text


def test_a_reading_is_recorded_once_and_the_bench_moves_on(client: TestClient, key: str) -> None:
    for _ in range(2):
        answer = client.post(f"/jobs/{key}/tdc", data=STOP, headers=HX)
        assert answer.status_code == 200
        assert 'value="stop.1.after"' in answer.text
    page = client.get(f"/jobs/{key}/tdc").text
    assert len(re.findall(r"<td><b>40 1/8</b>", page)) == 1


def test_without_scripts_a_recorded_reading_leads_to_a_page_that_can_be_reloaded(client: TestClient, key: str) -> None:
    answer = client.post(f"/jobs/{key}/tdc", data=STOP, follow_redirects=False)
    assert answer.status_code == 303
    assert answer.headers["location"] == f"/jobs/{key}/tdc"


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"text": "200"}, "not on a 0-180-0 wheel"),
        ({"text": ""}, "Nothing is typed"),
        ({"text": "40 mm"}, "is a length"),
        ({"side": "bbdc"}, "counts from TDC only"),
        ({"text": "x" * 65}, "letters long"),
    ],
)
def test_a_bad_reading_is_told_beside_the_field_and_stays_typed(
    client: TestClient, key: str, change: dict[str, str], words: str
) -> None:
    answer = client.post(f"/jobs/{key}/tdc", data={**STOP, **change}, headers=HX)
    assert answer.status_code == 422
    assert words in answer.text
    assert f'value="{change.get("text", STOP["text"])}"' in answer.text
    assert "No readings yet" in answer.text


@pytest.mark.parametrize(
    "change", [{"slot": "x"}, {"slot": "intake.1.before"}, {"side": "left"}, {"slot": "stop.1.sideways"}]
)
def test_a_form_that_was_tampered_with_is_refused_and_not_a_crash(
    client: TestClient, key: str, change: dict[str, str]
) -> None:
    assert client.post(f"/jobs/{key}/tdc", data={**STOP, **change}, headers=HX).status_code == 422
    assert client.post(f"/jobs/{key}/card/preview", data={**CARD, "unit": "furlong"}, headers=HX).status_code == 200


def test_initials_are_asked_for_and_remembered(client: TestClient, key: str) -> None:
    client.cookies.clear()
    bare = {name: value for name, value in STOP.items() if name != "by"}
    answer = client.post(f"/jobs/{key}/tdc", data=bare, headers=HX)
    assert answer.status_code == 422
    assert "Tap or type your initials" in answer.text
    answer = client.post(f"/jobs/{key}/tdc", data={**bare, "by": "zq"}, headers=HX)
    assert "uranograph_by=ZQ" in answer.headers["set-cookie"]


def test_a_second_window_is_told_and_loses_nothing(client: TestClient, shop: Shop, key: str) -> None:
    seen = "3"
    client.post(f"/jobs/{key}/tdc", data={**STOP, "seen": seen}, headers=HX)
    answer = client.post(f"/jobs/{key}/tdc", data={**STOP, "token": "b", "text": "41", "seen": seen}, headers=HX)
    assert answer.status_code == 409
    assert "another window" in answer.text
    assert 'value="41"' in answer.text
    with shop.read() as session:
        assert len(loading.load(session, key).readings) == 1
    client.post(f"/jobs/{key}/card", data={**CARD, "io_btdc_deg": "13", "seen": seen})
    answer = client.post(f"/jobs/{key}/card", data={**CARD, "io_btdc_deg": "14", "seen": seen})
    assert answer.status_code == 409
    assert 'value="14"' in answer.text


def test_a_write_that_fails_says_so_and_keeps_the_form(
    client: TestClient, key: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: object, **__: object) -> None:
        raise OperationalError("INSERT", {}, Exception("database is locked"))

    monkeypatch.setattr(jobs, "record", broken)
    monkeypatch.setattr(jobs, "save_form", broken)
    monkeypatch.setattr(jobs, "begin", broken)
    for path, form, typed in (
        (f"/jobs/{key}/tdc", STOP, "40 1/8"),
        (f"/jobs/{key}/card", {**CARD, "io_btdc_deg": "13"}, "13"),
        ("/jobs/new", {**ENGINE, "title": "Nine", "by": "QZ"}, "Nine"),
    ):
        answer = client.post(path, data=form, headers=HX)
        assert answer.status_code == 503, path
        assert "Not written" in answer.text
        assert f'value="{typed}"' in answer.text


def test_voiding_asks_why_and_strikes_through(client: TestClient, shop: Shop, key: str) -> None:
    with shop.write() as session:
        reading = true_top(session, key).readings[-1]
    page = client.get(f"/jobs/{key}/tdc?void={reading.id}").text
    assert "why this reading does not count" in page
    path = f"/jobs/{key}/tdc/void/{reading.id}"
    assert client.post(path, data={"reason": "", "other": " "}, headers=HX).status_code == 422
    answer = client.post(path, data={"reason": "overshot", "other": "hand slipped"}, headers=HX)
    assert "voided QZ: hand slipped" in answer.text
    assert 'class="voided"' in answer.text


def test_what_if_moves_the_events_and_records_nothing(client: TestClient, shop: Shop, key: str) -> None:
    page = client.get(f"/jobs/{key}/what-if?intake=4", headers=HX).text
    assert '4.0</span> <span class="unit">crank deg advanced' in page
    assert re.search(r"Intake opens BTDC</th><td>12\.0</td><td>12\.0</td><td>16\.0", page)
    assert re.search(r"Exhaust opens BBDC</th><td>54\.0</td><td>54\.0</td><td>58\.0", page)
    assert client.get(f"/jobs/{key}/what-if?intake=nan").status_code == 200
    assert "15.0</span>" in client.get(f"/jobs/{key}/what-if?intake=900", headers=HX).text
    with shop.read() as session:
        assert loading.load(session, key).seq == 3


def test_the_build_sheet_has_evidence_card_and_all_readings(client: TestClient, shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key, "41", "37.5")
        take(
            session,
            key,
            "tdc",
            [("moved", "", None), ("stop.2.before", "39.25", "btdc"), ("stop.2.after", "39.25", "atdc")],
        )
        job = take(session, key, "degree", [("intake.1.before", "60", "atdc")], second="1.0")
        jobs.void(session, key, job.readings[-1].id, "wrong side", "QZ")
    page = client.get(f"/jobs/{key}/sheet").text
    for words in ("−1.75", "as first mounted", "after moving the wheel", "wrong side", "Intake closes 52.0", "outrank"):
        assert words in page, words


def test_a_job_goes_out_and_comes_in_as_a_new_one(client: TestClient, shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key, "41", "37.5")
    out = client.get(f"/jobs/{key}.json")
    assert "attachment" in out.headers["content-disposition"]
    answer = client.post("/jobs/import", files={"file": ("job.json", out.content)}, follow_redirects=False)
    again = answer.headers["location"].split("/")[2]
    assert again != key
    assert client.get(f"/jobs/{again}.json").json() == out.json()
    bad = client.post("/jobs/import", files={"file": ("job.json", b"{}")})
    assert bad.status_code == 422
    assert "no job file" in bad.text


def test_rules_every_answer_keeps(client: TestClient, key: str) -> None:
    answer = client.get(f"/jobs/{key}/degree")
    policy = answer.headers["content-security-policy"]
    assert "unsafe-inline" not in policy
    assert "script-src 'self'" in policy
    assert not re.search(r"<script(?![^>]*src=)|\son\w+=|\sstyle=", answer.text)
    assert (
        client.post("/bench/light", data={"light": "night"}, headers={"Origin": "http://elsewhere.test"}).status_code
        == 403
    )
    assert (
        client.post("/bench/light", data={"light": "night"}, headers={"Sec-Fetch-Site": "cross-site"}).status_code
        == 403
    )
    led = client.post("/bench/light", data={"light": "night", "back": "//elsewhere.test"}, follow_redirects=False)
    assert led.headers["location"] == "/"
    assert 'data-light="night"' in client.get("/").text


@pytest.mark.parametrize("path", ["/jobs/none/degree", "/nothing", "/jobs/none/sheet", "/jobs/none/what-if"])
def test_what_is_not_there_is_told_on_a_page(client: TestClient, path: str) -> None:
    answer = client.get(path)
    assert answer.status_code == 404
    assert "There is nothing here" in answer.text


def test_an_unknown_station_is_not_there(client: TestClient, key: str) -> None:
    assert client.get(f"/jobs/{key}/none").status_code == 404
    assert client.post(f"/jobs/{key}/none", data={}).status_code == 404


def test_scripts_and_styles_stay_small_and_carry_their_version(client: TestClient) -> None:
    for address in ("/jobs/new", "/api", "/help"):
        page = client.get(address).text
        paths = re.findall(r'(?:src|href)="(/static/[^"]+\.(?:js|css))"', page)
        assert {re.sub(r"\.[0-9a-f]{10}\.", ".", path).rpartition("/")[2] for path in paths} >= {"page.js", "page.css"}
        assert sum(len(client.get(path).content) for path in paths) < 200_000
        for path in paths:
            assert re.search(r"\.[0-9a-f]{10}\.(js|css)$", path), path
            assert client.get(path).headers["cache-control"] == "public, max-age=31536000, immutable"
    # By another version's name, or by none, it is what there is now, and not kept for long.
    for part in ("page.js", "light.js"):
        name = next(path for path in paths if path.rpartition("/")[2].startswith(part.removesuffix(".js")))
        plain = re.sub(r"\.[0-9a-f]{10}\.", ".", name)
        for other in (plain, plain.replace(".js", ".0123456789.js")):
            assert client.get(other).content == client.get(name).content
            assert client.get(other).headers["cache-control"] == "public, max-age=3600"
    assert client.get("/static/nothing.0123456789.js").status_code == 404


def test_every_script_and_style_goes_out_whole_and_once(client: TestClient) -> None:
    """Each file of ours is on every page, beside those that one page alone has."""
    alone = {"light.js", "try.js", "label.css", "engine.js", "engine-scene.js"}
    ours = {path.name for path in FOLDER.glob("*.js")} | {path.name for path in FOLDER.glob("*.css")}
    parts = [part for name in TOGETHER for part in TOGETHER[name]]
    assert len(parts) == len(set(parts))
    assert {part for part in parts if "/" not in part} == ours - alone
    for name, own in TOGETHER.items():
        answer = client.get(f"/static/{name}")
        assert answer.headers["content-type"].startswith(("text/javascript", "text/css"))
        for part in own:
            sent = (FOLDER / part).read_bytes()
            assert (sent if part.startswith("vendor/") else lean(sent)) in answer.content
        # Nothing but comments, indentation and empty lines is left out.
        assert "//" in (FOLDER / "live.js").read_text(encoding="utf-8")
        for part in (each for each in own if "/" not in each):
            left = [line.strip() for line in (FOLDER / part).read_text(encoding="utf-8").splitlines()]
            told = [line for line in left if line and not line.startswith(("//", "/*"))]
            assert "\n".join(line for line in told if line in answer.text) == "\n".join(told)


def test_the_style_framework_ships_cut_to_what_pages_use() -> None:
    assert cut_styles.SHIPPED.read_text(encoding="utf-8") == cut_styles.shipped(), "run `make styles`"
    used = {"button", "form-control", "visually-hidden", "form", "a"}
    assert cut_styles.cut(".form-control{color:red}.modal{x:y}.btn,.form-control:focus{z:1}", used) == (
        ".form-control{color:red}.form-control:focus{z:1}"
    )
    assert cut_styles.cut("@media print{.modal{x:y}}@media print{a{x:y}}", used) == "@media print{a{x:y}}"
    assert cut_styles.cut(".modal:not(.b,.c){x:y}button:not(:disabled){x:y}", used) == "button:not(:disabled){x:y}"
    assert cut_styles.without_variables("a{--x:1;--y:2;color:var(--y)}b{--z:3}", set()) == "a{--y:2;color:var(--y)}"


def test_a_second_start_finds_everything_again(shop: Shop, key: str) -> None:
    for _ in range(2):
        with TestClient(create_app(Settings(database=Path(shop.path))), base_url="http://127.0.0.1") as client:
            assert "Test bench four" in client.get("/").text


def test_what_templates_become_is_kept_where_that_can_be_and_pages_stand_where_it_cannot(tmp_path: Path) -> None:
    (tmp_path / "there").mkdir()
    for folder, kept in (("there", 1), ("nowhere", 0)):
        env = Environment(
            loader=DictLoader({"a.html": "{{ 1 + 1 }}"}), bytecode_cache=TemplateCodeCache(str(tmp_path / folder))
        )
        assert env.get_template("a.html").render() == "2"
        assert len(list((tmp_path / folder).glob("*.cache"))) == kept


def test_a_pair_that_tells_of_a_moved_wheel_is_asked_about_and_begins_a_mounting(client: TestClient, key: str) -> None:
    for n, (before, after) in enumerate((("31", "29"), ("31", "29"), ("35", "25")), 1):
        for place, text, side in (("before", before, "btdc"), ("after", after, "atdc")):
            page = client.get(f"/jobs/{key}/tdc").text
            assert 'name="since"' not in page
            client.post(f"/jobs/{key}/tdc", data={"slot": f"stop.{n}.{place}", "text": text, "side": side, "by": "QZ"})
    page = client.get(f"/jobs/{key}/tdc").text
    assert "Moved before this pair" in page
    since = re.search(r'name="since" value="([0-9]+)"', page)[1]
    client.post(f"/jobs/{key}/tdc/anew", data={"act": "wheel-moved", "since": since, "by": "QZ"})
    page = client.get(f"/jobs/{key}/tdc").text
    assert 'name="since"' not in page
    assert "The wheel or its pointer was moved" in page
    assert "5.00" in page
