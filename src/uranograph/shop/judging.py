"""A whole job judged for a machine: what every station finds, what the cams could do, and what to do next."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from uranograph.bench.acts import CAM_MOVED, Act, Move
from uranograph.bench.finding import Finding, Prompt, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Acceptance
from uranograph.bench.slots import slot_of
from uranograph.bench.station import Station
from uranograph.shop.exchange import as_job
from uranograph.shop.job_files import StoredJob
from uranograph.stations import ORDER

Answer = dict[str, Any]
# Status of a station where no further reading would help.
LEFT_OPEN = "left-open"
# So often one thing is read at most before what cannot be told is left open.
PATIENCE = 5


@dataclass(frozen=True)
class Last:
    """The last that was written to a job: its number, by whom, and when; what comes next follows it."""

    seq: int
    by: str
    at: datetime


def judge(kept: StoredJob, of_shop: Job | None = None) -> dict[str, Any]:
    """Judge a job file.

    Parameters
    ----------
    kept
        The file's contents.
    of_shop
        The same job as its shop has it, to be judged by the limits of that shop; by those that ship with it unless given.

    Returns
    -------
    dict
        `stations` by key, what those add for machines (`by_cam`, `offers`), and `next`: the entry to append, its value left
        out, or None where nothing is asked any more.

    Examples
    --------
    >>> from datetime import UTC, datetime
    >>> at = datetime(2026, 1, 1, tzinfo=UTC)
    >>> found = judge(StoredJob(title="bare", created_at=at, touched_at=at, entries=[]))
    >>> found["stations"]["engine"]["verdict"], found["next"]["entry"]["kind"]
    ('open', 'engine')
    """
    last = kept.entries[-1] if kept.entries else None
    known = Last(last.seq, last.by, last.at) if last else Last(0, "", kept.created_at)
    return judge_job(of_shop or as_job(kept), known)


def judge_job(job: Job, last: Last) -> dict[str, Any]:
    """Judge a job that is open already, as `judge` does."""
    findings = ORDER.overview(job)
    answer: dict[str, Any] = {"stations": {key: _station(finding) for key, finding in findings.items()}}
    for station in ORDER.stations:
        answer |= station.machine_data(job)
    for key, more in answer.pop("weighed", {}).items():
        answer["stations"][key] |= more
    answer["next"] = _next(last, job, findings, answer.pop("move", None))
    return answer


def of_job(job: Job) -> dict[str, Answer]:
    """Findings of every station by key, as `judge` returns them, without probabilities and questions."""
    return {key: _station(finding) for key, finding in ORDER.overview(job).items()}


def _station(finding: Finding) -> dict[str, Any]:
    quantity = finding.quantity if finding.quantity and finding.quantity.judged else None
    return {
        "verdict": finding.verdict.value,
        "proved": False,
        "code": finding.code,
        "value": quantity.value if quantity else None,
        "unit": quantity.unit if quantity else "",
        "doubt": quantity.uncertainty if quantity else None,
        "title": finding.title,
        "words": finding.sentence,
        "next_step": finding.next_step,
        "questions": [],
        "notes": [str(note) for note in finding.notes],
        "rows": [
            {"label": row.label, "card": row.card, "measured": row.measured, "difference": row.difference}
            for row in finding.rows
        ],
    }


def _next(last: Last, job: Job, findings: Mapping[str, Finding], move: Mapping[str, Any] | None) -> Answer | None:
    """The first that is not settled on the job's way; where that is out and a position is offered, the best position."""
    to_do: tuple[Station, str] | None = None
    for station in ORDER.in_workflow(job):
        finding = findings[station.key]
        if station.after_passes_at and ORDER.by_key[station.after_passes_at].in_passes(job):
            continue
        if wrong := station.form_to_set_right(job):
            sheet = {"type": "sheet", "kind": wrong}
            return _answer(last, station, sheet, finding.code, finding.next_step, ())
        if (coming := _coming(last, job, station, finding)) is not None:
            return coming
        mover = ORDER.by_key[ORDER.mover]
        if move and station.key in mover.comes_after and not job.accepted(station.key):
            best = {"type": "act", "kind": CAM_MOVED, "cam": move["cam"], "moves": move["moves"]}
            code, words = findings[mover.key].code, findings[mover.key].sentence
            return _with_what_it_brings(job, mover, _answer(last, mover, best, code, words, ()))
        if finding.state in ("in", "skipped") or job.accepted(station.key):
            continue
        if _nothing_left_to_read(job, station, finding):
            if finding.verdict is Verdict.UNSURE and (station.may_stay_open or not station.is_exhausted(job)):
                return _answer(last, station, _acceptance(job, station, finding), LEFT_OPEN, finding.next_step, ())
            continue
        if _not_started(job, station, finding):
            continue
        if finding.verdict is Verdict.OUT and _nothing_new(job, station):
            to_do = to_do or _act_of(station, job, finding)
            continue
        if settles := station.settling_slot(job, finding):
            return _answer(last, station, _settling(job, station, settles), finding.code, finding.next_step, (settles,))
        if (asked := _request_at(last, job, station, finding)) is not None:
            return asked
        to_do = to_do or _act_of(station, job, finding)
    return None if to_do is None else _act(last, to_do[0], to_do[1], findings[to_do[0].key])


