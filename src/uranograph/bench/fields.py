"""Typed fields: what a form asks, said once.

One line states a field's name in the log, its label, hint, default and bounds; parsing, the default, the HTML input and the
typed value follow from it. A form is a subclass of `Fields` whose class attributes are its fields, in order.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping
from copy import copy
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from typing import Any, ClassVar, Generic, Self, TypeVar, cast, overload

from uranograph.bench import faults
from uranograph.bench.forms import Filled, Form, FormReader, Group, Typed
from uranograph.bench.parsers import above_nothing, angle, celsius, count, expansion, length
from uranograph.core.quantities import MM_PER_INCH, LengthUnit

V = TypeVar("V")
E = TypeVar("E", bound=StrEnum)


@dataclass(frozen=True)
class ByUnit:
    """A default length, mm, for forms in mm and for forms in inches."""

    mm: float
    inch: float

    def in_unit(self, unit: LengthUnit) -> float:
        return self.inch if unit is LengthUnit.INCH else self.mm

    @property
    def words(self) -> str:
        """Both, as a hint shows them."""
        return f"{self.mm:g} mm, {self.inch / MM_PER_INCH:.4g} in"


# What a dial indicator of either kind is divided into.
DIAL_DIVISION = ByUnit(0.01, 0.0254)


class Field(Generic[V]):
    """One field of a form.

    Parameters
    ----------
    name
        Its name in the log and on the page.
    label, hint
        What stands beside it; a default is its own hint.
    default, default_from
        Its value where nothing is typed: a value, one for each unit, or that of another attribute.
    required
        The message beside it where nothing is typed.
    options
        What can be chosen, with words, where not everything can be typed.
    free
        Whether words are typed into it, rather than figures.
    lines
        How many lines it shows, where it holds a list.
    when
        The name of another field and the values of it for which this one is asked; it is not read otherwise.
    """

    def __init__(
        self,
        name: str,
        label: str,
        hint: str = "",
        *,
        default: V | ByUnit | None = None,
        default_from: str = "",
        required: str = "",
        options: tuple[tuple[str, str], ...] = (),
        free: bool = False,
        lines: int = 0,
        when: tuple[str, tuple[str, ...]] | None = None,
    ) -> None:
        self.name, self.label, self.required, self.when = name, label, required, when
        self.default, self.default_from = default, default_from
        self.options, self.free, self.lines = options, free, lines
        shown = default.words if isinstance(default, ByUnit) else "" if default is None else str(default)
        self.hint = hint or (f"{shown} unless typed" if shown and not options else "")

    @overload
    def __get__(self, form: None, owner: type) -> Self: ...
    @overload
    def __get__(self, form: "Fields", owner: type) -> V: ...
    def __get__(self, form: "Fields | None", owner: type) -> Self | V:
        return self if form is None else cast("V", form.values[self.name])

    def optional(self) -> "Field[V | None]":
        """The same field, None where nothing is typed."""
        return cast("Field[V | None]", self)

    def parse(self, text: str, unit: LengthUnit) -> V:
        """The value of what is typed.

        Raises
        ------
        InvalidInput
            When it cannot be.
        """
        raise NotImplementedError

    def prefixed(self, prefix: str, label: str = "") -> "Field[V]":
        """The same field as one of several alike, such as the cam's of a field that crank and cam have."""
        one = copy(self)
        one.name, one.label = f"{prefix}{self.name}", label or self.label
        one.when = self.when and (f"{prefix}{self.when[0]}", self.when[1])
        return one


class Length(Field[float]):
    """A length, mm; bare figures are in the form's unit.

    Examples
    --------
    >>> Length("rod", "Rod").parse("6.5", LengthUnit.INCH)
    165.1
    """

    def __init__(
        self,
        name: str,
        label: str,
        hint: str = "",
        *,
        above_zero: bool = False,
        least_mm: float | None = 0.0,
        most_mm: float = 5000.0,
        **more: Any,
    ) -> None:
        super().__init__(name, label, hint, **more)
        self.read = above_nothing if above_zero else lambda unit: length(unit, least_mm, most_mm)

    def parse(self, text: str, unit: LengthUnit) -> float:
        return self.read(unit)(text)


class Angle(Field[float]):
    """An angle within bounds, degrees."""

    def __init__(self, name: str, label: str, hint: str = "", *, least: float, most: float, **more: Any) -> None:
        super().__init__(name, label, hint, **more)
        self.read = angle(least, most)

    def parse(self, text: str, unit: LengthUnit) -> float:
        return self.read(text)


class Count(Field[int]):
    """A whole number within bounds; `counted` begins the refusal, such as `teeth cannot be`."""

    def __init__(
        self, name: str, label: str, hint: str = "", *, least: int, most: int, counted: str, **more: Any
    ) -> None:
        super().__init__(name, label, hint, **more)
        self.read = count(least, most, counted)

    def parse(self, text: str, unit: LengthUnit) -> int:
        return self.read(text)


