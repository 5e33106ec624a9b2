"""What all wheel readings of this mounting say together: chances of the verdict, and faults of the set-up with their shares."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from uranograph.bench.job import Job, Reading
from uranograph.bench.kept import kept
from uranograph.core.errors import Impossible
from uranograph.core.lobe import half_width_at
from uranograph.core.quantities import parse_length
from uranograph.core.wheel import Scale
from uranograph.stations.adjust import tries
from uranograph.stations.card.station import DRAWN_LOBE, card_of
from uranograph.stations.degree import events, lifts
from uranograph.stations.degree.place import LOBES, card_centerline
from uranograph.stations.degree.rules import rules_of
from uranograph.stations.degree.target import target_of
from uranograph.stations.degree.words import say
from uranograph.stations.engine.station import engine_of
from uranograph.stations.gear_train import station as train
from uranograph.stations.true_tdc.stated import offset_deg
from uranograph.stations.true_tdc.station import Frame, frame_now
from uranograph.stations.wheel.station import crank_angle

if TYPE_CHECKING:
    from uranograph.evidence.faults import Setup, Suspect
    from uranograph.evidence.model import Expected, Seen

# How much of a division a needle is read to, one standard deviation; the flank's usual slope at the checking lift, mm a degree.
NEEDLE_SHARE, FLANK_MM_PER_DEG = 0.2, 0.06
FEWEST, MOST = 3, 60


@dataclass(frozen=True)
class Weighed:
    """Chances that the phase is in or out, where it can be judged; and what may be wrong, the likeliest first."""

    chances: dict[str, float]
    suspects: "tuple[Suspect, ...]"


@kept
def weighed(job: Job) -> Weighed | None:
    """Weigh every wheel reading of the position and the mounting now; None where too little is read or the card says too little.

    Parameters
    ----------
    job
        The whole job.

    Returns
    -------
    Weighed or None
        Numpy is loaded only here.
    """
    found = gathered(job)
    if found is None:
        return None
    from uranograph.evidence import faults, model

    readings, expected, setup = found
    asked = faults.asked(faults.suspects(readings, expected, setup))
    chances: dict[str, float] = {}
    if not expected.apart:
        phase, tolerance = model.phase(readings, expected), rules_of(job).tolerance_deg
        ahead = target_of(job).advance(job, "intake") or 0.0
        within = model.Phase(phase.late_deg + ahead, phase.sd_deg).chance_within(tolerance)
        chances = {"in": within, "out": 1.0 - within}
    return Weighed(chances, asked)


def gathered(job: Job) -> "tuple[tuple[Seen, ...], Expected, Setup] | None":
    """The readings as the model takes them, with what is expected of them."""
    from uranograph.evidence.faults import Setup
    from uranograph.evidence.model import Expected

    view, frame = tries.at_position(job), frame_now(job)
    if frame is None or frame.stated is not None or frame.top is None:
        return None
    middles = {lobe: deg for lobe in LOBES if (deg := card_centerline(view, lobe)) is not None}
    halves = {lobe: _half(view, lobe) for lobe in middles}
    widths: dict[int, float] = {}
    seen = [*_stops(frame), *_of_events(view, frame, middles), *_of_lifts(view, frame, middles, halves, widths)]
    if sum(bool(each.lobe) for each in seen) < FEWEST or len(seen) > MOST:
        return None
    engine, gears = engine_of(job), train.described(job)
    expected = Expected(
        middles, halves, widths, apart=bool(engine and engine.separate_cams), division_deg=frame.mounted.division_deg
    )
    setup = Setup(
        crank_teeth=gears.crank.teeth if gears else None,
        firing_deg=720 / engine.cylinders if engine and engine.cylinders > 1 and not engine.firing_deg else None,
        full_wheel=frame.mounted.wheel.scale is Scale.FULL,
    )
    return tuple(sorted(seen, key=lambda each: each.seq)), expected, setup


def _half(job: Job, lobe: str) -> float:
    card = card_of(job)
    duration = getattr(card.card, f"{lobe}_duration_deg") if card else None
    return float(duration or DRAWN_LOBE.duration_deg) / 2


def _stops(frame: Frame) -> "list[Seen]":
    from uranograph.evidence.model import Seen

    assert frame.top is not None
    pairs = zip(frame.whole_pairs, frame.top.zero_errors_deg, strict=True)
    return [Seen("stop", zero, max(reading.seq for reading in pair.readings)) for pair, zero in pairs]


def _shown(job: Job, frame: Frame, reading: Reading) -> float | None:
    """What the wheel shows of a forward reading of this mounting, about the top of the cylinder read."""
    if reading.seq < frame.start_seq or reading.approach != "forward":
        return None
    return crank_angle(frame.mounted, reading.text, reading.side) - offset_deg(job.whole)


def _of_events(job: Job, frame: Frame, middles: dict[str, float]) -> "list[Seen]":
    from uranograph.evidence.model import Seen

    needle = NEEDLE_SHARE * frame.mounted.dial_division_mm / FLANK_MM_PER_DEG
    found = []
    card = card_of(job)
    for kind in events.KINDS:
        lobe = events.LOBE[kind]
        if lobe not in middles or card is None or getattr(card.card, f"{lobe}_duration_deg") is None:
            continue
        for reading in events.EVENT.taken(job, kind):
            shown = _shown(job, frame, reading)
            if shown is not None:
                side = -1 if kind in ("io", "eo") else 1
                found.append(Seen("event", shown, reading.seq, lobe, side, needle))
    return found


def _of_lifts(
    job: Job, frame: Frame, middles: dict[str, float], halves: dict[str, float], widths: dict[int, float]
) -> "list[Seen]":
    from uranograph.evidence.model import Seen

    found = []
    for pair in lifts.lift_pairs(job):
        if pair.kind not in middles or not pair.complete:
            continue
        drawn = card.lobe(pair.kind) if (card := card_of(job)) else None
        for reading, side in ((pair.before, -1), (pair.after, 1)):
            shown = _shown(job, frame, reading) if reading else None
            try:
                drop = parse_length(reading.drop or "", reading.unit) if reading else 0.0
            except Impossible:
                continue
            if reading is None or shown is None or drawn is None or not 0 < drop < drawn.max_lift_mm:
                continue
            wide = half_width_at(drawn, drawn.max_lift_mm - drop)
            needle = NEEDLE_SHARE * frame.mounted.dial_division_mm * wide / (2 * drop)
            widths[reading.seq] = wide
            nose = max(0.0, 1 - wide / halves[pair.kind])
            found.append(Seen("lift", shown, reading.seq, pair.kind, side, needle, nose))
    return found


SHARES = ((0.9, "nearly certain"), (0.7, "3 in 4"), (0.45, "1 in 2"), (0.2, "1 in 4"), (0.0, "1 in 10"))


def in_words(job: Job, suspect: "Suspect") -> str:
    """A fault as a question, with its share in plain words and the reading it lies in."""
    odds = next(words for least, words in SHARES if suspect.share >= least)
    reading = next((each for each in job.readings if each.seq == suspect.seq), None) if suspect.seq else None
    where = f"{reading.text}{f' {reading.side.upper()}' if reading.side else ''}" if reading else ""
    asked = {
        "wheel-moved": say("ask-wheel-moved", where=where),
        "gear-slipping": say("ask-gear-slipping", where=where),
        "one-backward": say("ask-one-backward", where=where),
        "typing-slip": say("ask-typing-slip", where=where),
        "wrong-side": say("ask-wrong-side", where=where),
        "wrong-lobe": say("ask-wrong-lobe"),
        "other-cylinder": say("ask-other-cylinder"),
        "wheel-end": say("ask-wheel-end"),
        "numbers-rise": say("ask-numbers-rise"),
        "tooth-off": say("ask-tooth-off"),
        "lash-wrong": say("ask-lash-wrong"),
        "bleeding-lifter": say("ask-bleeding-lifter"),
        "lobes-apart": say("ask-lobes-apart"),
    }[suspect.code]
    return f"{asked} ({odds})"
