"""Marks, lifters and driven parts as they were seen without a tooth counted."""

from collections.abc import Mapping
from dataclasses import replace

from uranograph.bench import checks
from uranograph.bench.checks import NONE, Check, CheckAnswer, yes_or_no
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.engine import turning
from uranograph.engine.card import card_of
from uranograph.engine.marks_by_eye import ENDS, FORM, Driven, ListedMarks, Mark, listed
from uranograph.phase.marks_messages import say

KEY = "by-eye"
ANSWER = Slot[str](
    KEY,
    (
        "look-#",
        "three-#",
        "driven-#",
        "pin-#",
        "crank-at",
        "lifters",
        "rotor",
        "turned",
        "back",
        "overlap",
        "firing",
        "dry",
        "start-#",
    ),
    ("seen",),
    rests_on=("mesh",),
)
VIEWS = {"marks": "Marks", "compare": "Three looks", "top": "At the top", "driven": "Driven parts"}
# An advance ground into the cam that lifts the one lifter plainly above the other at overlap, cam degrees.
GROUND_IN_DEG = 1.5
OFF = ("early", "late")
SEEN = (("on", "on"), ("early", "early"), ("late", "late"), ("unseen", "cannot see"), NONE)
LIFTERS = (
    ("same", "both a little up, alike"),
    ("intake", "intake higher"),
    ("exhaust", "exhaust higher"),
    ("intake-alone", "exhaust shut, intake well up"),
    ("exhaust-alone", "intake shut, exhaust well up"),
    ("down", "both down"),
    ("unseen", "cannot see"),
)
DRY = (("left", "to the left"), ("right", "to the right"), ("none", "not at all"), NONE)
PINNED = (("in", "pin is in"), ("out", "pin is out again"), ("none", "was never pinned"))
ROTOR = (("one", "at number one"), ("half", "half a turn away"), ("other", "elsewhere"), ("unseen", "cannot see"), NONE)


def look_of(mark: Mark, end: str) -> Check:
    """The question whether a mark is aligned."""
    return Check(
        f"look-{mark.n}",
        f"{mark.words[0].upper()}{mark.words[1:]}",
        say("look-at-mark", mark=mark.words, end=ENDS[end]),
        SEEN,
        good=("on", "na"),
        bad=OFF,
        hint=say("teeth-off-hint"),
    )


def three_looks(mark: Mark) -> Check:
    """The question whether a tooth either way looks clearly worse."""
    return yes_or_no(
        f"three-{mark.n}",
        f"Three looks, “{mark.on}”",
        say("tooth-either-way", name=mark.on),
        say("picture-of-each-look"),
    )


def checks_of(found: ListedMarks, at: str = "") -> tuple[Check, ...]:
    """Questions about the listed marks, in working order, at the stated crank position."""
    asked = [_pin(one) for one in found.driven if one.pinned]
    if found.no_marks:
        asked += [yes_or_no(f"start-{n}", *words) for n, words in enumerate(_start(), 1)]
    if found.helical:
        asked.append(
            Check(
                "dry",
                say("dry-try"),
                say("slide-in-dry"),
                DRY,
                good=("left", "right", "none", "na"),
                hint=say("teeth-turned-hint"),
            )
        )
    asked.append(checks.crank_at(say("crank-position"), say("ask-crank-position-by-eye"), say("crank-position-first")))
    asked += [look_of(mark, found.end) for mark in found.marks]
    if not found.marks:
        asked.append(lifters_check(at))
        asked += [
            yes_or_no("overlap", say("valves-at-overlap"), say("rock-about-overlap")),
            yes_or_no("firing", say("valves-at-firing"), say("turn-on-to-firing")),
        ]
    if any(one.points and one.timed for one in found.driven):
        asked.append(
            Check(
                "rotor",
                say("rotor-at-top"),
                say("where-rotor-points"),
                ROTOR,
                good=("one", "half", "na"),
                bad=("other",),
            )
        )
    asked += [_timed(one) for one in found.driven if one.timed]
    asked.append(turning.check(say("two-turns-by-hand"), say("turn-two-full-turns"), say("never-push-past-a-stop")))
    if found.marks:
        asked.append(yes_or_no("back", say("marks-after-two-full-turns"), _back_words(found)))
    return tuple(asked)


def _start() -> tuple[tuple[str, str], ...]:
    """Setting a cam without marks: label and instruction of each step."""
    return (
        (say("crank-set"), say("set-crank-to")),
        (say("cam-at-peak"), say("turn-cam-to-its-peak")),
        (say("gear-fixed"), say("fix-gear")),
    )


def lifters_check(at: str = "") -> Check:
    """Which lifter is up; at the firing TDC both must be down, at overlap neither where an advance is ground in."""
    if at == checks.FIRING:
        up = tuple(text for text, _ in LIFTERS if text not in ("down", "unseen"))
        return Check(
            "lifters",
            say("lifters-at-firing"),
            say("which-lifter-at-firing"),
            LIFTERS,
            good=("down",),
            bad=up,
            hint=say("down-proves-half"),
        )
    return Check(
        "lifters",
        say("lifters-at-top"),
        say("which-lifter-is-up"),
        LIFTERS,
        good=("same", "intake", "exhaust"),
        bad=("intake-alone", "exhaust-alone"),
        hint=say("both-lifters-down-is-firing"),
    )


def _pin(one: Driven) -> Check:
    return Check(
        f"pin-{one.n}",
        f"Pin of “{one.name}”",
        say("pin-before", name=one.name),
        PINNED,
        good=("out",),
        bad=("none",),
        hint=say("count-pins"),
    )


