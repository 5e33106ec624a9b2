"""A gear train: toothed parts, where they meet, marks and keyways."""

from dataclasses import dataclass
from functools import cached_property

from uranograph.core import train as core
from uranograph.core.helix import HelicalEntry, HelixInput, helical_entry


@dataclass(frozen=True)
class Toothed:
    """A gear or sprocket: its row on the form, how it is held, and whether it needs timing."""

    n: int
    name: str
    teeth: int
    role: str
    held: str = ""
    sprung: bool = False

    @property
    def timed(self) -> bool:
        return self.role != "untimed"


@dataclass(frozen=True)
class Contact:
    """Where one gear turns another, with the marks that meet there. `n` is the row of the gear that is turned."""

    n: int
    up: str
    down: str
    how: str
    mark_up: str = ""
    mark_down: str = ""
    up_tooth: float | None = None
    label: str = ""
    links: int | None = None
    belt: bool = False
    lies_deg: float | None = None

    @property
    def marked(self) -> bool:
        return bool(self.mark_up and self.mark_down)

    @property
    def name(self) -> str:
        return f"{self.up}-{self.down}"


@dataclass(frozen=True)
class Ends:
    """Gear-train details besides the gears: keyway positions, degrees; the gear that slides in; hole sets."""

    crank_key_deg: float | None = None
    cam_key_deg: float | None = None
    helix: HelixInput | None = None
    helix_gear: str = ""
    hole_sets: int | None = None


@dataclass(frozen=True, eq=False)
class DriveTrain:
    """All of it, as described, and what follows from the tooth counts."""

    gears: tuple[Toothed, ...]
    contacts: tuple[Contact, ...]
    given: core.TrainInput
    found: dict[str, core.Train]
    ends: Ends

    @property
    def helix(self) -> HelixInput | None:
        return self.ends.helix

    @cached_property
    def by_name(self) -> dict[str, Toothed]:
        return {gear.name: gear for gear in self.gears}

    @property
    def crank(self) -> Toothed:
        return self.by_name[self.given.crank]

    @property
    def cam(self) -> Toothed:
        return self.by_name[self.given.cam]

    @property
    def train(self) -> core.Train:
        return self.found[self.given.cam]

    @property
    def marked(self) -> list[Contact]:
        """The places where marks are to meet."""
        return [contact for contact in self.contacts if contact.marked and self.by_name[contact.down].timed]

    @cached_property
    def speeds(self) -> dict[str, tuple[int, int]]:
        """Turns of each gear a crank turn as numerator and denominator, the crank's way positive."""
        return core.speeds_of(self.given)

    def shares_shaft_with(self, name: str) -> str | None:
        """The first other gear on the same shaft."""
        shaft = {gear.name: gear.shaft for gear in self.given.gears}
        return next(
            (other for other, where in shaft.items() if other != name and where is not None and where == shaft[name]),
            None,
        )

    @property
    def ratio_ok(self) -> bool:
        return all(each.ratio_ok for each in self.found.values())

    def back_after(self, contact: Contact) -> int:
        """Crank turns after which the marks of one place meet again."""
        back = self.train.mark_back_after_turns
        turns = core.meet_again(back[contact.up], back[contact.down])
        if contact.links is not None:
            turns = core.meet_again(turns, back[f"chain {contact.name}"])
        return turns

    @property
    def all_back_after(self) -> int:
        """Crank turns after which every mark that is there meets its partner again."""
        turns = 1
        for contact in self.marked:
            turns = core.meet_again(turns, self.back_after(contact))
        return turns

    def shift_of(self, contact: Contact, teeth: int = 1) -> float:
        """Crank degrees by which the cam moves when a place is some teeth off; the first cam that it moves."""
        for each in self.found.values():
            shift = each.cam_shift_per_tooth_deg.get(contact.name, 0.0)
            if shift:
                return shift * teeth
        return 0.0

    @property
    def entry(self) -> HelicalEntry | None:
        """How far the helical gear turns sliding in."""
        return helical_entry(self.helix) if self.helix else None
