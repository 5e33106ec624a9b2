"""Signing a build sheet: what bars it, what it freezes, and what proves it."""

import hashlib
import re
import sqlite3
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.hands import cam_moved, command
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.shop import asides, entries, exchange, jobs, library, loading, shelving, signing, upcasters
from uranograph.shop.database import Shop
from uranograph.shop.keys import NoKey, ShopKey
from uranograph.shop.signing import Signature
from uranograph.stations import ORDER

TITLE = "Harbor tender, four"


@pytest.fixture
def shop(demo_shop: Shop) -> Shop:
    return demo_shop


@pytest.fixture
def tender(shop: Shop) -> Iterator[str]:
    """The demo's job that is signed twice."""
    with shop.read() as session:
        yield next(job.key for job in loading.page(session).jobs if job.title == TITLE)


def page(job: Job, signature: Signature) -> str:
    return f"<p>{signature.name} {signature.short}</p>"


def sign(
    shop: Shop, key: str, token: str = "t1", name: str = "Q. Z.", changed: str = "more", seen: int | None = None
) -> int:
    with shop.write() as session:
        seq = loading.load(session, key).seq if seen is None else seen
        return signing.sign(session, key, "QZ", name, changed, token, seq, page)


def again(shop: Shop, key: str) -> None:
    """A valve set once more, so that there is something to sign."""
    with shop.write() as session:
        number = loading.load(session, key).next_number("valve-lash", "set-1")
        entry = jobs.Entry("valve-lash", f"set-1.{number}.blade", "0.25", second="0.30", unit="mm")
        jobs.record(session, key, entry, "QZ", None, None)
        number = loading.load(session, key).next_number("lock-up", "lock-nuts")
        jobs.record(session, key, jobs.Entry("lock-up", f"lock-nuts.{number}.seen", "torque"), "QZ", None, None)


def test_the_demo_is_signed_and_superseded_once_and_holds(shop: Shop, tender: str) -> None:
    with shop.read() as session:
        signed = signing.signatures(session, tender)
        assert [each.revision for each in signed] == [1, 2]
        assert signed[1].changed
        assert signed[0].digest != signed[1].digest
        assert all(proof.holds for proof in signing.proofs(session))


def test_what_is_frozen_is_judged_by_the_limits_of_the_shop_as_the_page_is(shop: Shop, tender: str) -> None:
    again(shop, tender)
    with shop.write() as session:
        # The nearest valve has some 3.6 mm: by this shop's limit that is too little, and it is accepted with a reason.
        library.set_limits(session, {"piston_intake": "8 mm"}, "QZ")
        asides.accept(session, tender, "piston-valve", "as the maker says", "QZ")
    sign(shop, tender)
    with shop.read() as session:
        judged = signing.page_of(session, tender, 3).judged
        found = ORDER.overview(loading.load(session, tender))["piston-valve"]
        assert found.verdict.value == "out"
        assert judged["stations"]["piston-valve"]["verdict"] == "out"


def test_pressing_sign_twice_signs_once_and_nothing_new_is_not_signed_again(shop: Shop, tender: str) -> None:
    again(shop, tender)
    assert sign(shop, tender, "once") == 3
    assert sign(shop, tender, "once") == 3
    with pytest.raises(InvalidInput) as refused:
        sign(shop, tender, "twice")
    assert refused.value.code == "signed-already"


@pytest.mark.parametrize(
    ("name", "changed", "code"), [("", "more", "signer-missing"), ("Q. Z.", " ", "changed-missing")]
)
def test_a_name_and_what_changed_are_wanted(shop: Shop, tender: str, name: str, changed: str, code: str) -> None:
    again(shop, tender)
    with pytest.raises(InvalidInput) as refused:
        sign(shop, tender, name=name, changed=changed)
    assert refused.value.code == code


def test_what_was_written_since_the_sheet_was_drawn_is_not_signed_unseen(shop: Shop, tender: str) -> None:
    with shop.read() as session:
        seen = loading.load(session, tender).seq
    again(shop, tender)
    with pytest.raises(jobs.Changed):
        sign(shop, tender, seen=seen)


