import json

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.hands import a_job, take, true_top
from uranograph.core.errors import InvalidInput
from uranograph.shop import exchange, job_files, jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER


def a_full_job(shop: Shop) -> str:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key, "41", "37 1/2")
        take(
            session,
            key,
            "tdc",
            [("moved", "", None), ("stop.2.before", "39,25", "btdc"), ("stop.2.after", "39.25", "atdc")],
        )
        take(session, key, "degree", [("intake.1.before", "60", "atdc")], second="1.0")
        jobs.void(session, key, loading.load(session, key).readings[-1].id, "wrong side", "AB")
        take(
            session, key, "degree", [("intake.1.before", "66", "atdc"), ("intake.1.after", "156", "atdc")], second="1.0"
        )
    return key


def test_out_and_in_again_is_the_same_job(shop: Shop) -> None:
    key = a_full_job(shop)
    with shop.read() as session:
        kept = exchange.export_job(session, key)
        before = ORDER.overview(loading.load(session, key))
    text = kept.model_dump_json(indent=2)
    with shop.write() as session:
        again = exchange.import_job(session, exchange.read_job(text))
    assert again != key
    with shop.read() as session:
        assert exchange.export_job(session, again) == kept
        assert ORDER.overview(loading.load(session, again)) == before
        original, copy = loading.load(session, key), loading.load(session, again)
    assert [(r.text, r.seq, r.void) for r in original.readings] == [(r.text, r.seq, r.void) for r in copy.readings]


words = st.text(st.characters(blacklist_categories=("Cs", "Cc")), max_size=60)


@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(words, words, st.sampled_from(["btdc", None]))
def test_whatever_was_typed_comes_back_letter_for_letter(shop: Shop, typed: str, drop: str, side: str | None) -> None:
    at = "2026-03-04T05:06:07.000008Z"
    kept = job_files.StoredJob(
        title="Odd text",
        created_at=at,
        touched_at=at,
        entries=[
            {
                "type": "reading",
                "seq": 3,
                "station": "tdc",
                "slot": "drop.1.before",
                "text": typed,
                "side": side,
                "approach": "forward",
                "drop": drop[:32],
                "unit": "mm",
                "instrument": "by eye",
                "by": "QZ",
                "at": at,
            }
        ],
    )
    with shop.write() as session:
        key = exchange.import_job(session, exchange.read_job(kept.model_dump_json()))
        assert exchange.export_job(session, key) == kept
        ORDER.overview(loading.load(session, key))  # an odd reading is told, never a crash


def _spoiled(shop: Shop, change: object) -> str:
    with shop.read() as session:
        data = json.loads(exchange.export_job(session, a_full_job(shop)).model_dump_json())
    change(data)  # type: ignore[operator]
    return json.dumps(data)


@pytest.mark.parametrize(
    "change",
    [
        lambda data: data.update(format="another"),
        lambda data: data.update(version=5),
        lambda data: data["entries"][0]["typed"].update(colour="red"),
        lambda data: data.update(surprise=1),
        lambda data: data["entries"].reverse(),
        lambda data: data["entries"][3].update(slot="stop.one.before"),
        lambda data: data["entries"][3].update(text="x" * 65),
        lambda data: data["entries"][3].update(at="2026-03-04T05:06:07"),
        lambda data: next(e for e in data["entries"] if e["type"] == "void").update(of=1),
        lambda data: data["entries"][7].update(slot="stop.1.after"),
        lambda data: data["entries"].append({**next(e for e in data["entries"] if e["type"] == "void"), "seq": 99}),
    ],
)
def test_a_file_that_is_no_job_is_refused_whole(shop: Shop, change: object) -> None:
    text = _spoiled(shop, change)
    with pytest.raises(InvalidInput, match="not-a-job-file"):
        exchange.read_job(text)


@pytest.mark.parametrize(
    "change",
    [
        {"station": "degree", "slot": "sweep-intake.1.point", "text": "ten", "drop": "0.1"},
        {"station": "degree", "slot": "sweep-intake.1.point", "text": "10", "drop": "high"},
        {"station": "degree", "slot": "overlap-intake.1.lift", "text": "high"},
        {"station": "degree", "slot": "io.1.forward", "text": "ten"},
    ],
)
def test_a_reading_no_bench_wrote_never_breaks_a_page(client: TestClient, shop: Shop, change: dict[str, str]) -> None:
    def add(data: dict[str, list[dict[str, object]]]) -> None:
        last = data["entries"][-1]
        data["entries"].append({**last, "drop": None, "seq": 99, **change})

    text = _spoiled(shop, add)
    answer = client.post("/jobs/import", files={"file": ("job.json", text)}, follow_redirects=False)
    with shop.read() as session:
        found = loading.page(session)
    if answer.status_code == 422:
        assert "cannot be read" in answer.text
        assert found.total == 1
        return
    key = answer.headers["location"].split("/")[2]
    for path in (
        "degree",
        "degree?method=sweep",
        "degree?method=events",
        "degree?method=overlap",
        "adjust",
        "sheet",
        "what-if",
    ):
        assert client.get(f"/jobs/{key}/{path}").status_code == 200, path
    assert client.get("/").status_code == 200


def test_text_that_is_no_json_is_refused() -> None:
    with pytest.raises(InvalidInput):
        exchange.read_job("{")


def test_no_such_job(shop: Shop) -> None:
    with shop.read() as session, pytest.raises(loading.NoSuchJob):
        exchange.export_job(session, "none")
