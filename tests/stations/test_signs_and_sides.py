"""Every figure that is told to the hand with a sign, a side or a way: both sides of each, asserted on what is told."""

from collections.abc import Callable
from typing import Any

import pytest
from sqlalchemy.orm import Session

from tests.hands import CARD, WHEEL, a_job, take, true_top
from tests.phase.test_banks import read_bank
from tests.phase.test_banks import ready as two_banks
from tests.phase.test_weighed import GOOD, four_events, ready
from tests.stations.test_fit import filled, write
from tests.stations.test_marks import MARKED, TWO, described
from uranograph.bench.acts import Act, moved_words
from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.core.adjust import SlottedAdjuster, Tooth
from uranograph.core.keyway import KeywayInput, keyway
from uranograph.core.quantities import LengthUnit, late_or_early
from uranograph.core.verdict import Verdict
from uranograph.core.wheel import Turn
from uranograph.engine import degree_wheel, end_play, positions
from uranograph.phase import (
    banks,
    blind_sets,
    card_rows,
    events,
    finding,
    judgment,
    keyways,
    marks_by_eye,
    move_history,
    overlaps,
    split_overlap,
    turning,
)
from uranograph.phase.target import Aim, Target
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations.backlash import rules as backlash
from uranograph.stations.by_eye import rules as eye
from uranograph.stations.complaint import rules as complaint
from uranograph.stations.diagnosis import rules as diagnosis
from uranograph.stations.lash import rules as lash
from uranograph.stations.marks import rules as marks
from uranograph.stations.runout import rules as runout
from uranograph.stations.setting import advice as phase_advice
from uranograph.stations.setting import rules as setting
from uranograph.stations.sprocket_line import rules as sprocket
from uranograph.stations.true_tdc import rules as tdc

# Plain functions ------------------------------------------------------------------------------------------------------------


def judged(error_deg: float, cam: str = "both") -> judgment.JudgedCam:
    return judgment.JudgedCam(cam, error_deg, 0.3, Verdict.OUT, (), 0.0, True)


@pytest.mark.parametrize(
    ("said", "first", "second"),
    [
        (lambda sign: late_or_early(sign * 2.0), "2.0 late", "2.0 early"),
        (lambda sign: moved_words(sign * 4), "advance 4", "retard 4"),
        (lambda sign: finding._order(judged(sign * 3.0), 0, False), "ADVANCE", "RETARD"),
        (lambda sign: finding._also(judged(sign * 3.0), 0), " Advance the cam 3.0", " Retard the cam 3.0"),
        (lambda sign: finding._side(sign * 3.0), "deg retarded", "deg advanced"),
        (lambda sign: finding._open_code(judged(sign * 3.0), False), "reads-late", "reads-early"),
        (lambda sign: Target(Aim.ADVANCE, sign * 2).words, "2.0 ahead of the card", "2.0 behind the card"),
        (lambda sign: card_rows.signed(sign * 1.5), "+1.5", "−1.5"),
        (lambda sign: move_history._direction(sign * 4), "advance 4.0", "retard 4.0"),
        (
            lambda sign: move_history._fitted_position(Tooth(kind="tooth", crank_teeth=24, at=sign)),
            "1 tooth advanced",
            "1 tooth retarded",
        ),
        (
            lambda sign: move_history._fitted_position(
                SlottedAdjuster(kind="slot", range_deg=8, step_deg=1, at=3 * sign)
            ),
            "3 advanced on its marks",
            "3 retarded on its marks",
        ),
        (lambda sign: positions.compared(-4 * sign, 4 * sign, 0.3), "advanced", "retarded"),
        (lambda sign: positions.outcome(4 * sign, 8 * sign, 0.3), "doubled", "doubled"),
        (lambda sign: positions.outcome(4 * sign, -4 * sign, 0.3), "backward", "backward"),
        (
            lambda sign: Act(station="", kind="gear-turned", teeth=1, way="earlier" if sign > 0 else "later").title,
            "1 tooth earlier",
            "1 tooth later",
        ),
        (lambda sign: _by_keys(sign * 10.0), "1 tooth ahead", "1 tooth behind"),
        (
            lambda sign: diagnosis.read({"offset": str(15 * sign), "crank_teeth": "24"}).value.title,
            "One tooth late",
            "One tooth early",
        ),
        (lambda sign: marks_by_eye.code_of_lifters("intake" if sign > 0 else "exhaust"), "early", "late"),
        (
            lambda sign: marks_by_eye.code_of_lifters(f"{'intake' if sign > 0 else 'exhaust'}-alone"),
            "tooth-early",
            "tooth-late",
        ),
        (lambda sign: marks_by_eye.code_of_lifters("same", "", "intake" if sign > 0 else "exhaust"), "late", "early"),
    ],
)
def test_both_sides_of_a_plain_sentence(said: Callable[[int], str], first: str, second: str) -> None:
    assert first in said(1)
    assert second in said(-1)


