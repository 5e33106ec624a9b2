"""Adjust: which position of the drive cures the error, and how each try turned out."""

import re
from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from uranograph.bench.acts import Act
from uranograph.bench.finding import WORST_FIRST, Finding, Verdict
from uranograph.bench.job import Job
from uranograph.bench.station import Station, ViewState
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import late_or_early
from uranograph.engine import adjusters, positions
from uranograph.engine.cams import KEY as DEGREE
from uranograph.engine.cams import LOBES, cam_key, cam_words
from uranograph.engine.description import engine_of
from uranograph.engine.tdc import zero_holds
from uranograph.phase import banks, clearance, move_history, set_live
from uranograph.phase import offers as phase_offers
from uranograph.phase.drawing import thumbnail
from uranograph.phase.target import target_of
from uranograph.phase.valve_gaps import Near
from uranograph.stations.adjust import rules as adjust
from uranograph.stations.adjust.messages import say

_WHOLE = re.compile("[0-9]{1,9}")


def _worst_first(job: Job) -> list[str]:
    """Cams grouped by shared adjuster, largest deviation first."""
    judged = {one.cam: WORST_FIRST.index(one.verdict) for one in phase_offers.judged_now(job)}
    unread = len(WORST_FIRST)
    return sorted(
        phase_offers.cams(job), key=lambda cam: min(judged.get(each, unread) for each in set_live.members(job, cam))
    )


def _moves(job: Job) -> list[tuple[str, str]]:
    """Which cams an adjuster can be said to move, with their words."""
    engine = engine_of(job)
    if engine is None or engine.banks == 1:
        return [("both", "every cam"), ("intake", "intake cam"), ("exhaust", "exhaust cam")]
    several = ("intake", "exhaust", "both") if engine.separate_cams else ("both",)
    named = [f"bank{bank}-{cam}" for bank in (1, 2) for cam in several]
    return [("both", "every cam"), *((key, _moved_together(key, len(several) > 1)) for key in named)]


def _moved_together(key: str, several: bool) -> str:
    words = cam_words(key)
    return f"both {words.replace('cam', 'cams', 1)}" if several and key.endswith("both") else words


def _planned(view_state: ViewState, offered: Mapping[str, tuple[phase_offers.Offer, ...]]) -> phase_offers.Offer | None:
    """The position that was chosen and is not moved to yet."""
    cam, _, number = view_state.query.get("plan", "").partition(":")
    own = offered.get(cam, ())
    chosen = own[int(number)] if _WHOLE.fullmatch(number) and int(number) < len(own) else None
    return chosen if chosen is not None and chosen.choice.moves else None


def _live_words(job: Job, cam: str) -> str:
    """How a cam that slides is set by the dial; empty where none does."""
    found = set_live.live(job, cam)
    if found is None:
        return ""
    figure = f"{found.text}{f' {found.side.upper()}' if found.side else ''}"
    named = cam_words(cam)
    if found.drop_mm is not None:
        return say("set-live-by-lift", job.unit, figure=figure, cam=named, lobe=found.kind, drop_mm=found.drop_mm)
    lobe = "exhaust" if found.kind == "eo" else "intake"
    return say("set-live", job.unit, figure=figure, cam=named, lobe=lobe, lift_mm=found.lift_mm)


def _preselected(job: Job) -> dict[str, int]:
    """The offer of each cam that is better for sure, though degreeing cannot tell whether the cam is out."""
    if adjust.find(job).verdict is not Verdict.UNSURE:
        return {}
    return {cam: offer.number for cam in phase_offers.cams(job) if (offer := phase_offers.better_than_now(job, cam))}


def _each_cam(job: Job, cam: str, offer: phase_offers.Offer) -> dict[str, Any]:
    """Effect of an adjustment on every cam it moves, and the smallest valve clearance afterward."""
    found = {}
    for each in set_live.members(job, cam):
        near = None
        own, name = set_live.its_bank(job, each) or (job, each)
        if name in LOBES:
            shifts = [round(offer.shift_of(cam_key(own, lobe)), 6) for lobe in LOBES]
            near = clearance.leasts_by_lobe(own, (shifts[0],), (shifts[1],), name)[0]
        found[each] = {
            "shift_deg": offer.shift_of(each),
            "leaves_deg": offer.leaves_of(each),
            "leaves_doubt_deg": offer.doubt_deg,
            "least_gap_mm": near.gap_mm if near and near.known else None,
        }
    return found


def _gap(near: Near) -> dict[str, Any]:
    """The worst clearance at that position: place, uncertainty, limit and verdict."""
    figures = {"at_deg": near.at_deg, "doubt_mm": near.doubt_mm, "least_mm": near.least_mm}
    return {"name": near.name, "verdict": near.verdict.value, **figures}


