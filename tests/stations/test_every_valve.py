"""Every valve beside the others of its kind: the odd one is found and named, whatever the engine; and nothing is in that was not read."""

import random
from collections.abc import Mapping

import pytest

from tests.hands import ENGINE, WHEEL, a_job, take, true_top
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Turn, as_read
from uranograph.engine.degree_wheel import read as wheel_read
from uranograph.phase.valve_by_valve import KEY, measured, offset_deg, valves
from uranograph.shop import asides, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.world.lobes import Lobe

STATION = ORDER.by_key[KEY]
CHECK_MM = 1.0
MOUNTED = wheel_read(WHEEL, Turn.CLOCKWISE, LengthUnit.MM).value
ORDERS = {
    2: "1-2",
    3: "1-3-2",
    4: "1-3-4-2",
    6: "1-5-3-6-2-4",
    8: "1-8-4-3-6-5-7-2",
    12: "1-7-5-11-3-9-6-12-2-8-4-10",
}


def engine_of(cylinders: int, **more: str) -> dict[str, str]:
    return {**ENGINE, "cylinders": str(cylinders), "firing_order": ORDERS[cylinders], **more}


def read_all(
    shop: Shop,
    key: str,
    lobes: Mapping[str, Lobe],
    seed: int,
    odd: str = "",
    share: float = 1.0,
    late_deg: float = 0.0,
    zero_deg: float = 0.0,
    timing: bool = True,
) -> Job:
    """Read every valve of an engine with an eye for a half-degree wheel; one of them may be worn, or late."""
    noise = random.Random(seed)
    with shop.write() as session:
        job = loading.load(session, key)
        for valve in valves(job):
            lobe, own = lobes[valve.lobe], valve.name == odd
            lift = lobe.lift_mm * (share if own else 1.0) + noise.gauss(0, 0.003)
            job = take(session, key, KEY, [(f"lift-{valve.number}.1.dial", f"{lift:.2f}", None)])
            if not timing:
                continue
            for what, side in (("opens", -1), ("closes", 1)):
                at = lobe.crossing_deg(CHECK_MM / (share if own else 1.0), side) + (late_deg if own else 0.0)
                shown = at + (offset_deg(job, valve) or 0.0) + zero_deg + noise.gauss(0, 0.08)
                value, on = as_read(MOUNTED.wheel, round(shown * 4) / 4)
                slot = f"{what}-{valve.number}.1.forward"
                job = take(session, key, KEY, [(slot, f"{value:g}", on.value if on else None)])
    return job


def drawn_lobes(seed: int) -> dict[str, Lobe]:
    r = random.Random(f"lobes {seed}")
    found = {}
    for lobe, middle in (("intake", r.uniform(100, 118)), ("exhaust", -r.uniform(102, 120))):
        found[lobe] = Lobe(middle, r.uniform(105, 130), r.uniform(6, 13), CHECK_MM, uneven_deg=r.uniform(-1, 1))
    return found


@pytest.mark.parametrize("cylinders", ORDERS)
def test_valves_that_are_alike_are_in_and_their_figures_are_right(shop: Shop, cylinders: int) -> None:
    lobes = drawn_lobes(cylinders)
    with shop.write() as session:
        key = a_job(session, engine=engine_of(cylinders), card=None)
        true_top(session, key, "38.5", "41.5")
    job = read_all(shop, key, lobes, cylinders, zero_deg=1.5)
    finding = STATION.find(job)
    assert (finding.verdict.value, finding.code) == ("in", "all-alike")
    for each in measured(job):
        lobe = lobes[each.valve.lobe]
        opens, closes = (lobe.crossing_deg(CHECK_MM, side) for side in (-1, 1))
        assert each.middle_deg == pytest.approx((opens + closes) / 2, abs=each.event_uncertainty_deg)
        assert each.duration_deg == pytest.approx(closes - opens, abs=2 * each.event_uncertainty_deg)


@pytest.mark.parametrize("cylinders", [3, 4, 6, 8, 12])
@pytest.mark.parametrize("seed", range(3))
def test_a_worn_lobe_is_found_and_named_with_its_figure(shop: Shop, cylinders: int, seed: int) -> None:
    lobes = drawn_lobes(100 + seed)
    odd = f"{random.Random(seed).randint(1, cylinders)} {('intake', 'exhaust')[seed % 2]}"
    with shop.write() as session:
        key = a_job(session, engine=engine_of(cylinders), card=None)
    finding = STATION.find(read_all(shop, key, lobes, seed, odd=odd, share=0.96, timing=False))
    lost = 0.04 * lobes[odd.split()[1]].lift_mm
    assert (finding.verdict.value, finding.code) == ("out", "lift-apart")
    assert finding.values["name"] == odd
    assert finding.values["way"] == "less"
    assert finding.quantity.value == pytest.approx(-lost, abs=0.03)
    assert f"{odd} lifts" in finding.sentence
    assert "less" in finding.sentence


