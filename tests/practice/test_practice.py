"""Practice jobs: begun by seed, acted on, held against the truth, and never among the shop's own."""

from datetime import UTC, datetime, timedelta

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from tests.hands import take
from tests.practice.test_hands import find
from uranograph.core.errors import InvalidInput
from uranograph.engine import degree_wheel, tdc
from uranograph.practice import scene, session
from uranograph.practice.checks import CHECKS
from uranograph.practice.debrief import debrief
from uranograph.practice.drawing_parts import DIAL_ON
from uranograph.practice.exercises import EXERCISES, View
from uranograph.practice.forms import filled_forms
from uranograph.practice.messages import CAME, CHECK_WORDS
from uranograph.shop import jobs, loading, shelving
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.world import geometry
from uranograph.world.acts import Act, Consequence
from uranograph.world.state import World

AT = datetime(2026, 3, 2, 9, tzinfo=UTC)


def begun(opened: Session, number: int, seed: int = 3) -> session.Practice:
    key = session.begin(opened, number, "QZ", seed=seed)
    found = session.practice_of(opened, key)
    assert found is not None
    return found


def shown(world: World) -> tuple[str, str]:
    """What an eye without error reads on a half-scale wheel."""
    deg = geometry.wheel_shows(world)
    return f"{abs(deg):.2f}", "btdc" if deg < 0 else "atdc"


def contacts(opened: Session, practice: session.Practice) -> None:
    session.do(opened, practice, [Act("stop", by=8)])
    for by in (400, -400):
        world, came = session.do(opened, practice, [Act("turn", by=by)])
        assert Consequence.STOPPED_BY_STOP in came
        job = loading.load(opened, practice.key)
        prompt = ORDER.by_key[tdc.KEY].prompt(job, {})
        take(opened, practice.key, tdc.KEY, [(prompt.slot, *shown(world))])


@pytest.mark.parametrize("number", EXERCISES)
@pytest.mark.parametrize("seed", [1, 2, 99])
def test_every_exercise_begins_with_its_forms_read_and_its_engine_as_planted(
    shop: Shop, number: int, seed: int
) -> None:
    with shop.write() as opened:
        practice = begun(opened, number, seed)
        job = loading.load(opened, practice.key)
    assert (practice.exercise.number, practice.seed) == (number, seed)
    for kind in filled_forms(practice.exercise, EXERCISES[number].planted(seed)):
        assert job.filled(ORDER.forms[kind]).value is not None, kind
    assert practice.exercise.station in ORDER.by_key
    assert session.world_of(practice, []) == EXERCISES[number].planted(seed)
    assert set(practice.exercise.dials) <= set(DIAL_ON)
    assert set(practice.exercise.checks) <= set(CHECKS) == set(CHECK_WORDS)
    if practice.exercise.view is View.WHEEL and practice.exercise.station in ("tdc", "degree", "piston-valve"):
        assert degree_wheel.wheel_of(job) is not None


def test_a_perfect_hand_has_a_hundred_points_at_the_stop(shop: Shop) -> None:
    with shop.write() as opened:
        practice = begun(opened, 1)
        contacts(opened, practice)
        contacts(opened, practice)
        found = debrief(practice, loading.load(opened, practice.key), session.done_to(opened, practice.key), find)
    assert (found.result, found.method, found.score) == (50, 50, 100)
    assert len(found.readings) == 4
    assert all(abs(each.eye) < 0.01 and not each.words for each in found.readings)
    assert "4.0" in found.truth


def test_without_a_proof_and_with_a_misreading_points_are_lost_and_said(shop: Shop) -> None:
    with shop.write() as opened:
        practice = begun(opened, 1)
        world, _ = session.do(opened, practice, [Act("stop", by=8), Act("turn", by=400)])
        deg, side = shown(world)
        take(opened, practice.key, tdc.KEY, [("stop.1.before", f"{float(deg) + 3:.2f}", side)])
        world, _ = session.do(opened, practice, [Act("turn", by=-400)])
        take(opened, practice.key, tdc.KEY, [("stop.1.after", *shown(world))])
        found = debrief(practice, loading.load(opened, practice.key), session.done_to(opened, practice.key), find)
    assert found.result < 25
    assert found.method == 30
    assert "3.0° off" in found.readings[0].words
    assert found.take_along == found.readings[0].words


def test_slack_in_a_reading_is_seen_at_the_moment_it_was_read(shop: Shop) -> None:
    with shop.write() as opened:
        practice = begun(opened, 4)
        session.do(opened, practice, [Act("turn", by=40), Act("turn", by=-1.5)], at=AT)
        take_at = AT + timedelta(seconds=5)
        world = session.world_of(practice, session.done_to(opened, practice.key))
        take(opened, practice.key, "degree", [("intake.1.before", *shown(world))], second="1.0")
        session.do(opened, practice, [Act("turn", by=30)])
        found = debrief(practice, loading.load(opened, practice.key), session.done_to(opened, practice.key), find)
    assert take_at > AT
    assert found.readings[0].lag_deg == pytest.approx(1.5)
    assert "come up to backward" in found.readings[0].words