def test_a_move_opens_it_again_and_a_reason_does_not_close_a_snug_bolt(shop: Shop, tender: str) -> None:
    with shop.write() as session:
        asides.act(session, tender, "marks", "gear-turned", "", "QZ")
    with shop.read() as session:
        open_now = {each.station.key: each.reason_helps for each in signing.unsettled(loading.load(session, tender))}
    assert open_now["turn-over"] is True
    assert open_now["lock-up"] is False
    with pytest.raises(InvalidInput) as refused:
        sign(shop, tender)
    assert refused.value.code == "still-open"
    with shop.write() as session:
        job = loading.load(session, tender)
        waiting = [each.station.key for each in signing.unsettled(job) if each.station.key != "lock-up"]
        asides.skip(session, tender, waiting, "only to see what bars it", "QZ")
        jobs.record(session, tender, jobs.Entry("lock-up", "gears.1.seen", "snug"), "QZ", None, None)
        asides.accept(session, tender, "lock-up", "it will do", "QZ")
    with pytest.raises(InvalidInput) as refused:
        sign(shop, tender)
    assert refused.value.code == "must-be-closed"


def test_an_empty_job_is_not_signed(shop: Shop) -> None:
    with shop.write() as session:
        key = jobs.begin(session, "empty", "QZ", "token-empty")
        with pytest.raises(InvalidInput) as refused:
            signing.sign(session, key, "QZ", "Q. Z.", "", "t", loading.load(session, key).seq, page)
    assert refused.value.code == "nothing-to-sign"


def test_later_readings_leave_a_signed_sheet_as_it_is(shop: Shop, tender: str, client: TestClient) -> None:
    before = client.get(f"/jobs/{tender}/signed/2/page").text
    again(shop, tender)
    with shop.write() as session:
        cam_moved(session, tender, 4.0)
    after = client.get(f"/jobs/{tender}/signed/2/page").text
    assert (
        after[after.index("<main") : after.index("</main>")] == before[before.index("<main") : before.index("</main>")]
    )
    filled = client.get(f"/jobs/{tender}/sheet").text
    assert "more was written since" in filled
    with shop.read() as session:
        assert all(proof.holds for proof in signing.proofs(session))


LOG, DOCUMENT = "are not those that were signed", "are not those that were signed"
# A document as somebody without the shop's key would make it anew, digest and all.
FORGED = """
    UPDATE signatures SET signed = replace(signed, '"name":"' || name || '"', '"name":"F. Orged"'), name = 'F. Orged'
    WHERE revision = 3;
    UPDATE signatures SET digest = sha256(signed) WHERE revision = 3
"""
TAMPERINGS = {
    "a reading": ("UPDATE entries SET payload = json_set(payload, '$.text', '14.75') WHERE {first}", LOG, {1, 2, 3}),
    "a reading taken away": ("DELETE FROM entries WHERE {first}", LOG, {1, 2, 3}),
    "a reading voided": (
        "UPDATE entries SET seq = 0 WHERE job_id = {job} AND seq = 5; INSERT INTO entries (job_id, seq, kind, version, station, "
        "payload, by, at) SELECT job_id, 5, 'void', 4, '', json_object('of', seq, 'reason', 'slip'), by, at "
        "FROM entries WHERE {first}",
        LOG,
        {1, 2, 3},
    ),
    "a form": (
        "UPDATE entries SET payload = json_set(payload, '$.typed.check_lift', '2.0') "
        "WHERE kind = 'sheet' AND payload ->> 'kind' = 'card' AND job_id = {job}",
        LOG,
        {1, 2, 3},
    ),
    "the page": ("UPDATE signatures SET page = replace(page, 'Karst', 'Kerst') WHERE revision = 2", LOG, {2}),
    "who signed": ("UPDATE signatures SET name = 'R. Kerst' WHERE revision = 1", LOG, {1}),
    "when it was signed": ("UPDATE signatures SET at = '2020-01-01 00:00:00' WHERE revision = 3", LOG, {3}),
    "what was found": (
        "UPDATE signatures SET judged = json_set(judged, '$.stations.degree.value', 0) WHERE revision = 1",
        LOG,
        {1},
    ),
    "the digest": ("UPDATE signatures SET digest = upper(hex(zeroblob(32))) WHERE revision = 2", LOG, {2, 3}),
    "a forged signer": (FORGED, "its seal is not of the key that it names", {3}),
    "the last revision gone": ("DELETE FROM signatures WHERE revision = 3", "it was counted when it was signed", {3}),
    "all revisions gone": ("DELETE FROM signatures", "it was counted when it was signed", {1, 2, 3}),
    "the whole job gone": (
        "PRAGMA foreign_keys = OFF; DELETE FROM signatures WHERE job_id = {job}; DELETE FROM jobs WHERE id = {job}",
        "it was counted when it was signed",
        {1, 2, 3},
    ),
    "a name under which it was signed": ("UPDATE signatures SET title = 'Another' WHERE revision = 3", LOG, {3}),
    "the count": (
        "DELETE FROM signatures WHERE revision = 3; DELETE FROM heads WHERE id = 2",
        "its place in the count was changed",
        {3},
    ),
}


