"""Plan of a cam change: tasks, hands, and a running clock."""

from collections.abc import Mapping, Sequence
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Page, Station, Suggested, ViewState
from uranograph.core.plan import has_solver
from uranograph.stations.change_plan import rules as plan
from uranograph.stations.change_plan import running
from uranograph.stations.change_plan.drawing import figure
from uranograph.stations.change_plan.learned import minutes_taken
from uranograph.stations.change_plan.messages import say
from uranograph.stations.change_plan.tasks import FORM, suggested, with_minutes


def _length(job: Job, found: running.Running) -> dict[str, Any]:
    """How long the plan is and how good, and whether a shorter one is still looked for."""
    decide = running.critical(found)
    names = [found.change.tasks[k].task.name for k in running.in_order(found) if k in decide]
    gap = found.planned_min - found.bound
    length, short_of = plan.span(found.planned_min), plan.span(gap)
    if gap < 1e-6:
        told = say("plan-is-shortest")
    elif has_solver():
        told = say("plan-best-so-far", minutes=length, gap=short_of)
    else:
        told = say("plan-by-priority", minutes=length, gap=short_of)
    wanted = found.change.wanted_min
    spare = 0.0 if wanted is None else wanted - found.end_min
    against = (
        say("within-wanted", wanted=plan.span(wanted or 0), spare=plan.span(spare))
        if spare >= 0
        else say("past-wanted", wanted=plan.span(wanted or 0), over=plan.span(-spare))
    )
    return {
        "wanted": "" if wanted is None else against,
        "length": plan.span(found.planned_min),
        "told": told,
        "searching": gap >= 1e-6 and found.began is None and has_solver(),
        "critical": say("critical-tasks", listed=", ".join(names)),
    }


def _searched(job: Job, asked: Mapping[str, str]) -> Mapping[str, Any] | None:
    """A little more looking for a shorter plan, and how good the best is now."""
    found = running.running(job)
    if found is None:
        return None
    tries = (
        int(asked.get("tries", "0")) if asked.get("tries", "0").isdecimal() and len(asked.get("tries", "0")) < 4 else 0
    )
    if found.began is None and tries < MAX_TRIES:
        running.searched(found.work)
        found = running.running(job) or found
    shown = dict(_length(job, found))
    shown["searching"] = shown["searching"] and tries + 1 < MAX_TRIES
    return {**shown, "tries": tries + 1, "figure": figure(job, ViewState())}


# An open page stops polling after a while.
MAX_TRIES = 20


class ChangePlanStation(Station):
    """Plan of a cam change: tasks, hands, and a running clock."""

    key = running.KEY
    title = "Plan of the change"
    group = "Receive"
    position = 40
    workflows = ("change",)
    details_title = "All tasks"
    docs = "Plan of a cam change"
    calculations = ("plan",)
    setup = FORM
    slots = (running.TICK, plan.RESULT)
    pages = {"plan-search": Page("change_plan/searched.html", _searched)}
    carried_query = ()
    void_reasons = ("ticked the wrong task", "not done after all", "wrong time")
    started_by_hand = True
    earlier_jobs = 20

    def suggest(self, job: Job, earlier: Sequence[Job]) -> Suggested:
        """The list that follows from engine and drive, with the minutes that its tasks took in earlier plans."""
        usual = suggested(job)
        minutes = minutes_taken(earlier)
        names = [name for line in usual["tasks"].splitlines() if (name := line.partition(";")[0].strip()) in minutes]
        if not names:
            return Suggested(usual)
        typed = {**usual, "tasks": with_minutes(usual["tasks"], minutes)}
        return Suggested(typed, say("learned-minutes", listed=", ".join(names)))

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        found = running.running(job)
        if found is None:
            return {"tasks": ()}
        hands, read = running.who(found), plan.results(job)
        return {
            "tasks": [
                {
                    "number": k + 1,
                    "name": each.task.name,
                    "who": found.change.names(hands[k]) or "—",
                    "tray": each.tray,
                    "at": f"+{found.expected[0][k]:.0f} to +{found.expected[1][k]:.0f}",
                    "state": "in" if found.done(k) else "under-way" if found.begun(k) else "not-begun",
                    "late": k in found.late,
                    "result": read.get(k, ""),
                    "target": each.target,
                }
                for k, each in sorted(enumerate(found.change.tasks), key=lambda pair: found.expected[0][pair[0]])
            ],
            "doing": plan.doing(found),
            **_length(job, found),
        }
