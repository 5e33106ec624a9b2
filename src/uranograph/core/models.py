"""What every calculation's input and output model share."""

from pydantic import BaseModel, ConfigDict


class Given(BaseModel):
    """An input: frozen, finite numbers only, no field it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Found(BaseModel):
    """An output: frozen, finite numbers only."""

    model_config = ConfigDict(frozen=True, allow_inf_nan=False)
