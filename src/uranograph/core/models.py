"""Base models of calculations, and bounds of their numbers."""

from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, GetCoreSchemaHandler


@dataclass(frozen=True)
class Within:
    """Bounds that a field may draw closer: as plain constraints, those of the type would win over those of its field."""

    least: float
    most: float

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> Any:
        schema: Any = handler(source)
        if "gt" not in schema:
            schema.setdefault("ge", self.least)
        if "lt" not in schema:
            schema.setdefault("le", self.most)
        return schema


# Far beyond any engine, near enough that no sum, square or fit of them leaves the range of numbers.
Deg = Annotated[float, Within(-1e5, 1e5)]
Mm = Annotated[float, Within(-1e5, 1e5)]
MmPerDeg = Annotated[float, Within(-1e3, 1e3)]
Celsius = Annotated[float, Within(-273.15, 3000)]
Alpha = Annotated[float, Within(0, 1e-3)]
Pct = Annotated[float, Within(-100, 100)]
Number = Annotated[float, Within(-1e6, 1e6)]


class Input(BaseModel):
    """An input: frozen, finite and bounded numbers only, no field it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, defer_build=True)


class Found(BaseModel):
    """An output: frozen, finite numbers only."""

    model_config = ConfigDict(frozen=True, allow_inf_nan=False, defer_build=True)
