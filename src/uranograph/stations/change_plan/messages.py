"""Messages of the plan of a cam change."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "not-planned": FindingMessage(
        "Who does what, in which order, and how long the engine stands.",
        next_step="List the tasks; those that follow from this engine stand there already.",
    ),
    "planned": FindingMessage(
        "{count} tasks for {hands} pairs of hands. Its length stands beside the plan.",
        "Planned",
        "Begin when everybody is there: the first tick starts the clock.",
    ),
    "under-way": FindingMessage(
        "{done} of {count} tasks are done at {clock}; the end is to be expected after {minutes}, {against}.",
        "Under way",
        "{now}",
    ),
    "late": FindingMessage(
        "{late} took longer than planned. {done} of {count} are done at {clock}; the end is to be expected after {minutes}, {against}.",
        "Under way, late",
        "{now}",
    ),
    "done": FindingMessage(
        "All {count} tasks are done, after {minutes}, {against}.", "Done", "Go on to the bench, or start the engine."
    ),
}
REFUSALS = {
    "task-line-unreadable": "Line {line}: “{typed}”. A line is: task; minutes; hands; after which; tray; target.",
    "task-minutes": "Line {line}: “{typed}” is no number of minutes: such as 20.",
    "task-hands": "Line {line}: “{typed}” is no number of hands: such as 1, or 0 where it is only waited for.",
    "task-name-long": "Line {line}: a task's name has up to 60 letters.",
    "too-many-tasks": "{count} tasks are more than a plan takes: {most}.",
    "no-such-task-here": "There is no such task in this plan: look at the page again.",
    "already-begun": "“{name}” was begun already: void that tick if it was wrong.",
    "already-done": "“{name}” is done already: void that tick if it was wrong.",
    "not-a-tick": "Say when: now, or how many minutes ago, such as 5.",
    "not-a-time": "“{typed}” is no time: hours and minutes such as 3:30, or minutes such as 210.",
    "result-empty": "Type what the run gave, such as 41.5 kW.",
}
MESSAGES = {
    "tasks-missing": "Type the tasks, one a line.",
    "people-missing": "Type who is there, such as RK, TN.",
    "begin-task": "Begin: {name}.",
    "begin-task-hint": "{who}{tray}{after}",
    "finish-task": "Is “{name}” done?",
    "finish-task-hint": "{who} began at {clock}; {minutes} planned.",
    "task-result": "What did “{name}” give?",
    "task-result-hint": "Wanted: {target}. It stands beside the target on the sheet.",
    "task-begun": "{name}, begun",
    "task-done": "{name}, done",
    "task-result-label": "{name}, result",
    "tray": " Tray: {tray}.",
    "who-does": "{who}.",
    "nobody": "Nobody: it is waited for.",
    "after-tasks": " After {listed}.",
    "minutes": "{minutes:g} min",
    "hours": "{hours} h {minutes:02d} min",
    "as-planned": "as planned",
    "later-than-planned": "{minutes} later than planned",
    "sooner-than-planned": "{minutes} sooner than planned",
    "now-doing": "{who}: {name}",
    "nothing-now": "Nothing is under way: begin the next.",
    "critical-tasks": "These decide the end: {listed}.",
    "plan-is-shortest": "No plan for these hands is shorter.",
    "plan-best-so-far": "The best so far: {minutes}, at most {gap} from the shortest.",
    "plan-by-priority": "Made by priority alone: {minutes}, at most {gap} from the shortest. Without the solver none is looked for.",
    "wanted-column": "wanted",
    "within-wanted": "Wanted after {wanted}: {spare} to spare.",
    "past-wanted": "Wanted after {wanted}: {over} too long. More hands, or fewer tasks.",
    "learned-minutes": "Minutes as they were in this shop's earlier plans: {listed}.",
}
say = partial(message, MESSAGES)