def _by_keys(off_cam_deg: float) -> str:
    given = {
        "crank_stated_deg": 0,
        "crank_measured_deg": 0,
        "cam_stated_deg": 180,
        "cam_teeth": 36,
        "turns_opposite": False,
    }
    return keyways.summary(keyway(KeywayInput(**given, cam_measured_deg=180 + off_cam_deg)))


@pytest.mark.parametrize(("kind", "way"), [("io", "up"), ("ic", "down"), ("eo", "up"), ("ec", "down")])
def test_a_flank_goes_up_where_it_opens(shop: Shop, kind: str, way: str) -> None:
    with shop.write() as session:
        prompt = events.prompt(jobs.load(session, ready(session)), {"event": kind})
    assert prompt is not None
    assert prompt.instruction.values["way"] == way


@pytest.mark.parametrize(
    ("rise", "zero", "pointer", "turned"),
    [
        ("clockwise", -1.0, Turn.COUNTERCLOCKWISE, Turn.CLOCKWISE),
        ("clockwise", 1.0, Turn.CLOCKWISE, Turn.COUNTERCLOCKWISE),
    ],
)
def test_pointer_and_wheel_go_opposite_ways_to_the_zero(rise: str, zero: float, pointer: Turn, turned: Turn) -> None:
    mounted = degree_wheel.read({**WHEEL, "numbers_rise": rise}, Turn.CLOCKWISE, LengthUnit.MM).value
    assert mounted is not None
    assert tdc.ways_to_move(mounted, zero) == (pointer, turned)


# Whole stations ---------------------------------------------------------------------------------------------------------------


def late_by(session: Session, deg: float) -> Job:
    """A cam so late by all four events, read twice and proved."""
    key = ready(session, f"late {deg}")
    for _ in range(2):
        shifted = {"io": 12 - deg, "ic": 52 + deg, "eo": 54 - deg, "ec": 14 + deg}
        four_events(session, key, **{kind: (f"{value:g}", GOOD[kind][1]) for kind, value in shifted.items()})
    return take(session, key, "tdc", [("stop.7.before", "40", "btdc"), ("stop.7.after", "40", "atdc")])


def durations(session: Session, more: float) -> Job:
    key = ready(session, f"more {more}")
    return four_events(session, key, io=(f"{12 + more:g}", "btdc"), ic=(f"{52 + more:g}", "abdc"))


def contacts(session: Session, before: str, after: str) -> Finding:
    key = a_job(session, title=f"{before} {after}")
    return tdc.find(true_top(session, key, before, after))


def seen_marks(session: Session, answer: str) -> Finding:
    key = described(session, MARKED, title=answer)
    return marks.find(take(session, key, "marks", [("mesh-2.1.seen", answer, None)]))


def lifters(session: Session, intake: str, exhaust: str, place: str = "told") -> Any:
    key = described(session, TWO, title=f"{intake} {exhaust}")
    lifts = [("split.1.intake", intake, None), ("split.1.exhaust", exhaust, None)]
    job = take(session, key, "marks", lifts)
    found = split_overlap.measured(job)
    assert found is not None
    return split_overlap.summary(job, found)


