"""A whole job judged for a machine, and a program that carries one through by what it is asked."""

import json
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from typer.testing import CliRunner

from tests.hands import CARD, ENGINE, WHEEL, a_job, take, true_top
from uranograph.cli import app
from uranograph.core.lobe import CosineLobe, half_width_at
from uranograph.shop import exchange, jobs, loading
from uranograph.shop.database import Shop
from uranograph.shop.exchange import read_job
from uranograph.shop.job_files import StoredJob
from uranograph.shop.judging import judge
from uranograph.stations import ORDER

AT = "2026-01-01T08:00:00+00:00"
DRIVE = {"a1_kind": "choices", "a1_name": "keyway", "a1_options": "0: 0, A4: 4, R4: -4", "a1_fitted": "0"}
DATA = Path(__file__).parent / "data"


def a_file(*forms: tuple[str, dict[str, str]], entries: list[dict[str, Any]] | None = None) -> dict[str, Any]:
    written = [
        {"type": "sheet", "seq": n, "kind": kind, "typed": typed, "by": "QZ", "at": AT}
        for n, (kind, typed) in enumerate(forms, 1)
    ]
    return {
        "format": "uranograph-job",
        "version": 3,
        "title": "Made up",
        "created_at": AT,
        "touched_at": AT,
        "entries": [*written, *(entries or [])],
    }


def judged(file: dict[str, Any]) -> dict[str, Any]:
    return judge(read_job(json.dumps(file)))


def reading(entry: dict[str, Any], late_deg: float, zero_deg: float) -> str:
    """What the eye reads on a wheel that shows `zero_deg` at the top, of a cam that stands late by so much."""
    kind, _, place = entry["slot"].split(".")
    if kind.startswith(("peak-", "base-")):
        return "8.5" if kind.startswith("peak-") else "0"
    if kind in ("io", "ic", "eo", "ec"):
        # The card: IO 12, IC 52, EO 54, EC 14.
        true = {"io": -12.0, "ic": 232.0, "eo": -234.0, "ec": 14.0}[kind] + late_deg + zero_deg
        true = (true + 180) % 360 - 180
        entry["side"] = "btdc" if true < 0 else "atdc"
        return f"{abs(true):g}"
    sign = {"btdc": -1, "atdc": 1}[entry["side"]]
    if kind == "stop":
        return f"{abs(sign * 40 + zero_deg):g}"
    middle, duration = {"intake": (110.0, 244.0), "exhaust": (-110.0, 248.0)}[kind]
    lobe = CosineLobe(centerline_deg=middle, duration_deg=duration, check_lift_mm=1.0, max_lift_mm=8.5)
    half = half_width_at(lobe, 8.5 - float(entry["drop"]))
    true = middle + late_deg + (-half if place == "before" else half) + zero_deg
    true = (true + 180) % 360 - 180
    # A half wheel: degrees before or after TDC.
    entry["side"] = "btdc" if true < 0 else "atdc"
    return f"{abs(true):g}"


def test_a_program_carries_a_job_from_the_wheel_to_in_by_what_it_is_asked() -> None:
    file = a_file(("engine", ENGINE), ("way", {"way": "degree"}), ("card", CARD), ("wheel", WHEEL), ("drive", DRIVE))
    late, moved = 4.2, False
    for _ in range(60):
        found = judged(file)
        coming = found["next"]
        if coming is None or coming["station"] not in ("tdc", "degree", "adjust"):
            break
        entry = dict(coming["entry"])
        if entry["type"] == "act":
            assert entry["moves"] == found["offers"][0]["moves"]
            file["entries"].append(entry)
            late, moved = late - sum(move["shift_deg"] for move in entry["moves"]), True
            continue
        assert entry["type"] == "reading"
        entry["text"] = reading(entry, late, 0.1)
        file["entries"].append(entry)
    found = judged(file)
    assert moved
    degreed = found["stations"]["degree"]
    assert (degreed["verdict"], degreed["proved"], degreed["questions"]) == ("in", True, [])
    assert degreed["chances"]["in"] > 0.998
    assert found["by_cam"]["both"]["error_deg"] == pytest.approx(0.2, abs=0.05)
    assert found["stations"]["tdc"]["value"] == pytest.approx(0.1)
    assert found["stations"]["adjust"]["verdict"] == "in"
    # Once more than the first lobe and the stop are read, and each reading is told why.
    slots = [e["slot"].split(".")[0] for e in file["entries"] if e["type"] == "reading"]
    assert slots.count("stop") >= 4


