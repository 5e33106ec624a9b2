"""What comes from outside: how much of it is taken, how long one waits for it, and that nothing in it acts here."""

import asyncio
import json
import re
import socket
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest
import uvicorn
from fastapi.testclient import TestClient

from uranograph.core.plain import is_plain
from uranograph.shop import exchange, job_files, signing
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.web import limits
from uranograph.web.app import create_app
from uranograph.web.routes import calc
from uranograph.web.settings import Settings

DATA = Path(__file__).parent.parent / "shop" / "data"
HOSTILE = (
    '<img src="x" onerror="alert(1)"><div hx-post="/jobs/{key}/rename" hx-trigger="load" hx-vals=\'{{"title": "taken"}}\'>'
    '<meta http-equiv="refresh" content="0;url=https://elsewhere.example/"><script>alert(2)</script>'
)


def with_a_page(page: str) -> dict[str, Any]:
    """A job file of version 3 whose signed page is of somebody's making, with a digest that fits it."""
    data: dict[str, Any] = json.loads((DATA / "job_of_version_3.json").read_text(encoding="utf-8"))
    data["signatures"] = data["signatures"][:1]
    signed = data["signatures"][0]
    signed["page"] = page
    kept = job_files.StoredJob.model_validate(data)
    signed["digest"] = exchange.documents.digest_of(kept.signatures[0].signed or "")
    return data


def test_a_page_that_comes_with_a_file_is_never_shown(client: TestClient, shop: Shop, key: str) -> None:
    sent = {"file": ("job.json", json.dumps(with_a_page(HOSTILE.format(key=key))))}
    answer = client.post("/jobs/import", files=sent, follow_redirects=False)
    assert answer.status_code == 303
    brought = answer.headers["location"].split("/")[2]
    around, page = (client.get(f"/jobs/{brought}/signed/1{end}") for end in ("", "/page"))
    for text in (around.text, page.text):
        assert "onerror" not in text
        assert "elsewhere.example" not in text
        assert "hx-post" not in text.split("<main")[1].split("</main>")[0]
    assert "redrawn here" in around.text
    assert "<svg" in page.text


def test_the_page_that_is_shown_cannot_act_even_where_the_file_was_changed(client: TestClient, demo_shop: Shop) -> None:
    with TestClient(create_app(Settings(database=demo_shop.path)), base_url="http://127.0.0.1") as opened:
        with demo_shop.read() as session:
            key = next(job.key for job in jobs.page(session).jobs if signing.signatures(session, job.key))
        around, page = (opened.get(f"/jobs/{key}/signed/1{end}") for end in ("", "/page"))
    policy = page.headers["content-security-policy"]
    assert "sandbox" in policy
    assert "script-src" not in policy
    assert "default-src 'none'" in policy
    frame = re.search(r"<iframe[^>]*>", around.text)
    assert frame
    assert 'sandbox="allow-same-origin allow-modals"' in frame.group()
    assert "<script" not in page.text


@pytest.mark.parametrize("text", ["a\x0bb", "a\x00b", "a\x1fb", "a\u202eb"])
def test_what_cannot_be_seen_is_left_out_at_the_door(client: TestClient, shop: Shop, key: str, text: str) -> None:
    client.post(f"/jobs/{key}/tdc/note", data={"words": text})
    client.post(f"/jobs/{key}/rename", data={"title": text})
    with shop.read() as session:
        job = jobs.load(session, key)
        told = exchange.export_job(session, key).model_dump(mode="json")
    assert job.title == "ab"
    assert any(entry.text == "ab" for entry in job.entries)
    assert client.get(f"/jobs/{key}.xlsx").status_code == 200
    told["entries"][0]["typed"]["firing_order"] = f"1-3-4-2{text[1]}"
    kept = exchange.read_job(json.dumps(told))
    assert all(is_plain(value) for value in kept.entries[0].typed.values())


def test_text_that_a_file_brought_in_before_spoils_no_workbook(client: TestClient, shop: Shop, key: str) -> None:
    with shop.write() as session:
        jobs.row_of(session, key).title = "a\x0bb"
    assert client.get(f"/jobs/{key}.xlsx").status_code == 200


DEEP = "[" * 100_000 + "]" * 100_000


@pytest.mark.parametrize("path", ["/api/judge", "/api/calc/tooth-slip"])
@pytest.mark.parametrize("body", [DEEP, '{"a":' * 100_000, '{"signatures": [{"judged": ' + DEEP + "}]}"])
def test_what_is_nested_too_deep_is_refused(client: TestClient, path: str, body: str) -> None:
    assert client.post(path, content=body).status_code == 422


def test_a_file_that_is_nested_too_deep_is_refused(client: TestClient) -> None:
    for content in (DEEP, f"{DEEP}\n{DEEP}"):
        assert client.post("/jobs/import", files={"file": ("job.json", content)}).status_code == 422


def test_voiding_twice_with_initials_that_are_too_long_is_refused(client: TestClient, shop: Shop, key: str) -> None:
    form = {"slot": "stop.1.before", "text": "40", "side": "btdc"}
    assert client.post(f"/jobs/{key}/tdc", data=form).status_code == 200
    with shop.read() as session:
        reading = jobs.load(session, key).readings[0].id
    void = f"/jobs/{key}/tdc/void/{reading}"
    assert client.post(void, data={"reason": "slip"}).status_code == 200
    assert client.post(void, data={"reason": "slip", "by": "MANYLETTERS"}).status_code == 422


