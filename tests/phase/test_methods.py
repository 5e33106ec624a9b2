"""Every way of degreeing, both directions, adjusters and tries, on made-up engines whose truth is known."""

import re
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.hands import CARD, ENGINE, WHEEL, a_job, take, true_top
from uranograph.bench.acts import Act
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Log, Reading, TypedForm
from uranograph.bench.slots import slot_of
from uranograph.core.errors import InvalidInput
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.core.piston import Crank
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Turn
from uranograph.demo.true_engine import TrueEngine
from uranograph.engine import adjusters, positions
from uranograph.engine.cams import LOBES
from uranograph.engine.degree_wheel import read
from uranograph.phase import drawing as figures
from uranograph.phase import (
    events,
    finding,
    judgment,
    methods,
    move_history,
    offers,
    overlaps,
    results,
    set_live,
    suspicions,
    sweep_points,
    sweeps,
)
from uranograph.phase.basis import rules_of
from uranograph.shop import jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.adjust import rules as adjust

# The card of tests.hands: both centerlines 110.
SHAPE = {"duration_deg": 244, "check_lift_mm": 1.0, "max_lift_mm": 8.5}
SHAPES = {"intake": SHAPE, "exhaust": {**SHAPE, "duration_deg": 248}}
OVERLAP = {
    f"{lobe}_overlap_{end}": f"{lift_at(CosineLobe(centerline_deg=middle, **SHAPES[lobe]), 0) + off:.3f}"
    for lobe, middle in (("intake", 110), ("exhaust", -110))
    for end, off in (("min", -0.05), ("max", 0.05))
}


class Bench:
    """Writes a job without a database, off an engine whose truth is known."""

    def __init__(self, error: float, wheel: dict[str, str], seed: int = 1, noise: float = 0.03, **engine: str) -> None:
        typed = {**WHEEL, **wheel}
        mounted = read(typed, Turn.CLOCKWISE, LengthUnit.MM).value
        assert mounted is not None
        lobes = {
            "intake": CosineLobe(centerline_deg=110 + error, **SHAPE),
            "exhaust": CosineLobe(centerline_deg=-110 + error, **SHAPES["exhaust"]),
        }
        self.truth = TrueEngine(mounted, Crank(stroke_mm=84, rod_mm=150), lobes, 1.3, noise, 0.25, seed, 0.003)
        forms = (("engine", {**ENGINE, **engine}), ("card", {**CARD, **OVERLAP}), ("wheel", typed))
        self.forms = [TypedForm(kind, seq, made, "QZ", None) for seq, (kind, made) in enumerate(forms, 1)]
        self.readings: list[Reading | Act] = []
        for place in ("before", "after"):
            self.write("tdc", slot_of("drop", 1, place), *self.truth.at_stop(5, place), second="5")

    def write(self, station: str, slot: str, text: str, side: str | None = None, **more: object) -> None:
        seq = len(self.forms) + len(self.readings) + 1
        self.readings.append(Reading(station, slot, text, side, unit=LengthUnit.MM, id=seq, seq=seq, by="QZ", **more))

    def moved(self, act: Act) -> None:
        seq = len(self.forms) + len(self.readings) + 1
        self.readings.append(replace(act, id=seq, seq=seq, by="QZ"))

    def filled(self, kind: str, typed: dict[str, str]) -> None:
        self.forms.append(TypedForm(kind, len(self.forms) + len(self.readings) + 1, typed, "QZ", None))

    @property
    def job(self) -> Job:
        return Job(
            "x", "made up", Log(tuple(self.forms), tuple(self.readings)), seq=len(self.forms) + len(self.readings)
        )

    def by_lifts(self) -> None:
        for lobe in LOBES:
            number = self.job.next_number("degree", lobe)
            for place in ("before", "after"):
                self.write("degree", slot_of(lobe, number, place), *self.truth.at_drop(lobe, 1.0, place), second="1.0")

    def by_events(self, approach: str = "forward") -> None:
        for kind in events.KINDS:
            number = self.job.next_number("degree", kind)
            self.write("degree", slot_of(kind, number, approach), *self.truth.event(kind), approach=approach)

    def proof(self) -> None:
        """The first event again, and the top."""
        number = self.job.next_number("degree", "io")
        self.write("degree", slot_of("io", number, "forward"), *self.truth.event("io"))
        for place in ("before", "after"):
            self.write("tdc", slot_of("drop", 90 + number, place), *self.truth.at_stop(5, place), second="5")

    def by_sweep(self, step: int) -> None:
        for lobe, low in (("intake", -50), ("exhaust", -270)):
            for number, angle in enumerate(range(low, low + 321, step), 1):
                shown = self.truth.wheel_shows(angle)
                self.write(
                    "degree",
                    slot_of(f"sweep-{lobe}", number, "point"),
                    *shown,
                    second=self.truth.dial(lobe, angle, 1, 3),
                )

    def by_overlap(self) -> None:
        for lobe in LOBES:
            self.write("degree", slot_of(f"overlap-{lobe}", 1, "lift"), self.truth.dial(lobe, 0, 1, 2))