@pytest.mark.parametrize("what", TAMPERINGS)
def test_whatever_is_changed_outside_is_found_and_named(shop: Shop, tender: str, what: str) -> None:
    again(shop, tender)
    assert sign(shop, tender) == 3
    statements, why, broken = TAMPERINGS[what]
    with sqlite3.connect(shop.path) as file:
        file.create_function("sha256", 1, lambda text: hashlib.sha256(text.encode()).hexdigest())
        for table in ("entries", "signatures", "heads"):
            file.execute(f"DROP TRIGGER {table}_no_update")
            file.execute(f"DROP TRIGGER {table}_no_delete")
        job = file.execute("SELECT id FROM jobs WHERE key = ?", (tender,)).fetchone()[0]
        before = file.total_changes
        first = f"job_id = {job} AND payload ->> 'slot' = 'io.1.forward'"
        for statement in statements.format(job=job, first=first).split(";"):
            file.execute(statement)
        assert file.total_changes > before
    with shop.read() as session:
        found = [proof for proof in signing.proofs(session) if not proof.holds]
    assert broken <= {proof.revision for proof in found}
    assert any(why in proof.why for proof in found)
    out = command("check", "--database", str(shop.path))
    assert out.exit_code == 1
    assert "DOES NOT HOLD" in out.stdout
    assert why in out.stdout


def test_a_signature_made_with_another_key_is_told_and_one_that_was_never_counted(shop: Shop, tender: str) -> None:
    again(shop, tender)
    sign(shop, tender)
    shop.key.file.unlink()
    other = Shop(shop.path)
    with other.read() as session:
        states = {proof.revision: proof.state for proof in signing.proofs(session)}
    other.close()
    assert set(states.values()) == {signing.State.FOREIGN}


def test_the_key_is_its_owners_alone_and_goes_into_a_backup_under_a_pass_phrase(shop: Shop, tender: str) -> None:
    assert not shop.key.file.exists()
    again(shop, tender)
    sign(shop, tender)
    assert shop.key.file.stat().st_mode & 0o777 == 0o600
    backed_up = shop.path.with_name("backup.key")
    shop.key.back_up(backed_up, "bench and book")
    assert b"ENCRYPTED" in backed_up.read_bytes()
    assert backed_up.stat().st_mode & 0o777 == 0o600
    with pytest.raises(NoKey, match="is there already"):
        shop.key.back_up(backed_up, "bench and book")
    elsewhere = ShopKey(shop.path.with_name("elsewhere.db"))
    with pytest.raises(NoKey, match="does not open"):
        elsewhere.opened(backed_up, "guessed")
    elsewhere.restore(elsewhere.opened(backed_up, "bench and book"), "now")
    assert elsewhere.id == shop.key.id


