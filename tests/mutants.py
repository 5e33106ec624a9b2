"""`make mutants`: rules changed on purpose, one at a time; the tests must notice each. Exits 1 where one goes unnoticed."""

import os
import shutil
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
PACKAGE = Path("src") / "uranograph"


@dataclass(frozen=True)
class Mutant:
    """One change: the file, what stands there, what stands there instead, and the tests that must notice."""

    file: str
    old: str
    new: str
    tests: str


CORE, BENCH = "tests/core", "tests/bench"
ENGINE, PHASE, STATIONS = "tests/engine", "tests/phase", "tests/stations"
STANDS = f"{PHASE}/test_where_the_cam_stands.py"
SIGNS = f"{STATIONS}/test_signs_and_sides.py"
ENDS = f"{STATIONS}/test_stations_end_right.py {STATIONS}/test_what_verdicts_stand_on.py"
BOUNDS, PROVE = f"{STATIONS}/test_thresholds.py", f"{STATIONS}/test_prove.py"
MUTANTS = (
    Mutant("core/verdict.py", "top + doubt <= most + EXACT", "top - doubt <= most + EXACT", f"{BOUNDS} {CORE}"),
    Mutant(
        "core/verdict.py",
        "value + doubt < least - EXACT",
        "value < least - EXACT",
        f"{CORE} {PHASE}/test_never_in_wrongly.py",
    ),
    Mutant(
        "core/verdict.py",
        "value - doubt >= least - EXACT",
        "value >= least - EXACT",
        f"{CORE} {PHASE}/test_never_in_wrongly.py",
    ),
    Mutant("core/tdc.py", "AGREEMENT_DEG = 0.5", "AGREEMENT_DEG = 0.6", BOUNDS),
    Mutant("core/tdc.py", "GEOMETRY_TOLERANCE_DEG = 1.0", "GEOMETRY_TOLERANCE_DEG = 1.5", BOUNDS),
    Mutant(
        "core/tdc.py",
        "(pair.after_deg - pair.before_deg) / 2",
        "(pair.before_deg - pair.after_deg) / 2",
        f"{CORE}/test_piston_and_tdc.py {CORE}",
    ),
    Mutant("core/tdc.py", "max(by_reading, spread / 2)", "by_reading", f"{CORE} {ENGINE}/test_tdc.py"),
    Mutant("core/slip.py", "NEAR_WHOLE_DEG = 2.0", "NEAR_WHOLE_DEG = 2.2", BOUNDS),
    Mutant("core/slip.py", "360 / crank_teeth / 6", "360 / crank_teeth / 5", BOUNDS),
    Mutant("core/keyway.py", "abs(difference) > 90", "abs(difference) > 120", BOUNDS),
    Mutant("core/keyway.py", "> 2 * given.level_deg", "> given.level_deg", BOUNDS),
    Mutant(
        "core/phase.py", "DEFAULT_TOLERANCE_DEG = 1.0", "DEFAULT_TOLERANCE_DEG = 1.5", f"{CORE} {PHASE}/test_degree.py"
    ),
    Mutant(
        "core/drive_choice.py",
        "if shaft is not Verdict.IN:",
        "if shaft is Verdict.OUT:",
        f"{CORE}/test_fits.py {BENCH}",
    ),
    Mutant("core/drive_choice.py", "if past is Verdict.OUT:", "if past is not Verdict.IN:", f"{CORE}/test_fits.py"),
    Mutant("core/backlash.py", "2 * math.tan", "math.tan", CORE),
    Mutant("bench/job.py", "reading.seq > ended[kind]", "reading.seq >= 0", f"{BENCH}/test_acts.py"),
    Mutant(
        "bench/memo.py",
        "if not acted:\n            self.held_before",
        "if True:\n            self.held_before",
        "tests/shop/test_jobs.py",
    ),
    Mutant(
        "bench/memo.py", "all(asked.isdisjoint(changed) for asked in self.asked)", "True", "tests/shop/test_jobs.py"
    ),
    Mutant("engine/positions.py", "< left_at[lobe]", "<= until", f"{PHASE}/test_after_a_move.py"),
    Mutant(
        "phase/judgment.py",
        "either = 0.0 if has_independent_cams(job) else next(iter(found.values()))",
        "either = next(iter(found.values()))",
        "tests/web/test_degree_pages.py",
    ),
    Mutant(
        "phase/finding.py",
        "phases(positions.just_before(job, changed[1]))",
        "phases(changed[0])",
        f"{PHASE}/test_after_a_move.py",
    ),
    Mutant("bench/job.py", "own < after[0]", "own > after[0]", f"{BENCH}/test_acts.py"),
    Mutant("bench/job.py", "filled.seq <= until", "filled.seq >= until", f"{PHASE}/test_degree.py"),
    Mutant(
        "bench/acts.py",
        'ActKind("gear-turned", "A gear was turned by teeth", ("mesh", "phase"),',
        'ActKind("gear-turned", "A gear was turned by teeth", ("mesh",),',
        f"{BENCH}/test_acts.py",
    ),
    Mutant(
        "bench/acts.py",
        "return (POSITION,)",
        "return (*ACTS[self.kind].disturbs, POSITION)",
        f"{PHASE}/test_degree.py {PHASE}/test_methods.py",
    ),
    Mutant("bench/memo.py", "if one.holds(job)", "if one is not None", f"{BENCH}/test_forms.py"),
    Mutant("bench/shop_limits.py", "PLAUSIBLE = 8.0", "PLAUSIBLE = 12.0", BOUNDS),
    Mutant("bench/messages.py", 'replace("-", "−")', 'replace("-", "-")', f"{BENCH}/test_messages.py"),
    Mutant("bench/parsers.py", "-80 <= value <= 600", "-80 <= value <= 700", BOUNDS),
    Mutant(
        "engine/tdc.py",
        "PROVED_WITHIN_DEG = 0.5",
        "PROVED_WITHIN_DEG = 1.0",
        f"{BOUNDS} {ENGINE}/test_tdc.py",
    ),
    Mutant(
        "stations/true_tdc/rules.py",
        "with_running if zero_error_deg < 0 else with_running.other",
        "with_running",
        f"{ENGINE}/test_tdc.py",
    ),
    Mutant("core/torque.py", "PULLED_WITHIN = 0.04", "PULLED_WITHIN = 0.05", BOUNDS),
    Mutant("core/torque.py", "TURNED_WITHIN_DEG = 5.0", "TURNED_WITHIN_DEG = 6.0", f"{STATIONS}/test_what_is_there.py"),
    Mutant("core/firing.py", "CYCLE_DEG / 2) < TOGETHER", "CYCLE_DEG) < TOGETHER", f"{STATIONS}/test_what_is_there.py"),
    Mutant(
        "stations/by_eye/rules.py", '(rotor == "one") == (top', '(rotor == "one") != (top', f"{STATIONS}/test_by_eye.py"
    ),
    Mutant("phase/target.py", "card - advance", "card + advance", f"{STATIONS}/test_what_is_there.py"),
    Mutant(
        "stations/complaint/rules.py",
        "REPORT_DOUBT_DEG = 0.5",
        "REPORT_DOUBT_DEG = 0.3",
        f"{STATIONS}/test_complaint.py",
    ),
    Mutant("evidence/faults.py", "if nothing > 0.5 and all(", "if nothing > 0.6 and all(", "tests/evidence"),
    Mutant(
        "evidence/faults.py",
        "HOLDS_SHARE, MAX_ASKED = 0.02, 0.3",
        "HOLDS_SHARE, MAX_ASKED = 0.02, 0.35",
        "tests/evidence",
    ),
    Mutant("evidence/covariance.py", "LATE_BIAS_DEG = 0.1", "LATE_BIAS_DEG = -0.5", "tests/evidence"),
    Mutant("core/verdict.py", "FALSE_VERDICT = 0.002", "FALSE_VERDICT = 0.004", f"{PHASE}/test_chances.py"),
    Mutant(
        "phase/weighed.py",
        "SUMMED, MAX_FALSE = 10.0",
        "SUMMED, MAX_FALSE = 12.0",
        f"{PHASE}/test_chances.py",
    ),
    Mutant(
        "phase/judgment.py",
        "1 - stands.plain, 1 - stands.within) and agree:",
        "1 - stands.plain, 1 - stands.within):",
        f"{PHASE}/test_never_in_wrongly.py",
    ),
    Mutant("phase/judgment.py", "if weighed.held(job) or any(", "if any(", f"{PHASE}/test_chances.py {STANDS}"),
    Mutant("phase/judgment.py", "and (doubtful or unread(job))", "and doubtful", STANDS),
    Mutant("phase/weighed.py", "2 * LATE_BIAS_DEG), found.top_deg)", "2 * LATE_BIAS_DEG), 0.0)", STANDS),
    Mutant("phase/offers.py", "math.hypot(doubt, step_doubt(moving, choice))", "doubt", STANDS),
    Mutant("engine/adjusters.py", "twice = 2 if", "twice = 1 if", STANDS),
    Mutant("engine/card.py", "top * engine.ratio - printed.lash_mm", "top - printed.lash_mm", STANDS),
    Mutant("stations/degree/what_if.py", 'found["ic_abdc_deg"] + (later or 0.0)', 'found["ic_abdc_deg"]', STANDS),
    Mutant("bench/repeats.py", "SLIP = 5.0", "SLIP = 6.0", f"{BENCH}/test_repeats.py"),
    Mutant("bench/repeats.py", "- free * group.beside", "", f"{BENCH}/test_repeats.py"),
    Mutant("bench/instruments.py", "OLD_DAYS = 366", "OLD_DAYS = 367", f"{BENCH}/test_instruments.py"),
    Mutant("phase/offers.py", "0.5, 0.3", "0.5, 0.25", f"{PHASE}/test_chances.py"),
    Mutant("evidence/hypotheses.py", "SLOPE_SHARE * own for own", "0.0 * own for own", "tests/evidence"),
    Mutant("evidence/hypotheses.py", "rows.seqs >= first.seq", "rows.seqs > first.seq", "tests/evidence"),
    Mutant(
        "evidence/hypotheses.py",
        "-each.side * _by_slope(each, 0.01)\n        return -1.0 /",
        "each.side * _by_slope(each, 0.01)\n        return -1.0 /",
        "tests/evidence",
    ),
    Mutant("evidence/covariance.py", "UNEVEN_DEG if lobe in uneven else EVEN_DEG", "EVEN_DEG", "tests/evidence"),
    Mutant("evidence/model.py", "(inverse @ toward) * off", "(inverse @ toward) * self.y", f"{PHASE}/test_chances.py"),
    Mutant(
        "evidence/gain.py",
        'left = toward[n:] - np.einsum("gnc,n->gc", reach, toward[:n])',
        "left = toward[n:][None, :]",
        "tests/evidence",
    ),
    Mutant(
        "engine/positions.py",
        "isinstance(entry, Act) or (isinstance(entry, Reading) and entry.spot.kind.startswith(ANYWHERE))",
        "isinstance(entry, Act)",
        f"{PHASE}/test_chances.py",
    ),
    Mutant("phase/next_reading.py", "stops[-1].seq < last", "stops[-1].seq > last", f"{PHASE}/test_weighed.py"),
    Mutant(
        "engine/tdc.py",
        "found[-1] = (found[-1][0], mounted)",
        "found.append((each.seq, mounted))",
        f"{ENGINE}/test_tdc.py",
    ),
    Mutant("engine/positions.py", "1.7 <= ratio <= 2.3", "1.5 <= ratio <= 2.5", BOUNDS),
    Mutant(
        "engine/positions.py",
        "moved_at[lobe] < entry.seq < left_at[lobe]",
        "entry.seq < left_at[lobe]",
        f"{PHASE}/test_methods.py",
    ),
    Mutant(
        "phase/finding.py",
        'first.error_deg > 0 else "early"',
        'first.error_deg < 0 else "early"',
        f"{PHASE}/test_degree.py",
    ),
    Mutant("phase/lifts.py", "LIKELY_ERROR_DEG = 30.0", "LIKELY_ERROR_DEG = 45.0", BOUNDS),
    Mutant(
        "stations/lobe_room/rules.py",
        "tight.gap_mm - doubt_mm(job) < least",
        "tight.gap_mm < least",
        f"{STATIONS}/test_fit.py",
    ),
    Mutant(
        "engine/end_play.py",
        "play.low_mm + change <= 0",
        "play.low_mm + change <= -1",
        f"{STATIONS}/test_fit.py {PHASE}/test_never_in_wrongly.py",
    ),
    Mutant(
        "stations/backlash/rules.py",
        "found.min_mm + hot - found.doubt_mm <= 0",
        "found.min_mm + hot <= 0",
        f"{PHASE}/test_never_in_wrongly.py {STATIONS}/test_marks.py",
    ),
    Mutant("core/clearance.py", "curve.at(close_by + shift)", "curve.at(close_by - shift)", f"{CORE}/test_prove.py"),
    Mutant("core/clearance.py", "if verdict is Verdict.IN and not whole:", "if False:", f"{CORE}/test_prove.py"),
    Mutant(
        "core/clearance.py",
        "given.lift_doubt_pct / 100",
        "given.lift_doubt_pct / 1000",
        f"{CORE}/test_prove.py {PROVE}",
    ),
    Mutant("core/lash_stops.py", "- 2 * margin", "- margin", f"{CORE}/test_prove.py"),
    Mutant(
        "core/lash_stops.py", "min((_from(bases, base) for base in bases), key=len)", "_from(bases, bases[0])", CORE
    ),
    Mutant("core/schedule.py", "work.hands[k] + sum(", "0 * work.hands[k] + sum(", f"{CORE}/test_plan.py"),
    Mutant("core/breathing.py", "180 + given.ic_abdc_deg", "180 - given.ic_abdc_deg", f"{CORE}/test_prove.py"),
    Mutant("core/models.py", 'schema.setdefault("ge", self.least)', 'schema["ge"] = self.least', CORE),
    Mutant("phase/valve_gaps.py", "NOMINAL_PCT = 20.0", "NOMINAL_PCT = 2.0", f"{PROVE} {BOUNDS}"),
    Mutant("phase/valve_gaps.py", "(apart or not lifts.placed or not gap.known)", "(not gap.known)", PROVE),
    Mutant("phase/valve_gaps.py", "late, doubt = now[0] - then[0], now[1]", "late, doubt = 0.0, now[1]", PROVE),
    Mutant("phase/offers.py", "offered.sort(key=lambda offer: offer.barred)", "pass", PROVE),
    Mutant("phase/offers.py", "and not offer.again and not offer.barred", "and not offer.again", PROVE),
    Mutant("engine/turning.py", '"room", "parts", POSITION)', '"room", "parts")', PROVE),
    Mutant("stations/lock_up/rules.py", "if not free:", "if False:", PROVE),
    Mutant("stations/lock_up/rules.py", "if again is False:", "if False:", PROVE),
    Mutant("stations/lash/rules.py", "abs(low - spec) <= EXACT", "abs(low - spec) <= within", PROVE),
    Mutant("shop/signing.py", "if job.seq != seen:", "if False:", "tests/shop/test_signing.py"),
    Mutant("shop/exchange.py", " if entry.seq <= seq", "", "tests/shop/test_signing.py"),
    Mutant(
        "shop/documents.py",
        "[_bare(entry) for entry in then] == [_bare(entry) for entry in now]",
        "len(then) == len(now)",
        "tests/shop/test_signing.py",
    ),
    Mutant(
        "shop/signing.py",
        "if not sealed_by(row.key_id",
        "if False and not sealed_by(row.key_id",
        "tests/shop/test_signing.py",
    ),
    Mutant("shop/signing.py", "if row.key_id != key.id:", "if False:", "tests/shop/test_signing.py"),
    Mutant("shop/signing.py", "if head.id != number or", "if", "tests/shop/test_signing.py"),
    Mutant(
        "shop/signing.py",
        "station.blocks_signing and finding.state",
        "False and finding.state",
        "tests/shop/test_signing.py",
    ),
    Mutant("stations/change_plan/running.py", "_as_begun(job, work) or", "", f"{STATIONS}/test_change_plan.py"),
    Mutant(
        "phase/offers.py",
        "if leaves < off and live(job, cam):",
        "if live(job, cam):",
        f"{PHASE}/test_chances.py",
    ),
    Mutant(
        "phase/set_live.py",
        "deepest = max(by_lifts.spans",
        "deepest = min(by_lifts.spans",
        f"{PHASE}/test_chances.py",
    ),
    Mutant(
        "stations/adjust/rules.py",
        "if made and wheel_of(job) is not None and not zero_holds(job):",
        "if made and wheel_of(job) is not None and zero_holds(job):",
        f"{PHASE}/test_after_a_move.py",
    ),
    # Figures and directions told to the hand.
    Mutant("core/setting.py", "(goal_mm - play_mm) / 2 + off", "(play_mm - goal_mm) / 2 + off", SIGNS),
    Mutant("core/setting.py", "goal_mm - play_mm if adds", "play_mm - goal_mm if adds", SIGNS),
    Mutant(
        "stations/setting/rules.py",
        "left = None if faces.wanted_mm is None else faces.wanted_mm - faces",
        "left = None if faces.wanted_mm is None else 2 * faces.wanted_mm - faces",
        SIGNS,
    ),
    Mutant("phase/split_overlap.py", 'way="advance" if shift > 0', 'way="retard" if shift > 0', SIGNS),
    Mutant("phase/split_overlap.py", 'way = "Advance" if lifters', 'way = "Retard" if lifters', SIGNS),
    Mutant("phase/blind_sets.py", 'way = "late" if off > 0', 'way = "early" if off > 0', SIGNS),
    Mutant("phase/keyways.py", 'way = "ahead" if', 'way = "behind" if', SIGNS),
    Mutant("phase/turning.py", 'side="BTDC" if at < 0', 'side="ATDC" if at < 0', SIGNS),
    Mutant(
        "stations/sprocket_line/rules.py",
        "earlier = measured(changed[0], which)",
        "earlier = measured(changed[0])",
        ENDS,
    ),
    Mutant("stations/sprocket_line/rules.py", '"too deep" if out > 0', '"too deep" if out < 0', SIGNS),
    Mutant("stations/runout/rules.py", "abs(newest.came_back_mm) >", "newest.came_back_mm >", SIGNS),
    Mutant("stations/runout/rules.py", "off_mm=abs(newest.came_back_mm)", "off_mm=newest.came_back_mm", SIGNS),
    Mutant("stations/by_eye/rules.py", 'way = "back" if off', 'way = "forward" if off', SIGNS),
    Mutant("stations/by_eye/rules.py", 'way="right" if dry', 'way="left" if dry', SIGNS),
    Mutant(
        "stations/diagnosis/rules.py",
        '"over" if found.residual_deg * offset > 0',
        '"over" if found.residual_deg > 0',
        f"{STATIONS}/test_complaint.py",
    ),
    Mutant("phase/move_history.py", 'way="late" if late > 0', 'way="early" if late > 0', SIGNS),
    Mutant("phase/finding.py", 'way="longer" if error > 0', 'way="shorter" if error > 0', SIGNS),
    Mutant("phase/banks.py", 'way = "later" if gap > 0', 'way = "earlier" if gap > 0', SIGNS),
    Mutant(
        "stations/lash/rules.py",
        "middle < target if wanted.turns is None",
        "middle > target if wanted.turns is None",
        SIGNS,
    ),
    # What verdicts stand on.
    Mutant(
        "bench/acts.py", '"gears": ("parts", "limits", "gear", "mesh", "phase"),', '"gears": ("parts", "limits"),', ENDS
    ),
    Mutant("engine/end_play.py", "if travels and max(travels) == 0", "if False and max(travels) == 0", ENDS),
    Mutant("stations/gear_fit/temperatures.py", "least=0.0)", "least=-1.0)", ENDS),
    Mutant(
        "stations/gear_fit/temperatures.py",
        "THERMOMETER_SHARE, THERMOMETER_C = 0.02, 2.0",
        "THERMOMETER_SHARE, THERMOMETER_C = 0.2, 2.0",
        ENDS,
    ),
    Mutant(
        "stations/by_eye/rules.py", "return bool(deciding) and all(each", "return bool(deciding) and any(each", ENDS
    ),
    Mutant("stations/complaint/rules.py", "if reading.seq > _since(job)]", "]", f"{STATIONS}/test_complaint.py"),
)


