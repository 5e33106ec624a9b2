"""Intake and exhaust: the cam against its card, by lifts, events, a sweep, or the lift at overlap."""

from collections.abc import Mapping
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from uranograph.bench.finding import Finding, Prompt, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.pairs import pair_in
from uranograph.bench.repeats import RepeatedReading
from uranograph.bench.slots import slot_in_bank, within_bank
from uranograph.bench.station import Elsewhere, NextReading, Page, Station, ViewState
from uranograph.charts import lift
from uranograph.charts.pen import Figure
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import parse_length
from uranograph.core.wheel import SIDES
from uranograph.engine import cams as place
from uranograph.engine import degree_wheel, positions, tdc, tdc_reading
from uranograph.engine.cams import KEY, LOBES
from uranograph.engine.card import FORM as CARD
from uranograph.engine.stated_tdc import offset_deg
from uranograph.phase import (
    answers,
    banks,
    basis,
    card_rows,
    events,
    from_sweep,
    influence,
    judgment,
    lifts,
    methods,
    observations,
    overlaps,
    peaks,
    stated_cam,
    sweep_points,
    sweeps,
    target,
    weighed,
)
from uranograph.phase import next_reading as coming
from uranograph.phase.drawing import cycle, sweep_figure, sweep_scale
from uranograph.phase.drawing import ruler as rule
from uranograph.phase.drawing import thumbnail as token
from uranograph.stations.degree import chances, what_if
from uranograph.stations.degree.drawing import figure
from uranograph.stations.degree.glance import glance
from uranograph.stations.degree.messages import say

# Largest number of questions shown at once.
MAX_ASKED = 6

if TYPE_CHECKING:
    from uranograph.evidence.faults import Suspect


def _bank_of(view_state: ViewState) -> Mapping[str, str]:
    """The bank that is looked at: the one that is asked for."""
    return view_state.prompt.extra if view_state.prompt else view_state.query


def _questions_page(job: Job, asked: Mapping[str, str]) -> Mapping[str, Any]:
    """Fragment with probabilities, set-up faults and the next reading; loaded after the page."""
    try:
        return _weighed(job, banks.chosen(job, asked))
    except InvalidInput:
        # A reading cannot be placed; the verdict reports it.
        return {"asked": []}


def _weighed(whole: Job, job: Job) -> Mapping[str, Any]:
    """Of one bank, but for what is read next and whether all is proved."""
    finding = banks.find(whole)
    held = any(weighed.held(own) for own in place.banks(whole))
    return {
        "asked": [
            (weighed.in_words(job, each), _on_its_bank(job, coming.question(job, each)))
            for each in weighed.open_questions(job)
        ],
        "held": held,
        "left_open": coming.is_exhausted(whole) and not held and finding.verdict is Verdict.UNSURE,
        "coming": (wanted := coming.next_reading(whole)),
        "coming_words": _coming_words(whole, wanted),
        "proved": coming.proved(whole),
        "verdict": finding.state,
        "strip": chances.figure(job),
        "pulls": [chances.in_words(each) for each in influence.leave_one_out_influence(job)],
    }


def _on_its_bank(job: Job, query: Mapping[str, str]) -> dict[str, str]:
    return {**query, "bank": str(job.bank)} if job.bank else dict(query)


# What sets a confirmed question right, by the form and the station of that name: what to do, and its button.
_SET_RIGHT = {
    "wheel": (say("set-wheel-right"), say("at-wheel")),
    "card": (say("set-card-right"), say("at-card")),
    "engine": (say("set-engine-right"), say("at-engine")),
}


def _coming_words(job: Job, wanted: NextReading | None) -> str:
    """The next reading, as named by the station that takes it."""
    if wanted is None:
        return ""
    prompt = banks.prompt(job, wanted.query) if wanted.station == KEY else tdc_reading.prompt(job, wanted.query)
    return prompt.label if prompt else ""


def _in_figures(job: Job) -> Mapping[str, Any]:
    within = banks.chance_in(job)
    chances = {} if within is None else {"in": within, "out": 1.0 - within}
    found = [each for own in place.banks(job) for each in _questions(own, weighed.open_questions(own))]
    ranked = sorted(found, key=lambda each: -each["share"])[:MAX_ASKED]
    return {"chances": chances, "questions": ranked, "proved": coming.proved(job)}


def _at_the_top(job: Job) -> list[dict[str, Any]]:
    """Question about the wheel alone."""
    own = place.banks(job)[0]
    asked = weighed.open_questions(own) if observations.crossed(tdc.frames(own)) else ()
    found = tuple(each for each in asked if each.code in ("wheel-end", "numbers-rise"))
    return _questions(own, (*found, *weighed.moved_wrong(own)))