def _coming(last: Last, job: Job, station: Station, finding: Finding) -> Answer | None:
    """The reading that a station says would settle most, here or elsewhere."""
    if finding.state == "skipped" or job.accepted(station.key):
        return None
    coming = station.next_reading(job)
    prompt = ORDER.by_key[coming.station].prompt(job, coming.query) if coming is not None else None
    if coming is None or prompt is None:
        return None
    at, options = ORDER.by_key[coming.station], tuple(value for value, _ in prompt.options)
    return _answer(last, at, _reading(job, at, prompt), coming.why, f"{prompt.instruction} {coming.words}", options)


def _nothing_left_to_read(job: Job, station: Station, finding: Finding) -> bool:
    """Whether nothing that is read would tell more: what lies on a limit is left as it is, not read for ever."""
    if station.is_exhausted(job):
        return True
    if station.in_passes(job):
        return False
    most = {Verdict.UNSURE: PATIENCE, Verdict.OPEN: 3 * PATIENCE}.get(finding.verdict)
    return most is not None and _times_read(job, station) >= most


def _not_started(job: Job, station: Station, finding: Finding) -> bool:
    """Whether a station is one that is begun by hand, and was not."""
    described = station.setup is not None and job.form(station.setup) is not None
    return station.started_by_hand and not finding.begun and not described


def _request_at(last: Last, job: Job, station: Station, finding: Finding) -> Answer | None:
    """What a station asks for: a reading, its form, or another form without which it cannot go on."""
    entry = _entry(job, station)
    if (entry is None or _nothing_new(job, station)) and (wanted := station.form_wanted(job, finding)):
        entry = {"type": "sheet", "kind": wanted}
    if entry is None:
        return None
    prompt = _prompt(job, station)
    words = prompt.instruction if prompt else finding.next_step
    options = tuple(value for value, _ in prompt.options) if prompt else ()
    return _answer(last, station, entry, finding.code, words, options)


def _act_of(station: Station, job: Job, finding: Finding) -> tuple[Station, str] | None:
    """The act that a station wants, None where it wants none."""
    kind = station.act_wanted(job, finding)
    return (station, kind) if kind else None


def _settling(job: Job, station: Station, slot: str) -> Answer:
    entry = {"type": "reading", "station": station.key, "slot": slot, "text": slot, "side": None}
    return {**entry, "approach": "forward", "drop": None, "unit": job.unit.value, "instrument": "by eye"}


