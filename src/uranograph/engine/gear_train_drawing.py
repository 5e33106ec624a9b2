"""A gear train as its drawing takes it."""

from dataclasses import replace
from fractions import Fraction
from functools import lru_cache

from uranograph.bench.job import Job
from uranograph.charts.pen import Figure
from uranograph.charts.train import Part, train_figure
from uranograph.core.wheel import Turn
from uranograph.engine.description import rotation_of
from uranograph.engine.gear_train_model import DriveTrain


def clockwise(job: Job) -> bool:
    """Whether the crank turns clockwise seen from the front, the default."""
    return rotation_of(job) is not Turn.COUNTERCLOCKWISE


@lru_cache(maxsize=64)
def parts(drive_train: DriveTrain) -> tuple[Part, ...]:
    """The gears as they are drawn, each after the one that turns it."""
    speed = {name: Fraction(*ratio) for name, ratio in drive_train.speeds.items()}
    into = {contact.down: contact for contact in reversed(drive_train.contacts)}
    chained = {
        name for contact in drive_train.contacts if contact.how == "chain" for name in (contact.up, contact.down)
    }
    meshed = {name for contact in drive_train.contacts if contact.how != "chain" for name in (contact.up, contact.down)}
    drawn: list[Part] = []
    waiting = [drive_train.crank.name]
    while waiting:
        name = waiting.pop(0)
        gear, contact = drive_train.by_name[name], into.get(name)
        how, parent = (contact.how, contact.up) if contact else ("mesh", None)
        if contact is None and name != drive_train.crank.name:
            how, parent = "shaft", drive_train.shares_shaft_with(name)
        part = Part(
            name,
            gear.teeth,
            gear.role,
            speed[name],
            parent,
            how,
            sprung=gear.sprung,
            sprocket=name in chained and name not in meshed,
        )
        if contact:
            part = replace(
                part,
                mark_up=contact.mark_up,
                mark_down=contact.mark_down,
                up_tooth=contact.up_tooth,
                label=contact.label,
                belt=contact.belt,
                lies_deg=contact.lies_deg,
            )
        drawn.append(part)
        done = {part.name for part in drawn} | set(waiting)
        waiting += [
            each.name
            for each in drive_train.gears
            if each.name not in done
            and (into[each.name].up == name if each.name in into else drive_train.shares_shaft_with(each.name) == name)
        ]
    return tuple(drawn)


def train_picture(job: Job, drive_train: DriveTrain | None, rear: bool, title: str, crank_teeth: int = 0) -> Figure:
    """The train as the job's engine turns it."""
    return train_figure(parts(drive_train) if drive_train else (), clockwise(job), rear, title, crank_teeth)
