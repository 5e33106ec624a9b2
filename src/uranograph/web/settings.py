"""What can be set from outside, by environment variables that begin with URANOGRAPH_."""

from pathlib import Path

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict


class Settings(BaseSettings):
    """Where the shop's file is, where the pages are served, and by which names."""

    model_config = SettingsConfigDict(env_prefix="URANOGRAPH_")

    database: Path = Path("var/uranograph.db")
    host: str = "127.0.0.1"
    port: int = Field(8765, ge=0, le=65535)
    # Names by which this shop is reached besides its address, with commas between; any other name is refused.
    names: str = ""
