"""The shop's own hand: learned from what was read twice, and what the judgment makes of it."""

import random

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from tests.hands import proved_by, take
from tests.phase.test_weighed import GOOD, four_events, ready
from tests.stations.test_fit import filled
from uranograph.bench import shop_limits
from uranograph.bench.finding import Verdict
from uranograph.bench.repeats import BEST, ENOUGH, RepeatedReading, reading_precision
from uranograph.core.errors import InvalidInput
from uranograph.core.verdict import FALSE_VERDICT
from uranograph.evidence import covariance as model
from uranograph.phase import finding, judgment, observations, weighed
from uranograph.phase.repeats import repeats
from uranograph.shop import exchange, hands, job_files, library
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER


@given(st.integers(0, 10_000), st.floats(0.6, 3.0))
def test_a_hand_is_learned_from_what_it_read_twice(seed: int, times: float) -> None:
    draw = random.Random(seed)
    usual, beside = 0.12**2, 0.08**2
    groups = [
        RepeatedReading(
            tuple(draw.gauss(n, times * usual**0.5) + draw.gauss(0, beside**0.5) for _ in range(3)), usual * 9, beside
        )
        for n in range(400)
    ]
    found = reading_precision(groups)
    assert found is not None
    assert found.repeats >= 780
    # Three times as wide a hand is expected here, so that none of what it reads is taken for a slip.
    assert found.times * 3 == pytest.approx(max(times, 3 * BEST), rel=0.12)


def test_what_is_not_the_hands_is_taken_off_what_repeats_spread() -> None:
    # Pairs 0.2 apart spread by 0.02 squared; half of that is the dial's.
    assert reading_precision([RepeatedReading((9.9, 10.1), 0.01, 0.01)] * 20).times == pytest.approx(1.0)


def test_fewer_than_twenty_repeats_say_nothing() -> None:
    pair = RepeatedReading((10.0, 10.2), 0.01)
    assert reading_precision([pair] * (ENOUGH - 1)) is None
    assert reading_precision([pair] * ENOUGH).repeats == ENOUGH == 20
    assert reading_precision([RepeatedReading((1.0,), 0.01)] * 50) is None


def test_a_slip_among_repeats_is_no_hand() -> None:
    sound = [RepeatedReading((10.0, 10.1, 10.2), 0.01)] * 20
    with_slips = [RepeatedReading((10.0, 10.1, 10.2, 20.1), 0.01)] * 20
    assert reading_precision(sound).times == pytest.approx(reading_precision(with_slips).times)
    # Half a degree off is five usual deviations of 0.1: still a hand; a little more is not.
    at, past = (reading_precision([RepeatedReading((10.0, 10.0, 10.0 + off), 0.01)] * 20) for off in (0.49, 0.51))
    assert at.times > 2
    assert past.times == BEST


def test_no_hand_is_taken_for_better_than_half_the_usual() -> None:
    assert reading_precision([RepeatedReading((10.0, 10.0), 0.01, 0.05)] * 30).times == BEST == 0.5


def test_the_usual_hand_is_the_same_in_the_model_and_among_the_limits() -> None:
    assert pytest.approx(model.USUAL_EYE_DEG) == shop_limits.LIMITS["eye"].start
    assert shop_limits.LIMITS["one_in"].start == pytest.approx(1 / FALSE_VERDICT)
    assert model.reading_variance(1.0) == pytest.approx(0.12**2 + model.unread_variance(1.0))
    # A hand half as good again on a 1-degree wheel is so on every wheel.
    assert model.eye_variance(0.5, 0.18) == pytest.approx((1.5 * 0.08) ** 2)


def read_twice(shop: Shop, title: str = "Twice") -> str:
    with shop.write() as session:
        key = ready(session, title)
        four_events(session, key)
        four_events(session, key, io=("12.25", "btdc"), ic=("52.25", "abdc"))
        take(session, key, "tdc", [("stop.2.before", "40.25", "btdc"), ("stop.2.after", "40", "atdc")])
        for n, lift in enumerate(("8.00", "8.01", "8.01"), 1):
            take(session, key, "degree", [(f"peak-intake.{n}.lift", lift, None)])
    return key


def test_what_was_read_twice_is_found_in_a_job(shop: Shop) -> None:
    key = read_twice(shop)
    with shop.read() as session:
        found = repeats(jobs.load(session, key))
    assert min(found["eye"], key=lambda again: again.usual).values == (0.0, -0.125)
    assert sorted(len(again.values) for again in found["eye"]) == [2] * 5
    assert [again.values for again in found["needle"]] == [(8.0, 8.01, 8.01)]
    assert found["needle"][0].usual == pytest.approx((0.2 * 0.01) ** 2)


def test_repeats_across_a_moved_wheel_are_not_repeats(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session, "Nudged")
        four_events(session, key)
        filled(session, key, "wheel", scale="quarter", mount="front", division="1", dial_division="0.01")
        take(session, key, "tdc", [("stop.2.before", "43", "btdc"), ("stop.2.after", "37", "atdc")])
        job = four_events(session, key)
    assert repeats(job)["eye"] == ()


