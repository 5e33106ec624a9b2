"""The tasks of a cam change as they are listed, and the list that follows from an engine and its drive."""

import re
from collections.abc import Mapping
from dataclasses import dataclass

from uranograph.bench.fields import Fields, Text
from uranograph.bench.forms import Filled, Form, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import parse_number
from uranograph.core.schedule import MAX_HANDS, Task, Work, understood
from uranograph.engine.adjusters import drive_of
from uranograph.engine.description import Engine, Valvetrain, engine_of
from uranograph.engine.marks_by_eye import listed
from uranograph.stations.change_plan.messages import say

MAX_TASKS = 60
MAX_NAME_LENGTH = 60
MAX_MINUTES = 2000.0
MAX_WANTED = 10_000
_WANTED = re.compile(r"(?:(?P<hours>\d{1,3})\s*(?::|h)\s*)?(?:(?P<minutes>\d{1,4})\s*(?:min|m)?)?")


@dataclass(frozen=True)
class ListedTask:
    """One listed task: its tray of parts, and the expected result of a run."""

    task: Task
    tray: str = ""
    target: str = ""


@dataclass(frozen=True)
class PlannedChange:
    """A change as it is planned: its tasks, also by number, and who is there."""

    tasks: tuple[ListedTask, ...]
    people: tuple[str, ...]
    work: Work | None = None
    wanted_min: float | None = None

    @property
    def hands(self) -> int:
        return len(self.people)

    def names(self, who: list[int]) -> str:
        """Hands by number as the people they are.

        Examples
        --------
        >>> PlannedChange((), ("RK", "TN")).names([1, 2])
        'RK, TN'
        """
        return ", ".join(self.people[k - 1] for k in who)


def _line(line: str, number: int) -> ListedTask:
    parts = [part.strip() for part in line.split(";")]
    if len(parts) < 2 or len(parts) > 6 or not parts[0]:
        raise InvalidInput("tasks", "task-line-unreadable", line=number, typed=line.strip()[:80])
    if len(parts[0]) > MAX_NAME_LENGTH:
        raise InvalidInput("tasks", "task-name-long", line=number)
    name, minutes, hands, after, tray, target = (*parts, "", "", "", "")[:6]
    try:
        long = parse_number(minutes)
    except InvalidInput as error:
        raise InvalidInput("tasks", "task-minutes", line=number, typed=minutes) from error
    if not 0 <= long <= MAX_MINUTES:
        raise InvalidInput("tasks", "task-minutes", line=number, typed=minutes)
    if hands and not (hands.isdecimal() and int(hands) <= MAX_HANDS):
        raise InvalidInput("tasks", "task-hands", line=number, typed=hands)
    before = [each.strip() for each in after.split(",") if each.strip()]
    return ListedTask(Task(name=name, minutes=long, hands=int(hands or 1), after=before), tray, target)


def suggested(job: Job) -> Mapping[str, str]:
    """The list that follows from an engine and its drive, to be edited: from draining to the run."""
    engine = engine_of(job)
    over = engine is not None and engine.valvetrain in (Valvetrain.ONE_CAM_OVER, Valvetrain.TWO_CAMS_OVER)
    unload, unloading = _unload(engine, over)
    opened, opening = _open(job)
    lines = [
        "cool down and drain; 30; 0; ; tray for coolant",
        "ignition off and plugs out; 10; 1; ; plug socket",
        "valve covers off; 15; 1; ignition off and plugs out; sockets",
        "front cover off; 35; 1; cool down and drain; puller, scraper",
        unloading,
        *opening,
        "stop and wheel on; 20; 2; valve covers off; piston stop, wheel, pointer",
        f"move the cam; 10; 2; stop and wheel on, {unload}, {opened}; keys, pins",
        "degree the cam; 25; 2; move the cam; dial, wheel",
        "piston to valve and two turns; 20; 2; degree the cam; light springs",
        "lock up and set the lash; 30; 2; piston to valve and two turns; torque wrench, blades",
        "covers on and refill; 40; 2; lock up and set the lash; gaskets, coolant",
        "warm up; 15; 0; covers on and refill",
        "run; 10; 2; warm up; ; as before or better",
    ]
    written = dict.fromkeys(by for each in (*job.forms, *job.entries) for by in each.by.split("+"))
    # Most of these tasks take two: a single pair of hands is no plan, and who comes along only the shop knows.
    return {"tasks": "\n".join(lines), "people": ", ".join(written) if len(written) > 1 else ""}