def _timed(one: Driven) -> Check:
    hint = say("tooth-at-that-shaft", deg=360 / one.teeth) if one.teeth else ""
    return yes_or_no(
        f"driven-{one.n}", f"{one.name[0].upper()}{one.name[1:]}", say("driven-part-retimed", name=one.name), hint
    )


def _back_words(found: ListedMarks) -> str:
    late = [mark for mark in found.marks if mark.back_later]
    if not late:
        return say("all-back")
    still = ", ".join(mark.on for mark in found.marks if not mark.back_later)
    return say("some-not-back", names=still or "none", others=", ".join(mark.on for mark in late))


@memoized
def answers(job: Job) -> tuple[CheckAnswer, ...]:
    """Every question with its newest answer; the lifters stay listed once they were answered."""
    found, at = listed(job), crank_at(job)
    asked = list(checks_of(found, at))
    if found.marks and job.active_readings(KEY, "lifters"):
        asked.append(lifters_check(at))
    seen = {reading.spot.kind for reading in job.active_readings(KEY)}
    if _no_marks_at_all(job, found):
        asked = [check for check in asked if check.kind != "back"]
    asked += [check for mark in found.marks if (check := three_looks(mark)).kind in seen]
    return tuple(turning.as_looked(job, _half_proved(at, checks.answers(job, KEY, asked))))


def _no_marks_at_all(job: Job, found: ListedMarks) -> bool:
    """Whether of every mark that was listed there turned out to be none: none can be back after two turns."""
    newest = {
        reading.spot.kind: reading.text for reading in job.active_readings(KEY) if reading.spot.place == checks.PLACE
    }
    return bool(found.marks) and all(newest.get(f"look-{mark.n}") == NONE[0] for mark in found.marks)


def crank_at(job: Job) -> str:
    """Stated crank position; empty if not stated."""
    said = [reading for reading in job.active_readings(KEY, checks.CRANK_AT) if reading.spot.place == checks.PLACE]
    return said[-1].text if said else ""


def _half_proved(at: str, found: list[CheckAnswer]) -> list[CheckAnswer]:
    """Both lifters down at firing TDC prove the firing half of the proof at both tops, and nothing else."""
    lifters = next((a.reading for a in found if a.check.kind == "lifters"), None)
    if at != checks.FIRING or lifters is None or lifters.text != "down":
        return found
    shown = replace(lifters, text="yes")
    return [
        replace(each, reading=shown) if each.check.kind == "firing" and each.reading is None else each for each in found
    ]


def views(job: Job) -> dict[str, str]:
    """Ways of looking: the marks, three looks at each, the lifters at the top, what is driven."""
    found = listed(job)
    if job.latest(FORM.kind) is None:
        return {}
    return {
        key: words
        for key, words in VIEWS.items()
        if (found.marks or key not in ("marks", "compare")) and (found.driven or key != "driven")
    }


def view_of(job: Job, query: Mapping[str, str]) -> str:
    """The way of looking that is chosen, or the first."""
    offered = views(job)
    return query["method"] if query.get("method") in offered else next(iter(offered), "top")


def pins(job: Job) -> tuple[int, int]:
    """Pins put in, and pins counted out again."""
    put_in = {
        r.spot.kind for r in job.active_readings(KEY) if r.spot.kind.startswith("pin") and r.text in ("in", "out")
    }
    newest = [answer for answer in answers(job) if answer.check.kind.startswith("pin")]
    return len(put_in), sum(answer.text == "out" for answer in newest)


def belongs(job: Job) -> str:
    """Which lifter belongs higher at overlap TDC: `same`, or the one that the advance ground into the cam lifts."""
    card = card_of(job)
    advance = (card.card.advance_deg if card else None) or 0.0
    return "same" if abs(advance) < GROUND_IN_DEG else "intake" if advance > 0 else "exhaust"


def code_of_lifters(text: str, at: str = "", wanted: str = "same") -> str:
    """Finding code from the lifters at TDC; empty if they could not be seen."""
    if at == checks.FIRING:
        return "" if text in ("", "down", "unseen") else "turn-out"
    if text in ("same", "intake", "exhaust") and wanted != "same":
        # On a cam ground with advance one lifter belongs higher: equal heights mean late, and more cannot be seen by eye.
        return "as-ground" if text == wanted else "late" if wanted == "intake" else "early"
    return {
        "same": "straight-up",
        "intake": "early",
        "exhaust": "late",
        "intake-alone": "tooth-early",
        "exhaust-alone": "tooth-late",
        "down": "firing-top",
    }.get(text, "")


def lifters_message(code: str) -> str:
    """Finding code from the lifters."""
    return {
        "straight-up": say("lifters-straight-up"),
        "as-ground": say("lifters-as-ground"),
        "early": say("lifters-early"),
        "late": say("lifters-late"),
        "tooth-early": say("lifters-tooth-early"),
        "tooth-late": say("lifters-tooth-late"),
        "firing-top": say("lifters-firing-top"),
    }.get(code, "")


def expected_notes(job: Job) -> tuple[str, ...]:
    """Phase expected from the marks by eye."""
    lifters = next((answer for answer in answers(job) if answer.check.kind == "lifters" and answer.reading), None)
    code = code_of_lifters(lifters.text, crank_at(job), belongs(job)) if lifters else ""
    return () if code in ("", "firing-top", "turn-out") else (lifters_message(code),)