def test_a_lobe_that_is_late_is_told_from_one_that_is_worn(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, engine=engine_of(6), card=None)
        true_top(session, key)
    finding = STATION.find(read_all(shop, key, drawn_lobes(9), 9, odd="5 exhaust", late_deg=4.0))
    assert (finding.code, finding.values["name"], finding.values["way"]) == ("timing-apart", "5 exhaust", "late")
    assert finding.quantity.value == pytest.approx(4.0, abs=0.6)


def test_an_uneven_twin_is_placed_by_its_firing_angles(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, engine=engine_of(2, firing_angles="0, 315"), card=None)
        true_top(session, key)
        assert offset_deg(loading.load(session, key), valves(loading.load(session, key))[2]) == 315
    assert STATION.find(read_all(shop, key, drawn_lobes(3), 3)).code == "all-alike"


def test_less_than_half_the_limit_off_is_in_and_about_the_limit_cannot_be_told(shop: Shop) -> None:
    lobes = {lobe: Lobe(middle, 120, 10.0, CHECK_MM) for lobe, middle in (("intake", 108), ("exhaust", -110))}
    for share, verdict in ((0.9955, "in"), (0.9895, "unsure"), (0.985, "out")):
        with shop.write() as session:
            key = a_job(session, card=None, title=str(share))
        found = STATION.find(read_all(shop, key, lobes, 5, odd="2 intake", share=share, timing=False))
        assert found.verdict.value == verdict, (share, found.sentence)