def _nothing_new(job: Job, station: Station) -> bool:
    """Whether a station asks for nothing but what stands there already: what is out is then put right, not read again."""
    if _prompt(job, station) is None:
        return station.form is None
    if station.in_passes(job):
        return False
    return _times_read(job, station) > 0


def _times_read(job: Job, station: Station) -> int:
    """How often what a station asks for was read already, as it stands now."""
    prompt = _prompt(job, station)
    if prompt is None:
        return 0
    spot = prompt.spot
    return sum(
        (each.spot.kind, each.spot.place) == (spot.kind, spot.place)
        and (prompt.leads == "second" or prompt.second in (None, each.second))
        for each in job.active_readings(station.key)
    )


def _act(last: Last, station: Station, kind: str, finding: Finding) -> Answer:
    """The act that a station wants, such as what puts right what is out there, once all else is done."""
    at = (last.at + timedelta(seconds=1)).isoformat()
    act = {
        "type": "act",
        "kind": kind,
        "station": station.key,
        "seq": last.seq + 1,
        "by": last.by,
        "at": at,
        **({"of": station.cured_of} if station.cured_of else {}),
    }
    return {"station": station.key, "act": act, "why": finding.code, "words": finding.next_step, "options": []}


def _answer(last: Last, station: Station, entry: Answer, code: str, words: str, options: tuple[str, ...]) -> Answer:
    at = (last.at + timedelta(seconds=1)).isoformat()
    whole = {**entry, "seq": last.seq + 1, "by": last.by, "at": at}
    return {"station": station.key, "entry": whole, "why": code, "words": words, "options": list(options)}


def _acceptance(job: Job, station: Station, finding: Finding) -> Answer:
    """Where nothing more that is read would tell, it is left as it is, with a reason: that is written in its `note`.

    In the form of job files of version 3, which every version takes.
    """
    slot = slot_of("accepted", len(job.annotations(station.key, Acceptance)) + 1, "said")
    entry = {"type": "reading", "station": station.key, "slot": slot, "text": finding.title, "side": None}
    return {**entry, "approach": "forward", "drop": None, "unit": job.unit.value, "instrument": "by eye"}


def _with_what_it_brings(job: Job, mover: Station, answer: Answer) -> Answer:
    """A move with the act that comes with it, such as the wheel off the gear that was taken off, as `entries`."""
    first = answer["entry"]
    moves = tuple(Move(move.get("name", ""), move["from"], move["to"], move["shift_deg"]) for move in first["moves"])
    brought = mover.accompanying_act(job, Act(station=mover.key, kind=CAM_MOVED, cam=first["cam"], moves=moves))
    if brought is None:
        return {**answer, "entries": [first]}
    kind, what = brought
    second = {"type": "act", "kind": kind, "what": what, "seq": first["seq"] + 1, "by": first["by"], "at": first["at"]}
    return {**answer, "entries": [first, second]}


def _prompt(job: Job, station: Station) -> Prompt | None:
    form = station.setup
    if form is not None and form.needed and job.form(form) is None:
        return None
    return station.prompt(job, {})


def _entry(job: Job, station: Station) -> dict[str, Any] | None:
    """The entry that would answer, without its value; a form, where one is asked first."""
    prompt = _prompt(job, station)
    if prompt is not None:
        return _reading(job, station, prompt)
    form = station.form or (station.setup if station.setup and station.setup.needed else None)
    return {"type": "sheet", "kind": form.kind} if form is not None and job.form(form) is None else None


def _reading(job: Job, station: Station, prompt: Prompt) -> Answer:
    answer = {
        "type": "reading",
        "station": station.key,
        "slot": prompt.slot,
        "side": prompt.side,
        "approach": prompt.approach,
        "drop": prompt.second,
        "unit": job.unit.value,
        "instrument": "by eye",
        "note": None,
    }
    if prompt.leads == "second":
        del answer["drop"]
        answer["text"] = prompt.extra.get("angle", "")
    return answer