@settings(max_examples=40)
@given(
    st.sampled_from(["full", "half", "quarter"]),
    st.sampled_from(["front", "rear"]),
    st.sampled_from(["clockwise", "counterclockwise"]),
    st.sampled_from(["events", "sweep", "overlap", "lifts"]),
    st.sampled_from([4, 5, 8]),
    st.floats(-7, 7),
    st.integers(0, 10_000),
)
def test_every_method_gives_a_known_error_back_within_its_uncertainty(
    scale: str, mount: str, rise: str, method: str, step: int, error: float, seed: int
) -> None:
    bench = Bench(error, {"scale": scale, "mount": mount, "numbers_rise": rise, "division": "1"}, seed)
    {
        "events": bench.by_events,
        "sweep": lambda: bench.by_sweep(step),
        "overlap": bench.by_overlap,
        "lifts": bench.by_lifts,
    }[method]()
    found = results.results(bench.job)
    assert {result.lobe for result in found} == set(LOBES)
    for result in found:
        assert result.method == method
        assert result.doubts == ()
        slack = 0.6 if method == "overlap" else 0.05  # the flank is not straight over seven degrees
        assert abs(result.error_deg - error) <= result.uncertainty_deg + slack * (
            1 + abs(error) * (method == "overlap")
        )


def test_all_methods_stand_in_one_table_and_agree() -> None:
    bench = Bench(3.0, {})
    for way in (bench.by_lifts, bench.by_events, lambda: bench.by_sweep(5), bench.by_overlap):
        way()
    found = finding.find(bench.job)
    assert found.verdict is Verdict.OUT
    labels = [row.label for row in found.rows]
    assert {"Intake centerline, events", "Intake centerline, sweep", "Intake centerline, equal lifts"} <= set(labels)
    assert not any("apart" in note for note in found.notes)
    assert judgment.four_events(bench.job).phase_error_deg == pytest.approx(3, abs=0.4)


def test_two_methods_that_disagree_are_told_with_a_reason() -> None:
    bench = Bench(0.0, {})
    bench.by_events()
    bench.truth.moved(-3)
    bench.by_lifts()
    notes = " ".join(finding.find(bench.job).notes)
    assert "Events and equal lifts put the intake" in notes
    assert "asymmetric" in notes


def test_a_longer_duration_is_told_apart_from_phase() -> None:
    bench = Bench(2.0, {})
    for lobe in LOBES:
        bench.truth.lobes[lobe] = bench.truth.lobes[lobe].model_copy(update={"duration_deg": 250})
    bench.by_events()
    found = finding.find(bench.job)
    assert float(found.number) == pytest.approx(2.0, abs=0.4)
    notes = " ".join(found.notes)
    assert float(re.search(r"Intake duration is ([0-9.]+) deg longer", notes).group(1)) == pytest.approx(6, abs=0.6)
    assert "Moving the cam does not cure it" in notes
    assert "Once the phase is cured" in notes


def test_the_basis_is_the_jobs_own() -> None:
    bench = Bench(0.0, {})
    bench.truth.lobes["intake"] = bench.truth.lobes["intake"].model_copy(update={"centerline_deg": 114})
    bench.by_events()
    assert judgment.gap(bench.job)[0] == pytest.approx(2, abs=0.3)
    bench.filled("rules", {"basis": "intake", "tolerance": "0.5"})
    assert judgment.gap(bench.job)[0] == pytest.approx(4, abs=0.3)
    assert rules_of(bench.job).tolerance_deg == 0.5


