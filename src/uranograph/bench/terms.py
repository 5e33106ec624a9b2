"""The trade's terms as the pages use them, one sentence each."""

import re
from dataclasses import dataclass


@dataclass(frozen=True)
class Term:
    """A term: its name in addresses, as it is written, other ways of writing it, and what it means."""

    key: str
    title: str
    sentence: str
    also: tuple[str, ...] = ()

    @property
    def writings(self) -> tuple[str, ...]:
        """Every way in which it stands on a page."""
        return (self.title, *self.also)


TERMS = (
    Term("tdc", "TDC", "Top dead center: the crank angle at which a piston stands highest.", ("true TDC",)),
    Term("overlap-tdc", "overlap TDC", "The TDC between exhaust and intake: both valves a little open."),
    Term(
        "firing-tdc",
        "firing TDC",
        "The TDC at which the cylinder fires: both valves shut and free, a whole turn from overlap TDC.",
    ),
    Term(
        "sides",
        "BTDC",
        "Before or after top (BTDC, ATDC), before or after bottom dead center (BBDC, ABDC): from where a wheel reading counts.",
        ("ATDC", "BBDC", "ABDC"),
    ),
    Term(
        "companion",
        "companion",
        "The cylinder whose piston rises together with this one, a whole turn apart in firing.",
        ("companions",),
    ),
    Term("forward", "forward", "Turning as the engine runs: every reading is come up to so, or the slack comes in."),
    Term(
        "checking-lift",
        "checking lift",
        "The lift at which an event counts; without it opening and closing mean nothing.",
    ),
    Term("events", "events", "Where the valves open and close at the checking lift: IO, IC, EO, EC.", ("event",)),
    Term(
        "duration",
        "duration",
        "Crank degrees from opening to closing at the checking lift: the grind decides it, moving the cam does not.",
        ("durations",),
    ),
    Term(
        "centerline",
        "centerline",
        "The middle of a lobe, in crank degrees from overlap TDC: of the intake after it (ICL), of the exhaust before it (ECL).",
        ("centerlines", "ICL", "ECL"),
    ),
    Term("lsa", "lobe separation", "Half the sum of both centerlines, in cam degrees: it is ground in.", ("LSA",)),
    Term("overlap", "overlap", "Crank degrees in which both valves are open: IO plus EC."),
    Term(
        "advance",
        "advanced",
        "Earlier than the card: every event comes sooner. Retarded is later.",
        ("advance", "retarded", "retard"),
    ),
    Term(
        "degrees",
        "cam degrees",
        "The cam turns at half speed: one cam degree is two crank degrees.",
        ("cam degree", "cam deg", "crank deg"),
    ),
    Term(
        "equal-lift",
        "equal lift",
        "The same lift on the way up and on the way down: its middle is the lobe's middle, if the lobe is even.",
        ("equal lifts",),
    ),
    Term(
        "peak",
        "greatest lift",
        "How far the lobe lifts at its nose; the dial hardly moves there, so it tells no angle.",
        ("max lift", "maximum lift"),
    ),
    Term(
        "base-circle", "base circle", "The round part of a cam lobe, where nothing is lifted: the dial is zeroed there."
    ),
    Term(
        "uneven",
        "uneven",
        "A lobe whose two flanks differ: its peak lies beside the middle of its events.",
        ("asymmetry",),
    ),
    Term(
        "stop",
        "piston stop",
        "A bolt in the piston's way: the crank touches it before and after TDC at the same height. Turned by hand only.",
    ),
    Term("dwell", "dwell", "Near TDC the piston hardly moves for more than a degree: TDC is never read there."),
    Term("zero-error", "zero error", "What the wheel shows at true TDC: half of after less before."),
    Term(
        "slack",
        "slack",
        "What chain, belt or teeth give before the cam follows the crank, in crank degrees.",
        ("drive slack",),
    ),
    Term("lash", "valve lash", "The room between cam and valve while the valve is shut.", ("lash",)),
    Term("backlash", "backlash", "The play between two gears' teeth, at the pitch line."),
    Term("tir", "TIR", "Total indicator reading: greatest less least over one turn of the shaft.", ("runout",)),
    Term(
        "out-of-round", "out-of-round", "A journal worn oval: it shows twice a turn, a bent or off-center shaft once."
    ),
    Term(
        "end-play",
        "end play",
        "How far a shaft moves along its axis, its limiting parts fitted; also end float.",
        ("end float",),
    ),
    Term(
        "thrust",
        "thrust faces",
        "What takes the push of a shaft along its axis: thrust plate, washer, or the sides of a bearing.",
        ("thrust face", "thrust plate"),
    ),
    Term(
        "idler",
        "idler",
        "A gear between two others: it changes the way round, and its mark comes back only after many turns.",
        ("idlers",),
    ),
    Term(
        "tooth-off",
        "one tooth",
        "A mesh set over by one tooth: 360 over the crank gear's teeth in a plain drive, always many degrees.",
        ("tooth off",),
    ),
    Term(
        "keyway",
        "keyway",
        "The slot of the key: lobes are ground from it, so where mark and key disagree the key decides.",
        ("keyways",),
    ),
    Term(
        "vernier",
        "pin vernier",
        "Holes of two counts, one pin: steps of 720 over their least common multiple, in crank degrees.",
    ),
    Term(
        "interference",
        "interference",
        "How much larger the shaft is than the bore: heat opens the bore, cold lets it grip.",
    ),
    Term("room", "piston to valve", "The least distance of a valve to its piston: 5 to 15 degrees beside overlap TDC."),
    Term("coil-bind", "coil bind", "A spring pressed solid: what is left before that at greatest lift must be enough."),
    Term(
        "compression",
        "trapped compression",
        "Compression calculated from where the intake closes, since nothing is compressed before that.",
    ),
    Term(
        "target",
        "target",
        "Where the cam is wanted; the card's centerline unless you say otherwise. The card stays shown.",
    ),
    Term(
        "uncertainty",
        "uncertainty",
        "How far off a figure can be, stated as ±, about 95 % sure (k = 2): drawn as a halo.",
        ("±",),
    ),
    Term("tolerance", "tolerance", "How far off is still good: 1.0 crank degree unless you say otherwise."),
    Term("cannot-tell", "cannot tell", "Neither surely in nor surely out: it says what to read again."),
    Term("proved", "proved", "The first reading and the stop were taken again, and all agrees."),
)
BY_KEY = {term.key: term for term in TERMS}


def found(search: str, words: str) -> bool:
    """Whether every word that is looked for stands somewhere in what is said.

    Examples
    --------
    >>> found("tooth crank", "One tooth is 360 over the crank gear's teeth"), found("belt", "a chain")
    (True, False)
    """
    there = words.casefold()
    return all(each in there for each in re.findall(r"\S+", search.casefold()))
