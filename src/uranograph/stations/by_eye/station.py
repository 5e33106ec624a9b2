"""Mark: what the eye tells without a tooth counted: marks, lifters at the top, what is driven, what is pinned."""

from collections.abc import Mapping
from dataclasses import replace

from uranograph.bench import checks
from uranograph.bench.checks import NONE, TURNED_ALONE, Answer, Check, yes_or_no
from uranograph.bench.fields import count
from uranograph.bench.finding import Finding, Prompt, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.kept import kept
from uranograph.bench.log import Entry, Reading
from uranograph.bench.slots import Slot
from uranograph.core.errors import Impossible
from uranograph.engine import turning as record
from uranograph.engine.card import card_of
from uranograph.engine.marks_by_eye import ENDS, FORM, Driven, Listed, Mark, listed
from uranograph.stations.by_eye.words import FOUND, say
from uranograph.stations.degree.target import target_of

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
CAUTIONS = (
    "Ignition and fuel off, battery disconnected. Turn by hand; both hands clear of the gears. Belts and tensioners are "
    "squeezed slowly and pinned; a sprung part lets go hard.",
    TURNED_ALONE,
)
VIEWS = {"marks": "Marks", "compare": "Three looks", "top": "At the top", "driven": "Driven parts"}
MOST_TEETH = 99
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

# Answers that are kept under short names, in words.
ANSWER_WORDS = {
    **dict(LIFTERS),
    **dict(ROTOR),
    **{f"dry:{answer}": words for answer, words in DRY},
    **{f"pin-#:{answer}": words for answer, words in PINNED},
    **dict(checks.AT),
    **dict(record.OPTIONS),
}


def look_of(mark: Mark, end: str) -> Check:
    """The question whether a mark stands where it belongs."""
    return Check(
        f"look-{mark.n}",
        f"{mark.words[0].upper()}{mark.words[1:]}",
        say("look-at-mark", mark=mark.words, end=ENDS[end]),
        SEEN,
        good=("on", "na"),
        bad=OFF,
        hint=say("teeth-where-off"),
    )


def three_looks(mark: Mark) -> Check:
    """The question whether a tooth either way looks clearly worse."""
    return yes_or_no(
        f"three-{mark.n}", f"Three looks, “{mark.on}”", say("tooth-either-way", name=mark.on), say("pictures-beside")
    )


def checks_of(found: Listed, at: str = "") -> tuple[Check, ...]:
    """All that is asked of what was listed, in working order, with the crank where it stands."""
    asked: list[Check] = []
    for one in found.driven:
        if one.pinned:
            asked.append(_pin(one))
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
                hint=say("teeth-it-turned"),
            )
        )
    asked.append(checks.crank_at(say("crank-stands"), say("where-does-crank"), say("marks-mean-nothing")))
    asked += [look_of(mark, found.end) for mark in found.marks]
    if not found.marks:
        asked.append(_lifters(at))
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
    asked.append(record.check(say("two-turns"), say("turn-two-turns"), say("look-never-push")))
    if found.marks:
        asked.append(yes_or_no("back", say("marks-after-turns"), _back_words(found)))
    return tuple(asked)


def _start() -> tuple[tuple[str, str], ...]:
    """Setting a cam without marks: label and instruction of each step."""
    return (
        (say("crank-set"), say("set-crank-to")),
        (say("cam-at-peak"), say("turn-cam-to-peak")),
        (say("gear-fixed"), say("fix-gear")),
    )


def _lifters(at: str = "") -> Check:
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
        hint=say("number-one-at-top"),
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
    return yes_or_no(f"driven-{one.n}", f"{one.name[0].upper()}{one.name[1:]}", say("retimed", name=one.name), hint)


def _back_words(found: Listed) -> str:
    late = [mark for mark in found.marks if mark.back_later]
    if not late:
        return say("all-back")
    still = ", ".join(mark.on for mark in found.marks if not mark.back_later)
    return say("some-not-back", names=still or "none", others=", ".join(mark.on for mark in late))


