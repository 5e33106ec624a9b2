"""What a server of the browser tests is: `uranograph serve`, begun from a process that has it loaded."""

import os
import sys
from pathlib import Path

from uranograph import cli
from uranograph.web import app

__all__ = ("app", "serve")


def serve(database: Path, port: int) -> None:
    """Serve a shop until the process is killed."""
    with Path(os.devnull).open("w") as nowhere:
        sys.stdout = nowhere
        cli.serve(database=database, port=port, log_level="warning")