def _questions(job: Job, asked: "tuple[Suspect, ...]") -> list[dict[str, Any]]:
    return [
        {
            "code": each.code,
            "share": each.share,
            "reading": each.seq,
            "words": weighed.in_words(job, each),
            **({"bank": job.bank} if job.bank else {}),
        }
        for each in asked
    ]


def _phases(job: Job) -> Mapping[str, Any]:
    return {
        "by_cam": {cam: {"error_deg": error, "doubt_deg": doubt} for cam, (error, doubt) in banks.phases(job).items()}
    }


def _from_file(job: Job, form: Mapping[str, str], text: str) -> list[Entry]:
    lobe, own = form.get("lobe", ""), banks.chosen(job, form)
    lobe = lobe if lobe in LOBES else "intake"
    entries = sweeps.read_any(text, lobe, own.next_number(KEY, sweep_points.KIND[lobe]), form)
    sweeps.refuse_repeats(positions.at_position(own), lobe, entries)
    return [replace(each, slot=slot_in_bank(each.slot, own.bank)) for each in entries]


def _chosen(query: Mapping[str, str]) -> bool:
    """Whether a reading, or a method, was chosen on the page rather than carried over from the reading before."""
    return any(query.get(name) for name in ("reading", "lobe", "event", "code", "drop", "bank", "again", "item")) or (
        bool(query.get("method")) and not query.get("recorded")
    )


def _read(job: Job, prompt: Prompt) -> bool:
    """Whether what is asked for was read before at this position."""
    spot = prompt.spot
    return any((r.spot.kind, r.spot.place) == (spot.kind, spot.place) for r in job.active_readings(KEY))


def _lift_line(whole: Job, asked: Mapping[str, str]) -> Mapping[str, Any]:
    """The lift curves with the line at another lift, and the events there."""
    job = banks.chosen(whole, asked)
    try:
        at = parse_length(asked.get("lift", ""), job.unit)
    except InvalidInput:
        at = sweep_points.check_lift(job)
    view = positions.at_position(job)
    found = {
        lobe: sweep_points.events_at(swept_lobe, at) for lobe in LOBES if (swept_lobe := sweep_points.swept(view, lobe))
    }
    return {"figure": sweep_figure(job, at), "lift_mm": at, "found": found, "unit": job.unit}


def _sweeps_complete(job: Job) -> bool:
    """Whether every lobe that was begun to be swept is swept whole: points follow each other until then."""
    begun = [found for own in place.banks(job) for lobe in LOBES if (found := sweep_points.swept(own, lobe))]
    return all(sweep_points.is_complete(found) for found in begun)


def _live_chart(job: Job, lobe: str) -> dict[str, float]:
    """What places a point of an encoder and a dial in the lift curves: their scale, TDC's zero error, and where the lobe is due."""
    frame, scale = tdc.frame_now(job), sweep_scale(job)
    middle = place.card_centerline(job, lobe)
    left, right, top, bottom = scale.corners
    return {
        "low": scale.low,
        "high": scale.high,
        "full": scale.full,
        "left": left,
        "right": right,
        "top": top,
        "bottom": bottom,
        "zero": (frame.top.zero_error_deg if frame and frame.top else 0.0) + offset_deg(job.full_job),
        "middle": place.USUAL_CENTERLINE_DEG[lobe] if middle is None else middle,
    }