def with_minutes(tasks: str, minutes: Mapping[str, float]) -> str:
    """A list of tasks with other minutes, by name; what cannot be read stays as it is.

    Examples
    --------
    >>> with_minutes("drain; 20; 0; ; tray\\ncovers; 15", {"drain": 32.4})
    'drain; 32; 0; ; tray\\ncovers; 15'
    """
    lines = []
    for line in tasks.splitlines():
        name, found, rest = line.partition(";")
        _, parted, more = rest.partition(";")
        known = minutes.get(name.strip()) if found else None
        lines.append(line if known is None else f"{name}; {known:.0f}{parted}{more}")
    return "\n".join(lines)


def wanted_end(text: str) -> float | None:
    """Minutes from the start at which the engine is wanted back; None where nothing is typed.

    Raises
    ------
    InvalidInput
        When it is neither minutes nor hours and minutes, or longer than a plan can be.

    Examples
    --------
    >>> wanted_end("210"), wanted_end("3:30"), wanted_end("3 h 30 min"), wanted_end(" ")
    (210.0, 210.0, 210.0, None)
    """
    if not text.strip():
        return None
    parts = _WANTED.fullmatch(text.strip().lower())
    found = 60 * int(parts["hours"] or 0) + int(parts["minutes"] or 0) if parts else 0
    if not 0 < found <= MAX_WANTED:
        raise InvalidInput("wanted_end", "not-a-time", typed=text.strip())
    return float(found)


def _unload(engine: Engine | None, over: bool) -> tuple[str, str]:
    """The task that takes the load off the cam, and its line."""
    if over:
        return "cam caps loose", "cam caps loose; 20; 2; valve covers off; torque wrench, caps in order"
    count = 2 * engine.cylinders if engine else 8
    return "rockers loose", f"rockers loose; {max(10, 2 * count)}; 2; valve covers off; board with {count} holes"


def _open(job: Job) -> tuple[str, list[str]]:
    """The last task before the cam can be moved in its drive, and the lines up to it."""
    lines, last = [], "front cover off"
    if any(one.pinned for one in listed(job).driven):
        lines.append(f"gear pinned and pin counted; 5; 1; {last}; pin")
        last = "gear pinned and pin counted"
    lines.append(f"tensioner squeezed and pinned; 8; 1; {last}; pin, clamp")
    last = "tensioner squeezed and pinned"
    drive = drive_of(job)
    if drive is not None and any(each.opens_crank for each in drive.adjusters):
        lines.append(f"crank bolt and gear off; 15; 2; {last}; puller, flywheel lock")
        last = "crank bolt and gear off"
    return last, lines


class PlanFields(Fields):
    """A plan of a change as typed."""

    people = Text(
        "people",
        "Who is there",
        "initials, apart by commas: one a pair of hands",
        longest=2000,
        required=say("people-missing"),
    )
    wanted_end = Text(
        "wanted_end", "Wanted end", "hours and minutes from the start, such as 3:30; may stay empty", longest=20
    )
    tasks = Text(
        "tasks",
        "Task; minutes; hands; after which; tray; target of a run",
        "A task that is only waited for takes 0 hands. Names stand apart by commas after which it comes.",
        longest=100_000,
        lines=16,
        required=say("tasks-missing"),
    )


@remembered
def read(typed: Typed) -> Filled[PlannedChange]:
    """Read a plan as typed: a task a line, its parts after semicolons.

    Examples
    --------
    >>> found = read({"people": "RK, TN", "tasks": "drain; 20; 0\\ncovers; 15; 1; drain; sockets"}).value
    >>> [(each.task.name, each.task.minutes, each.task.after, each.tray) for each in found.tasks]
    [('drain', 20.0, [], ''), ('covers', 15.0, ['drain'], 'sockets')]
    """
    filled = PlanFields.read(typed)
    if filled.value is None:
        return Filled(None, filled.errors)
    people = tuple(name.strip() for name in filled.value.people.replace(";", ",").split(",") if name.strip())
    if not people:
        return Filled(None, {"people": say("people-missing")})
    lines = [line for line in filled.value.tasks.splitlines() if line.strip()]
    try:
        if len(lines) > MAX_TASKS:
            raise InvalidInput("tasks", "too-many-tasks", count=len(lines), most=MAX_TASKS)
        tasks = tuple(_line(line, n) for n, line in enumerate(lines, 1))
        people = people[:MAX_HANDS]
        work = understood([each.task for each in tasks], len(people))
        wanted = wanted_end(filled.value.wanted_end)
    except InvalidInput as error:
        return Filled(None, {"wanted_end" if error.field == "wanted_end" else "tasks": refusal(error)})
    return Filled(PlannedChange(tasks, people, work, wanted))


FORM = Form(
    "plan",
    "plan of the change",
    lambda typed, job: read(typed),
    instruction="List the tasks, one a line.",
    groups=PlanFields.groups(),
    suggests=suggested,
    shelved=True,
    offer="Change the plan",
)


def change_of(job: Job) -> PlannedChange | None:
    """The plan of a job, where it is listed."""
    return job.form(FORM)