class SignedCount(Count):
    """A whole number within bounds, with a sign."""

    def parse(self, text: str, unit: LengthUnit) -> int:
        sign = -1 if text.startswith(("-", "−")) else 1
        return sign * self.read(text.lstrip("+-−"))


class Temperature(Field[float]):
    """A temperature, degrees Celsius; typed in Celsius or with F."""

    def parse(self, text: str, unit: LengthUnit) -> float:
        return celsius(text)


class MaterialField(Field[float]):
    """A material by its name, or its growth in millionths per degree: its expansion, 1/K."""

    def __init__(self, name: str, label: str, hint: str = "", **more: Any) -> None:
        super().__init__(name, label, hint, **{"free": True, **more})

    def parse(self, text: str, unit: LengthUnit) -> float:
        return expansion(text)


class Text(Field[str]):
    """Words, cut to a greatest length; empty where nothing is typed."""

    def __init__(self, name: str, label: str, hint: str = "", *, longest: int = 64, **more: Any) -> None:
        super().__init__(name, label, hint, **{"free": True, **more})
        self.longest, self.default = longest, ""

    def parse(self, text: str, unit: LengthUnit) -> str:
        return text[: self.longest]


class Choice(Field[str]):
    """One of several options by its stored name; the first where nothing is typed.

    Parameters
    ----------
    options
        Stored names with their words; an empty name is the choice that is made by leaving it.
    unknown
        The message beside it where what is stored is none of them.
    """

    def __init__(
        self, name: str, label: str, options: Iterable[tuple[str, str]], hint: str = "", *, unknown: str, **more: Any
    ) -> None:
        offered = tuple(options)
        super().__init__(name, label, hint, options=offered, **more)
        self.unknown = unknown
        if self.default is None and not self.required:
            self.default = offered[0][0]


class EnumChoice(Field[E]):
    """One of an enumeration's values.

    Parameters
    ----------
    of
        The enumeration.
    options
        Its values with their words; the values themselves unless given.
    unknown
        The message beside it where something else is stored.
    mandatory
        Whether that is said where nothing is chosen, too.
    """

    def __init__(
        self,
        name: str,
        label: str,
        of: type[E],
        options: Iterable[tuple[str, str]] = (),
        hint: str = "",
        *,
        unknown: str,
        mandatory: bool = False,
        **more: Any,
    ) -> None:
        offered = tuple(options) or tuple((each.value, each.value) for each in of)
        super().__init__(name, label, hint, options=offered, **more)
        self.of, self.unknown, self.mandatory = of, unknown, mandatory


class Custom(Field[V]):
    """A field with a reader of its own."""

    def __init__(self, name: str, label: str, hint: str = "", *, reads: Callable[[str], V], **more: Any) -> None:
        super().__init__(name, label, hint, **more)
        self.reads = reads

    def parse(self, text: str, unit: LengthUnit) -> V:
        return self.reads(text)


@dataclass(frozen=True)
class Fold:
    """Where a group of fields that can be folded away begins.

    `after` names the field that fills the row before it, where the group is one of several rows that are alike.
    """

    title: str
    after: str = ""


