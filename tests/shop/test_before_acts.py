"""Files of earlier programs: what was written as readings of its own comes over as acts, and is judged as before."""

import json
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

import pytest

from uranograph.bench.acts import Act
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.engine import positions, tdc
from uranograph.shop import exchange
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

DATA = Path(__file__).parent / "data"


@pytest.fixture(scope="module")
def migrated(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Shop]:
    """A shop's file as revision 0004 wrote it, opened by the program of today."""
    path = tmp_path_factory.mktemp("before") / "shop.db"
    with closing(sqlite3.connect(path)) as connection:
        connection.executescript((DATA / "shop_of_revision_0004.sql").read_text(encoding="utf-8"))
    shop = Shop(path)
    shop.migrate()
    yield shop
    shop.close()


# A point of the railcar's sweep lies off its curve: since rules hold a verdict until that is settled, it cannot be told.
JUDGED_OTHERWISE = {
    ("Railcar 12, V-six", "degree"): "unsure",
    ("Railcar 12, V-six", "adjust"): "unsure",
    # Nobody asked where the crank stood when their marks were looked at.
    ("Railcar 12, V-six", "marks"): "open",
    ("Hill-climb four", "marks"): "open",
}


def whole(shop: Shop) -> list[Job]:
    with shop.read() as session:
        return jobs.page(session).jobs


def test_every_station_finds_what_it_found_before(migrated: Shop) -> None:
    found = {
        job.title: {key: [each.verdict.value, each.number] for key, each in ORDER.overview(job).items()}
        for job in whole(migrated)
    }
    before = json.loads((DATA / "found_at_revision_0004.json").read_text(encoding="utf-8"))
    # Stations that there were not yet have nothing to be compared with.
    known = {title: {key: own[key] for key in before[title]} for title, own in found.items()}
    wanted = {title: {key: each[:2] for key, each in own.items()} for title, own in before.items()}
    changed = {
        (title, key): each[0] for title, own in known.items() for key, each in own.items() if each != wanted[title][key]
    }
    assert changed == JUDGED_OTHERWISE


def test_moves_and_tries_are_acts_now_and_nothing_else_changed(migrated: Shop) -> None:
    railcar = next(job for job in whole(migrated) if job.title.startswith("Railcar"))
    assert [(act.station, act.kind, act.text) for act in railcar.entries if isinstance(act, Act)] == [
        ("tdc", "wheel-moved", ""),
        ("adjust", "cam-moved", "advance 4"),
        ("adjust", "cam-moved", "advance 7.938"),
        ("tdc", "wheel-moved", "knocked with a sleeve"),
    ]
    assert [one.shift_deg for one in positions.every_try(railcar)] == [4.0, 7.9375]
    assert len(tdc.frames(railcar)) == 3
    assert not any(reading.slot == "moved" or reading.slot.startswith("try") for reading in railcar.readings)


def test_the_file_still_refuses_changes_after_the_migration(migrated: Shop) -> None:
    with (
        closing(sqlite3.connect(migrated.path)) as connection,
        pytest.raises(sqlite3.IntegrityError, match="only ever"),
    ):
        connection.execute("UPDATE entries SET station = 'tdc'")


def test_a_job_file_of_version_2_comes_in_with_its_acts_and_goes_out_as_it_is_today(migrated: Shop) -> None:
    text = (DATA / "job_of_version_2.json").read_text(encoding="utf-8")
    kept = exchange.read_job(text)
    with migrated.write() as session:
        key = exchange.import_job(session, kept)
        out = exchange.export_job(session, key)
        job = jobs.load(session, key)
    assert [entry.kind for entry in out.entries if entry.type == "act"] == [
        "wheel-moved",
        "cam-moved",
        "cam-moved",
        "wheel-moved",
    ]
    assert out.version == 4
    assert [entry.model_dump(mode="json") for entry in out.entries] == [
        entry.model_dump(mode="json") for entry in kept.entries
    ]
    before = json.loads((DATA / "found_at_revision_0004.json").read_text(encoding="utf-8"))[job.title]
    found = ORDER.overview(job)
    changed = {
        (job.title, name): found[name].verdict.value
        for name, each in before.items()
        if [found[name].verdict.value, found[name].number] != each[:2]
    }
    assert changed == {of: verdict for of, verdict in JUDGED_OTHERWISE.items() if of[0] == job.title}


