"""Entries of a log as they are kept: in a row of the shop's file, in a job file, and as the bench reads them.

Each type of entry is a model with its own fields; what it says beyond where, when and by whom is its payload.
"""

from collections.abc import Callable, Mapping
from dataclasses import fields
from datetime import datetime
from typing import Annotated, Any, ClassVar, Literal

from pydantic import AwareDatetime, BaseModel, BeforeValidator, ConfigDict, Field, model_validator

from uranograph.bench.acts import ACTS, CAM_MOVED, DETAILS, Act, Move, checked_details
from uranograph.bench.log import (
    Acceptance,
    Annotation,
    Change,
    Entry,
    Note,
    Picture,
    Reading,
    Skip,
    TypedForm,
    Void,
    Written,
)
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Side
from uranograph.shop.lengths import MAX_LENGTH
from uranograph.stations import ORDER


def _as_time(value: Any) -> Any:
    """A time is text with a date in it; a bare number is none."""
    if isinstance(value, datetime) or (isinstance(value, str) and "-" in value[1:]):
        return value
    raise ValueError("a time is ISO 8601 with its zone, such as 2026-03-04T05:06:07Z")


When = Annotated[AwareDatetime, BeforeValidator(_as_time)]
Initials = Annotated[str, Field(min_length=1, max_length=MAX_LENGTH["by"])]
Seq = Annotated[int, Field(ge=1, le=1_000_000)]
Digest = Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
Station = Annotated[str, Field(max_length=MAX_LENGTH["station"])]
Words = Annotated[str, Field(max_length=MAX_LENGTH["text"])]
# Columns of every entry besides its payload.
OF_ALL = {"type", "seq", "station", "by", "at"}


class StoredModel(BaseModel):
    """Base of stored models; unknown fields are rejected."""

    model_config = ConfigDict(extra="forbid", populate_by_name=True, serialize_by_alias=True)


class StoredEntry(StoredModel):
    """Fields common to all entries."""

    type: str
    seq: Seq
    by: Initials
    at: When

    @property
    def payload(self) -> dict[str, Any]:
        """Payload of the entry, as stored in its row."""
        return self.model_dump(mode="json", exclude=OF_ALL, exclude_none=True)


class _AtStation(StoredEntry):
    station: Station

    @model_validator(mode="after")
    def _known_station(self) -> "_AtStation":
        if self.station not in ORDER.by_key:
            raise ValueError(f"there is no station {self.station}")
        return self


class StoredForm(StoredEntry):
    """One version of a form as typed."""

    type: Literal["sheet"] = "sheet"
    kind: Annotated[str, Field(max_length=MAX_LENGTH["kind"])]
    typed: dict[str, Annotated[str, Field(max_length=MAX_LENGTH["list"])]]

    station: ClassVar[str] = ""

    @model_validator(mode="after")
    def _known_kind(self) -> "StoredForm":
        if self.kind not in ORDER.forms:
            raise ValueError(f"there is no form of the kind {self.kind}")
        if unknown := sorted(self.typed.keys() - set(ORDER.forms[self.kind].fields)):
            raise ValueError(f"the form {self.kind} has no field {', '.join(unknown)}")
        return self


class StoredReading(StoredEntry):
    """One reading as typed."""

    type: Literal["reading"] = "reading"
    station: Station
    slot: Annotated[str, Field(max_length=MAX_LENGTH["slot"])]
    text: Words
    side: Side | None = None
    approach: Literal["forward", "backward"]
    second: Annotated[str | None, Field(max_length=MAX_LENGTH["second"], alias="drop")] = None
    unit: LengthUnit
    instrument: Annotated[str, Field(max_length=MAX_LENGTH["instrument"])]
    about: Annotated[str | None, Field(max_length=MAX_LENGTH["note"])] = None
    order: Annotated[list[Annotated[int, Field(ge=0, le=1000)]] | None, Field(max_length=1000)] = None
    points: Annotated[int | None, Field(ge=1, le=1_000_000)] = None
    raw: Annotated[str | None, Field(max_length=MAX_LENGTH["raw"])] = None
    uncertainty: Annotated[list[Annotated[float, Field(ge=0, le=1000)]] | None, Field(max_length=2)] = None

    @model_validator(mode="after")
    def _known_slot(self) -> "StoredReading":
        if not ORDER.has_slot(self.station, self.slot):
            raise ValueError(f"the station {self.station} has no reading {self.slot}")
        return self


