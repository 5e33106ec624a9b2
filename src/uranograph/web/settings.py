"""Settings from options, URANOGRAPH_ environment variables or a TOML file."""

import os
import tomllib
from enum import StrEnum
from pathlib import Path
from typing import Any

from pydantic import Field
from pydantic_settings import BaseSettings, PydanticBaseSettingsSource, SettingsConfigDict

PREFIX = "URANOGRAPH_"
FILE_VARIABLE, USUAL_FILE = f"{PREFIX}CONFIG", Path("uranograph.toml")


class NotSettings(Exception):
    """A file of settings that cannot be read; said in one sentence."""


class LogLevel(StrEnum):
    """How much is written to the log."""

    DEBUG = "debug"
    INFO = "info"
    WARNING = "warning"
    ERROR = "error"


class Settings(BaseSettings):
    """Where the shop's file is, where the pages are served, by which names, and what is logged."""

    model_config = SettingsConfigDict(env_prefix=PREFIX, extra="forbid")

    database: Path = Field(
        Path("var/uranograph.db"), description="the shop's file; its folder is made where it is missing"
    )
    host: str = Field("127.0.0.1", description="the address to listen at")
    port: int = Field(8765, ge=0, le=65535, description="the port to listen at; 0 takes a free one")
    # Comma-separated host names of this server besides its address; others are refused.
    names: str = Field("", description="names by which the shop is reached besides its address, with commas between")
    prefix: str = Field(
        "",
        pattern="^(/[A-Za-z0-9._~-]+)*$",
        description="the path of a larger site that the pages are under, as /bench",
    )
    trust_network: bool = Field(
        False, description="whether everybody who reaches an address that is not this machine's own may write and sign"
    )
    log_level: LogLevel = Field(LogLevel.WARNING, description="how much is logged: debug, info, warning, error")

    @classmethod
    def settings_customise_sources(
        cls,
        settings_cls: type[BaseSettings],
        init_settings: PydanticBaseSettingsSource,
        env_settings: PydanticBaseSettingsSource,
        dotenv_settings: PydanticBaseSettingsSource,
        file_secret_settings: PydanticBaseSettingsSource,
    ) -> tuple[PydanticBaseSettingsSource, ...]:
        return init_settings, env_settings, _FromFile(settings_cls)


class _FromFile(PydanticBaseSettingsSource):
    """Settings of a TOML file, after those of the environment."""

    def get_field_value(self, field: Any, field_name: str) -> tuple[Any, str, bool]:
        return self().get(field_name), field_name, False

    def __call__(self) -> dict[str, Any]:
        return from_file()


def file_named() -> Path | None:
    """The file of settings: the one that URANOGRAPH_CONFIG names, else uranograph.toml here, where there is one."""
    named = os.environ.get(FILE_VARIABLE)
    if named:
        return Path(named)
    return USUAL_FILE if USUAL_FILE.is_file() else None


def from_file() -> dict[str, Any]:
    """Read the settings file.

    Raises
    ------
    NotSettings
        When it is not there, is no TOML, or sets something that there is not.
    """
    path = file_named()
    if path is None:
        return {}
    try:
        found = tomllib.loads(path.read_text(encoding="utf-8"))
    except (OSError, UnicodeDecodeError) as error:
        raise NotSettings(
            f"The settings {path} cannot be read: {getattr(error, 'strerror', None) or error}."
        ) from error
    except tomllib.TOMLDecodeError as error:
        raise NotSettings(f"The settings {path} are not TOML: {error}.") from error
    unknown = sorted(found.keys() - Settings.model_fields.keys())
    if unknown:
        known = ", ".join(Settings.model_fields)
        raise NotSettings(f"The settings {path} set “{unknown[0]}”, which there is not. There are: {known}.")
    return found


def origins(settings: Settings, options: dict[str, Any]) -> dict[str, str]:
    """Where each setting comes from, in words.

    Parameters
    ----------
    settings
        As they hold.
    options
        What was given on the command line.

    Returns
    -------
    dict
        By name: `option`, the variable, the file, or `default`.
    """
    path, of_file = file_named(), from_file()
    set_here = {name.upper() for name in os.environ}
    found = {}
    for name in type(settings).model_fields:
        variable = f"{PREFIX}{name.upper()}"
        if name in options:
            found[name] = "option"
        elif variable in set_here:
            found[name] = variable
        else:
            found[name] = str(path) if name in of_file else "default"
    return found
