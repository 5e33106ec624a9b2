"""What all wheel readings of a job say together: gathered from the log, asked on the page, answered to machines."""

import re

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from tests.hands import CARD, WHEEL, a_job, cam_moved, proved_by, take, true_top
from tests.stations.test_fit import filled
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.phase import finding as degree
from uranograph.phase import judgment, methods
from uranograph.phase.next_reading import is_exhausted, next_reading, proved
from uranograph.phase.observations import gathered
from uranograph.phase.weighed import in_words, open_questions, weighed
from uranograph.shop import asides, exchange
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.shop.judging import judge
from uranograph.stations import ORDER

# The card: IO 12, IC 52, EO 54, EC 14.
GOOD = {"io": ("12", "btdc"), "ic": ("52", "abdc"), "eo": ("54", "bbdc"), "ec": ("14", "atdc")}


def four_events(session: Session, key: str, **change: tuple[str, str]) -> Job:
    for kind, (text, side) in {**GOOD, **change}.items():
        number = jobs.load(session, key).next_number("degree", kind)
        job = take(session, key, "degree", [(f"{kind}.{number}.forward", text, side)])
    return job


def ready(session: Session, title: str = "Weighed") -> str:
    key = a_job(session, wheel={**WHEEL, "scale": "quarter"}, title=title)
    true_top(session, key)
    return key