def test_events_read_both_ways_measure_the_lash_and_backward_ones_alone_are_flagged() -> None:
    bench = Bench(0.0, {"division": "0.5"}, noise=0.0)
    bench.by_events()
    bench.truth.moved(1.5)  # approached backward the slack lies on the other side
    bench.by_events("backward")
    assert events.slack_deg(bench.job) == pytest.approx(1.5, abs=0.25)
    assert any(row.label.startswith("Drive slack") for row in finding.find(bench.job).rows)
    bench.truth.moved(-1.5)
    bench.proof()
    assert finding.find(bench.job).verdict is Verdict.IN
    alone = Bench(0.0, {})
    alone.by_events("backward")
    found = finding.find(alone.job)
    assert found.verdict is Verdict.UNSURE
    assert "backward" in found.next_step


def test_one_event_alone_is_an_opening_point() -> None:
    bench = Bench(4.0, {})
    bench.write("degree", "io.1.forward", *bench.truth.event("io"))
    found = finding.find(bench.job)
    assert float(found.number) == pytest.approx(4, abs=0.4)
    assert "Intake opens alone" in found.rows[0].label


def test_two_banks_at_overlap_stand_side_by_side() -> None:
    bench = Bench(0.0, {})
    bench.by_overlap()
    bench.write("degree", "overlap-intake.2.lift", "1.2")
    assert [one.bank for one in overlaps.measured(bench.job, "intake")] == [1, 2]
    found = finding.find(bench.job)
    assert any("bank 2" in row.label for row in found.rows)
    assert any("bank 2 is" in note and "than bank 1" in note for note in found.notes)


def test_a_card_of_overlap_lifts_alone_is_enough(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card={**OVERLAP, "unit": "mm"})
        true_top(session, key)
        job = take(session, key, "degree", [("overlap-intake.1.lift", OVERLAP["intake_overlap_min"], None)])
        assert 0 < float(finding.find(job).number) < 1  # at the low end of the range: a little late, and in
        assert finding.find(job).verdict is not Verdict.OUT
        late = [("overlap-exhaust.1.lift", f"{float(OVERLAP['exhaust_overlap_max']) + 0.4:.2f}", None)]
        found = finding.find(take(session, key, "degree", late))
    assert "late" in found.sentence


def test_a_bad_point_is_named_with_a_guess_and_the_rest_stands() -> None:
    bench = Bench(1.0, {})
    bench.by_sweep(5)
    odd = next(k for k, r in enumerate(bench.readings) if r.slot == "sweep-intake.20.point")
    wrong = f"{float(bench.readings[odd].second) + 1:.3f}"
    bench.readings[odd] = replace(bench.readings[odd], second=wrong)
    [(reading, guess)] = sweep_points.swept(bench.job, "intake").suspects
    assert reading.second == wrong
    assert "typing slip" in guess
    assert results.results(bench.job)[0].error_deg == pytest.approx(1, abs=0.5)
    assert any("off the curve" in question for question in suspicions.questions(bench.job))


def test_a_short_lift_asks_about_the_indicator() -> None:
    bench = Bench(0.0, {})
    for lobe in LOBES:
        bench.truth.lobes[lobe] = bench.truth.lobes[lobe].model_copy(update={"max_lift_mm": 8.1})
    bench.by_sweep(5)
    assert "in line with the lifter" in suspicions.questions(bench.job)[0]


KEYWAYS = {
    "a1_kind": "choices",
    "a1_name": "keyway",
    "a1_options": "R4: -4, 0: 0, A4: 4, A8: 8",
    "a1_fitted": "0",
    "unit": "mm",
}


def choose(bench: Bench, label: str) -> offers.Offer:
    offer = next(o for o in offers.offers(bench.job, "both") if any(m.to == label for m in o.choice.moves))
    act = offers.act_of(bench.job, "both", offer.number)
    bench.moved(act)
    return offer