@kept
def answers(job: Job) -> tuple[Answer, ...]:
    """Every question with its newest answer; the lifters are kept beside marks once somebody looked at them."""
    found, at = listed(job), crank_at(job)
    asked = list(checks_of(found, at))
    if found.marks and job.standing(KEY, "lifters"):
        asked.append(_lifters(at))
    seen = {reading.spot.kind for reading in job.standing(KEY)}
    if _no_marks_at_all(job, found):
        asked = [check for check in asked if check.kind != "back"]
    asked += [check for mark in found.marks if (check := three_looks(mark)).kind in seen]
    return tuple(record.as_looked(job, _half_proved(at, checks.answers(job, KEY, asked))))


def _no_marks_at_all(job: Job, found: Listed) -> bool:
    """Whether of every mark that was listed there turned out to be none: none can be back after two turns."""
    newest = {reading.spot.kind: reading.text for reading in job.standing(KEY) if reading.spot.place == checks.PLACE}
    return bool(found.marks) and all(newest.get(f"look-{mark.n}") == NONE[0] for mark in found.marks)


def crank_at(job: Job) -> str:
    """Where the crank was said to stand; empty where nobody said."""
    said = [reading for reading in job.standing(KEY, checks.CRANK_AT) if reading.spot.place == checks.PLACE]
    return said[-1].text if said else ""