class IntakeAndExhaustStation(Station):
    """Intake and exhaust: the cam against its card, by lifts, events, a sweep, or the lift at overlap."""

    key = KEY
    title = "Intake and exhaust"
    set_ups = ("dial-on-lifter",)
    group = "Degree"
    position = 180
    workflows = ("degree", "whole", "change", "wrong")
    docs = "Centerline by equal lifts"
    calculations = ("degree", "centerline", "sweep", "overlap-lift", "breathing")
    other_forms = (basis.FORM, target.FORM, stated_cam.FORM)
    slots = (events.EVENT, sweep_points.POINT, lifts.LIFT, overlaps.LIFT, peaks.LIFT, peaks.BASE, answers.ANSWER)
    acts = (
        "wheel-moved",
        "wheel-refitted",
        "cam-moved",
        "gear-turned",
        "gear-exchanged",
        "cam-refitted",
        "parts-fitted",
        "parts-removed",
        "lash-changed",
        "indicator-moved",
    )
    comes_after = ("card", "end-play", "marks", "tdc")
    governed_by = ("wheel", "top", "target")
    may_stay_open = True
    pages = {
        "what-if": Page("degree/what_if_parts.html", what_if.context, "degree/what_if.html", what_if.data),
        "asked": Page("degree/asked.html", _questions_page),
        "lift-line": Page("degree/lift_line.html", _lift_line),
    }
    files = {"sweep": _from_file}
    carried_query = ("method", "step", "direction")
    void_reasons = degree_wheel.VOID_REASONS
    reads_degree_wheel = True

    def find(self, job: Job) -> Finding:
        """Judge a job here."""
        return banks.find(job)

    def prompt(self, job: Job, query: Mapping[str, str]) -> Prompt | None:
        """Ask for the next reading: the one that was chosen, or else the one that would settle most."""
        wanted = None if _chosen(query) else self._settles(job)
        if wanted is None or wanted.station != KEY:
            asked = banks.prompt(job, query)
            swept = "" if asked is None else from_sweep.hint_for(banks.chosen(job, query), asked)
            return replace(asked, hint=f"{swept} {asked.hint}") if asked and swept else asked
        found = banks.prompt(job, wanted.query)
        return found and replace(found, hint=f"{wanted.words} {found.hint}".strip())

    def elsewhere(self, job: Job, finding: Finding, query: Mapping[str, str]) -> Elsewhere | None:
        """Where the cam is moved, or where the stop is touched again."""
        if finding.verdict is Verdict.OUT and finding.order:
            return Elsewhere(say("move-the-cam"), say("choose-a-position"), "adjust")
        if not _chosen(query) and (kind := weighed.form_to_set_right(job)):
            return Elsewhere(_SET_RIGHT[kind][0], _SET_RIGHT[kind][1], kind)
        wanted = None if _chosen(query) else self._settles(job)
        if wanted is None:
            return None
        asked = {**wanted.query, "reading": "1"}
        if wanted.station == tdc.KEY:
            return Elsewhere(say("touch-the-stop-again"), say("at-true-tdc"), tdc.KEY, wanted.words, asked)
        if finding.verdict is Verdict.IN:
            return Elsewhere(say("read-first-again"), say("read-it-again"), KEY, wanted.words, asked)
        return None

    def _settles(self, job: Job) -> NextReading | None:
        """The reading that would settle most while the verdict is not given, or that would prove that the cam is in."""
        verdict = banks.find(job).verdict
        method = methods.chosen_method(job, {})
        if verdict not in (Verdict.UNSURE, Verdict.IN) or method not in ("lifts", "events", "sweep"):
            return None
        if method == "sweep" and not _sweeps_complete(job):
            return None
        by_bank = place.banks(job)
        if len(by_bank) > 1 and any(banks.wants_reading(own) for own in by_bank):
            return None
        own = banks.prompt(job, {})
        if verdict is Verdict.UNSURE and method != "sweep" and own is not None and not _read(job, own):
            # Figures are typed ahead in the order of the method: its own sequence is finished first.
            return None
        wanted = coming.next_reading(job)
        return wanted if verdict is Verdict.UNSURE or (wanted and wanted.why == "proof") else None

    def same_figure(self, before: Reading, entry: Entry) -> bool:
        """The points of a sweep go round: each has an angle of its own."""
        return not sweep_points.POINT.of_kind(within_bank(entry.slot).split(".")[0]) and super().same_figure(
            before, entry
        )

    def accept(self, job: Job, entry: Entry) -> None:
        """Refuse a reading that cannot be."""
        return banks.accept(job, entry)

    def describe(self, reading: Reading) -> str:
        """A reading in words."""
        return banks.describe(reading)

    def position_now(self, job: Job, slot: str) -> Job:
        """The job at the current position of a slot's cam."""
        return banks.position_now(job, slot)

    def figure(self, job: Job, view_state: ViewState) -> Figure:
        """Its picture."""
        return figure(banks.chosen(job, _bank_of(view_state)), view_state)

    def ruler(self, job: Job) -> Figure | None:
        """The early and late ruler."""
        return rule(banks.worst(job))

    def thumbnail(self, job: Job) -> Figure:
        """The small chart for lists."""
        return token(banks.worst(job)).judged(banks.find(job).state)

    def cams(self, job: Job) -> dict[str, str]:
        """The cams of this engine, each moved for itself."""
        own = LOBES if judgment.has_independent_cams(job) else ("both",)
        keys = [place.cam_key(bank, cam) for bank in place.banks(job) for cam in own]
        return {key: place.cam_words(key) for key in keys}

    def page_context(self, whole: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        job = banks.chosen(whole, _bank_of(view_state))
        mounted, view = degree_wheel.wheel_of(job), positions.at_position(job)
        if view_state.prompt is None:
            return {"lacking": degree_wheel.LACKING}
        found: dict[str, Any] = {
            "sides": SIDES[mounted.wheel.scale] if mounted else (),
            "bank": job.bank,
            "banks": [own.bank for own in place.banks(whole) if own.bank],
            "pair": pair_in(job, KEY, within_bank(view_state.prompt.slot)),
            "plain": lambda text, side: degree_wheel.plain_angle(mounted, text, side) if mounted else "",
            "lobes": LOBES,
            "ways": {
                key: words for key, words in card_rows.METHOD_WORDS.items() if key not in ("peak", "asked", "stated")
            },
            "rules": basis.rules_of(job),
            "cams_apart": judgment.has_independent_cams(job),
            "presets": basis.PRESETS,
            "target": target.target_of(job),
            "target_typed": latest.typed if (latest := job.latest(target.FORM.kind)) else {},
            "aims": target.AIM_WORDS,
            "target_form": target.FORM,
            "stated_form": stated_cam.FORM,
            "stated": stated_cam.stated_cam(view),
            "stated_typed": latest.typed if (latest := job.latest(stated_cam.FORM.kind)) else {},
            "event_words": events.WORDS,
            "swept": {lobe: swept_lobe for lobe in LOBES if (swept_lobe := sweep_points.swept(view, lobe))},
            "check_lift_mm": sweep_points.check_lift(view),
            "swept_middles": from_sweep.in_words(job),
        }
        if view_state.prompt.extra["method"] != "sweep":
            found["glance"] = glance(job)
        else:
            at = sweep_points.check_lift(view)
            found |= {"growing": self.thumbnail(job), "lift_zero": lift.BOTTOM}
            found["live_chart"] = _live_chart(view, view_state.prompt.extra["lobe"])
            found["found"] = {
                lobe: sweep_points.events_at(swept_lobe, at) for lobe, swept_lobe in found["swept"].items()
            }
        return found

    def sheet_context(self, job: Job) -> Mapping[str, Any]:
        """Context for the build sheet."""
        return {
            "figure": cycle(banks.worst(job)).judged(banks.find(job).state),
            "if_true": card_rows.if_durations_true(banks.find(job).rows),
            "weighed": weighed.weighed(job) is not None,
            "one_in": f"{1 / weighed.false_verdict(job):.0f}",
            "one_in_all": f"{1 / weighed.false_in_all(job):.0f}",
            "proved": coming.proved(job),
            "asked": [weighed.in_words(own, each) for own in place.banks(job) for each in weighed.open_questions(own)],
        }

    def machine_data(self, job: Job) -> Mapping[str, Any]:
        """Phase of each cam against its target, crank degrees late; chances and faults by all readings together."""
        try:
            return {**_phases(job), "weighed": {KEY: _in_figures(job), tdc.KEY: {"questions": _at_the_top(job)}}}
        except InvalidInput:
            return {"by_cam": {}}

    def repeats(self, job: Job) -> Mapping[str, tuple[RepeatedReading, ...]]:
        """Repeated readings."""
        return banks.read_again(job)

    def next_reading(self, job: Job) -> NextReading | None:
        """The reading that would settle most."""
        return coming.next_reading(job)

    def form_wanted(self, job: Job, finding: Finding) -> str:
        """The card, where lobes are read and there is nothing to hold them against."""
        return CARD.kind if finding.code == "nothing-to-compare" else ""

    def form_to_set_right(self, job: Job) -> str:
        """What a confirmed question that holds the verdict is about."""
        return weighed.form_to_set_right(job)

    def is_exhausted(self, job: Job) -> bool:
        """Whether no further reading would settle more."""
        return coming.is_exhausted(job)

    def repeat_query(self, entry: Entry, form: Mapping[str, str]) -> dict[str, str]:
        """The query that asks the same again."""
        bank, entry = banks.bank_read(entry), replace(entry, slot=within_bank(entry.slot))
        kind = entry.spot.kind
        lobe = kind.split("-")[-1]
        return {
            "method": form.get("method") or kind,
            "lobe": lobe if lobe in LOBES else "",
            "drop": entry.second or "",
            "event": kind if kind in events.KINDS else "",
            "code": kind.removeprefix(answers.PREFIX) if answers.ANSWER.of_kind(kind) else "",
            "step": form.get("step", ""),
            "direction": entry.approach if kind in events.KINDS else "",
            "bank": str(bank) if form.get("bank") or bank > 1 else "",
        }
