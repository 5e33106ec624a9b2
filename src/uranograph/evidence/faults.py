"""Faults of the set-up as changes of the model, weighed by likelihood against nothing being wrong."""

from collections import defaultdict
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

from uranograph.evidence.covariance import Expected, Seen
from uranograph.evidence.hypotheses import NOTHING, SIZE_SHARES, SIZES, hypotheses
from uranograph.evidence.model import LOBES, Model, Phase, toward_phase
from uranograph.evidence.shifted_readings import Hypothesis, Setup

if TYPE_CHECKING:
    from uranograph.evidence.model import Array

# A part of less weight than this counts for nothing; parts as near as this, crank degrees and as a factor, are one.
MIN_WEIGHT, BIN_DEG, BIN_LOG = 1e-7, 0.02, 0.05
# What is asked about, and what holds every verdict until it is settled.
MIN_SHARE, HOLDS_SHARE, MAX_ASKED = 0.02, 0.3, 6


@dataclass(frozen=True)
class Suspect:
    """A fault with its posterior probability, and the reading it concerns, if any."""

    code: str
    share: float
    seq: int | None = None


class Weighing:
    """All faults weighed against the readings at once, each at every size and under every condition.

    Parameters
    ----------
    readings
        Every reading that holds, in the order they were taken.
    expected, setup
        What card and set-up make one expect, and what else is known.
    coming
        Readings that could be taken next: each hypothesis is worked out for them too, after those of `readings`.

    References
    ----------
    Rank-one updates of C (Sherman and Morrison, the determinant lemma); docs/methods.md, "All readings together".
    """

    def __init__(
        self, readings: tuple[Seen, ...], expected: Expected, setup: Setup, coming: tuple[Seen, ...] = ()
    ) -> None:
        import numpy as np

        self.readings, self.expected, self.setup, self.coming = readings, expected, setup, coming
        self.model = Model(readings, expected, coming)
        by_shape: dict[tuple[bool, bool], list[tuple[Hypothesis, float]]] = defaultdict(list)
        for each, share in hypotheses(readings, expected, setup, coming):
            by_shape[each.sized, each.along.ndim > 1].append((each, share))
        self.blocks = [Block(self.model, *zip(*own, strict=True)) for own in by_shape.values()]
        most = max(float(block.terms.max()) for block in self.blocks)
        weights = [np.exp(block.terms - most) for block in self.blocks]
        whole = sum(float(each.sum()) for each in weights)
        for block, own in zip(self.blocks, weights, strict=True):
            block.weights = own / whole

    @cached_property
    def found(self) -> tuple[Suspect, ...]:
        """Every fault with its share, the likeliest first; nothing wrong has the rest."""
        by_code: dict[str, list[tuple[float, int | None]]] = defaultdict(list)
        for block in self.blocks:
            for each, weight in zip(block.hypotheses, block.weights.sum(axis=(0, 2)), strict=True):
                by_code[each.code].append((float(weight), each.seq))
        found = [
            Suspect(code, sum(weight for weight, _ in own), max(own, key=lambda each: each[0])[1])
            for code, own in by_code.items()
        ]
        return tuple(sorted(found, key=lambda each: -each.share))

    def phase(self, cam: str = "both", lobes: tuple[str, ...] = ()) -> Phase:
        """Where a cam stands, summed over all that may be wrong.

        Parameters
        ----------
        cam, lobes
            As for `model.phase`.

        Returns
        -------
        Phase
            A part for each hypothesis, size and condition that is likely at all.
        """
        import numpy as np

        toward, wide = toward_phase(self.readings, self.expected, cam, lobes)
        own = [LOBES.index(lobe) for lobe in lobes or ((cam,) if cam != "both" else LOBES)]
        parts = np.concatenate([block.phases(toward, wide, own) for block in self.blocks])
        return Phase(_binned(parts))

    def plain_phase(self, cam: str = "both", lobes: tuple[str, ...] = ()) -> Phase:
        """Phase of a cam if no fault is present."""
        return self.model.phase(cam, lobes)

    def of_nothing(self) -> "Array":
        """The share of each condition where nothing else is wrong, (g,)."""
        import numpy as np

        nothing = [
            block.weights[:, n].sum(axis=1)
            for block in self.blocks
            for n, each in enumerate(block.hypotheses)
            if each.code == NOTHING
        ]
        return np.asarray(sum(nothing))

    @property
    def likeliest_fault(self) -> float:
        """The share of the likeliest fault."""
        return max((each.share for each in self.found if each.code != NOTHING), default=0.0)

    def uneven(self, lobe: str) -> float:
        """The chance that nothing is wrong but that a lobe is ground uneven."""
        pairs = zip(self.of_nothing(), self.model.ways, strict=True)
        return float(sum(weight for weight, way in pairs if lobe in way.uneven))

    def of_peak(self) -> float:
        """The chance that the card's middles are those of the peaks."""
        by_way = sum(block.weights.sum(axis=(1, 2)) for block in self.blocks)
        return float(sum(weight for weight, way in zip(by_way, self.model.ways, strict=True) if way.of_peak))