def _half_proved(at: str, found: list[Answer]) -> list[Answer]:
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


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next thing to look at, in the view chosen; None once all is."""
    found, view = answers(job), view_of(job, query)
    if view == "compare":
        found = tuple(checks.answers(job, KEY, [three_looks(mark) for mark in listed(job).marks]))
    elif view == "top" and listed(job).marks:
        found = tuple(checks.answers(job, KEY, [_lifters(crank_at(job))])) + tuple(
            a for a in found if a.check.kind == "rotor"
        )
    elif view == "driven":
        found = tuple(answer for answer in found if answer.check.kind.startswith(("driven", "pin")))
    check = checks.pins_first(answers(job), checks.next_of(found, query.get("item", "")) or _pin_still_in(found))
    if check is None:
        return None
    asked = checks.prompt_of(job, KEY, check, method=view)
    if check.kind.startswith("look"):
        return replace(asked, second="1", second_label=say("teeth-off"))
    if check.kind == "dry":
        return replace(asked, second="1", second_label=say("teeth"))
    if check.kind == "start-1":
        wanted = target_of(job).centerline(job, "intake")
        if wanted is not None:
            return replace(asked, instruction=say("set-crank-to-deg", wanted_deg=wanted))
    return asked


def _pin_still_in(found: tuple[Answer, ...]) -> Check | None:
    """What is asked again by itself: only a pin that is still in."""
    return next((answer.check for answer in found if answer.check.kind.startswith("pin") and answer.text == "in"), None)


def every_check(job: Job) -> tuple[Check, ...]:
    """All that can be answered: what is listed, and what a view asks beside it."""
    found = listed(job)
    return (*checks_of(found), _lifters(), *(three_looks(mark) for mark in found.marks))


def accept(job: Job, entry: Entry) -> None:
    """Refuse an answer that was not offered, or teeth that cannot be.

    Raises
    ------
    Impossible
        With `text` or `second` at fault.
    """
    checks.accept(every_check(job), entry)
    if entry.spot.kind == record.KIND:
        checks.refuse_pinned([a for a in answers(job) if a.check.kind.startswith("pin") and a.text == "in"])
    if entry.second and entry.text in (*OFF, "left", "right"):
        try:
            count(1, MOST_TEETH, "teeth cannot be")(entry.second)
        except Impossible as error:
            raise error.at("second") from error


def in_words(job: Job, entry: Entry) -> Entry:
    """What was looked at, kept with the answer so that it can be read without the list."""
    label = next((check.label for check in every_check(job) if check.kind == entry.spot.kind), None)
    return replace(entry, about=label)


def describe(reading: Reading) -> str:
    """Say what was looked at, and by how many teeth it was off."""
    teeth = f", {reading.second} teeth" if reading.second and reading.text in (*OFF, "left", "right") else ""
    return f"{reading.about or say('looked-at')}{teeth}"


def teeth_of(answer: Answer) -> int:
    """By how many teeth a mark was seen off."""
    return int(answer.reading.second) if answer.reading and answer.reading.second else 1


def pins(job: Job) -> tuple[int, int]:
    """Pins put in, and pins counted out again."""
    put_in = {r.spot.kind for r in job.standing(KEY) if r.spot.kind.startswith("pin") and r.text in ("in", "out")}
    newest = [answer for answer in answers(job) if answer.check.kind.startswith("pin")]
    return len(put_in), sum(answer.text == "out" for answer in newest)


def find(job: Job) -> Finding:
    """Say what the eye tells of the cam, and what is still to be looked at."""
    found, there = answers(job), listed(job)
    base = Finding(
        Verdict.OPEN,
        rows=(*(Row(answer.check.label, "", _words(answer)) for answer in found), *_pin_row(job, there)),
        columns=("", "", "seen", ""),
        cautions=CAUTIONS,
        notes=_notes(job, found),
    )
    begun = bool(job.standing(KEY))
    for judge in (_off, _by_rotor, _by_lifters, _bad):
        judged = judge(job, base, found)
        if judged is not None:
            return judged
    doubtful = next((a for a in found if a.state == "unsure" and not a.check.kind.startswith("pin")), None)
    if doubtful is not None and doubtful.text == "unseen":
        return base.judged(Verdict.UNSURE, FOUND, "not-seen", check=doubtful.check.label)
    if doubtful is not None and (doubtful.check.kind != "lifters" or doubtful.text != "down"):
        return base.judged(Verdict.UNSURE, FOUND, "in-doubt", check=doubtful.check.label, answer=doubtful.words)
    waiting = [answer for answer in found if answer.reading is None]
    pin = _pin_still_in(found)
    if waiting and not (pin and waiting[0].check.kind == record.KIND):
        looked = len(found) - len(waiting)
        return base.judged(
            Verdict.OPEN,
            FOUND,
            "looking",
            begun=begun,
            looked=looked,
            count=len(found),
            step=waiting[0].check.instruction,
        )
    if pin is not None:
        return base.judged(Verdict.OPEN, FOUND, "pin-in", label=pin.label)
    looks = [answer for answer in found if answer.check.kind.startswith("look")]
    if checks.nothing_there(looks) and not any(a.check.kind == "lifters" and a.text for a in found):
        return base.judged(Verdict.SKIPPED, FOUND, "nothing-there", begun=begun)
    if not there.marks and all(
        answer.text in ("na", "") for answer in found if answer.check.kind in ("overlap", "firing")
    ):
        return base.judged(Verdict.UNSURE, FOUND, "nothing-seen")
    return base.judged(Verdict.IN, FOUND, "all-seen" if there.marks else "by-the-lifters")


def _words(answer: Answer) -> str:
    if answer.text in OFF:
        return f"{teeth_of(answer)} teeth {answer.text}" if teeth_of(answer) > 1 else f"a tooth {answer.text}"
    return answer.words


def _pin_row(job: Job, there: Listed) -> tuple[Row, ...]:
    if not any(one.pinned for one in there.driven):
        return ()
    put_in, out = pins(job)
    return (Row(say("pins-in-out"), "", f"{put_in} in, {out} out"),)


def _off(job: Job, base: Finding, found: tuple[Answer, ...]) -> Finding | None:
    off = [answer for answer in off_of(job, found) if not outranked(job, found, answer)]
    if not off:
        return None
    places = "; ".join(f"{answer.check.label}: {_words(answer)}" for answer in off)
    way = "back" if off[0].text == "early" else "forward"
    return base.judged(Verdict.OUT, FOUND, "teeth-off", places=places, teeth=teeth_of(off[0]), way=way)


def off_of(job: Job, found: tuple[Answer, ...]) -> list[Answer]:
    """Marks seen off."""
    return [answer for answer in found if answer.check.kind.startswith("look") and answer.state == "out"]


def outranked(job: Job, found: tuple[Answer, ...], answer: Answer) -> bool:
    """Whether a mark that is off, or is not back, counts for nothing beside keys, pins or dowels that all stand right."""
    ranks = {f"look-{mark.n}": mark.decides for mark in listed(job).marks}
    if ranks.get(answer.check.kind, False) or not answer.check.kind.startswith(("look", "back")):
        return False
    deciding = [each for each in found if ranks.get(each.check.kind, False) and each.text != "na"]
    return bool(deciding) and all(each.state == "in" for each in deciding)


def top_by_lifters(found: tuple[Answer, ...]) -> str:
    """Which top the lifters say it is: `firing`, `overlap`, or nothing."""
    text = next((answer.text for answer in found if answer.check.kind == "lifters"), "")
    return "" if text in ("", "unseen") else "firing" if text == "down" else "overlap"


def _by_rotor(job: Job, base: Finding, found: tuple[Answer, ...]) -> Finding | None:
    rotor = next((answer.text for answer in found if answer.check.kind == "rotor"), "")
    top = top_by_lifters(found)
    if not top or rotor not in ("one", "half"):
        return None
    return (
        None if (rotor == "one") == (top == "firing") else base.judged(Verdict.OUT, FOUND, "rotor-half-turn", top=top)
    )


def belongs(job: Job) -> str:
    """Which lifter belongs higher at overlap TDC: `same`, or the one that the advance ground into the cam lifts."""
    card = card_of(job)
    advance = (card.card.advance_deg if card else None) or 0.0
    return "same" if abs(advance) < GROUND_IN_DEG else "intake" if advance > 0 else "exhaust"


def code_of_lifters(text: str, at: str = "", wanted: str = "same") -> str:
    """What the lifters at the top say of the cam, by the code of its finding; empty where nobody could see them."""
    if at == checks.FIRING:
        return "" if text in ("", "down", "unseen") else "turn-out"
    if text in ("same", "intake", "exhaust") and wanted != "same":
        # Ground with an advance the one lifter belongs higher: alike is late, and more than that cannot be told by eye.
        return "as-ground" if text == wanted else "late" if wanted == "intake" else "early"
    return {
        "same": "straight-up",
        "intake": "early",
        "exhaust": "late",
        "intake-alone": "tooth-early",
        "exhaust-alone": "tooth-late",
        "down": "firing-top",
    }.get(text, "")


def _by_lifters(job: Job, base: Finding, found: tuple[Answer, ...]) -> Finding | None:
    answer = next((answer for answer in found if answer.check.kind == "lifters" and answer.reading), None)
    code = code_of_lifters(answer.text, crank_at(job), belongs(job)) if answer else ""
    if code in ("tooth-early", "tooth-late", "turn-out"):
        return base.judged(Verdict.OUT, FOUND, code)
    marked = any(each.check.kind.startswith("look") for each in found)
    if code in ("early", "late") and not marked:
        return base.judged(Verdict.UNSURE, FOUND, code)
    proved = all(each.text == "yes" for each in found if each.check.kind in ("overlap", "firing"))
    if code in ("early", "late") and marked:
        return None
    if code == "firing-top" and not marked and not proved:
        return base.judged(Verdict.UNSURE, FOUND, code)
    return None


def _bad(job: Job, base: Finding, found: tuple[Answer, ...]) -> Finding | None:
    bad = next((a for a in found if a.state == "out" and not outranked(job, found, a)), None)
    return base.judged(Verdict.OUT, FOUND, "bad", check=bad.check.label, answer=bad.words) if bad else None


def _notes(job: Job, found: tuple[Answer, ...]) -> tuple[str, ...]:
    sentences: list[str] = []
    if beside := [answer.check.label for answer in off_of(job, found) if outranked(job, found, answer)]:
        sentences.append(say("key-decides", marks="; ".join(beside)))
    by_kind = {answer.check.kind: answer for answer in found if answer.reading}
    lifters = by_kind.get("lifters")
    if lifters is not None and (words := _told_by_lifters(code_of_lifters(lifters.text, crank_at(job), belongs(job)))):
        sentences.append(words)
    dry = by_kind.get("dry")
    if dry is not None and dry.text in ("left", "right"):
        sentences.append(say("start-to-the-other", teeth=teeth_of(dry), way="right" if dry.text == "left" else "left"))
    if all(f"start-{n}" in by_kind for n in (1, 2, 3)):
        sentences.append(say("only-a-start"))
    return tuple(sentences)


def _told_by_lifters(code: str) -> str:
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
    """What the eye leads the degreeing to expect."""
    lifters = next((answer for answer in answers(job) if answer.check.kind == "lifters" and answer.reading), None)
    code = code_of_lifters(lifters.text, crank_at(job), belongs(job)) if lifters else ""
    return () if code in ("", "firing-top", "turn-out") else (_told_by_lifters(code),)
