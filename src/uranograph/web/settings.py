"""What can be set from outside, by environment variables that begin with URANOGRAPH_."""

from pathlib import Path

from pydantic_settings import BaseSettings, SettingsConfigDict


class Settings(BaseSettings):
    """Where the shop's file is and where the pages are served."""

    model_config = SettingsConfigDict(env_prefix="URANOGRAPH_")

    database: Path = Path("var/uranograph.db")
    host: str = "127.0.0.1"
    port: int = 8765