def mark_by_eye(session: Session, answer: str) -> Finding:
    key = a_job(session, card=None, title=answer)
    filled(session, key, "by-eye", m1_on="cam gear", m1_other="crank gear")
    return eye.find(take(session, key, "by-eye", [("look-1.1.seen", answer, None)]))


def slid_in(session: Session, way: str) -> str:
    key = a_job(session, card=None, title=way)
    filled(session, key, "by-eye", m1_on="cam gear", m1_other="crank gear", helical="yes")
    job = take(session, key, "by-eye", [("dry.1.seen", way, None)], "2")
    return str(next(note.values["way"] for note in eye.find(job).notes if note.code == "start-helical-gear-off-mark"))


def depths(session: Session, driver: str, driven: str, **typed: str) -> Finding:
    key = a_job(session, title=f"{driver} {driven} {typed}")
    filled(session, key, "sprocket", **typed)
    return sprocket.find(
        take(session, key, "sprocket", [("driver.1.depth", driver, None), ("driven.1.depth", driven, None)])
    )


def stopped_at(session: Session, at: str) -> str:
    key = a_job(session, title=at)
    job = take(session, key, "turn-over", [("turned.1.seen", "stop", None), ("where.1.at", at, None)])
    return turning.find(job).sentence


def plays(session: Session, travel: str) -> Job:
    key = a_job(session, title=travel)
    filled(session, key, "end-play", crank_min="0.10", crank_max="0.20", crank_way="dial", dial_division="0.01")
    filled(session, key, "setting", crank_way="cheeks")
    take(session, key, "end-play", [("fitted-crank.1.seen", "all", None)])
    for n in range(1, 4):
        job = take(session, key, "end-play", [(f"crank.{n}.travel", travel, None)])
    return job


def shimmed(session: Session, adds: str) -> float:
    key = a_job(session, title=adds)
    filled(session, key, "end-play", crank_min="0.10", crank_max="0.20", crank_way="dial", dial_division="0.01")
    filled(session, key, "setting", crank_way="shims", crank_adds=adds, crank_stock="0.1 0.2 0.3 0.4")
    take(session, key, "setting", [("shims-crank.1.fitted", "0.20", None)])
    take(session, key, "end-play", [("fitted-crank.1.seen", "all", None)])
    for n in range(1, 4):
        job = take(session, key, "end-play", [(f"crank.{n}.travel", "0.05", None)])
    advice = phase_advice.shim_advice(job, "crank")
    assert advice is not None
    return advice.pack.total_mm


def valve(session: Session, kind: str, text: str, **typed: str) -> str:
    key = a_job(session, title=f"{kind} {text}")
    filled(session, key, "valve-lash", **typed)
    return lash.find(
        take(session, key, "valve-lash", [(f"{kind}-1.1.{'turns' if kind == 'preload' else 'blade'}", text, None)])
    ).code


def reported(session: Session, offset: str) -> str:
    key = a_job(session, title=offset)
    return complaint.find(filled(session, key, "complaint", complaint="x", offset=offset)).unit


def chain_end(session: Session, drop: str) -> str:
    key = a_job(session, title=drop)
    typed = {"a1_kind": "tooth", "a1_teeth": "24", "cam_radius": "58", "tight_span": "250", "center_drop": drop}
    [words] = [
        each for each in move_history.effects(filled(session, key, "drive", **typed)) if each.code == "cut-retards"
    ]
    return str(words.values["way"])


def lifts_at_overlap(session: Session, first: str, second: str) -> list[Any]:
    card = {**CARD, "intake_overlap_min": "1.4", "intake_overlap_max": "2.2"}
    key = a_job(session, card=card, wheel={**WHEEL, "scale": "quarter"}, title=f"{first} {second}")
    true_top(session, key)
    job = take(
        session, key, "degree", [("overlap-intake.1.lift", first, None), ("overlap-intake.2.lift", second, None)]
    )
    assert len(overlaps.measured(job, "intake")) == 2
    return [
        note.values["way"] for note in finding.find(job).notes if getattr(note, "code", "") == "banks-apart-by-overlap"
    ]


