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
from uranograph.bench.rules import RULES
from uranograph.bench.shop_limits import LIMITS
from uranograph.shop import exchange, judging, signing, upcasters
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.shop.entries import MODELS
from uranograph.stations import ORDER

DATA = Path(__file__).parent / "data"
FILES = ("job_of_version_2.json", "job_of_version_3.json")


def told(name: str) -> Any:
    return json.loads((DATA / name).read_text(encoding="utf-8"))


def opened(folder: Path, name: str) -> Shop:
    """A shop's file as an earlier program wrote it, opened by the program of today."""
    path = folder / "shop.db"
    with closing(sqlite3.connect(path)) as connection:
        connection.executescript(gzip.decompress((DATA / name).read_bytes()).decode())
        connection.execute("PRAGMA application_id = 0x5552414E")
    shop = Shop(path)
    shop.migrate()
    return shop


@pytest.fixture(scope="module", params=["0007", "0008"])
def revision(request: pytest.FixtureRequest) -> str:
    return str(request.param)


@pytest.fixture(scope="module")
def shipped(tmp_path_factory: pytest.TempPathFactory, revision: str) -> Iterator[Shop]:
    """Shops of two revisions with a job signed twice; that of 0008 has a job with everything that could be written."""
    shop = opened(tmp_path_factory.mktemp("shipped"), f"shop_of_revision_{revision}.sql.gz")
    yield shop
    shop.close()


def results(judged: dict[str, Any]) -> dict[str, list[Any]]:
    return {key: [each["verdict"], each["value"]] for key, each in judged["stations"].items()}


GEARS_ALONE = ("Everything that can be written", "Pilot launch, inline six", "Fire pump, twin")
# What is judged otherwise by rules that came later, and since which number of the rules.
OTHERWISE = {
    # Gears alone have no sprockets to line up, a chain alone no teeth to rock.
    **{(title, "sprocket"): (["skipped", None], 2) for title in GEARS_ALONE},
    # Without a card, lifters that are not alike cannot tell one tooth from the next.
    ("Fire pump, twin", "marks"): (["unsure", None], 2),
}


def test_a_shop_of_an_earlier_revision_is_judged_as_it_was(shipped: Shop, revision: str) -> None:
    before = told(f"found_at_revision_{revision}.json")
    with shipped.read() as session:
        listed = jobs.page(session, size=50).jobs
        found = {job.title: results(judging.judge(exchange.export_job(session, job.key))) for job in listed}
    assert found.keys() == before.keys()
    for title, stations in before.items():
        for key, (verdict, value) in stations.items():
            if (title, key) in OTHERWISE and found[title][key] != [verdict, value]:
                otherwise, since = OTHERWISE[title, key]
                assert (found[title][key], since <= RULES) == (otherwise, True)
                continue
            assert found[title][key] == [verdict, pytest.approx(value) if value is not None else None], (title, key)


def test_what_was_signed_is_frozen_as_its_bytes_and_holds(shipped: Shop, revision: str) -> None:
    with shipped.read() as session:
        states = [proof.state for proof in signing.proofs(session)]
    # The key of the shop that signed at 0008 is not there.
    assert states == [{"0007": signing.State.UNSEALED, "0008": signing.State.FOREIGN}[revision]] * 2
    with closing(sqlite3.connect(shipped.path)) as file:
        for signed, digest in file.execute("SELECT signed, digest FROM signatures"):
            assert hashlib.sha256(signed.encode()).hexdigest() == digest


def test_a_sheet_signed_with_a_picture_before_there_was_a_key_holds(tmp_path: Path) -> None:
    shop = opened(tmp_path, "signed_with_a_picture_at_0007.sql.gz")
    with shop.read() as session:
        states = [proof.state for proof in signing.proofs(session)]
        kept = exchange.export_job(session, jobs.page(session).jobs[0].key)
    shop.close()
    assert states == [signing.State.UNSEALED] * 3
    assert any("picture" in json.loads(each.signed or "{}")["entries"][-2] for each in kept.signatures)
    assert len(kept.pictures) == 1


def test_a_shop_of_an_earlier_revision_goes_out_and_comes_in(shipped: Shop, shop: Shop) -> None:
    with shipped.read() as session, shop.write() as own:
        for job in jobs.page(session, size=50).jobs:
            text = exchange.export_job(session, job.key).model_dump_json()
            key = exchange.import_job(own, exchange.read_job(text))
            again = exchange.export_job(own, key)
            assert [each.model_dump() for each in again.entries] == [
                each.model_dump() for each in exchange.read_job(text).entries
            ]
            assert again.pictures == exchange.read_job(text).pictures


def test_everything_that_could_be_written_at_0008_has_a_type_of_its_own_now(shipped: Shop, revision: str) -> None:
    if revision == "0007":
        pytest.skip("that shop has no such job")
    with shipped.read() as session:
        job = next(job for job in jobs.page(session, size=50).jobs if job.title.startswith("Everything"))
        of_row = exchange.export_job(session, job.key)
    of_file = exchange.read_job((DATA / "everything_of_version_3.json").read_bytes())
    # Out of the rows of 0008 as out of a file of version 3.
    assert [each.model_dump(exclude={"at"}) for each in of_row.entries] == [
        each.model_dump(exclude={"at"}) for each in of_file.entries
    ]
    assert of_row.pictures == of_file.pictures
    told_once = {entry.type: entry for entry in of_row.entries}
    assert told_once.keys() == set(MODELS)
    assert len(of_row.pictures) == 1
    by_seq = {entry.seq: entry for entry in job.entries}
    assert by_seq[14].words == 'a word on it, with "quotes" and é'
    assert by_seq[by_seq[14].about].slot == "ec.1.forward"
    assert by_seq[18].reason == "no gears here"
    assert (by_seq[19].was, by_seq[19].reason) == ("Out: the cam is early", "the owner wants it so")
    assert (by_seq[22].kind, by_seq[22].since, by_seq[22].what) == ("wheel-moved", 21, "knocked")
    assert by_seq[25].moves[0].to == "A4"
    assert (by_seq[26].brought_by, by_seq[26].text) == (25, "for keyway")
    assert (by_seq[31].gear, by_seq[31].teeth, by_seq[31].way) == ("cam gear", 1, "later")
    assert by_seq[33].about == "Order and facing"
    assert by_seq[36].what == "shaft trued up"
    assert (by_seq[38].about, by_seq[38].order) == ("Drain", (0, 1, 2))
    assert by_seq[29].void.reason == "misread"


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