class StoredMove(StoredModel):
    """One adjuster moved, by its name; its shift in crank degrees, advance positive."""

    name: Annotated[str, Field(max_length=80)] = ""
    adjuster: Annotated[int, Field(ge=0, le=9)] | None = None
    from_: Annotated[str, Field(max_length=80, alias="from")]
    to: Annotated[str, Field(max_length=80)]
    shift_deg: Annotated[float, Field(ge=-720, le=720)]


class StoredAct(StoredEntry):
    """Something done to engine or set-up; a cam moved to a position says which cam, what was moved, and how far."""

    type: Literal["act"] = "act"
    kind: str
    station: str = ""
    what: Words = ""
    scope: Annotated[str, Field(max_length=40)] | None = None
    cam: Annotated[str, Field(pattern="^(bank[12]-)?(both|intake|exhaust)$")] | None = None
    of: Annotated[str, Field(max_length=40)] | None = None
    gear: Annotated[str, Field(max_length=40)] | None = None
    teeth: Annotated[int, Field(ge=1, le=99)] | None = None
    way: Literal["earlier", "later"] | None = None
    moves: Annotated[list[StoredMove], Field(max_length=9)] | None = None
    shift_deg: Annotated[float, Field(ge=-720, le=720)] | None = None
    since: Seq | None = None
    brought_by: Seq | None = None

    @model_validator(mode="after")
    def _known(self) -> "StoredAct":
        if self.kind not in ACTS:
            raise ValueError(f"there is no act of the kind {self.kind}")
        own = {CAM_MOVED: ORDER.mover} if self.moves is not None else {}
        self.station = self.station or own.get(self.kind) or next(s.key for s in ORDER.stations if self.kind in s.acts)
        if self.station not in ORDER.by_key:
            raise ValueError(f"there is no station {self.station}")
        if self.moves is not None:
            if self.cam is None or self.kind != CAM_MOVED or self.scope:
                raise ValueError("a cam moved to a position has cam and moves, and no other act has moves")
            if self.shift_deg is None:
                self.shift_deg = sum(move.shift_deg for move in self.moves)
            return self
        try:
            checked_details(self.kind, {name: getattr(self, name) for name in DETAILS})
        except InvalidInput as error:
            raise ValueError(f"an act of the kind {self.kind} has no such {error.field}") from error
        return self


class StoredVoid(StoredEntry):
    """Why the entry with number `of` no longer counts."""

    type: Literal["void"] = "void"
    of: Seq
    reason: Annotated[str, Field(min_length=1, max_length=MAX_LENGTH["reason"])]

    station: ClassVar[str] = ""


class StoredNote(_AtStation):
    """A note in free words; of the reading with number `about`, where it is of one."""

    type: Literal["note"] = "note"
    words: Annotated[str, Field(max_length=MAX_LENGTH["note"])]
    about: Seq | None = None


class StoredSkip(_AtStation):
    """Why a station is passed over."""

    type: Literal["skip"] = "skip"
    reason: Annotated[str, Field(max_length=MAX_LENGTH["note"])]


class StoredAcceptance(_AtStation):
    """Why what is out or in doubt is accepted as it is, and what it was."""

    type: Literal["acceptance"] = "acceptance"
    was: Words
    reason: Annotated[str, Field(max_length=MAX_LENGTH["note"])] = ""


class StoredChange(_AtStation):
    """That something was changed, so that what the station read before is history."""

    type: Literal["change"] = "change"
    what: Words


class StoredPicture(_AtStation):
    """A picture, or a capture of what instruments said: its caption, and the SHA-256 of its bytes, which the database stores once."""

    type: Literal["picture"] = "picture"
    caption: Words
    media_type: Literal["image/png", "image/jpeg", "application/jsonl"]
    digest: Digest


