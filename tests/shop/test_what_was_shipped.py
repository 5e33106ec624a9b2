"""What earlier programs wrote opens, is judged and still holds; and every name that was ever shipped is known for good."""

import gzip
import hashlib
import json
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest

from uranograph.bench.acts import ACTS
from uranograph.bench.house import LIMITS
from uranograph.bench.rules import RULES
from uranograph.shop import exchange, jobs, judging, signing, upcasters
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

DATA = Path(__file__).parent / "data"
FILES = ("job_of_version_2.json", "job_of_version_3.json")


def told(name: str) -> Any:
    return json.loads((DATA / name).read_text(encoding="utf-8"))


@pytest.fixture(scope="module")
def shipped(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Shop]:
    """A shop's file as revision 0007 wrote it, with a job signed twice, opened by the program of today."""
    path = tmp_path_factory.mktemp("shipped") / "shop.db"
    with closing(sqlite3.connect(path)) as connection:
        connection.executescript(gzip.decompress((DATA / "shop_of_revision_0007.sql.gz").read_bytes()).decode())
        connection.execute("PRAGMA application_id = 0x5552414E")
    shop = Shop(path)
    shop.migrate()
    yield shop
    shop.close()


def results(judged: dict[str, Any]) -> dict[str, list[Any]]:
    return {key: [each["verdict"], each["value"]] for key, each in judged["stations"].items()}


def test_a_shop_of_revision_0007_is_judged_as_it_was(shipped: Shop) -> None:
    before = told("found_at_revision_0007.json")
    with shipped.read() as session:
        listed = jobs.page(session, size=50).jobs
        found = {job.title: results(judging.judge(exchange.export_job(session, job.key))) for job in listed}
    assert found.keys() == before.keys()
    for title, stations in before.items():
        for key, (verdict, value) in stations.items():
            assert found[title][key] == [verdict, pytest.approx(value) if value is not None else None], (title, key)


def test_what_was_signed_before_there_was_a_key_is_frozen_as_its_bytes_and_holds(shipped: Shop) -> None:
    with shipped.read() as session:
        states = [proof.state for proof in signing.proofs(session)]
    assert states == [signing.State.UNSEALED, signing.State.UNSEALED]
    with closing(sqlite3.connect(shipped.path)) as file:
        for signed, digest in file.execute("SELECT signed, digest FROM signatures"):
            assert hashlib.sha256(signed.encode()).hexdigest() == digest


def test_a_shop_of_revision_0007_goes_out_and_comes_in(shipped: Shop, shop: Shop) -> None:
    with shipped.read() as session, shop.write() as own:
        for job in jobs.page(session, size=50).jobs:
            text = exchange.export_job(session, job.key).model_dump_json(by_alias=True)
            key = exchange.import_job(own, exchange.read_job(text))
            again = exchange.export_job(own, key)
            assert [each.model_dump() for each in again.entries] == [
                each.model_dump() for each in exchange.read_job(text).entries
            ]


@pytest.mark.parametrize("version", [1, 2, 3])
def test_job_files_of_every_version_are_read_and_judged_alike(version: int) -> None:
    told_2 = told("job_of_version_2.json")
    data = {**told_2, "version": version} if version < 3 else told("job_of_version_3.json")
    kept = exchange.read_job(json.dumps(data))
    assert kept.entries
    assert all(exchange.prove_signatures(kept).values())
    stations = results(judging.judge(kept))
    if version < 3:
        assert stations == results(judging.judge(exchange.read_job(json.dumps(told_2))))
    else:
        assert stations["degree"][0] == "in"


def test_a_page_that_a_file_brings_is_proved_and_not_taken_in(shop: Shop) -> None:
    data = told("job_of_version_3.json")
    assert "<svg" in data["signatures"][0]["page"]
    with shop.write() as session:
        key = exchange.import_job(session, exchange.read_job(json.dumps(data)))
    with shop.read() as session:
        found = signing.page_of(session, key, 1)
    assert found is not None
    assert found.page == ""
    assert found.proof.state is signing.State.UNSEALED


def shipped_names() -> dict[str, set[str]]:
    """Every name by which something is written down today."""
    return {
        "station": {station.key for station in ORDER.stations},
        "slot": {f"{name}/{kind}" for name, slots in ORDER.slots.items() for slot in slots for kind in slot.kinds},
        "form": set(ORDER.forms),
        "field": {f"{kind}/{name}" for kind, form in ORDER.forms.items() for name in form.fields},
        "act": set(ACTS),
        "limit": set(LIMITS),
    }


NOW = {
    "station": upcasters.STATIONS,
    "slot": upcasters.SLOTS,
    "form": upcasters.FORMS,
    "field": upcasters.FIELDS,
    "act": upcasters.ACT_KINDS,
    "limit": upcasters.LIMITS,
}


@pytest.mark.parametrize("kind", NOW)
def test_no_name_that_was_ever_shipped_is_forgotten(kind: str) -> None:
    """A new name is added to names.json; one that goes stays there, and has its new one in `upcasters`."""
    ever, today = set(told("names.json")[kind]), shipped_names()[kind]
    assert today - ever == set(), "add these to tests/shop/data/names.json"
    assert {name for name in ever - today if name not in NOW[kind]} == set(), (
        "say in upcasters.py what these are called now"
    )


def found_by_the_rules() -> str:
    """A digest of what the rules find of whole jobs: verdicts, codes, and figures to a thousandth."""
    found = []
    for name in FILES:
        for key, each in sorted(judging.judge(exchange.read_job((DATA / name).read_bytes()))["stations"].items()):
            value = each["value"] if each["value"] is None else round(each["value"], 3) + 0.0
            found.append((name, key, each["verdict"], each["code"], value))
    return hashlib.sha256(json.dumps(found).encode()).hexdigest()


def test_rules_that_find_otherwise_have_another_number() -> None:
    """Where this fails, the rules find something else: raise `RULES`, and add its line to rules.json."""
    assert told("rules.json")[str(RULES)] == found_by_the_rules()