def test_a_cam_on_its_card_is_in_by_all_readings_and_nothing_is_asked(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        assert weighed(jobs.load(session, key)) is None
        first = four_events(session, key)
        # A knock, or a set read backward, is as likely as not to hide in single readings.
        assert degree.find(first).verdict is Verdict.UNSURE
        assert 0.9 < judgment.chance_in(first) < 0.98
        job = proved_by(session, key, ("io", *GOOD["io"]))
    assert open_questions(job) == ()
    assert judgment.chance_in(job) > 0.999
    finding = degree.find(job)
    assert (finding.code, finding.number, finding.unit) == ("in", "0.0", "deg, right on")
    assert "0.0, right on" in finding.sentence
    found = gathered(job)
    readings, expected, setup = found.readings, found.expected, found.setup
    assert [each.kind for each in readings] == ["stop", *["event"] * 5, "stop"]
    assert expected.half_deg == {"intake": 122.0, "exhaust": 124.0}
    assert setup.firing_deg == 180


def test_a_slip_of_ten_names_its_reading_and_is_asked_on_the_page(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        job = four_events(session, key, ic=("62", "abdc"))
    suspect = next(each for each in open_questions(job) if each.code == "typing-slip")
    slipped = next(reading for reading in job.active_readings("degree") if reading.text == "62")
    assert (suspect.code, suspect.seq) == ("typing-slip", slipped.seq)
    assert "62 ABDC" in in_words(job, suspect)
    page = client.get(f"/jobs/{key}/degree").text
    assert f'hx-get="/jobs/{key}/asked"' in page
    page = client.get(f"/jobs/{key}/asked", headers={"HX-Request": "true"}).text
    assert "A slip of typing or reading in 62 ABDC" in page


def test_a_wheel_at_the_other_end_is_named_first_with_its_share(shop: Shop) -> None:
    mirrored = {"btdc": "atdc", "atdc": "btdc", "bbdc": "abdc", "abdc": "bbdc"}
    with shop.write() as session:
        key = a_job(session, wheel={**WHEEL, "scale": "quarter"}, title="Other end")
        take(session, key, "tdc", [("stop.1.before", "42", "btdc"), ("stop.1.after", "38", "atdc")])
        job = four_events(session, key, **{kind: (text, mirrored[side]) for kind, (text, side) in GOOD.items()})
        file = exchange.export_job(session, key)
    found = open_questions(job)
    assert found[0].code == "wheel-end"
    assert found[0].share > 0.7
    told = judge(file)["stations"]["degree"]["questions"]
    assert [each["code"] for each in told] == [each.code for each in found]
    assert "other end" in told[0]["words"]
    assert told[0]["reading"] is None


@pytest.mark.parametrize("scale", ["full", "quarter"])
def test_a_confirmed_question_is_set_right_and_never_asked_again(client: TestClient, shop: Shop, scale: str) -> None:
    """A wheel whose numbers run the other way: seen as such, said so, set right in its form, and the verdict follows."""
    mirrored = {"btdc": "atdc", "atdc": "btdc", "bbdc": "abdc", "abdc": "bbdc"}
    signed = {"btdc": lambda at: -at, "atdc": lambda at: at, "bbdc": lambda at: 180 - at, "abdc": lambda at: at - 180}

    def shown(text: str, side: str) -> tuple[str, str | None]:
        return (f"{-signed[side](float(text)) % 360:g}", None) if scale == "full" else (text, mirrored[side])

    with shop.write() as session:
        key = a_job(session, wheel={**WHEEL, "scale": scale, "numbers_rise": "counterclockwise"}, title="Mirrored")
        filled(session, key, "way", way="degree")
        take(session, key, "tdc", [("stop.1.before", *shown("40", "btdc")), ("stop.1.after", *shown("40", "atdc"))])
        job = four_events(session, key, **{kind: shown(*each) for kind, each in GOOD.items()})
        code = open_questions(job)[0].code
        assert code in ("wheel-end", "numbers-rise")
        take(session, key, "degree", [(f"asked-{code}.1.answer", "yes", None)])
        take(session, key, "tdc", [("left", "left", None)])
        after = judge(exchange.export_job(session, key))["next"]
    page = client.get(f"/jobs/{key}/degree").text
    if scale == "quarter":
        # Sides are typed with each reading: no form sets them right.
        assert after["entry"]["type"] != "sheet"
        assert "asked-" not in after["entry"]["slot"]
        return
    assert (after["entry"]["type"], after["entry"].get("kind")) == ("sheet", "wheel"), after
    assert "Set it right at Degree wheel" in page
    with shop.write() as session:
        right = {**WHEEL, "scale": scale, "numbers_rise": "clockwise", "all_along": "yes"}
        filled(session, key, "wheel", **right)
        found = judge(exchange.export_job(session, key))
    assert found["by_cam"]["both"]["error_deg"] == pytest.approx(0.0, abs=0.2)
    assert not [each for each in found["stations"]["degree"]["questions"] if each["share"] > 0.3]


def test_only_the_mounting_and_the_position_now_are_weighed(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        before = four_events(session, key)
        assert len(gathered(before).readings) == 5
        filled(
            session,
            key,
            "drive",
            a1_kind="choices",
            a1_options="0: 0, A4: 4",
            a1_fitted="0",
            a1_name="keyway",
            a1_where="cam",
        )
        assert gathered(cam_moved(session, key, 4)) is None
        again = four_events(session, key)
        assert len(gathered(again).readings) == 5
        asides.act(session, key, "tdc", "wheel-moved", "", "QZ")
        # The zero of the wheel as it stood then is known, and is another's now.
        after = take(session, key, "tdc", [("stop.2.before", "42", "btdc"), ("stop.2.after", "38", "atdc")])
    moved = gathered(after)
    assert [each.frame for each in moved.readings if each.lobe] == [0, 0, 0, 0]
    assert [each.frame for each in moved.readings if each.kind == "stop"] == [0, 1]
    assert weighed(after).phase().late_deg == pytest.approx(weighed(again).phase().late_deg, abs=0.01)


def test_a_backward_reading_is_left_out_a_stated_top_and_a_card_without_durations_are_weighed(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        four_events(session, key)
        job = take(session, key, "degree", [("io.2.backward", "9", "btdc")], approach="backward")
        assert len(gathered(job).readings) == 5
        stated = a_job(session, wheel={**WHEEL, "scale": "quarter"}, title="Stated")
        filled(session, stated, "top", how="stop", by_whom="RK")
        by_word = gathered(four_events(session, stated))
        assert [each.own_deg for each in by_word.readings if each.kind == "stop"] == [pytest.approx(0.125)]
        bare = a_job(
            session,
            card={"intake_centerline_deg": "110", "unit": "mm"},
            wheel={**WHEEL, "scale": "quarter"},
            title="Bare",
        )
        true_top(session, bare)
        half = gathered(four_events(session, bare))
        assert set(half.expected.middle_deg) == {"intake"}
        assert half.expected.half_doubt_deg["intake"] > 10


@pytest.mark.parametrize(("ahead", "within"), [("0", True), ("4", False)])
def test_chances_are_of_the_target(shop: Shop, ahead: str, within: bool) -> None:
    with shop.write() as session:
        key = ready(session)
        four_events(session, key)
        job = filled(session, key, "target", aim="advance", advance=ahead)
    assert (judgment.chance_in(job) > 0.9) is within


def test_every_fault_has_its_question(shop: Shop) -> None:
    from uranograph.evidence.faults import Suspect
    from uranograph.evidence.hypotheses import PRIOR

    with shop.write() as session:
        job = four_events(session, ready(session))
    for code in PRIOR:
        words = in_words(job, Suspect(code, 0.75, job.active_readings("degree")[0].seq))
        assert re.fullmatch(r"[A-Z].*[.?] \(3 in 4\)", words), code


def test_a_set_that_agrees_is_asked_for_its_proof_last_and_is_proved_by_it(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session, "Proof")
        assert next_reading(jobs.load(session, key)) is None
        assert not is_exhausted(jobs.load(session, key))
        half = take(session, key, "degree", [("io.1.forward", "12", "btdc")])
        assert (next_reading(half).why, next_reading(half).query["event"]) == ("half-read", "ic")
        job = four_events_after(session, key)
        assert not proved(job)
        for _ in range(12):
            wanted = next_reading(job)
            if wanted is None:
                break
            assert wanted.words.startswith(("It ", "Shows "))
            job = answer(session, key, job, wanted.station, dict(wanted.query))
    assert proved(job)
    assert is_exhausted(job)
    assert degree.find(job).code == "in"
    slots = [reading.spot.kind for reading in job.active_readings("degree")]
    assert slots.count("io") == 2


def four_events_after(session: Session, key: str) -> Job:
    for kind in ("ic", "eo", "ec"):
        job = take(session, key, "degree", [(f"{kind}.1.forward", *GOOD[kind])])
    return job


def answer(session: Session, key: str, job: Job, station: str, query: dict[str, str]) -> Job:
    prompt = ORDER.by_key[station].prompt(job, query)
    kind = prompt.spot.kind
    if kind == "stop":
        side = "btdc" if prompt.spot.place == "before" else "atdc"
        return take(session, key, "tdc", [(prompt.slot, "40", side)])
    text, side = GOOD[kind] if kind in GOOD else ("8.5" if kind.startswith("peak") else "0", None)
    return take(session, key, station, [(prompt.slot, text, side)])


def test_a_base_far_from_zero_is_refused_and_a_low_one_asks_for_the_lifter(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session, "Base")
        four_events(session, key, ic=("50", "abdc"))
        prompt = methods.prompt(jobs.load(session, key), {"method": "peak", "item": "base", "lobe": "intake"})
        assert prompt.slot == "base-intake.1.dial"
        with pytest.raises(InvalidInput, match="not-on-the-base"):
            take(session, key, "degree", [(prompt.slot, "6", None)])
        job = take(session, key, "degree", [(prompt.slot, "-0.12", None)])
    assert open_questions(job)[0].code == "bleeding-lifter"


def test_marks_in_cam_degrees_are_asked_once_the_cam_was_moved(shop: Shop) -> None:
    late = {"io": ("8", "btdc"), "ic": ("56", "abdc"), "eo": ("50", "bbdc"), "ec": ("18", "atdc")}
    with shop.write() as session:
        key = ready(session, "Cam degrees")
        filled(
            session,
            key,
            "drive",
            a1_kind="choices",
            a1_options="0: 0, A4: 4",
            a1_fitted="0",
            a1_name="keyway",
            a1_where="cam",
        )
        assert open_questions(four_events(session, key, **late)) == ()
        cam_moved(session, key, 4)
        assert open_questions(four_events(session, key)) == ()
        other = ready(session, "Twice")
        filled(
            session,
            other,
            "drive",
            a1_kind="choices",
            a1_options="0: 0, A4: 4",
            a1_fitted="0",
            a1_name="keyway",
            a1_where="cam",
        )
        four_events(session, other, **late)
        cam_moved(session, other, 4)
        twice = {"io": ("16", "btdc"), "ic": ("48", "abdc"), "eo": ("58", "bbdc"), "ec": ("10", "atdc")}
        found = open_questions(four_events(session, other, **twice))
    assert [each.code for each in found] == ["cam-degrees"]
    assert found[0].share > 0.8


def test_both_lifters_down_where_the_card_wants_them_up_is_the_firing_top(shop: Shop) -> None:
    ranges = {
        f"{lobe}_overlap_{end}": mm for lobe in ("intake", "exhaust") for end, mm in (("min", "1.2"), ("max", "1.6"))
    }
    with shop.write() as session:
        key = a_job(session, card={**CARD, **ranges}, wheel={**WHEEL, "scale": "quarter"}, title="Firing")
        true_top(session, key)
        up = take(
            session, key, "degree", [("overlap-intake.1.lift", "1.0", None), ("overlap-exhaust.1.lift", "1.3", None)]
        )
        assert open_questions(up) == ()
        key = a_job(session, card={**CARD, **ranges}, wheel={**WHEEL, "scale": "quarter"}, title="A turn on")
        true_top(session, key)
        down = take(
            session, key, "degree", [("overlap-intake.1.lift", "0.01", None), ("overlap-exhaust.1.lift", "0", None)]
        )
    assert open_questions(down)[0].code == "firing-top"


def test_a_gear_held_by_its_fit_alone_is_asked_of_its_history(shop: Shop) -> None:
    late = {"io": ("1", "btdc"), "ic": ("63", "abdc"), "eo": ("43", "bbdc"), "ec": ("25", "atdc")}
    with shop.write() as session:
        keyed, pressed = ready(session, "Keyed"), ready(session, "Pressed")
        assert "gear-slipped-before" not in {each.code for each in open_questions(four_events(session, keyed, **late))}
        filled(session, pressed, "gear-fit", held="pressed")
        found = open_questions(four_events(session, pressed, **late))
    assert "gear-slipped-before" in {each.code for each in found}