@settings(max_examples=15)
@given(st.floats(1.5, 9), st.integers(0, 1000))
def test_what_the_adjuster_predicts_is_what_measuring_again_finds(error: float, seed: int) -> None:
    bench = Bench(error, {}, seed)
    bench.by_events()
    bench.filled("drive", KEYWAYS)
    best = offers.offers(bench.job, "both")[0]
    if not best.choice.moves:
        return
    choose(bench, best.choice.moves[0].to)
    assert finding.find(bench.job).verdict is Verdict.OPEN
    bench.truth.moved(best.choice.shift_deg)
    bench.by_events()
    now, doubt = judgment.gap(bench.job)
    assert abs(now - best.choice.remaining_error_deg) <= 2 * doubt
    assert "as predicted" in move_history.history(bench.job)[-1].told


@pytest.mark.parametrize(
    ("actual", "words"),
    [
        (-4, "moved backward"),
        (8, "cam degrees"),
        (2, "half"),
        (0, "did not move"),
        (4, "as predicted"),
        (5.6, "look at what was moved"),
    ],
)
def test_a_try_that_turns_out_otherwise_says_how(actual: float, words: str) -> None:
    bench = Bench(7.5, {"division": "0.5"}, noise=0.0)
    bench.by_events()
    bench.filled("drive", KEYWAYS)
    choose(bench, "A4")
    bench.truth.moved(actual)
    bench.by_events()
    assert words in move_history.history(bench.job)[-1].told
    offered = offers.offers(bench.job, "both")
    assert [offer.again for offer in offered[:-1]] == [False] * (len(offered) - 1)
    assert offered[-1].again == (words not in ("as predicted", "cam degrees"))
    if offered[-1].again:
        assert offered[-1].choice.remaining_error_deg == pytest.approx(3.5, abs=0.4)


def test_marks_that_turned_out_to_be_cam_degrees_are_offered_as_such() -> None:
    bench = Bench(7.5, {"division": "0.5"}, noise=0.0)
    bench.by_events()
    bench.filled("drive", KEYWAYS)
    choose(bench, "A4")
    bench.truth.moved(8)
    bench.by_events()
    assert set_live.shown_marks(bench.job) == {"keyway": 2.0}
    # From A4, worth 8 and not 4, back to 0 is 8 and on to A8 another 8.
    shifts = {
        offer.choice.moves[0].to: offer.choice.shift_deg
        for offer in offers.offers(bench.job, "both")
        if offer.choice.moves
    }
    assert (shifts["0"], shifts["A8"], shifts["R4"]) == (-8, 8, -16)


def test_a_slot_stands_where_it_was_left_and_offers_no_more_than_its_range() -> None:
    bench = Bench(9.0, {"division": "0.5"}, noise=0.0)
    bench.by_events()
    bench.filled("drive", {"a1_kind": "slot", "a1_range": "6", "a1_step": "1", "unit": "mm"})
    best = offers.offers(bench.job, "both")[0]
    assert best.choice.moves[0].to == "6 marks advanced"
    act = offers.act_of(bench.job, "both", best.number)
    bench.moved(act)
    bench.truth.moved(6)
    bench.by_events()
    assert set_live.fitted_now(bench.job).adjusters[0].adjuster.at == 6
    # At the end of its slot it can only go back: the twelve marks it came from, and none further on.
    shifts = sorted(offer.choice.shift_deg for offer in offers.offers(bench.job, "both"))
    assert shifts == [float(k) for k in range(-12, 1)]


def test_every_position_can_be_chosen_and_adjust_never_says_in_where_degreeing_cannot_tell() -> None:
    bench = Bench(0.8, {"division": "1"}, noise=0.0)
    bench.by_events()
    bench.filled("drive", KEYWAYS)
    assert finding.find(bench.job).verdict is Verdict.UNSURE
    found = adjust.find(bench.job)
    assert (found.verdict, found.title) == (Verdict.UNSURE, "Cannot tell yet")
    assert found.next_step == finding.find(bench.job).next_step
    assert len(offers.offers(bench.job, "both")) == 4
    untopped = Bench(0.0, {})
    untopped.readings.clear()
    untopped.by_events()
    assert adjust.find(untopped.job).verdict is Verdict.UNSURE


def test_two_positions_within_tolerance_are_never_called_none() -> None:
    bench = Bench(4.5, {"division": "0.5"}, noise=0.0)
    bench.by_events()
    bench.filled("drive", {**KEYWAYS, "a1_options": "0: 0, A4: 4, A5: 5"})
    choose(bench, "A4")
    bench.truth.moved(0)  # the gear went back where it was
    bench.by_events()
    assert "did not move" in move_history.history(bench.job)[-1].told
    found = adjust.find(bench.job)
    assert found.verdict is not Verdict.OUT
    assert offers.offers(bench.job, "both")[-1].again


