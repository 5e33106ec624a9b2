"""Lines as they came, with their times: recorded and played again. JSON Lines, one object a line: `{"t": 0.25, "raw": "..."}`."""

import json
from collections.abc import Iterable, Iterator

from uranograph.core.errors import InvalidInput
from uranograph.instruments.lines import MAX_LINE

MAX_LINES = 1_000_000


def written(points: Iterable[tuple[float, str]]) -> str:
    """A capture as text.

    Parameters
    ----------
    points
        Seconds on any clock, and the raw line.

    Examples
    --------
    >>> written([(5.0, "+1.2 mm"), (5.25, "+1.3 mm")]).splitlines()
    ['{"t": 0.0, "raw": "+1.2 mm"}', '{"t": 0.25, "raw": "+1.3 mm"}']
    """
    begun: float | None = None
    told = []
    for at, raw in points:
        begun = at if begun is None else begun
        told.append(written_line(at - begun, raw))
    return "".join(told)


def written_line(at_s: float, raw: str) -> str:
    """One line of a capture, with its end."""
    return json.dumps({"t": round(at_s, 4), "raw": raw}, ensure_ascii=False) + "\n"


def read(text: str) -> Iterator[tuple[float, str]]:
    """A capture as it was written.

    Raises
    ------
    InvalidInput
        When a line is none of a capture; its number is said.
    """
    for number, line in enumerate(text.splitlines()[:MAX_LINES], 1):
        if not line.strip():
            continue
        try:
            found = json.loads(line)
            at, raw = float(found["t"]), found["raw"]
        except (ValueError, KeyError, TypeError) as error:
            raise InvalidInput("capture", "no-capture-line", number=number) from error
        if not isinstance(raw, str) or len(raw) > 4 * MAX_LINE:
            raise InvalidInput("capture", "no-capture-line", number=number)
        yield at, raw
