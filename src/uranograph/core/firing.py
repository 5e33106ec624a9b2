"""Firing orders: who rises with whom, and when each cylinder fires."""

import re
from collections.abc import Sequence

from uranograph.core.errors import InvalidInput

MAX_CYLINDERS = 28
# Firing orders in general use, by the number of cylinders; which one an engine has, its manual says.
USUAL_ORDERS = {
    2: ("1-2",),
    3: ("1-3-2", "1-2-3"),
    4: ("1-3-4-2", "1-2-4-3", "1-4-3-2"),
    5: ("1-2-4-5-3",),
    6: ("1-5-3-6-2-4", "1-4-2-6-3-5", "1-2-3-4-5-6", "1-6-5-4-3-2", "1-4-3-6-2-5"),
    8: ("1-8-4-3-6-5-7-2", "1-5-4-2-6-3-7-8", "1-3-7-2-6-5-4-8", "1-6-2-5-8-3-7-4"),
    12: ("1-12-5-8-3-10-6-7-2-11-4-9", "1-7-5-11-3-9-6-12-2-8-4-10"),
}
CYCLE_DEG = 720.0


# A number, or a number with its bank where each bank counts its own: 3, 3L.
Cylinder = int | str
TOGETHER_WITHIN_DEG = 0.5


def parse_firing_order(text: str, cylinders: int) -> tuple[Cylinder, ...]:
    """Read a firing order as typed and prove that it names every cylinder once.

    Parameters
    ----------
    text
        Cylinder numbers separated by anything, or run together where all are single digits; each with the letter of its
        bank where the banks count for themselves.
    cylinders
        How many there are.

    Returns
    -------
    tuple
        Cylinders in firing order.

    Raises
    ------
    InvalidInput
        When the order is no permutation of the cylinders; its values name those missing, repeated or unknown.

    Examples
    --------
    >>> parse_firing_order("1-3-4-2", 4), parse_firing_order("1342", 4)
    ((1, 3, 4, 2), (1, 3, 4, 2))
    >>> parse_firing_order("1R 2L 2R 1L", 4)
    ('1R', '2L', '2R', '1L')
    """
    if re.search(r"\d\s*[A-Za-z]", text):
        return _of_banks(text, cylinders)
    numbers = re.findall(r"\d+", text)
    if len(numbers) == 1 and len(numbers[0]) == cylinders <= 9:
        numbers = list(numbers[0])
    order = [int(number) for number in numbers]
    if not order:
        raise InvalidInput("firing_order", "no-firing-order")
    wanted = set(range(1, cylinders + 1))
    missing, unknown = sorted(wanted - set(order)), sorted(set(order) - wanted)
    repeated = sorted({n for n in order if order.count(n) > 1})
    if missing or repeated or unknown:
        raise InvalidInput(
            "firing_order",
            "firing-order-not-once-each",
            order=order,
            cylinders=cylinders,
            missing=missing,
            repeated=repeated,
            unknown=unknown,
        )
    return tuple(order)


def _of_banks(text: str, cylinders: int) -> tuple[Cylinder, ...]:
    order = [f"{number}{bank.upper()}" for number, bank in re.findall(r"(\d+)\s*([A-Za-z]?)", text)]
    repeated = sorted({name for name in order if order.count(name) > 1})
    if repeated:
        raise InvalidInput("firing_order", "cylinder-of-bank-twice", names=repeated)
    if len(order) != cylinders:
        raise InvalidInput("firing_order", "firing-order-count", count=len(order), cylinders=cylinders)
    return tuple(order)


def parse_firing_angles(text: str, cylinders: int) -> tuple[float, ...]:
    """Read the crank degrees at which an engine fires, or those from one firing to the next.

    Parameters
    ----------
    text
        Figures apart by anything: from 0, rising, below 720; or as many steps that make 720 together.
    cylinders
        How many there are.

    Returns
    -------
    tuple
        Crank degrees from the first of the firing order, one for each cylinder, (cylinders,).

    Raises
    ------
    InvalidInput
        When they are neither.

    Examples
    --------
    >>> parse_firing_angles("0 315", 2), parse_firing_angles("315 405", 2)
    ((0.0, 315.0), (0.0, 315.0))
    >>> parse_firing_angles("90, 150, 90, 150, 90, 150", 6)
    (0.0, 90.0, 240.0, 330.0, 480.0, 570.0)
    """
    figures = [float(each) for each in re.findall(r"\d+(?:\.\d+)?", text)]
    if len(figures) != cylinders:
        raise InvalidInput("firing_angles", "firing-angles-count", count=len(figures), cylinders=cylinders)
    if figures[0] != 0 and abs(sum(figures) - CYCLE_DEG) < TOGETHER_WITHIN_DEG:
        figures = [sum(figures[:n], 0.0) for n in range(cylinders)]
    if figures[0] != 0 or figures != sorted(figures) or figures[-1] >= CYCLE_DEG:
        raise InvalidInput("firing_angles", "firing-angles-not-rising", typed=text.strip())
    return tuple(figures)


def firing_angles(order: Sequence[Cylinder], angles: Sequence[float] = ()) -> dict[Cylinder, float]:
    """Crank degrees, from the first, at which each cylinder of a four-stroke fires; even unless the angles are given.

    Examples
    --------
    >>> firing_angles((1, 3, 4, 2)), firing_angles((1, 2), (0, 315))
    ({1: 0.0, 3: 180.0, 4: 360.0, 2: 540.0}, {1: 0, 2: 315})
    """
    even = [k * CYCLE_DEG / len(order) for k in range(len(order))]
    return dict(zip(order, angles or even, strict=True))


def companions(order: Sequence[Cylinder], angles: Sequence[float] = ()) -> dict[Cylinder, Cylinder]:
    """Pair the cylinders of a four-stroke that rise together: one fires a whole crank turn after the other.

    Parameters
    ----------
    order
        Cylinders in firing order.
    angles
        Crank degrees at which they fire, from the first, where they do not fire evenly.

    Returns
    -------
    dict
        Each cylinder's companion; those that rise alone are not in it.

    Examples
    --------
    >>> companions((1, 3, 4, 2)), companions((1, 2), (0, 315))
    ({1: 4, 3: 2, 4: 1, 2: 3}, {})

    References
    ----------
    docs/methods.md, "Companion cylinders".
    """
    fires = firing_angles(order, angles)
    return {
        one: other
        for one, at in fires.items()
        for other, then in fires.items()
        if abs(abs(at - then) - CYCLE_DEG / 2) < TOGETHER_WITHIN_DEG
    }


def top_after(order: Sequence[Cylinder], angles: Sequence[float], other: Cylinder, one: Cylinder) -> float:
    """Crank degrees from one cylinder's top to the next top of another, [0, 360).

    Examples
    --------
    >>> top_after((1, 3, 4, 2), (), 3, 1), top_after((1, 3, 4, 2), (), 4, 1), top_after((1, 2), (0, 315), 2, 1)
    (180.0, 0.0, 315)
    """
    fires = firing_angles(order, angles)
    return (fires[other] - fires[one]) % 360
