"""What every calculation's input and output model share, and how large its numbers may be."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

# Far beyond any engine, near enough that no sum, square or fit of them leaves the range of numbers.
Deg = Annotated[float, Field(ge=-1e5, le=1e5)]
Mm = Annotated[float, Field(ge=-1e5, le=1e5)]
MmPerDeg = Annotated[float, Field(ge=-1e3, le=1e3)]
Celsius = Annotated[float, Field(ge=-273.15, le=3000)]
Alpha = Annotated[float, Field(ge=0, lt=1e-3)]
Pct = Annotated[float, Field(ge=-100, le=100)]
Number = Annotated[float, Field(ge=-1e6, le=1e6)]


class Given(BaseModel):
    """An input: frozen, finite and bounded numbers only, no field it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Found(BaseModel):
    """An output: frozen, finite numbers only."""

    model_config = ConfigDict(frozen=True, allow_inf_nan=False)