class Fields:
    """A form as typed fields; an instance has a typed value by each attribute.

    Attributes
    ----------
    layout
        Its fields and folds, in order.
    values
        Typed values by field name, without the prefix of a row.
    unit
        What bare lengths were taken in.
    texts
        What was typed, by field name.

    Examples
    --------
    >>> class Turn(Fields):
    ...     places = Count("places", "Places a turn", least=3, most=72, counted="places cannot be", default=8)
    ...     where = Text("where", "The dial stands on")
    >>> Turn.read({"places": "12"}, LengthUnit.MM).value.places, Turn.read({}, LengthUnit.MM).value.places
    (12, 8)
    >>> Turn.read({"places": "1"}, LengthUnit.MM).errors
    {'places': '“1” places cannot be: a whole number from 3 to 72.'}
    """

    layout: ClassVar[tuple[Field[Any] | Fold, ...]] = ()

    def __init_subclass__(cls) -> None:
        own = tuple(each for each in vars(cls).values() if isinstance(each, Field | Fold))
        cls.layout = (*cls.layout, *own)

    def __init__(self, values: Mapping[str, Any], unit: LengthUnit, texts: Mapping[str, str]) -> None:
        self.values, self.unit, self.texts = values, unit, texts

    def __eq__(self, other: object) -> bool:
        return type(self) is type(other) and isinstance(other, Fields) and self.values == other.values

    def __hash__(self) -> int:
        return hash((type(self), *self.values))

    @classmethod
    def fields(cls) -> Iterator[Field[Any]]:
        """Every field, in order."""
        return (each for each in cls.layout if isinstance(each, Field))

    @classmethod
    def groups(cls, prefix: str = "", title: str = "") -> tuple[Group, ...]:
        """The fields as the page shows them, each fold a group; those before the first fold under a title of their own."""
        found: list[tuple[Fold, list[Any]]] = [(Fold(title), [])]
        for each in cls.layout:
            if isinstance(each, Fold):
                found.append((each, []))
            else:
                found[-1][1].append(each.prefixed(prefix) if prefix else each)
        return tuple(Group(tuple(own), fold.title, fold.after) for fold, own in found if own)

    @classmethod
    def names(cls, prefix: str = "") -> tuple[str, ...]:
        """The names of every field."""
        return tuple(f"{prefix}{field.name}" for field in cls.fields())

    @classmethod
    def read(cls, typed: Typed, unit: LengthUnit = LengthUnit.MM, prefix: str = "") -> Filled[Self]:
        """The form's value, or what is wrong beside each field.

        Parameters
        ----------
        typed
            Text by field name, and under `unit` what bare lengths are in.
        unit
            What they are in where the form does not say.
        prefix
            What stands before each field's name.
        """
        found: Filled[Self] = _read_once(cls, tuple(sorted(typed.items())), unit, prefix)  # type: ignore[arg-type]
        return found

    @classmethod
    def partial(cls, typed: Typed, unit: LengthUnit, prefix: str = "") -> tuple[Self, dict[str, str]]:
        """What could be read, None for the rest, and what is wrong beside each field."""
        reader = FormReader(typed)
        unit = reader.unit(unit)
        values: dict[str, Any] = {}
        for field in cls.fields():
            if field.when is None or values[field.when[0]] in field.when[1]:
                values[field.name] = _value_of(field, reader, unit, prefix)
            else:
                values[field.name] = None
        for field in cls.fields():
            if values[field.name] is None and field.default_from and not reader.text(f"{prefix}{field.name}"):
                source = getattr(cls, field.default_from)
                values[field.name] = values[source.name]
        texts = {field.name: reader.text(f"{prefix}{field.name}") for field in cls.fields()}
        form = cls(values, unit, texts)
        for name, message in form.check():
            reader.errors.setdefault(f"{prefix}{name}", message)
        return form, reader.errors

    @classmethod
    def blank(cls, unit: LengthUnit) -> Self:
        """The form with nothing typed: every field at its default.

        Raises
        ------
        ValueError
            When a field is required.
        """
        value = cls.read({}, unit).value
        if value is None:
            raise ValueError(f"{cls.__name__} has required fields")
        return value

    @classmethod
    def form(cls, kind: str, title: str, **more: Any) -> Form[Self]:
        """The form of a job that is read by these fields; see `Form` for what more can be said of it."""
        if "names" in more:
            return Form(kind, title, lambda typed, job: cls.read(typed, job.unit), inputs=tuple(cls.fields()), **more)
        return Form(kind, title, lambda typed, job: cls.read(typed, job.unit), groups=cls.groups(), **more)

    def check(self) -> Iterable[tuple[str, str]]:
        """Cross-field validation: the field to show the error at, and the message.

        Fields that could not be read are None here, whatever their type says.
        """
        return ()


@lru_cache(maxsize=512)
def _read_once(cls: type[Fields], text: tuple[tuple[str, str], ...], unit: LengthUnit, prefix: str) -> Filled[Any]:
    """A job's forms are read again after every reading: the same text gives the same value."""
    try:
        form, errors = cls.partial(dict(text), unit, prefix)
    except Exception as error:
        # One form that cannot be read must not take every page of its job down.
        fault = faults.note(error, f"form {cls.__module__}.{cls.__name__}")
        first = text[0][0] if text else "unit"
        return Filled(None, {first: f"This form could not be read (fault {fault}): look at its figures again."})
    return Filled(None if errors else form, errors)


def _value_of(field: Field[V], reader: FormReader, unit: LengthUnit, prefix: str) -> V | None:
    name = f"{prefix}{field.name}"
    if isinstance(field, Choice):
        text = reader.text(name) or cast("str", field.default or "")
        if text not in dict(field.options):
            reader.errors[name] = field.unknown
        return cast("V", text)
    if isinstance(field, EnumChoice):
        text = reader.text(name)
        if text in {each.value for each in field.of}:
            return cast("V", field.of(text))
        if text or field.mandatory:
            reader.errors[name] = field.unknown
        return cast("V | None", field.default)
    value = reader.take(name, lambda text: field.parse(text, unit), field.required or None)
    if value is not None or reader.text(name):
        return value
    return cast("V | None", field.default.in_unit(unit) if isinstance(field.default, ByUnit) else field.default)