def test_a_try_that_cannot_be_read_keeps_no_shop_shut(tmp_path: Path) -> None:
    """Such a one came from a file and was voided there: it is taken over as it was typed."""
    path = tmp_path / "odd.db"
    with closing(sqlite3.connect(path)) as connection:
        connection.executescript((DATA / "shop_of_revision_0004.sql").read_text(encoding="utf-8"))
        columns = 'job_id, station, slot, text, side, approach, "drop", unit, instrument, note, by, at'
        for seq, (text, note) in enumerate((("four", "[]"), ("4", "not json")), 9001):
            connection.execute(
                f"INSERT INTO readings (seq, {columns}) SELECT {seq}, job_id, station, 'try.9.chosen', ?, side, approach, "
                '"drop", unit, instrument, ?, by, at FROM readings WHERE station = ? LIMIT 1',
                (text, note, "adjust"),
            )
            connection.execute(
                "INSERT INTO voids (reading_id, seq, reason, by, at) SELECT id, ?, 'odd', by, at FROM readings WHERE seq = ?",
                (seq + 100, seq),
            )
        connection.execute("UPDATE jobs SET seq = 9999")
        connection.commit()
    shop = Shop(path)
    shop.migrate()
    railcar = next(job for job in whole(shop) if job.title.startswith("Railcar"))
    odd = [(act.kind, act.what, act.moves) for act in railcar.entries if isinstance(act, Act) and act.seq > 9000]
    assert odd == [("cam-moved", "four", None), ("cam-moved", "4", None)]
    assert len(positions.every_try(railcar)) == 2
    assert not any(found.fault for found in ORDER.overview(railcar).values())
    shop.close()


def a_file(*entries: dict[str, object]) -> str:
    text = json.loads((DATA / "job_of_version_2.json").read_text(encoding="utf-8"))
    last = text["entries"][-1]["seq"]
    kept = json.loads(exchange.read_job(json.dumps(text)).model_dump_json())
    kept["entries"] += [
        {"seq": last + n, "by": "QZ", "at": kept["touched_at"], **each} for n, each in enumerate(entries, 1)
    ]
    return json.dumps(kept)


MOVE = {"type": "act", "kind": "cam-moved", "cam": "both", "moves": [{"from": "0", "to": "A4", "shift_deg": 4.0}]}


def test_a_position_is_taken_by_appending_the_act_alone(migrated: Shop) -> None:
    with migrated.write() as session:
        key = exchange.import_job(session, exchange.read_job(a_file(MOVE)))
        made = positions.every_try(jobs.load(session, key))
    assert [one.shift_deg for one in made] == [4.0, 7.9375, 4.0]


@pytest.mark.parametrize(
    "wrong",
    [
        {**MOVE, "kind": "cam-painted"},
        {**MOVE, "kind": "gear-turned"},
        {**MOVE, "station": "nowhere"},
        {**MOVE, "cam": "middle"},
        {**MOVE, "cam": None},
        {**MOVE, "moves": None, "teeth": 2},
        {**MOVE, "scope": "crank"},
        {**MOVE, "moves": [{"from": "0", "to": "A4"}]},
        {**MOVE, "moves": [{"from": "0", "to": "A4", "shift_deg": 1e9}]},
        {
            "type": "reading",
            "station": "tdc",
            "slot": "moved",
            "text": "",
            "approach": "forward",
            "unit": "mm",
            "instrument": "",
        },
    ],
)
def test_an_act_that_cannot_be_is_refused_with_the_whole_file(migrated: Shop, wrong: dict[str, object]) -> None:
    with pytest.raises(InvalidInput, match="not-a-job-file"):
        exchange.read_job(a_file(wrong))