def _advised(job: Job, offered: list[dict[str, Any]]) -> dict[str, Any] | None:
    """The offer that is advised: where a cam is out, or beyond the aim while a position leaves clearly less."""
    for cam in phase_offers.cams(job):
        best = phase_offers.better_than_now(job, cam)
        if best is not None:
            moves = phase_offers.moves_of(job, cam, best.choice)
            return next((offer for offer in offered if offer["cam"] == cam and offer["moves"] == moves), None)
    return None


class AdjustStation(Station):
    """Adjust: which position of the drive cures the error, and how each try turned out."""

    key = adjust.KEY
    title = "Adjust"
    group = "Degree"
    position = 190
    workflows = ("degree", "whole", "change")
    docs = "What the adjusters offer"
    calculations = ("adjust", "chain")
    other_forms = (adjusters.FORM,)
    also_rests_on = ("phase",)
    acts = (
        "cam-moved",
        "gear-turned",
        "gear-exchanged",
        "cam-refitted",
        "wheel-moved",
        "wheel-refitted",
        "parts-fitted",
        "parts-removed",
    )
    comes_after = (DEGREE,)
    governed_by = ("wheel", adjusters.FORM.kind, "target")

    def move(self, job: Job, form: Mapping[str, str]) -> Act:
        """The position chosen of those that are offered."""
        cam, _, number = form.get("choice", "").partition(":")
        return phase_offers.act_of(job, cam, int(number) if _WHOLE.fullmatch(number) else -1)

    def accompanying_act(self, job: Job, act: Act) -> tuple[str, str] | None:
        """The act that comes with a move."""
        return phase_offers.accompanying_act(job, act)

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        described = adjusters.drive_of(job)
        if described is None or view_state.query.get("edit") == "1":
            return {"editing": True, "described": described, "drive": adjusters, "moves": _moves(job)}
        offered = {}
        for cam in _worst_first(job):
            try:
                offered[cam] = phase_offers.offers(job, cam)
            except InvalidInput:
                offered[cam] = ()
        history = move_history.history(job)
        made = positions.every_try(job)
        return {
            "last": made[-1] if made else None,
            "described": described,
            "drive": adjusters,
            "moves": _moves(job),
            "offers": offered,
            "history": history,
            "tokens": [thumbnail(step.view) for step in history],
            "planned": _planned(view_state, offered),
            "effects": move_history.effects(job),
            "late_or_early": late_or_early,
            "cam_words": cam_words,
            "stands": move_history.fitted_positions(job),
            "learned": phase_offers.learned_words(job),
            "middle": phase_offers.middle(job),
            "advised": _preselected(job),
            "live": [words for cam in phase_offers.cams(job) if (words := _live_words(job, cam))],
            "aimed_at": target_of(job),
            "zero_holds": zero_holds(job),
        }

    def form_wanted(self, job: Job, finding: Finding) -> str:
        """What the drive offers, once a cam is to be moved."""
        out = job.accepted(DEGREE) is None and banks.find(job).verdict is Verdict.OUT
        return adjusters.FORM.kind if finding.code == "drive-missing" and out else ""

    def sheet_context(self, job: Job) -> Mapping[str, Any]:
        """Context for the build sheet."""
        return {
            "history": move_history.history(job),
            "effects": move_history.effects(job),
            "late_or_early": late_or_early,
            "cam_words": cam_words,
            "stands": move_history.fitted_positions(job),
        }

    def machine_data(self, job: Job) -> Mapping[str, Any]:
        """Every position that the drive offers, best first for each cam; an offer is taken by its moves."""
        offered: list[dict[str, Any]] = []
        for cam in phase_offers.cams(job):
            try:
                offers = phase_offers.offers(job, cam)
            except InvalidInput:
                continue
            by_dial = asdict(found) if offers and (found := set_live.live(job, cam)) else None
            offered += [
                {
                    "cam": cam,
                    "moves": phase_offers.moves_of(job, cam, offer.choice),
                    "shift_deg": offer.choice.shift_deg,
                    "leaves_deg": offer.choice.remaining_error_deg,
                    "leaves_doubt_deg": offer.doubt_deg,
                    "cams": _each_cam(job, cam, offer),
                    "least_gap_mm": offer.near.gap_mm if offer.near and offer.near.known else None,
                    "least_gap": _gap(offer.near) if offer.near else None,
                    "live": by_dial,
                }
                for offer in offers
                if offer.choice.moves
            ]
        return {"offers": offered, "move": _advised(job, offered)}