def test_the_shops_hand_is_learned_on_its_page_and_judged_by_once_it_is_set(client: TestClient, shop: Shop) -> None:
    few = client.get("/house?hands=1").text
    assert few.count("fewer than 20 figures were read again") == 2
    for n in range(5):
        key = read_twice(shop, f"Twice {n}")
    with shop.read() as session:
        value, learned = hands.learned(session)["eye"]
        before = observations.gathered(jobs.load(session, key)).expected
    assert learned.repeats == 25
    assert before.eye_deg == 0.12
    page = client.get("/house?hands=1").text
    assert "from 25 figures read again" in page
    assert f'id="eye" name="eye" value="{value:.3g}"' in page
    # Learning writes nothing; setting does, with who set it.
    assert client.get("/house").text.count("set by") == 0
    assert client.post("/house", data={"eye": "0.2", "by": "rk"}, follow_redirects=False).status_code == 303
    assert "0.2 crank deg" in client.get("/house").text
    with shop.read() as session:
        job = jobs.load(session, key)
        assert observations.gathered(job).expected.eye_deg == 0.2
        wider = weighed.posterior_phase(job, "both", ("intake", "exhaust"), 1.0).doubt_deg
    client.post("/house", data={"eye": "", "by": "rk"})
    with shop.read() as session:
        assert weighed.posterior_phase(jobs.load(session, key), "both", ("intake", "exhaust"), 1.0).doubt_deg < wider


@pytest.mark.parametrize("typed", ["0", "-1", "2", "0.12 mm", "x"])
def test_an_eye_that_none_has_is_refused_beside_its_field(client: TestClient, typed: str) -> None:
    page = client.post("/house", data={"eye": typed, "by": "RK"})
    assert page.status_code == 422
    assert f'value="{typed}"' in page.text


@pytest.mark.parametrize(
    ("one_in", "within", "verdict"),
    [
        ("500", 0.9981, Verdict.IN),
        ("1000", 0.9981, Verdict.UNSURE),
        ("1000", 0.9991, Verdict.IN),
        ("100", 0.9901, Verdict.IN),
        ("100", 0.9899, Verdict.UNSURE),
        ("100", 0.0099, Verdict.OUT),
    ],
)
def test_the_shop_chooses_how_often_a_verdict_may_be_wrong(
    shop: Shop, monkeypatch: pytest.MonkeyPatch, one_in: str, within: float, verdict: Verdict
) -> None:
    with shop.write() as session:
        key = ready(session)
        four_events(session, key)
        library.set_limits(session, {"one_in": one_in}, "RK")
    monkeypatch.setattr(weighed, "posterior_phase", lambda *_: weighed.PosteriorPhase(0.1, 0.3, within, within))
    with shop.read() as session:
        job = jobs.load(session, key)
        assert judgment._cam_judged(job, "both", judgment.deciding(job), 1).verdict is verdict
        assert ORDER.by_key["degree"].sheet_context(job)["one_in"] == one_in


@pytest.mark.parametrize(
    "limits", [{"one_in": "0"}, {"eye": "x"}, {"needle": "-1"}, {"eye": "1e9"}, {"gears_good": "five"}]
)
def test_a_limit_from_elsewhere_that_none_can_have_does_not_count(
    client: TestClient, shop: Shop, limits: dict[str, str]
) -> None:
    with shop.write() as session:
        key = ready(session)
        four_events(session, key)
        proved_by(session, key, ("io", *GOOD["io"]))
        kept = exchange.export_job(session, key)
        at = kept.entries[-1].at
        form = {
            "type": "sheet",
            "kind": "limits",
            "seq": kept.entries[-1].seq + 1,
            "by": "XX",
            "at": at,
            "typed": limits,
        }
        # Refused by name at the door; what stands in a shop's file all the same does not count.
        with pytest.raises(InvalidInput, match="form-cannot-be") as refused:
            exchange.read_job(kept_with(kept, form))
        assert refused.value.values["name"] in limits
        key = exchange.import_job(session, job_files.StoredJob.model_validate_json(kept_with(kept, form)))
    with shop.read() as session:
        job = jobs.load(session, key)
    for name in limits:
        assert shop_limits.value(job.shop_limits, name) == shop_limits.LIMITS[name].start
        assert shop_limits.set_by(job.shop_limits, name) == "default"
    for station in ORDER.stations:
        page = client.get(f"/jobs/{key}/{station.key}")
        assert page.status_code == 200
        assert "fault" not in page.text
    assert finding.find(job).verdict is Verdict.IN


def kept_with(kept: job_files.StoredJob, form: dict[str, object]) -> str:
    entry = exchange.StoredForm.model_validate(form)
    return kept.model_copy(update={"entries": [*kept.entries, entry]}).model_dump_json()