def test_more_than_is_taken_is_refused_before_it_is_read(client: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    read = 0

    def parts() -> Iterator[bytes]:
        nonlocal read
        for _ in range(100):
            read += 1
            yield b"x" * 1_000_000

    headers = {"Content-Type": "multipart/form-data; boundary=x"}
    promised = client.post("/jobs/import", content=b"x", headers={**headers, "Content-Length": "400000000"})
    assert promised.status_code == 413
    monkeypatch.setattr(limits, "LARGEST_FILE", 3_000_000)
    unsaid = client.post("/jobs/import", content=parts(), headers=headers)
    assert unsaid.status_code == 413
    judged = client.post("/api/judge", content=parts())
    assert judged.json()["error"]["code"] == "too-large"


@contextmanager
def served(shop: Shop) -> Iterator[int]:
    """The application as it is served, with its own protocol."""
    app = create_app(Settings(database=shop.path))
    server = uvicorn.Server(uvicorn.Config(app, http=limits.TimelyProtocol, port=0, log_level="error"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    yield server.servers[0].sockets[0].getsockname()[1]
    server.should_exit = True
    thread.join()


HEAD_S, PART_S = 0.6, 0.3


def test_requests_that_are_half_sent_are_given_up(shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(limits, "MAX_HEAD_S", HEAD_S)
    monkeypatch.setattr(limits, "MAX_PART_S", PART_S)
    head = b"POST /api/judge HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 900\r\n\r\n{"
    with served(shop) as port:
        opened = []
        for sent in (b"", b"GET / HTTP/1.1\r\nHost: 127", head):
            for _ in range(10):
                connection = socket.create_connection(("127.0.0.1", port), timeout=10)
                connection.sendall(sent)
                opened.append((sent, connection))
        for sent, connection in opened:
            answer = connection.recv(4096)
            assert (b" 408 " in answer) is (sent is head)
            connection.close()
        whole = socket.create_connection(("127.0.0.1", port), timeout=10)
        whole.sendall(b"GET /jobs.json HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n")
        assert b" 200 " in whole.recv(4096)
        whole.close()


def test_head_is_answered_as_get_without_a_body(client: TestClient, key: str) -> None:
    for path in ("/", f"/jobs/{key}/overview", f"/jobs/{key}.json", "/help"):
        told = client.head(path)
        assert told.status_code == 200
        assert told.content == b""
        assert told.headers["content-type"] == client.get(path).headers["content-type"]


@pytest.mark.parametrize(("scheme", "secure"), [("https", True), ("http", False)])
def test_cookies_are_secure_behind_tls(shop: Shop, scheme: str, secure: bool) -> None:
    with TestClient(create_app(Settings(database=shop.path)), base_url=f"{scheme}://127.0.0.1") as opened:
        told = opened.post("/bench/who", data={"by": "QZ"}, follow_redirects=False)
    assert ("; Secure" in told.headers["set-cookie"]) is secure


def test_what_only_waited_in_line_is_not_told_to_send_less(client: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(calc, "MAX_S", 0.4)
    monkeypatch.setattr(calc, "MAX_IN_LINE_S", 0.2)

    async def asked() -> list[str]:
        answers = await asyncio.gather(
            *(calc._worked_out("input", lambda: time.sleep(0.7) or {}) for _ in range(calc.MAX_AT_ONCE)),
            calc._worked_out("input", dict),
        )
        return [json.loads(answer.body).get("error", {}).get("code", "") for answer in answers]

    with ThreadPoolExecutor(1) as apart:
        codes = apart.submit(asyncio.run, asked()).result()
    assert codes == ["took-too-long"] * calc.MAX_AT_ONCE + ["others-first"]


def test_a_client_can_be_made_from_the_description_of_judge(client: TestClient) -> None:
    described = client.get("/openapi.json").json()
    body = described["paths"]["/api/judge"]["post"]["requestBody"]["content"]["application/json"]["schema"]
    name = body["$ref"].rpartition("/")[2]
    assert {"title", "entries", "version"} <= described["components"]["schemas"][name]["properties"].keys()
    refs = set(re.findall(r'"#/components/schemas/(\w+)"', json.dumps(described)))
    assert refs <= described["components"]["schemas"].keys()


def test_a_unit_that_there_is_not_and_a_fall_at_a_stop_break_nothing(client: TestClient, key: str) -> None:
    for kind, typed in (
        ("complaint", {"crank_teeth": "-8"}),
        ("sprocket", {"tolerance": "x"}),
        ("runout", {"places": "x"}),
    ):
        assert client.post(f"/jobs/{key}/sheet/{kind}", data={**typed, "unit": "1b"}).status_code == 422
    assert client.post("/house", data={"unit": "furlong", "by": "QZ"}).status_code < 500
    assert "furlong" not in client.get("/house.json").text
    for place, side in (("before", "btdc"), ("after", "atdc")):
        reading = {"slot": f"stop.1.{place}", "text": "40", "side": side, "second": "-0.1", "by": "QZ"}
        assert client.post(f"/jobs/{key}/tdc", data=reading).status_code in (200, 303, 422)
    assert client.get(f"/jobs/{key}/tdc").status_code == 200
