"""Forms filled in by hand: typed text in, a value or the words beside the field out."""

from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, field
from functools import lru_cache, update_wrapper
from typing import TYPE_CHECKING, Generic, Protocol, TypeVar, TypeVarTuple

from uranograph.bench import faults
from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit

if TYPE_CHECKING:
    from uranograph.bench.job import Job

T = TypeVar("T")
V = TypeVar("V")
Ts = TypeVarTuple("Ts")
Typed = Mapping[str, str]


@dataclass(frozen=True)
class Filled(Generic[T]):
    """Parsed form: its value if valid, and errors by field."""

    value: T | None
    errors: dict[str, str] = field(default_factory=dict)


def remembered(read: Callable[[Typed, *Ts], Filled[T]]) -> Callable[[Typed, *Ts], Filled[T]]:
    """Let a reader of forms answer the same text with the same value: a job is read again after every reading."""

    @lru_cache(maxsize=256)
    def of_text(text: tuple[tuple[str, str], ...], others: tuple[*Ts]) -> Filled[T]:
        try:
            return read(dict(text), *others)
        except Exception as error:
            # One form that cannot be read must not take every page of its job down.
            fault = faults.note(error, f"form {read.__module__}")
            first = text[0][0] if text else "unit"
            return Filled(None, {first: f"This form could not be read (fault {fault}): look at its figures again."})

    def of_typed(typed: Typed, /, *others: *Ts) -> Filled[T]:
        return of_text(tuple(sorted(typed.items())), others)

    return update_wrapper(of_typed, read)


class FormReader:
    """Takes fields off one typed form and collects what is wrong with them."""

    def __init__(self, typed: Typed) -> None:
        self.typed = typed
        self.errors: dict[str, str] = {}

    def text(self, name: str) -> str:
        return self.typed.get(name, "").strip()

    def take(self, name: str, parse: Callable[[str], V], missing: str | None = None) -> V | None:
        """Parse one field; an empty one is None, and wrong only where `missing` says what to type."""
        text = self.text(name)
        if not text:
            if missing is not None:
                self.errors[name] = missing
            return None
        try:
            return parse(text)
        except InvalidInput as error:
            self.errors[name] = refusal(error, self.unit(LengthUnit.MM))
        return None

    def unit(self, usual: LengthUnit) -> LengthUnit:
        """The form's own unit of bare lengths, or the usual one."""
        text = self.text("unit")
        return LengthUnit(text) if text in tuple(LengthUnit) else usual

    def choose(self, name: str, options: type[V], missing: str) -> V | None:
        """Take one of an enumeration's values."""
        try:
            return options(self.text(name))  # type: ignore[call-arg]
        except ValueError:
            self.errors[name] = missing
        return None


class Input(Protocol):
    """One field of a form as a page shows it; see `bench.fields.Field`."""

    name: str
    label: str
    hint: str
    options: tuple[tuple[str, str], ...]
    free: bool
    lines: int
    when: tuple[str, tuple[str, ...]] | None


@dataclass(frozen=True)
class Group:
    """Fields that belong together; a group with a title can be folded away.

    One of several rows that are alike names the field which fills the row before it, and is shown once that is filled.
    """

    asks: tuple[Input, ...]
    title: str = ""
    after: str = ""


@dataclass(frozen=True, eq=False)
class Form(Generic[T]):
    """A form of a job: what it is called, what it asks, and how what is typed is read.

    Parameters
    ----------
    kind, title
        The name it is written under, and what it is called.
    read
        From what is typed and the job to a value, or to what is wrong beside each field.
    instruction
        What to do, in the imperative.
    groups
        What it asks, field by field, where the form that all share does.
    names, inputs
        The fields' names where it has a template of its own instead, and what they show there, where typed fields state it.
    needed
        Where it belongs to a station with readings: none is taken before it is filled in, once the job is `ready` for it.
    shelved
        Whether it is kept in the library for other jobs.
    of_make
        Whether it holds for every engine of this make, so that a new job may begin with it.
    blank
        What stands in it before anything is typed, beside the unit.
    suggests
        What stands in it before anything is typed, from what is known of the job.
    bears
        What may be wrong with a value that is kept all the same.
    for_house
        The field that can also become the shop's default for new jobs.
    offer
        What leads to it, where it belongs to a station with readings.
    standard
        Whether it is what results are judged against: an earlier position of the cam keeps the version it was judged by.
    leads_to
        The page of the job that follows once it is kept, where that is not its station.
    none_counts
        Whether none written is a statement of its own: an earlier position is then not judged by a later one.
    """

    kind: str
    title: str
    read: Callable[[Typed, "Job"], Filled[T]]
    instruction: str = ""
    groups: tuple[Group, ...] = ()
    names: tuple[str, ...] = ()
    inputs: tuple[Input, ...] = ()
    needed: bool = True
    ready: Callable[["Job"], bool] = lambda job: True
    shelved: bool = False
    of_make: bool = False
    blank: Mapping[str, str] = field(default_factory=dict)
    suggests: Callable[["Job"], Mapping[str, str]] = lambda job: {}
    bears: Callable[[T], Collection[str]] = lambda value: ()
    for_house: str = ""
    standard: bool = False
    none_counts: bool = False
    leads_to: str = ""
    offer: str = "Change the set-up"

    @property
    def by_name(self) -> dict[str, Input]:
        """Displayed value of each field, for custom templates."""
        return {each.name: each for each in self.inputs}

    @property
    def lists(self) -> frozenset[str]:
        """Names of fields that hold a list, a line for each."""
        return frozenset(ask.name for group in self.groups for ask in group.asks if ask.lines)

    @property
    def fields(self) -> tuple[str, ...]:
        """Every field's name, with the unit of bare lengths."""
        return self.names or (*(ask.name for group in self.groups for ask in group.asks), "unit")