def test_a_predicted_early_error_is_written_early() -> None:
    bench = Bench(2.8, {"division": "0.5"}, noise=0.0)
    bench.by_events()
    bench.filled("drive", KEYWAYS)
    choose(bench, "A4")
    told = move_history.history(bench.job)[-1].told
    assert re.fullmatch(r"Measure again: 1\.[123] early is predicted\.", told)
    assert "-" not in told
    assert "−" not in told


@pytest.mark.parametrize(
    ("shift", "change", "doubt", "outcome"),
    [
        (0.33, 0.0, 0.4, "too-small"),
        (0.33, 0.33, 0.4, "too-small"),
        (0.6, 0.55, 0.4, "as-predicted"),
        (4, 3.5, 0.4, "as-predicted"),
        (4, 3.49, 0.4, "otherwise"),
        (4, 0.4, 0.4, "not-moved"),
        (4, 0.41, 0.4, "otherwise"),
        (4, -0.5, 0.4, "backward"),
        (4, 6.8, 0.4, "doubled"),
        (4, 6.79, 0.4, "otherwise"),
        (4, 9.2, 0.4, "doubled"),
        (4, 9.21, 0.4, "otherwise"),
        (4, 1.6, 0.4, "halved"),
        (4, 2.49, 0.4, "otherwise"),
    ],
)
def test_each_outcome_of_a_move_has_its_bounds(shift: float, change: float, doubt: float, outcome: str) -> None:
    assert positions.outcome(shift, change, doubt) == outcome


def test_each_position_keeps_its_own_readings_and_chart() -> None:
    bench = Bench(7.5, {}, noise=0.0)
    bench.by_lifts()
    bench.filled("drive", KEYWAYS)
    choose(bench, "A4")
    bench.truth.moved(4)
    bench.by_lifts()
    steps = move_history.history(bench.job)
    assert [round(step.errors["both"][0]) for step in steps] in ([8, 4], [7, 4], [8, 3], [7, 3])
    for step in steps:
        assert positions.at_position(step.view) is step.view
        middles = [marks.measured.centerline_deg for marks in figures.job_lobes(step.view)]
        assert middles[0] == pytest.approx(110 + step.errors["both"][0], abs=0.3)


