"""From a job to the figures of runout, drives, plays, gears to be fitted and lobe room."""

from collections.abc import Callable
from statistics import fmean

from uranograph.bench import choice, end_play, gear_fit, house, lobe_room, runout, setting
from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.charts.bolts import bolts_figure
from uranograph.charts.cheeks import cheeks_figure
from uranograph.charts.choice import Bears, Swing, drives_figure
from uranograph.charts.gap import Blade, Gap, gap_figure
from uranograph.charts.heat import heat_figure
from uranograph.charts.pack import Stack, pack_figure
from uranograph.charts.pen import Figure
from uranograph.charts.room import room_figure
from uranograph.charts.round import Ring, RoundFigure, round_figure
from uranograph.charts.stack import stack_figure
from uranograph.core import torque
from uranograph.core.quantities import format_angle, format_fine


def of_runout(job: Job) -> Figure:
    """Every time round the shaft, magnified, with the waves that fit the newest."""
    rings = []
    for each in runout.rounds(job):
        mean = fmean(mm for _, mm in each.points)
        points = tuple((deg % 360, mm - mean) for deg, mm in each.points)
        if each.found is None:
            rings.append(Ring(points, earlier=each is not runout.rounds(job)[-1]))
            continue
        one = each.found
        second = (one.ovality_mm, one.ovality_high_deg) if one.ovality_mm is not None else None
        rings.append(
            Ring(
                points,
                0.0,
                (one.eccentricity_mm, one.high_spot_deg),
                second if second is None or second[1] is None else (second[0], second[1]),
                each is not runout.rounds(job)[-1],
            )
        )
    shaft = runout.measured(job)
    spot = shaft.newest.high_spot_deg if shaft and shaft.newest.eccentricity_mm > shaft.doubt_mm / 4 else None
    legend = (
        (("solid", "read"), ("ring", "what fits: off center, and oval"), ("hollow", "dashed: a true shaft"))
        if rings
        else ()
    )
    return round_figure(
        RoundFigure(
            "Runout",
            "degrees round the shaft; outward is high, magnified",
            tuple(rings),
            doubt=runout.setup(job).division_mm / 2,
            spot_deg=spot,
            spot_words=f"high at {format_angle(spot, 0)}" if spot is not None else "",
            legend=legend,
            ideal=0.0,
        )
    )


def of_choice(job: Job) -> Figure:
    """Every drive by the runout it bears, with this shaft's."""
    limits, found, shaft = choice.limits(job), choice.judged(job), runout.measured(job)
    bears = {
        "gears": (limits.gears_good_mm, limits.gears_never_mm),
        "chain, hydraulic tensioner": (limits.hydraulic_tensioner_mm, limits.hydraulic_tensioner_mm),
        "chain, spring tensioner": (limits.gears_good_mm, None),
        "close-clearance pump on this shaft": (limits.tight_pump_mm, limits.tight_pump_mm),
    }
    said = {option.drive: choice.WORDS[option.verdict] for option in found.options} if found else {}
    mine = choice.chosen(job)
    drives = tuple(
        Bears(name.removesuffix(" on this shaft"), yes, only, said.get(name, ""), name == mine)
        for name, (yes, only) in bears.items()
    )
    scale = sorted({limits.gears_good_mm, limits.gears_never_mm, limits.tight_pump_mm, limits.hydraulic_tensioner_mm})
    swing = None
    if found is not None:
        of = choice.window(job)
        allowed = None if of.low_mm is None or of.high_mm is None else of.high_mm - of.low_mm
        words = "" if allowed is None else f"window {format_fine(allowed, job.unit)}"
        swing = Swing(
            found.backlash_swing_mm, allowed, f"swing {format_fine(found.backlash_swing_mm, job.unit)}", words
        )
    return drives_figure(
        drives,
        tuple((mm, format_fine(mm, job.unit)) for mm in scale),
        shaft.total_mm if shaft else None,
        shaft.doubt_mm if shaft else 0.0,
        f"{format_fine(shaft.total_mm, job.unit)} {job.unit.value}" if shaft else "",
        swing,
        "Drive choice",
    )


def of_end_play(job: Job, view: str) -> Figure:
    """One shaft's play as the gap it is."""
    loop = end_play.loop_of(job, view)
    if loop is None:
        return gap_figure(Gap(view or "shaft", 0.1, 0.2, ("least", "greatest")), "End play")
    unit, play = job.unit, end_play.measured(job, view)
    allowed = (f"least {format_fine(loop.low_mm, unit)}", f"greatest {format_fine(loop.high_mm, unit)}")
    if play is None:
        return gap_figure(Gap(view, loop.low_mm, loop.high_mm, allowed), "End play")
    tries = [Blade(mm, format_fine(mm, unit), True) for mm in play.went_mm]
    tries += [Blade(mm, format_fine(mm, unit), False) for mm in play.stopped_mm]
    hot = play.hot_change_mm
    coming = None if play.next_blade_mm is None else end_play.next_blade(job, view)
    return gap_figure(
        Gap(
            view,
            loop.low_mm,
            loop.high_mm,
            allowed,
            play.low_mm,
            play.high_mm,
            end_play.bracket_words(job, play),
            tuple(sorted(tries, key=lambda blade: blade.mm)),
            tuple((mm, format_fine(mm, unit)) for mm in play.travels_mm),
            coming,
            "" if coming is None else f"try {format_fine(coming, unit)} next",
            hot,
            "" if hot is None else f"hot, {'more' if hot > 0 else 'less'} by {format_fine(abs(hot), unit)}",
        ),
        "End play",
    )