def banks_apart(session: Session, late: float) -> list[str]:
    key = two_banks(session, title=f"banks {late}")
    read_bank(session, key, 1)
    job = read_bank(session, key, 2, late=late)
    return [str(note.values["way"]) for note in banks.find(job).notes if getattr(note, "code", "") == "banks-apart"]


def did_not_come_back(session: Session, last: str) -> tuple[str, float]:
    key = a_job(session, title=f"back {last}")
    filled(session, key, "runout", places="4", dial_division="0.01")
    for n, dial in enumerate(("0", "0.05", "0.10", "0.05", last)):
        job = write(session, key, "runout", "set-1", "dial", dial, str(90 * n))
    found = runout.find(job)
    return found.code, float(str(found.values.get("off_mm", 0.0)))


def gear_pair(session: Session, travel: str) -> str:
    key = a_job(session, title=f"pair {travel}")
    typed = {"pitch_radius": "60", "indicator_radius": "60", "spec_min": "0.05", "spec_max": "0.15", "places": "4"}
    filled(session, key, "backlash", **typed)
    for n in range(4):
        job = write(session, key, "backlash", "place", "travel", travel, str(90 * n))
    return backlash.find(job).code


def lift_again(session: Session, lift: str) -> str:
    key = described(session, {**TWO, "hole_sets": "3", "g2_held": "bolts"}, title=f"again {lift}")
    sets = [("set-1.1.tried", "0.0", None), ("set-2.1.tried", "1.2", None), ("set-3.1.tried", "-1.2", None)]
    job = take(session, key, "marks", [*sets, ("again.1.lift", lift, None)])
    return blind_sets.summary(job, blind_sets.tried(job))[1].values.get("way", "")