def noticed(mutant: Mutant, folder: Path) -> bool:
    """Whether the tests fail with the change in place."""
    package = folder / PACKAGE
    shutil.rmtree(folder / "src", ignore_errors=True)
    shutil.copytree(ROOT / PACKAGE, package, ignore=shutil.ignore_patterns("__pycache__"))
    file = package / mutant.file
    text = file.read_text(encoding="utf-8")
    if text.count(mutant.old) < 1:
        sys.exit(f"{mutant.file}: “{mutant.old}” does not stand there any more")
    file.write_text(text.replace(mutant.old, mutant.new), encoding="utf-8")
    environment = {**os.environ, "PYTHONPATH": str(folder / "src"), "PYTHONDONTWRITEBYTECODE": "1"}
    run = [sys.executable, "-m", "pytest", "-x", "-q", "-q", "-n", "0", "-p", "no:cacheprovider", *mutant.tests.split()]
    return subprocess.run(run, cwd=ROOT, env=environment, capture_output=True, check=False).returncode == 1


def main() -> int:
    alive = 0
    with tempfile.TemporaryDirectory() as folder:
        for mutant in MUTANTS:
            seen = noticed(mutant, Path(folder))
            alive += not seen
            print(f"{'noticed' if seen else 'UNSEEN '} {mutant.file}: {mutant.old} -> {mutant.new}", flush=True)
    print(f"{len(MUTANTS) - alive} of {len(MUTANTS)} changes were noticed")
    return 1 if alive else 0


if __name__ == "__main__":
    sys.exit(main())