def test_practice_is_nowhere_among_the_shops_own(client: TestClient, shop: Shop) -> None:
    with shop.write() as opened:
        practice = begun(opened, 3)
        take(opened, practice.key, "degree", [("intake.1.before", "20", "atdc")], second="1.0")
        assert shelving.counts(opened)[shelving.Shelf.BENCH] == 0
        assert loading.page(opened, where=shelving.on(shelving.Shelf.BENCH)).jobs == []
    assert "Practice 3" not in client.get("/").text
    assert "Practice 3" not in client.get("/results").text
    assert practice.key not in client.get("/shop.jsonl").text
    client.post("/bench/who", data={"by": "QZ"})
    assert f"/jobs/{practice.key}/debrief" in client.get("/practice").text


def test_a_job_of_the_shop_is_no_practice(client: TestClient, shop: Shop) -> None:
    with shop.write() as opened:
        key = jobs.begin(opened, "Real", "QZ", "real")
        assert session.practice_of(opened, key) is None
    assert client.get(f"/jobs/{key}/debrief").status_code == 404
    assert client.post(f"/jobs/{key}/engine-acts", json={"acts": [{"kind": "turn", "by": 5}]}).status_code == 404
    assert "engine.js" not in client.get(f"/jobs/{key}/degree").text


@pytest.mark.parametrize(
    "acts",
    [
        [],
        [{"kind": "explode"}],
        [{"kind": "turn", "by": 1e9}],
        [{"kind": "position", "on": "Z9"}],
        [{"kind": "torque", "on": "many"}],
        [{"kind": "turn", "by": 1}] * 61,
        [{"kind": "turn", "by": "NaN"}],
        [{"kind": "turn", "by": 1, "truth": 1}],
    ],
)
def test_what_cannot_be_done_is_refused_and_nothing_of_it_is_kept(
    client: TestClient, shop: Shop, acts: list[dict[str, object]]
) -> None:
    with shop.write() as opened:
        practice = begun(opened, 6)
    assert client.post(f"/jobs/{practice.key}/engine-acts", json={"acts": acts}).status_code == 422
    with shop.read() as opened:
        assert session.done_to(opened, practice.key) == []


def test_the_server_keeps_the_engine_and_says_what_came_of_it(client: TestClient, shop: Shop) -> None:
    with shop.write() as opened:
        practice = begun(opened, 6)
    answer = client.post(f"/jobs/{practice.key}/engine-acts", json={"acts": [{"kind": "position", "on": "A4"}]}).json()
    assert answer["words"] == CAME[Consequence.WHEEL_ZERO_LOST]
    assert answer["turning"]["position"] == "A4"
    assert "lifts" in answer["turning"]
    turned = client.post(f"/jobs/{practice.key}/engine-acts", json={"acts": [{"kind": "turn", "by": 12.5}]}).json()
    assert turned["turning"]["crank"] == pytest.approx(answer["turning"]["crank"] + 12.5)
    assert "lifts" not in turned["turning"]
    page = client.get(f"/jobs/{practice.key}/degree").text
    assert 'id="engine"' in page
    assert 'id="engine"' not in client.get(f"/jobs/{practice.key}/degree?engine=0").text


def test_begun_by_the_page_with_an_engine_number_or_without(client: TestClient, shop: Shop) -> None:
    client.cookies.clear()
    assert "Who is here?" in client.post("/practice/1", data={"token": "a"}).text
    refused = client.post("/practice/1", data={"token": "b", "by": "QZ", "seed": "first"})
    assert refused.status_code == 422
    assert "no engine number" in refused.text
    assert client.post("/practice/99", data={"token": "c", "by": "QZ"}).status_code == 422
    for seed in ("", "12"):
        answer = client.post("/practice/1", data={"token": f"d{seed}", "by": "QZ", "seed": seed})
        assert answer.status_code == 200
        assert "The engine" in answer.text
    with shop.read() as opened, pytest.raises(InvalidInput, match="no-such-exercise"):
        session.begin(opened, 44, "QZ")


def test_the_drawing_has_the_wheel_as_mounted_and_no_figure_of_the_truth() -> None:
    world = EXERCISES[8].planted(5)
    drawn = scene.scene(world)
    plain = scene.scene(EXERCISES[1].planted(5))
    assert drawn.body != plain.body
    told = scene.turning(world)
    assert not {"late", "late_deg", "zero_deg", "seed"} & told.keys()
    lifts = told["lifts"]["intake"]
    assert len(lifts) == 1440
    assert max(lifts) == pytest.approx(world.parts.lobes["intake"].lift_mm, abs=0.01)