StoredAny = (
    StoredForm
    | StoredReading
    | StoredAct
    | StoredVoid
    | StoredNote
    | StoredSkip
    | StoredAcceptance
    | StoredChange
    | StoredPicture
)
MODELS: dict[str, type[StoredAny]] = {
    model.model_fields["type"].default: model
    for model in (
        StoredForm,
        StoredReading,
        StoredAct,
        StoredVoid,
        StoredNote,
        StoredSkip,
        StoredAcceptance,
        StoredChange,
        StoredPicture,
    )
}


def payload_of(entry: Entry | Annotation) -> dict[str, Any]:
    """Payload of a reading or annotation, as stored in its row.

    Examples
    --------
    >>> payload_of(Skip(station="here", reason="no gears"))
    {'reason': 'no gears'}
    """
    if isinstance(entry, Annotation):
        own = {name: value for name, value in entry.payload.items() if value is not None}
        if isinstance(entry, Act) and entry.moves is not None:
            own["moves"] = [_move(move) for move in entry.moves]
        return own
    own = {each.name: getattr(entry, each.name) for each in fields(Entry) if each.name != "station"}
    own["drop"], own["order"] = own.pop("second"), list(entry.order) or None
    own["uncertainty"] = list(entry.uncertainty) or None
    return {name: value for name, value in own.items() if value is not None}


def _move(move: Move) -> dict[str, Any]:
    found = {"name": move.name, "from": move.from_, "to": move.to, "shift_deg": move.shift_deg}
    return found if move.adjuster is None else {**found, "adjuster": move.adjuster}


# What every entry has on the bench: its station, its number in the file, in the log, who, when, and why it counts no longer.
Common = dict[str, Any]


def _reading(own: Mapping[str, Any], of_all: Common) -> Reading:
    return Reading(
        of_all["station"],
        own["slot"],
        own["text"],
        own.get("side"),
        own.get("approach", "forward"),
        own.get("drop"),
        LengthUnit(own["unit"]),
        own.get("instrument", ""),
        own.get("about"),
        tuple(own.get("order") or ()),
        own.get("points"),
        own.get("raw"),
        tuple(own.get("uncertainty") or ()),
        of_all["id"],
        of_all["seq"],
        of_all["by"],
        of_all["at"],
        of_all["void"],
    )


def _act(own: Mapping[str, Any], of_all: Common) -> Act:
    moves = own.get("moves")
    if moves is None:
        return Act(**own, **of_all)
    moved = tuple(
        Move(move.get("name", ""), move["from"], move["to"], float(move["shift_deg"]), move.get("adjuster"))
        for move in moves
    )
    return Act(**{**own, "moves": moved}, **of_all)


_ON_BENCH: dict[str, Callable[[Mapping[str, Any], Common], Written]] = {
    "reading": _reading,
    "act": _act,
    "note": lambda own, of_all: Note(**own, **of_all),
    "skip": lambda own, of_all: Skip(**own, **of_all),
    "acceptance": lambda own, of_all: Acceptance(**own, **of_all),
    "change": lambda own, of_all: Change(**own, **of_all),
    "picture": lambda own, of_all: Picture(**own, **of_all),
}


def on_bench(
    kind: str,
    station: str,
    payload: Mapping[str, Any],
    number: int,
    seq: int,
    by: str,
    at: datetime,
    void: Void | None = None,
) -> Written:
    """An entry as the bench reads it.

    Parameters
    ----------
    kind, station, payload
        Of today's form, neither a form nor a void.
    number, seq
        Its number in the shop's file, and in its log.
    by, at
        Who wrote it, and when.
    void
        Why it no longer counts, where it does not.
    """
    of_all = {"station": station, "id": number, "seq": seq, "by": by, "at": at, "void": void}
    return _ON_BENCH[kind](payload, of_all)


def form_on_bench(payload: Mapping[str, Any], seq: int, by: str, at: datetime) -> TypedForm:
    """A version of a form as the bench reads it."""
    return TypedForm(payload["kind"], seq, payload["typed"], by, at)