def test_a_backup_takes_the_key_along_and_brings_it_back(
    shop: Shop, tender: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    again(shop, tender)
    sign(shop, tender)
    there, copy = ("--database", str(shop.path)), tmp_path / "copy.db"
    plain = command("backup", str(tmp_path / "plain.db"), *there)
    assert plain.exit_code == 0
    assert "--with-key" in plain.stdout
    asked = command("backup", str(copy), "--with-key", *there)
    assert asked.exit_code == 1
    assert not copy.exists()
    monkeypatch.setenv("URANOGRAPH_PASS_PHRASE", "short")
    assert command("backup", str(copy), "--with-key", *there).exit_code == 1
    monkeypatch.setenv("URANOGRAPH_PASS_PHRASE", "bench and book")
    assert command("backup", str(copy), "--with-key", *there).exit_code == 0
    back = tmp_path / "elsewhere" / "shop.db"
    monkeypatch.setenv("URANOGRAPH_PASS_PHRASE", "book and bench")
    refused = command("restore", str(copy), "--database", str(back))
    assert refused.exit_code == 1
    assert not back.exists()
    monkeypatch.setenv("URANOGRAPH_PASS_PHRASE", "bench and book")
    other = ShopKey(back)
    back.parent.mkdir()
    other.seal(b"of another shop")
    assert command("restore", str(copy), "--database", str(back)).exit_code == 0
    assert ShopKey(back).id == shop.key.id
    assert len(list(back.parent.glob("shop.db.key.before-restore-*"))) == 1
    told = command("check", "--database", str(back))
    assert told.exit_code == 0
    assert re.search(r"revision 3 of .*: holds$", told.stdout, re.MULTILINE)


def test_a_field_that_comes_later_breaks_no_signature_and_a_renamed_slot_is_read_under_its_new_name(
    shop: Shop, tender: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    again(shop, tender)
    sign(shop, tender)
    with shop.read() as session:
        text = exchange.export_job(session, tender).model_dump_json(by_alias=True)
    dumped = entries.StoredReading.model_dump

    def with_more(self: entries.StoredReading, **how: Any) -> dict[str, Any]:
        more = {"temperature": None} if how.get("mode") == "json" else {}
        return {**dumped(self, **how), **more}

    monkeypatch.setattr(entries.StoredReading, "model_dump", with_more)
    with shop.read() as session:
        assert all(proof.holds for proof in signing.proofs(session))
    assert all(exchange.prove_signatures(exchange.read_job(text)).values())
    monkeypatch.undo()
    # What was written as torque under an older name.
    old = text.replace('"slot":"lock-nuts.', '"slot":"nuts-before.')
    assert old != text
    with pytest.raises(InvalidInput, match="nuts-before"):
        exchange.read_job(old)
    monkeypatch.setitem(upcasters.SLOTS, "lock-up/nuts-before", "lock-nuts")
    assert all(exchange.prove_signatures(exchange.read_job(old)).values())
    assert exchange.read_job(old).model_dump_json() == exchange.read_job(text).model_dump_json()


def test_a_log_written_under_an_older_name_is_read_exported_and_proved_under_the_new_one(
    shop: Shop, tender: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    with sqlite3.connect(shop.path) as file:
        file.execute("DROP TRIGGER entries_no_update")
        rows = file.execute(
            "UPDATE entries SET payload = json_set(payload, '$.slot', replace(payload ->> 'slot', 'io.', 'opens.')) "
            "WHERE payload ->> 'slot' LIKE 'io.%'"
        ).rowcount
        assert rows > 0
    monkeypatch.setitem(upcasters.SLOTS, "degree/opens", "io")
    opened = Shop(shop.path)
    with opened.read() as session:
        job = loading.load(session, tender)
        assert all(proof.holds for proof in signing.proofs(session))
    opened.close()
    assert any(reading.slot.startswith("io.") for reading in job.readings)
    assert not any(reading.slot.startswith("opens.") for reading in job.readings)


def test_a_job_in_the_bin_is_not_signed_and_a_signed_one_never_stops_the_start(shop: Shop, tender: str) -> None:
    again(shop, tender)
    with sqlite3.connect(shop.path) as file:
        file.execute("UPDATE jobs SET binned_at = '2020-01-01 00:00:00' WHERE key = ?", (tender,))
    with pytest.raises(InvalidInput) as refused:
        sign(shop, tender)
    assert refused.value.code == "binned-is-not-signed"
    with shop.write() as session:
        assert shelving.purge(session) == 0


def test_a_signed_job_that_is_renamed_says_so_on_its_sheet(shop: Shop, tender: str, client: TestClient) -> None:
    client.cookies.set("uranograph_by", "RK")
    client.post(f"/jobs/{tender}/rename", data={"title": "Another tender"})
    page = client.get(f"/jobs/{tender}/signed/2").text
    assert "from “Harbor tender, four” to “Another tender”" in page
    assert "by RK" in page


def test_signatures_go_out_and_come_in_with_their_job_and_a_changed_file_is_refused(shop: Shop, tender: str) -> None:
    with shop.read() as session:
        text = exchange.export_job(session, tender).model_dump_json(by_alias=True)
    assert "<svg" not in text
    with shop.write() as session:
        key = exchange.import_job(session, exchange.read_job(text))
    with shop.read() as session:
        assert [each.digest for each in signing.signatures(session, key)] == [
            each.digest for each in signing.signatures(session, tender)
        ]
        assert all(proof.holds for proof in signing.proofs(session))
    changed = text.replace('"text":"13.75"', '"text":"14.75"')
    assert changed != text
    with shop.write() as session, pytest.raises(InvalidInput) as refused:
        exchange.import_job(session, exchange.read_job(changed))
    assert refused.value.code == "digest-does-not-match"


def test_the_file_itself_refuses_to_change_or_lose_a_signature(shop: Shop, tender: str) -> None:
    with sqlite3.connect(shop.path) as file:
        for statement in ("UPDATE signatures SET name = 'x'", "DELETE FROM signatures"):
            with pytest.raises(sqlite3.IntegrityError, match="only ever added to"):
                file.execute(statement)


def test_check_holds_and_ends_with_0(shop: Shop, tender: str) -> None:
    out = command("check", "--database", str(shop.path))
    assert (out.exit_code, out.stdout.splitlines()[-1]) == (0, "2 signed sheets hold, 0 do not.")


def test_signing_on_the_page(shop: Shop, tender: str, client: TestClient) -> None:
    again(shop, tender)
    filled = client.get(f"/jobs/{tender}/sheet").text
    with shop.read() as session:
        seen = loading.load(session, tender).seq
    assert f'name="seen" value="{seen}"' in filled
    form = {"seen": str(seen), "token": "page", "by": "QZ", "name": "", "changed": "1 intake <again>"}
    refused = client.post(f"/jobs/{tender}/sign", data=form)
    assert refused.status_code == 422
    assert "Write the name of who signs" in refused.text
    assert 'value="1 intake &lt;again&gt;"' in refused.text
    for _ in range(2):
        answer = client.post(f"/jobs/{tender}/sign", data={**form, "name": "Q. Zed"}, follow_redirects=False)
        assert answer.headers["location"] == f"/jobs/{tender}/signed/3"
    page = client.get(f"/jobs/{tender}/signed/3/page").text
    with shop.read() as session:
        signed = signing.latest(session, tender)
    assert signed.short in page
    assert "1 intake &lt;again&gt;" in page
    assert "Superseded by" in client.get(f"/jobs/{tender}/signed/2").text
    assert client.get(f"/jobs/{tender}/signed/9").status_code == 404
    stale = client.post(f"/jobs/{tender}/sign", data={**form, "token": "other", "seen": "1"})
    assert stale.status_code == 409
    assert signed.short in client.get(f"/jobs/{tender}/label").text


def test_a_label_of_what_is_not_signed_says_so(tender: str, shop: Shop, client: TestClient) -> None:
    assert "Revision 2" in client.get(f"/jobs/{tender}/label").text
    again(shop, tender)
    assert "Not signed" in client.get(f"/jobs/{tender}/label").text
