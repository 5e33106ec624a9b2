"""Sheets filled in by hand: typed text in, a value or the words beside the field out."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import lru_cache, update_wrapper
from typing import Generic, TypeVar, TypeVarTuple

from uranograph.bench import faults
from uranograph.core.errors import Impossible
from uranograph.core.quantities import LengthUnit

T = TypeVar("T")
V = TypeVar("V")
Ts = TypeVarTuple("Ts")
Typed = Mapping[str, str]


@dataclass(frozen=True)
class Sheet(Generic[T]):
    """What a filled-in sheet says: its value where it can be read, and what is wrong beside each field."""

    value: T | None
    errors: dict[str, str] = field(default_factory=dict)


def remembered(read: Callable[[Typed, *Ts], Sheet[T]]) -> Callable[[Typed, *Ts], Sheet[T]]:
    """Let a reader of sheets answer the same text with the same sheet: a job is read again after every reading."""

    @lru_cache(maxsize=256)
    def of_text(text: tuple[tuple[str, str], ...], others: tuple[*Ts]) -> Sheet[T]:
        try:
            return read(dict(text), *others)
        except Exception as error:
            # One sheet that cannot be read must not take every page of its job down.
            fault = faults.note(error, f"sheet {read.__module__}")
            first = text[0][0] if text else "unit"
            return Sheet(None, {first: f"This sheet could not be read (fault {fault}): look at its figures again."})

    def of_typed(typed: Typed, /, *others: *Ts) -> Sheet[T]:
        return of_text(tuple(sorted(typed.items())), others)

    return update_wrapper(of_typed, read)


class SheetReader:
    """Takes fields off one typed sheet and collects what is wrong with them."""

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
        except Impossible as error:
            self.errors[name] = error.told(self.typed.get("unit", "mm"))
        return None

    def unit(self, usual: LengthUnit) -> LengthUnit:
        """The sheet's own unit of bare lengths, or the usual one."""
        text = self.text("unit")
        return LengthUnit(text) if text in tuple(LengthUnit) else usual

    def choose(self, name: str, options: type[V], missing: str) -> V | None:
        """Take one of an enumeration's values."""
        try:
            return options(self.text(name))  # type: ignore[call-arg]
        except ValueError:
            self.errors[name] = missing
        return None
