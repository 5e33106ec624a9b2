"""Firing orders: who rises with whom, and when each cylinder fires."""

import re

from uranograph.core.errors import Impossible

MOST_CYLINDERS = 28


def parse_firing_order(text: str, cylinders: int) -> tuple[int, ...]:
    """Read a firing order as typed and prove that it names every cylinder once.

    Parameters
    ----------
    text
        Cylinder numbers separated by anything, or run together where all are single digits.
    cylinders
        How many there are.

    Returns
    -------
    tuple
        Cylinder numbers in firing order.

    Raises
    ------
    Impossible
        When the order is no permutation of the cylinders; its values name those missing, repeated or unknown.

    Examples
    --------
    >>> parse_firing_order("1-3-4-2", 4), parse_firing_order("1342", 4)
    ((1, 3, 4, 2), (1, 3, 4, 2))
    """
    numbers = re.findall(r"\d+", text)
    if len(numbers) == 1 and len(numbers[0]) == cylinders <= 9:
        numbers = list(numbers[0])
    order = [int(number) for number in numbers]
    if not order:
        raise Impossible("firing_order", "no-firing-order")
    wanted = set(range(1, cylinders + 1))
    missing, unknown = sorted(wanted - set(order)), sorted(set(order) - wanted)
    repeated = sorted({n for n in order if order.count(n) > 1})
    if missing or repeated or unknown:
        raise Impossible(
            "firing_order",
            "firing-order-not-once-each",
            order=order,
            cylinders=cylinders,
            missing=missing,
            repeated=repeated,
            unknown=unknown,
        )
    return tuple(order)


def companions(order: tuple[int, ...]) -> dict[int, int]:
    """Pair the cylinders that rise together in an even-fire four-stroke.

    Parameters
    ----------
    order
        Cylinder numbers in firing order.

    Returns
    -------
    dict
        Each cylinder's companion, half the order later; empty for an odd count, where none rise together.

    Examples
    --------
    >>> companions((1, 3, 4, 2))
    {1: 4, 3: 2, 4: 1, 2: 3}

    References
    ----------
    docs/methods.md, "Companion cylinders".
    """
    count = len(order)
    if count % 2:
        return {}
    return {cylinder: order[(k + count // 2) % count] for k, cylinder in enumerate(order)}


def firing_angles(order: tuple[int, ...]) -> dict[int, float]:
    """Crank degrees, from the first, at which each cylinder of an even-fire four-stroke fires.

    Examples
    --------
    >>> firing_angles((1, 3, 4, 2))
    {1: 0.0, 3: 180.0, 4: 360.0, 2: 540.0}
    """
    return {cylinder: k * 720 / len(order) for k, cylinder in enumerate(order)}