SIDES: list[tuple[str, Callable[[Session], Any], Callable[[Session], Any], Any, Any]] = [
    (
        "the cam",
        lambda s: finding.find(late_by(s, 4)).code,
        lambda s: finding.find(late_by(s, -4)).code,
        "late",
        "early",
    ),
    (
        "its order",
        lambda s: finding.find(late_by(s, 4)).order,
        lambda s: finding.find(late_by(s, -4)).order,
        "ADVANCE 4.0° crank",
        "RETARD 4.0° crank",
    ),
    (
        "durations",
        lambda s: [
            n.values["way"]
            for n in finding.find(durations(s, 2)).notes
            if getattr(n, "code", "") == "duration-not-by-moving"
        ],
        lambda s: [
            n.values["way"]
            for n in finding.find(durations(s, -2)).notes
            if getattr(n, "code", "") == "duration-not-by-moving"
        ],
        ["longer"],
        ["shorter"],
    ),
    (
        "the zero",
        lambda s: contacts(s, "42", "38").values["side"],
        lambda s: contacts(s, "38", "42").values["side"],
        "before",
        "after",
    ),
    (
        "marks",
        lambda s: "17.14 crank deg early" in seen_marks(s, "early").sentence,
        lambda s: "17.14 crank deg late" in seen_marks(s, "late").sentence,
        True,
        True,
    ),
    (
        "split",
        lambda s: lifters(s, "1.0", "1.5").values["way"],
        lambda s: lifters(s, "1.5", "1.0").values["way"],
        "advance",
        "retard",
    ),
    (
        "split by teeth",
        lambda s: lifters(s, "0", "1.5").values["way"],
        lambda s: lifters(s, "1.5", "0").values["way"],
        "Advance",
        "Retard",
    ),
    (
        "shut and up",
        lambda s: lifters(s, "0.0", "1.6").values["shut"],
        lambda s: lifters(s, "1.6", "0.0").values["shut"],
        "intake",
        "exhaust",
    ),
    (
        "by eye",
        lambda s: mark_by_eye(s, "early").values["way"],
        lambda s: mark_by_eye(s, "late").values["way"],
        "back",
        "forward",
    ),
    ("sliding in", lambda s: slid_in(s, "left"), lambda s: slid_in(s, "right"), "right", "left"),
    (
        "a face",
        lambda s: depths(s, "20.0", "21.0").unit,
        lambda s: depths(s, "21.0", "20.0").unit,
        "mm too deep",
        "mm too shallow",
    ),
    (
        "to where",
        lambda s: depths(s, "20", "21.0").values["way"],
        lambda s: depths(s, "21.0", "20").values["way"],
        "out toward the cover",
        "in toward the block",
    ),
    (
        "shims",
        lambda s: depths(s, "20", "21", shim="0.5").code,
        lambda s: depths(s, "21", "20", shim="0.5").code,
        "add-shims",
        "take-shims",
    ),
    ("a stop", lambda s: "12.0 BTDC" in stopped_at(s, "-12"), lambda s: "12.0 ATDC" in stopped_at(s, "12"), True, True),
    (
        "a play",
        lambda s: end_play.state_of(plays(s, "0.05"), "crank").code,
        lambda s: end_play.state_of(plays(s, "0.30"), "crank").code,
        "tight",
        "loose",
    ),
    # 0.15 is wanted: of 0.05 sanding gives half the rest each side, of 0.30 it can take none away.
    (
        "sanding",
        lambda s: round(phase_advice.cheeks(plays(s, "0.05"), "crank").wanted_mm, 6),
        lambda s: setting.find(plays(s, "0.30")).code,
        0.05,
        "out-of-reach",
    ),
    (
        "sand so much",
        lambda s: setting.prompt(
            take(
                s,
                _key(plays(s, "0.05")),
                "setting",
                [("cheek-crank.1.front", "3", None), ("cheek-crank.1.rear", "3", None)],
            ),
            {},
        ).instruction.values["left_mm"],
        lambda s: setting.find(plays(s, "0.15")).code,
        pytest.approx(0.05),
        "in-as-it-is",
    ),
    # A pack of 0.20 and 0.10 too little play: more or less of it.
    ("a pack", lambda s: shimmed(s, "more"), lambda s: shimmed(s, "less"), pytest.approx(0.3), pytest.approx(0.1)),
    (
        "valve lash",
        lambda s: valve(s, "set", "0.05", intake_lash="0.20"),
        lambda s: valve(s, "set", "0.40", intake_lash="0.20"),
        "too-tight",
        "too-loose",
    ),
    (
        "preload",
        lambda s: valve(s, "preload", "2", turns="0.5"),
        lambda s: valve(s, "preload", "0", turns="0.5"),
        "too-tight",
        "too-loose",
    ),
    (
        "a report",
        lambda s: reported(s, "9"),
        lambda s: reported(s, "-9"),
        "deg late as reported",
        "deg early as reported",
    ),
    ("a block cut", lambda s: chain_end(s, "0.5"), lambda s: chain_end(s, "-0.5"), "late", "early"),
    (
        "banks by lift",
        lambda s: lifts_at_overlap(s, "1.8", "1.4"),
        lambda s: lifts_at_overlap(s, "1.4", "1.8"),
        ["later"],
        ["earlier"],
    ),
    ("banks", lambda s: banks_apart(s, 4), lambda s: banks_apart(s, -4), ["later"], ["earlier"]),
    (
        "a dial",
        lambda s: did_not_come_back(s, "0.06"),
        lambda s: did_not_come_back(s, "-0.06"),
        ("did-not-come-back", pytest.approx(0.06)),
        ("did-not-come-back", pytest.approx(0.06)),
    ),
    ("backlash", lambda s: gear_pair(s, "0.02"), lambda s: gear_pair(s, "0.30"), "tight", "loose"),
    ("a lift again", lambda s: lift_again(s, "0.7"), lambda s: lift_again(s, "1.3"), "late", "early"),
]


def _key(job: Job) -> str:
    return job.key


@pytest.mark.parametrize(("name", "one", "other", "first", "second"), SIDES, ids=[each[0] for each in SIDES])
def test_both_sides_are_told_as_they_are(
    shop: Shop, name: str, one: Callable[[Session], Any], other: Callable[[Session], Any], first: Any, second: Any
) -> None:
    with shop.write() as session:
        assert one(session) == first, name
        assert other(session) == second, name