def test_a_voided_try_gives_the_readings_back_to_the_position_before(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        take(
            session, key, "degree", [("intake.1.before", "72", "atdc"), ("intake.1.after", "162", "atdc")], second="1.0"
        )
        jobs.save_form(session, key, "drive", KEYWAYS, "QZ")
        act = offers.act_of(loading.load(session, key), "both", 0)
        jobs.move(session, key, act, "QZ", "try", None)
        job = loading.load(session, key)
        assert finding.find(job).verdict is Verdict.OPEN
        assert methods.prompt(job, {}).slot == "intake.2.before"
        assert set_live.fitted_now(job).adjusters[0].adjuster.fitted == act.moves[0].to
        assert job.acts("wheel"), "the wheel was on the gear that came off"
        jobs.void(session, key, positions.tries(job)[-1].id, "not moved after all", "QZ")
        job = loading.load(session, key)
        assert not job.acts("wheel")
    assert float(finding.find(job).number) == pytest.approx(7.0)
    assert positions.tries(job) == ()


def test_two_cams_have_tries_of_their_own() -> None:
    bench = Bench(3.2, {}, valvetrain="two-cams-over")
    bench.by_lifts()
    pins = {"kind": "pin-vernier", "holes": "15", "hub_holes": "16"}
    made = {f"a{n}_{name}": value for n in (1, 2) for name, value in pins.items()}
    bench.filled("drive", {**made, "a1_on": "intake", "a2_on": "exhaust", "a1_name": "in", "a2_name": "ex"})
    act = offers.act_of(bench.job, "intake", 0)
    bench.moved(act)
    assert act.cam == "intake"
    assert set(judgment.phases(positions.at_position(bench.job))) == {"exhaust"}
    assert "Exhaust cam" in adjust.find(bench.job).sentence
    with pytest.raises(InvalidInput):
        offers.act_of(bench.job, "intake", 0)


def test_no_move_is_needed_within_tolerance_and_nothing_reaches_when_nothing_is_there(shop: Shop) -> None:
    bench = Bench(0.2, {})
    bench.by_events()
    bench.proof()
    assert adjust.find(bench.job).verdict is Verdict.IN
    far = Bench(20.0, {})
    far.by_events()
    assert adjust.find(far.job).verdict is Verdict.OPEN
    far.filled("drive", KEYWAYS)
    assert adjust.find(far.job).verdict is Verdict.OUT


def test_a_worn_chain_and_a_cut_block_are_told_beside_the_error() -> None:
    bench = Bench(3.0, {})
    bench.by_events()
    bench.filled(
        "drive", {**KEYWAYS, "tight_span": "250", "cam_radius": "58", "elongation": "0,5 %", "center_drop": "0.5"}
    )
    told = move_history.effects(bench.job)
    assert "2.5 deg late" in told[0]
    assert "1.0 deg late" in told[1]


def test_positions_are_read_with_and_without_colons() -> None:
    by_colons, bare = (
        adjusters.read({"a1_kind": "choices", "a1_options": text}, LengthUnit.MM).value
        for text in ("R4: -4, 0: 0, long key: 4.5", "R4 -4, 0 0, long key 4.5")
    )
    assert by_colons is not None
    assert bare == by_colons


@pytest.mark.parametrize(
    ("typed", "field"),
    [
        ({}, "a1_kind"),
        ({"a1_kind": "choices"}, "a1_options"),
        ({"a1_kind": "choices", "a1_options": "A4"}, "a1_options"),
        ({"a1_kind": "choices", "a1_options": "A four"}, "a1_options"),
        ({"a1_kind": "slot", "a1_range": "10", "a1_step": "1", "a1_marks": "wheel"}, "a1_marks"),
        ({"a1_kind": "choices", "a1_options": "A: 4, A: 2"}, "a1_options"),
        ({"a1_kind": "choices", "a1_options": "A: 4, B: 2", "a1_fitted": "C"}, "a1_fitted"),
        ({"a1_kind": "tooth"}, "a1_teeth"),
        ({"a1_kind": "tooth", "a1_teeth": "0"}, "a1_teeth"),
        ({"a1_kind": "tooth", "a1_teeth": "23.5"}, "a1_teeth"),
        ({"a2_kind": "pin-vernier", "a2_holes": "15"}, "a2_hub_holes"),
        ({"a1_kind": "slot", "a1_range": "10", "a1_step": "0.0001"}, "a1_step"),
        ({**KEYWAYS, "elongation": "30"}, "elongation"),
        ({**KEYWAYS, "cam_radius": "-2"}, "cam_radius"),
        ({"a1_kind": "magic"}, "a1_kind"),
    ],
)
def test_a_drive_that_cannot_be_names_its_field(typed: dict[str, str], field: str) -> None:
    filled = adjusters.read(typed, LengthUnit.MM)
    assert filled.value is None
    assert field in filled.errors


GOOD = "angle_deg,lift_mm\n" + "\n".join(
    f"{a},{lift_at(CosineLobe(centerline_deg=110, **SHAPE), a):.3f}" for a in range(-60, 281, 5)
)


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("", "sweep-file-empty"),
        ("degrees,height\n1,2", "sweep-file-columns"),
        ("lift_mm,angle_deg\n1,2", "sweep-file-columns"),
        ("angle_deg,lift\n1,2", "sweep-file-unit"),
        ("angle_deg,lift_mm\n10,1\n20", "sweep-line-figures .*number=3"),
        ("angle_deg,lift_mm\n10,1\n20,", "sweep-line-figures .*number=3"),
        ("angle_deg,lift_mm\n10,1\n10,2", "sweep-line-again .*number=3.*seen=2"),
        ("angle_deg,lift_mm\n10,1\n20,0.05in", "sweep-line-refused .*number=3.*sweep-line-unit"),
        ("angle_deg,lift_mm\n10,1\nten,2", "sweep-line-refused .*number=3"),
        ("angle_deg,lift_mm\n10,1\n999,2", "sweep-line-angle .*number=3"),
        (GOOD.replace("\n100,", "\n100.5,").replace("\n".join(GOOD.split("\n")[20:30]), ""), "sweep-gap .*line=20"),
        ("angle_deg,lift_mm\n" + "1,1\n" * 6000, "sweep-file-too-long"),
    ],
)
def test_a_file_with_a_fault_names_the_line(text: str, code: str) -> None:
    with pytest.raises(InvalidInput, match=code):
        sweeps.read_csv(text, "intake", 1)


