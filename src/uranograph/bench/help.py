"""The booklet: of each station what it is for, what is needed, how it is done, what goes wrong, and why.

A station's page is the `help.md` in its folder: a purpose under the title, then the sections `In the hand`, `Steps`,
`What goes wrong` and `Why`.
"""

import re
from dataclasses import dataclass
from pathlib import Path

STEPS = 5
_LISTED = re.compile(r"(?m)^(?:-|\d\.) (.+)$")
_WRONG = re.compile(r"(?m)^- \*\*(.+?)\*\*: (.+)$")


@dataclass(frozen=True)
class Help:
    """A page of the booklet.

    Parameters
    ----------
    purpose
        What it is for, in one sentence.
    needed
        What is needed in the hand.
    steps
        How it is done, in five steps.
    wrong
        What goes wrong, each with how it is noticed or kept off.
    why
        Why it is done so.
    """

    purpose: str
    needed: tuple[str, ...]
    steps: tuple[str, ...]
    wrong: tuple[tuple[str, str], ...]
    why: str


def read_help(path: Path) -> Help:
    """Read a page of the booklet.

    Parameters
    ----------
    path
        The `help.md` of a station.

    Raises
    ------
    ValueError
        When a section is missing, or the steps are not five.
    """
    head, *rest = re.split(r"(?m)^## ", path.read_text(encoding="utf-8"))
    sections = {title.strip(): body.strip() for title, _, body in (each.partition("\n") for each in rest)}
    try:
        steps = tuple(_LISTED.findall(sections["Steps"]))
        found = Help(
            head.partition("\n")[2].strip(),
            tuple(_LISTED.findall(sections["In the hand"])),
            steps,
            tuple(_WRONG.findall(sections["What goes wrong"])),
            sections["Why"],
        )
    except KeyError as missing:
        raise ValueError(f"{path}: no section {missing}") from missing
    if len(steps) != STEPS:
        raise ValueError(f"{path}: {len(steps)} steps, not {STEPS}")
    return found
