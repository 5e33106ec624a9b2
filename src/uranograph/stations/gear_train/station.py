"""Mark: the gears and chains between crank and cam, described once an engine."""

from uranograph.bench.forms import Typed
from uranograph.engine.gear_train import MOST_GEARS


def choices(typed: Typed, but: int) -> list[tuple[str, str]]:
    """The rows that can be chosen as another gear, by number and name."""
    names = [(n, typed.get(f"g{n}_name", "")) for n in range(1, MOST_GEARS + 1)]
    return [(str(n), f"{n} {name}") for n, name in names if name and n != but]