AS_THEY_COME = [
    GOOD,
    GOOD.replace(",", ";"),
    GOOD.replace(",", "\t"),
    GOOD.replace("\n", "\r\n"),
    GOOD.replace("angle_deg,lift_mm", "Angle (deg), Lift (mm)"),
]


@pytest.mark.parametrize("text", AS_THEY_COME)
def test_files_as_they_come_are_read_and_degreed(shop: Shop, key: str, text: str) -> None:
    with shop.write() as session:
        jobs.record_all(session, key, sweeps.read_csv(text, "intake", 1), "QZ")
        job = loading.load(session, key)
    found = sweep_points.swept(job, "intake").found
    assert found.centerline_events_deg == pytest.approx(110, abs=0.1)
    # The exhaust is not read yet: no cam is in by its intake alone.
    assert finding.find(job).verdict is Verdict.UNSURE
    assert abs(finding.find(job).quantity.value) < 0.2


def test_a_file_in_inches_and_a_sweep_of_three_thousand_points(shop: Shop) -> None:
    lobe = CosineLobe(centerline_deg=110, **SHAPE)
    lines = [f"{-60 + k * 0.11:.2f},{lift_at(lobe, -60 + k * 0.11) / 25.4:.5f}" for k in range(3000)]
    with shop.write() as session:
        key = a_job(session)
        jobs.record_all(session, key, sweeps.read_csv("angle_deg,lift_in\n" + "\n".join(lines), "intake", 1), "QZ")
        found = sweep_points.swept(loading.load(session, key), "intake").found
    assert found.max_lift_mm == pytest.approx(8.5, abs=0.01)
    assert found.duration_deg == pytest.approx(244, abs=0.1)


def test_the_sweeps_angle_goes_on_by_itself_and_a_place_is_read_once(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        job = loading.load(session, key)
        first = methods.prompt(job, {"method": "sweep", "lobe": "intake", "step": "5"})
        assert first.extra["angle"] == "40"
        points = [("sweep-intake.1.point", "40", "btdc"), ("sweep-intake.2.point", "35", "btdc")]
        job = take(session, key, "degree", points, second="0.1")
        waiting = methods.prompt(job, {})
        assert (waiting.slot, waiting.extra["angle"], waiting.side) == ("sweep-intake.3.point", "30", "btdc")
        with pytest.raises(InvalidInput, match="lift-there-already"):
            take(session, key, "degree", [("sweep-intake.3.point", "35", "btdc")], second="0.2")
        with pytest.raises(InvalidInput, match="not-a-swept-lift"):
            take(session, key, "degree", [("sweep-intake.3.point", "30", "btdc")], second="90")


def test_a_slip_in_a_sweep_is_asked_for_again_once_the_sweep_is_whole_and_not_before(shop: Shop, key: str) -> None:
    lobe = CosineLobe(centerline_deg=110, **SHAPE)
    degree = ORDER.by_key["degree"]
    with shop.write() as session:
        true_top(session, key)
        angles = list(range(-40, 265, 8))
        for n, angle in enumerate(angles, 1):
            side, shown = ("btdc", -angle) if angle < 0 else ("atdc", angle) if angle <= 180 else ("btdc", 360 - angle)
            lift = lift_at(lobe, angle) + (0.8 if angle == 56 else 0.0)
            job = take(session, key, "degree", [(f"sweep-intake.{n}.point", str(shown), side)], second=f"{lift:.2f}")
            if angle == 160:
                assert degree.prompt(job, {}).extra["angle"] == "168"
    asked = degree.prompt(job, {})
    assert sweep_points.is_complete(sweep_points.swept(job, "intake"))
    assert (asked.slot.split(".")[0], asked.extra["angle"], asked.side) == ("sweep-intake", "56", "atdc")
    assert degree.prompt(job, {"method": "sweep", "lobe": "exhaust"}).slot.startswith("sweep-exhaust")