def test_a_file_is_judged_as_its_job_is_on_the_pages(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
        take(session, key, "degree", [("intake.1.before", "66", "atdc"), ("intake.1.after", "146", "atdc")], "1")
        kept = exchange.export_job(session, key)
        overview = ORDER.overview(loading.load(session, key))
    found = judge(kept)
    assert {name: each["verdict"] for name, each in found["stations"].items()} == {
        name: each.verdict.value for name, each in overview.items()
    }
    assert found["stations"]["degree"]["value"] == pytest.approx(-4, abs=0.01)
    assert found["stations"]["degree"]["words"] == overview["degree"].sentence


def test_a_voided_reading_counts_for_nothing_and_an_old_file_is_judged() -> None:
    entries = [
        {"type": "reading", "seq": 4, "station": "tdc", "slot": "stop.1.before", "text": "40", "side": "btdc"},
        {"type": "reading", "seq": 5, "station": "tdc", "slot": "stop.1.after", "text": "44", "side": "atdc"},
    ]
    rest = {"approach": "forward", "unit": "mm", "instrument": "by eye", "by": "QZ", "at": AT}
    file = a_file(("engine", ENGINE), ("card", CARD), ("wheel", WHEEL), entries=[{**e, **rest} for e in entries])
    assert judged(file)["stations"]["tdc"]["value"] == pytest.approx(2)
    file["entries"].append({"type": "void", "seq": 6, "of": 5, "reason": "misread", "by": "QZ", "at": AT})
    assert judged(file)["stations"]["tdc"]["value"] is None
    assert judge(read_job((DATA / "job_of_version_2.json").read_text()))["stations"]["degree"]["verdict"]


def test_an_offer_is_taken_with_the_adjuster_by_its_number_alone() -> None:
    act = {"type": "act", "seq": 6, "kind": "cam-moved", "cam": "both", "by": "QZ", "at": AT}
    act["moves"] = [{"adjuster": 0, "from": "0", "to": "A4", "shift_deg": 4.0}]
    file = a_file(("engine", ENGINE), ("card", CARD), ("wheel", WHEEL), ("drive", DRIVE), entries=[act])
    from uranograph.phase import move_history

    assert move_history.fitted_positions(exchange.as_job(read_job(json.dumps(file)))) == (("keyway", "A4"),)


def test_an_empty_job_is_asked_for_its_engine_first_and_a_settled_one_for_nothing() -> None:
    now = datetime(2026, 1, 1, tzinfo=UTC)
    empty = judge(StoredJob(title="bare", created_at=now, touched_at=now, entries=[]))
    assert empty["next"]["entry"]["type"] == "sheet"
    assert empty["by_cam"] == {}
    assert empty["offers"] == []


def test_judge_answers_over_the_wire_and_on_the_command_line(client: TestClient, tmp_path: Path) -> None:
    file = a_file(("engine", ENGINE), ("card", CARD))
    answer = client.post("/api/judge", json=file)
    assert answer.status_code == 200
    assert answer.json()["stations"]["engine"]["verdict"] == "in"
    bad = client.post("/api/judge", json={**file, "version": 9})
    assert bad.status_code == 422
    assert bad.json()["error"]["field"] == "file"
    lines = tmp_path / "jobs.jsonl"
    lines.write_text(json.dumps(file) + "\n" + "{}\n" + json.dumps(file) + "\n")
    told = CliRunner().invoke(app, ["judge", str(lines)])
    assert told.exit_code == 1
    rows = [json.loads(line) for line in told.stdout.splitlines()]
    assert ["error" in row for row in rows] == [False, True, False]
    assert rows[0] == rows[2] == answer.json()
    alone = tmp_path / "job.json"
    alone.write_text(json.dumps(file, indent=2))
    assert CliRunner().invoke(app, ["judge", str(alone)]).exit_code == 0


def test_a_program_is_led_to_what_is_closed_by_hand_only_once_it_is_begun(shop: Shop) -> None:
    """A program that degrees comes to an end; one that goes on to prove and close is led on."""
    with shop.write() as session:
        key = a_job(session, ENGINE | {"rocker_ratio": "1.5"})
        jobs.save_form(session, key, "way", {"way": "degree"}, "QZ")
        true_top(session, key)
        read = (("io", "12", "btdc"), ("ic", "128", "btdc"), ("eo", "126", "atdc"), ("ec", "14", "atdc"))
        take(session, key, "degree", [(f"{kind}.1.forward", at, side) for kind, at, side in read])
        take(session, key, "degree", [("io.2.forward", "12", "btdc")])
        take(session, key, "tdc", [("stop.2.before", "40", "btdc"), ("stop.2.after", "40", "atdc")])
        done = judge(exchange.export_job(session, key))
        assert done["stations"]["degree"]["proved"]
        assert done["next"] is None
        take(session, key, "turn-over", [("turned.1.seen", "stop", None)])
        assert judge(exchange.export_job(session, key))["next"]["entry"]["slot"] == "where.1.at"