class Block:
    """Hypotheses of one shape, worked out together.

    Parameters
    ----------
    model
        The readings under every condition.
    hypotheses
        All of them sized or none, all with as many directions.
    shares
        The chance of each before any reading.

    Attributes
    ----------
    terms
        (g, h, s): log of prior times likelihood of each hypothesis h under condition g at size s.
    weights
        The same as shares of the whole weighing, once that has them.
    """

    def __init__(self, model: Model, hypotheses: tuple[Hypothesis, ...], shares: tuple[float, ...]) -> None:
        import numpy as np

        self.model, self.hypotheses = model, hypotheses
        n, inverse = len(model.readings), model.inverse
        self.adds = np.array([each.adds for each in hypotheses]).T
        several = hypotheses[0].along.ndim > 1
        self.along = np.array([each.along if several else each.along[:, None] for each in hypotheses]).transpose(
            1, 0, 2
        )
        sizes, chances = (SIZES, SIZE_SHARES) if hypotheses[0].sized else ((1.0,), (1.0,))
        sign = np.array([each.sign for each in hypotheses], dtype=float)
        self.y = model.y[:, None] - self.adds[:n]
        self.solved = inverse @ self.y
        own = self.along[:n]
        self.reach = (inverse @ own.reshape(n, -1)).reshape(len(inverse), *own.shape)
        self.turn = None
        # (g, h, s, k): by how much each direction at each size widens C.
        scaled = (sign[:, None] * np.array(sizes) ** 2)[None, :, :, None]
        if several:
            # Several at once, all of their one size: turned until C is widened along each by itself.
            wider = np.eye(own.shape[2]) + np.einsum("ihk,gihl->ghkl", own, self.reach)
            root = np.linalg.cholesky(wider)
            self.turn = np.linalg.inv(root).swapaxes(2, 3)
            more = np.einsum("ghkk->ghk", root)[:, :, None, :] ** 2
            self.gained = np.ones_like(more)
        else:
            gram = (own[None] * self.reach).sum(axis=1)
            more = 1.0 + scaled * np.maximum(gram, 0.0)[:, :, None, :]
            self.gained = scaled / more
        self.side = self._turned((self.solved[:, :, :, None] * own[None]).sum(axis=1))
        fit = (self.y[None] * self.solved).sum(axis=1)[:, :, None]
        fit = fit - (self.gained * self.side[:, :, None, :] ** 2).sum(axis=3) + np.log(more).sum(axis=3)
        prior = np.log(np.array(shares)[:, None] * np.array(chances))
        self.terms = prior[None] + model.rest[:, None, None] - 0.5 * fit
        self.weights = self.terms

    def _turned(self, along: "Array") -> "Array":
        """Deviation along each direction, (g, h, k), using directions that affect no reading twice."""
        return along if self.turn is None else (along[:, :, None, :] @ self.turn)[:, :, 0]

    def phases(self, toward: "Array", wide: float, own: list[int]) -> "Array":
        """Share, mean and standard deviation of the phase under whatever is likely at all, (m, 3)."""
        import numpy as np

        pull = self._turned(np.tensordot(self.reach, toward, axes=(1, 0)))
        # A cam that moved is not a reading error.
        pull[:, :, 0] -= [sum(each.moves[k] for k in own) / len(own) for each in self.hypotheses]
        placed = np.array([each.places for each in self.hypotheses])
        late = (toward @ self.solved + placed)[:, :, None]
        late = late - (self.gained * (pull * self.side)[:, :, None, :]).sum(axis=3)
        known = np.einsum("i,gij,j->g", toward, self.model.inverse, toward)[:, None, None]
        variance = wide - known + (self.gained * (pull**2)[:, :, None, :]).sum(axis=3)
        likely = self.weights > MIN_WEIGHT
        return np.stack([self.weights[likely], late[likely], np.sqrt(np.maximum(variance[likely], 1e-6))], axis=1)

    def foretell(self) -> "tuple[Array, Array]":
        """Predicted deviation of each reading of `model.coming` under each condition and hypothesis, at its likeliest size.

        Returns
        -------
        tuple
            Means and variances, (g, h, m) each.
        """
        import numpy as np

        n, model = len(self.model.readings), self.model
        cross = model.whole[:, :n, n:]
        reach = model.inverse @ cross
        own, further = self.along[:n], self.along[n:]
        left = further[None] - (reach.transpose(0, 2, 1) @ own.reshape(n, -1)).reshape(-1, *further.shape)
        if self.turn is not None:
            left = np.einsum("gchk,ghkl->gchl", left, self.turn)
        likely = self.weights.argmax(axis=2)
        gained = np.take_along_axis(self.gained, likely[:, :, None, None], axis=2)[:, :, 0]
        means = self.adds[n:].T[None] + np.einsum("gnc,nh->ghc", reach, self.y)
        means = means + np.einsum("gchl,ghl->ghc", left, gained * self.side)
        alone = np.einsum("gcc->gc", model.whole[:, n:, n:]) - (cross * reach).sum(axis=1)
        spreads = alone[:, None, :] + np.einsum("gchl,ghl->ghc", left**2, gained)
        return means, np.maximum(spreads, 1e-6)