def test_nothing_is_in_before_every_valve_is_read(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        job = take(session, key, KEY, [(f"lift-{n}.1.dial", "8.50", None) for n in range(1, 8)])
        assert STATION.find(job).code == "within-so-far"
        job = take(session, key, KEY, [("lift-8.1.dial", "8.50", None)])
        assert STATION.find(job).code == "lifts-alike"
        job = take(session, key, KEY, [("opens-1.1.forward", "12", "btdc")])
        assert STATION.find(job).verdict.value != "in"


def test_timing_without_tdc_or_over_a_moved_wheel_cannot_be_told(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
    finding = STATION.find(read_all(shop, key, drawn_lobes(4), 4))
    assert (finding.verdict.value, finding.code) == ("unsure", "tdc-missing")


def test_what_an_act_disturbs_is_read_again_and_what_it_leaves_holds(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        true_top(session, key)
    read_all(shop, key, drawn_lobes(6), 6)
    for kind, left in (("cam-moved", 8), ("lash-changed", 0)):
        with shop.write() as session:
            asides.act(session, key, KEY, kind, "", "QZ")
            job = loading.load(session, key)
        assert sum(each.lift_mm is not None for each in measured(job)) == left
        assert not any(each.duration_deg for each in measured(job))
        assert STATION.find(job).code == ("timing-so-far" if left else "nothing-read")
        asked = STATION.prompt(job, {})
        assert asked is not None
        assert asked.extra["method"] == ("timing" if left else "lift")


def test_one_of_each_kind_is_not_judged(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, engine={**ENGINE, "cylinders": "1", "firing_order": "1"}, card=None)
        job = loading.load(session, key)
    assert STATION.find(job).code == "nothing-to-compare"
    assert STATION.prompt(job, {}) is None


@pytest.mark.parametrize(
    ("slot", "text", "side", "approach", "code"),
    [
        ("lift-9.1.dial", "8.5", None, "forward", "valve-not-there"),
        ("lift-1.1.dial", "85", None, "forward", "valve-lift-unlikely"),
        ("lift-1.1.dial", "-1", None, "forward", "valve-lift-unlikely"),
        ("opens-1.1.forward", "12", "btdc", "backward", "valve-event-backward"),
        ("opens-1.1.forward", "200", "btdc", "forward", "wheel-range"),
    ],
)
def test_what_cannot_be_is_refused(
    shop: Shop, slot: str, text: str, side: str | None, approach: str, code: str
) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        with pytest.raises(InvalidInput) as refused:
            take(session, key, KEY, [(slot, text, side)], approach=approach)
    if code != "wheel-range":
        assert refused.value.code == code


def test_it_is_in_no_job_until_somebody_begins_it_and_then_it_is_settled_before_signing(shop: Shop) -> None:
    from uranograph.shop.signing import unsettled

    with shop.write() as session:
        key = a_job(session, card=None)
        assert KEY not in [each.station.key for each in unsettled(loading.load(session, key))]
        job = take(session, key, KEY, [("lift-1.1.dial", "8.50", None)])
    assert KEY in [each.station.key for each in unsettled(job)]


def test_the_opening_is_asked_for_and_then_the_closing_valve_by_valve(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        true_top(session, key)
        asked = []
        for n in range(4):
            prompt = STATION.prompt(loading.load(session, key), {"method": "timing"})
            asked.append(prompt.slot)
            take(session, key, KEY, [(prompt.slot, str(12 + n), prompt.side)])
    assert asked == ["opens-1.1.forward", "closes-1.1.forward", "opens-2.1.forward", "closes-2.1.forward"]


def test_cylinders_that_have_the_letter_of_their_bank_are_named_so_and_placed_so(shop: Shop) -> None:
    order = "1A-1B-4A-4B-2B-3A-3B-2A"
    with shop.write() as session:
        key = a_job(session, engine={**ENGINE, "cylinders": "8", "firing_order": order}, card=None)
        true_top(session, key)
        job = loading.load(session, key)
    assert [valve.name for valve in valves(job)[:4]] == ["1A intake", "1A exhaust", "1B intake", "1B exhaust"]
    assert offset_deg(job, valves(job)[2]) == 90
    finding = STATION.find(read_all(shop, key, drawn_lobes(8), 8, odd="3B intake", late_deg=5.0))
    assert (finding.code, finding.values["name"]) == ("timing-apart", "3B intake")
    with shop.read() as session:
        reading = loading.load(session, key).active_readings(KEY)[0]
    assert STATION.describe(STATION.label_entry(job, reading)) == "valve 1A intake lift"


def test_banks_with_cams_of_their_own_are_compared_each_within_itself(shop: Shop) -> None:
    order = "1A-1B-4A-4B-2B-3A-3B-2A"
    lobes, late = drawn_lobes(12), {"A": 0.0, "B": 4.0}
    found = {}
    for title, typed in (("named", order), ("numbers", "1-8-4-3-6-5-7-2")):
        engine = {
            **ENGINE,
            "cylinders": "8",
            "firing_order": typed,
            "valvetrain": "one-cam-a-bank",
            "bank2_cylinder": typed[3:5].strip("-"),
        }
        with shop.write() as session:
            key = a_job(session, engine=engine, card=None, title=title)
            true_top(session, key)
            job = loading.load(session, key)
            noise = random.Random(4)
            for valve in valves(job):
                lobe, bank = lobes[valve.lobe], late.get(valve.name.split()[0][-1], 0.0)
                job = take(session, key, KEY, [(f"lift-{valve.number}.1.dial", f"{lobe.lift_mm:.2f}", None)])
                for what, side in (("opens", -1), ("closes", 1)):
                    at = lobe.crossing_deg(CHECK_MM, side) + (offset_deg(job, valve) or 0.0) + bank
                    value, on = as_read(MOUNTED.wheel, round((at + noise.gauss(0, 0.08)) * 4) / 4)
                    slot = f"{what}-{valve.number}.1.forward"
                    job = take(session, key, KEY, [(slot, f"{value:g}", on.value if on else None)])
        found[title] = STATION.find(job)
    # One bank's cam stands later than the other's: that is for degreeing, and no fault of a valve.
    assert found["named"].code == "all-alike"
    assert found["numbers"].code == "timing-not-compared"
    assert any("letter of its bank" in note for note in found["numbers"].notes)


def test_hydraulic_lifters_that_differ_cannot_be_told_before_stand_ins(shop: Shop) -> None:
    codes = {}
    for tappets in ("hydraulic", "stand-in", "solid"):
        with shop.write() as session:
            key = a_job(session, engine={**ENGINE, "tappets": tappets}, card=None, title=tappets)
        finding = STATION.find(read_all(shop, key, drawn_lobes(5), 5, odd="2 exhaust", share=0.95, timing=False))
        codes[tappets] = (finding.verdict.value, finding.code)
    assert codes == {
        "hydraulic": ("unsure", "lifters-bleed"),
        "stand-in": ("out", "lift-apart"),
        "solid": ("out", "lift-apart"),
    }