def of_setting(job: Job, view: str) -> Figure:
    """What sets one shaft's play: its shims, its cheeks, or its ring and plate."""
    means = setting.setup(job).get(view)
    title = "Set the play"
    if means is None or end_play.latest(job, view) is None:
        return of_end_play(job, view or next(iter(end_play.views(job)), ""))
    return _cheeks(job, view, title) if means.way == "cheeks" else _packs(job, view, title)


def _cheeks(job: Job, part: str, title: str) -> Figure:
    of = setting.cheeks(job, part)
    assert of is not None

    def passes(side: str) -> tuple[float, ...]:
        taken = of.thickness_mm.get(side, ())
        return tuple(taken[0] - mm for mm in taken[1:])

    words = [f"{format_fine(of.taken_mm(side), job.unit)} off" for side in setting.SIDES]
    goal = "" if of.wanted_mm is None else f"goal {format_fine(of.wanted_mm, job.unit)}"
    return cheeks_figure(passes("front"), passes("rear"), of.wanted_mm, (words[0], words[1], goal), title)


def _packs(job: Job, part: str, title: str) -> Figure:
    means, latest = setting.setup(job)[part], end_play.latest(job, part)
    goal = setting.goal_mm(job, part)
    assert latest is not None and goal is not None
    play, until = latest
    unit = job.unit

    def words(pieces: tuple[float, ...]) -> tuple[str, ...]:
        return tuple(setting.pack_words([mm], unit) for mm in pieces)

    stacks = []
    best: list[float] = []
    if means.way == "shims":
        was = setting.fitted(job, part, until) or ()
        stacks.append(Stack("was", was, words(was), play.low_mm, play.high_mm, end_play.bracket_words(job, play)))
        advice = setting.shim_advice(job, part)
        if advice is not None:
            best = advice.pack.pack_mm
            pieces = tuple(best)
            leaves = f"leaves {format_fine(advice.play_mm, unit)}"
            stacks.append(Stack("fit", pieces, words(pieces), advice.play_mm, advice.play_mm, leaves, True))
        now = setting.fitted(job, part)
        if now is not None and until < end_play.LATEST:
            stacks.append(Stack("fitted", now, words(now), None, None, "prove it: read the play again"))
    else:
        ring = setting.ring(job, part)
        pieces = tuple(mm for mm in (ring.plate_mm,) if mm is not None)
        stacks.append(Stack("was", pieces, words(pieces), play.low_mm, play.high_mm, end_play.bracket_words(job, play)))
        if ring.play_mm is not None and ring.spacer_mm is not None:
            leaves = f"spacer less plate {format_fine(ring.play_mm, unit)}"
            stacks.append(
                Stack("spacer", (ring.spacer_mm,), words((ring.spacer_mm,)), ring.play_mm, ring.play_mm, leaves, True)
            )
    stock = tuple((mm, setting.pack_words([mm], unit), mm in best) for mm in sorted(set(means.stock_mm)))
    window = (play.loop.low_mm, play.loop.high_mm)
    return pack_figure(tuple(stacks), window, goal, f"wanted {format_fine(goal, unit)}", stock, title)


def of_gear_fit(job: Job, view: str) -> Figure:
    """The order of the parts, the heat, or the bolts."""
    of, title = gear_fit.setup(job), "Gear to cam"
    if view == "heat" and of.heat is not None:
        hot = gear_fit.heated(job)
        assert hot is not None
        estimate = hot.cooling
        return heat_figure(
            of.heat.given.ambient_c,
            hot.grips_c,
            hot.fit.gear_c,
            of.heat.given.limit_c,
            estimate.loose_s if estimate else None,
            estimate.time_constant_s if estimate else None,
            "Heat fit",
        )
    if view == "bolts" and of.bolts is not None:
        pulls = gear_fit.pulls(job)
        return bolts_figure(
            of.bolts.count,
            len(of.bolts.stages_nm),
            tuple((pull.stage, pull.bolt, pull.right) for pull in pulls if pull.pulled_nm is not None),
            next((pull.bolt for pull in pulls if not pull.right), None),
            tuple(torque.both(nm, of.bolts.unit) for nm in of.bolts.stages_nm),
            "Bolts",
        )
    return stack_figure(tuple((answer.check.kind, answer.state) for answer in gear_fit.answers(job)), title)


def of_lobe_room(job: Job) -> Figure:
    """Room at every lobe."""
    found = lobe_room.measured(job)
    limits = [house.value_mm(job.house, name) for name in ("lobe_least", "lobe_liked")]
    return room_figure(
        lobe_room.lobes(job),
        tuple((room.number, room.gap_mm, format_fine(room.gap_mm, job.unit)) for room in found),
        (limits[0], f"least {format_fine(limits[0], job.unit)}"),
        (limits[1], f"liked {format_fine(limits[1], job.unit)}"),
        lobe_room.doubt_mm(job),
        "Lobe room",
    )


# Each takes the job and the way of looking.
OF_STATION: dict[str, Callable[[Job, str], Figure]] = {
    runout.KEY: lambda job, _: of_runout(job),
    choice.KEY: lambda job, _: of_choice(job),
    end_play.KEY: of_end_play,
    setting.KEY: of_setting,
    gear_fit.KEY: of_gear_fit,
    lobe_room.KEY: lambda job, _: of_lobe_room(job),
}


def of_fit(job: Job, station: str, view: str, prompt: Prompt | None) -> Figure:
    """The figure of a station of this group; of the shaft that is asked about."""
    wanted = prompt.extra.get("method", "") if prompt and station in (end_play.KEY, setting.KEY) else ""
    return OF_STATION[station](job, wanted or view)
