"""Phasing of a cam to the crank, and its judgment."""

from uranograph.core.models import Deg, Input
from uranograph.core.verdict import Verdict, judge

DEFAULT_TOLERANCE_DEG = 1.0


class Events(Input):
    """The four valve events of a cam, crank degrees, negative on the other side of their dead center."""

    io_btdc_deg: Deg
    ic_abdc_deg: Deg
    eo_bbdc_deg: Deg
    ec_atdc_deg: Deg

    @property
    def intake_centerline_deg(self) -> float:
        """Deg ATDC."""
        return (180 + self.ic_abdc_deg - self.io_btdc_deg) / 2

    @property
    def exhaust_centerline_deg(self) -> float:
        """Deg BTDC."""
        return (180 + self.eo_bbdc_deg - self.ec_atdc_deg) / 2

    @property
    def overlap_deg(self) -> float:
        return self.io_btdc_deg + self.ec_atdc_deg


def move(events: Events, intake_advance_deg: float, exhaust_advance_deg: float | None = None) -> Events:
    """Advance a cam and say where its events come to lie.

    Parameters
    ----------
    events
        The four events, crank degrees.
    intake_advance_deg
        Crank degrees; negative retards.
    exhaust_advance_deg
        For an exhaust cam of its own; otherwise both lobes move together.

    Returns
    -------
    Events
        Each lobe's opening earlier and closing earlier by its advance. Durations do not move.

    Examples
    --------
    >>> move(Events(io_btdc_deg=6, ic_abdc_deg=40, eo_bbdc_deg=52, ec_atdc_deg=2), 4)
    Events(io_btdc_deg=10.0, ic_abdc_deg=36.0, eo_bbdc_deg=56.0, ec_atdc_deg=-2.0)

    References
    ----------
    docs/methods.md, "Moving the cam".
    """
    exhaust = intake_advance_deg if exhaust_advance_deg is None else exhaust_advance_deg
    return Events(
        io_btdc_deg=events.io_btdc_deg + intake_advance_deg,
        ic_abdc_deg=events.ic_abdc_deg - intake_advance_deg,
        eo_bbdc_deg=events.eo_bbdc_deg + exhaust,
        ec_atdc_deg=events.ec_atdc_deg - exhaust,
    )


def judge_phase(error_deg: float, uncertainty_deg: float, tolerance_deg: float) -> Verdict:
    """Judge an error against a tolerance either way, guarded by its uncertainty.

    Parameters
    ----------
    error_deg, uncertainty_deg, tolerance_deg
        Crank degrees.

    Returns
    -------
    Verdict
        `in` or `out` only where the whole of error plus or minus uncertainty lies on that side of the tolerance.

    Examples
    --------
    >>> [judge_phase(e, 0.4, 1.0).value for e in (0.5, 0.8, -1.5)]
    ['in', 'unsure', 'out']
    """
    return judge(error_deg, uncertainty_deg, -tolerance_deg, tolerance_deg)
