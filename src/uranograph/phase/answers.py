"""Answers to set-up questions: yes or no, stored like any reading."""

from collections.abc import Mapping

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.slots import Slot
from uranograph.core.errors import InvalidInput
from uranograph.core.wheel import Scale
from uranograph.engine import degree_wheel
from uranograph.engine.cams import KEY, RESTS_ON
from uranograph.phase.messages import ask, named, say

PREFIX = "asked-"
CODES = (
    "wheel-moved",
    "gear-slipping",
    "one-backward",
    "typing-slip",
    "wrong-side",
    "set-backward",
    "wrong-lobe",
    "other-cylinder",
    "firing-top",
    "wheel-end",
    "numbers-rise",
    "tooth-off",
    "gear-slipped-before",
    "cam-degrees",
    "indicator-askew",
    "lash-wrong",
    "wrong-checking-lift",
    "bleeding-lifter",
    "springs-on",
    "card-misprint",
    "uneven-lobe",
    "lobes-apart",
    "centerline-of-peak",
    "lobe-read-twice",
)
YES, NO = "yes", "no"
# What these say of the engine leaves what was measured true: once they are known to be so, the verdict is of the cam as it stands.
TRUE_ALL_THE_SAME = (
    "tooth-off",
    "gear-slipped-before",
    "lobes-apart",
    "cam-degrees",
    "uneven-lobe",
    "centerline-of-peak",
)
WHEEL = "wheel"
# What these say is set right in a form, by its kind.
SET_RIGHT = {
    "wheel-end": WHEEL,
    "numbers-rise": WHEEL,
    "card-misprint": "card",
    "wrong-checking-lift": "card",
    "bleeding-lifter": "engine",
    "springs-on": "engine",
}
ANSWER = Slot[str](KEY, tuple(f"{PREFIX}{code}" for code in CODES), ("answer",), rests_on=RESTS_ON, by_bank=True)


def answers(job: Job) -> dict[str, tuple[str, int]]:
    """The newest answer to each question, by code, with its number in the log."""
    return {reading.spot.kind.removeprefix(PREFIX): (reading.text, reading.seq) for reading in ANSWER.taken(job)}


def denied(job: Job) -> dict[str, int]:
    """Questions answered no, and up to which entry of the log."""
    return {code: seq for code, (text, seq) in answers(job).items() if text == NO}


def settled(job: Job, code: str) -> bool:
    """Whether a question is answered so that it is none any more."""
    text, _ = answers(job).get(code, ("", 0))
    return text == NO or (text == YES and code in TRUE_ALL_THE_SAME)


def confirmed(job: Job, code: str) -> bool:
    """Whether a question is answered yes: it is not asked again, and what it says is put right."""
    return answers(job).get(code, ("", 0))[0] == YES


def form_to_set_right(job: Job, code: str) -> str:
    """The form in which a confirmed question is set right; empty where it is none, or not confirmed."""
    text, seq = answers(job).get(code, ("", 0))
    kind = SET_RIGHT.get(code, "")
    mounted = degree_wheel.wheel_of(job)
    if kind == WHEEL and (mounted is None or mounted.wheel.scale is not Scale.FULL):
        # Sides are typed with each reading: no form sets them right.
        return ""
    form = job.latest(kind) if kind and text == YES else None
    # Once the form was changed, what is still wrong is something else.
    return kind if text == YES and (form is None or form.seq < seq) else ""


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the answer to the question of `code`."""
    code = query.get("code", "")
    if code not in CODES:
        return None
    return Prompt(
        slot=ANSWER.next(job, f"{PREFIX}{code}"),
        label=say("answer-label"),
        instruction=ask(code, where=query.get("where", "")),
        hint=say("answer-hint"),
        options=((YES, say("answer-yes")), (NO, say("answer-no"))),
        extra={"code": code},
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse what is neither yes nor no.

    Raises
    ------
    InvalidInput
        With the field `text`.
    """
    if entry.text not in (YES, NO):
        raise InvalidInput("text", "not-yes-or-no", typed=entry.text)


def describe(reading: Reading) -> str:
    """Say what was answered."""
    return named(reading.spot.kind.removeprefix(PREFIX))