def _binned(parts: "Array") -> "Array":
    """The parts of a mixture with those that lie as good as together taken as one, (m, 3)."""
    import numpy as np

    keys = np.round(parts[:, 1] / BIN_DEG) * 4096 + np.round(np.log(parts[:, 2]) / BIN_LOG)
    _, at = np.unique(keys, return_inverse=True)
    share = np.bincount(at, parts[:, 0])
    late, sd = (np.bincount(at, parts[:, 0] * parts[:, k]) / share for k in (1, 2))
    return np.stack([share / share.sum(), late, sd], axis=1)


def suspects(readings: tuple[Seen, ...], expected: Expected, setup: Setup) -> tuple[Suspect, ...]:
    """Every fault with its share, the likeliest first; nothing wrong has the rest.

    Parameters
    ----------
    readings
        Every reading that holds, in the order they were taken.
    expected
        What card and set-up make one expect.
    setup
        What else is known of engine and wheel.

    Returns
    -------
    tuple
        Shares of all faults and of `nothing` make one together.
    """
    return Weighing(readings, expected, setup).found


def worth_asking(found: tuple[Suspect, ...]) -> tuple[Suspect, ...]:
    """Questions worth asking: none while no fault is more likely than not and none likely enough to hold a verdict."""
    nothing = next(each.share for each in found if each.code == NOTHING)
    faults = [each for each in found if each.code != NOTHING and each.share >= MIN_SHARE]
    if nothing > 0.5 and all(each.share <= HOLDS_SHARE for each in faults):
        return ()
    return tuple(faults)[:MAX_ASKED]
