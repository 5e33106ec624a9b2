"""What an apprentice is told of a station: what it is for, what is needed, how it is done, what goes wrong, and why."""

from dataclasses import dataclass

STEPS = 5


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
    steps: tuple[str, str, str, str, str]
    wrong: tuple[tuple[str, str], ...]
    why: str
