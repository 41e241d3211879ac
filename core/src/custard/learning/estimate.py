"""A figure of a kitchen and of each of its formulas, from what each batch says of it.

The figure of a batch is that of the house, which drifts, plus what is peculiar to its formula, plus what is
peculiar to the batch. House and formula are normal, so all batches together are one Gaussian process over
time; what a batch says is a likelihood on a grid of any shape (an interval between two words, a limit, a tail
for the odd one). Expectation propagation brings both together (Minka 2001 as remembered): the answer does not
depend on the order of the batches, and can be computed again at any time from the record.
"""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

SWEEPS, DAMPED, SETTLED = 80, 0.6, 1e-6
ODD = 0.02
"""Share of batches that say nothing of the figure at all, whatever they seem to say; an estimate."""
TAIL_NU = 4.0
"""Degrees of freedom of what is peculiar to one batch: an odd one pulls only so far [1]."""
LEAST_PRECISION = 1e-9


@dataclass(frozen=True)
class Prior:
    """What is believed of a figure before any batch.

    Attributes
    ----------
    house, formula, batch : spreads of the house, of a formula in it, of a batch of it, in the figure's unit.
    days : time over which the house is forgotten: two batches so far apart agree by 1/e [days].
    changed : how far two batches agree that were made with other eggs, another probe, another hob [1].
    grid : values at which it is looked at, evenly spaced, in the figure's unit.
    right : how likely it is that what is computed holds for a kitchen as it is [1]: house and formula then
        stray by only `small` of what others do. Without it, chance alone would teach a kitchen something.
    """

    house: float
    formula: float
    batch: float
    days: float
    changed: float
    grid: Floats
    right: float = 0.4
    small: float = 0.15


@dataclass(frozen=True)
class Said:
    """What one batch says of a figure.

    Attributes
    ----------
    formula : the name of its formula.
    day : when it was made [days since 1970].
    things : the eggs, the probe, the hob it was made with: whatever the figure hangs on.
    likelihood : how likely what was seen is, on the prior's grid [1]; only ratios matter.
    """

    formula: str
    day: float
    things: tuple[Hashable, ...]
    likelihood: Floats


@dataclass(frozen=True)
class Estimate:
    """A figure as known by now: mean, one standard deviation, and how many batches spoke."""

    mean: float
    sd: float
    batches: int


@dataclass(frozen=True)
class View:
    """One of two views of a kitchen: it strays as kitchens do, or what is computed holds for it.

    Attributes
    ----------
    share : how likely that view is by now [1].
    scale : how far house and formula stray by it, over the prior [1].
    weights, precision : what its batches add up to, a row a batch: `weights` are those of their covariances
        in the mean, `precision` is the matrix that the variance loses.
    """

    share: float
    scale: float
    weights: Floats
    precision: Floats


@dataclass(frozen=True)
class Posterior:
    """A figure of a kitchen, after all its batches.

    Attributes
    ----------
    prior, said : what was believed, and what the batches say.
    views : how the kitchen may be seen; their shares add up to 1.
    """

    prior: Prior
    said: tuple[Said, ...]
    views: tuple[View, ...]

    def of(self, formula: str | None, day: float, things: tuple[Hashable, ...]) -> Estimate:
        """The figure of a formula, or of the house where it is None, on a day and with such things.

        Parameters
        ----------
        formula : its name.
        day : when [days since 1970].
        things : the eggs, the probe, the hob that are in use then.
        """
        prior = self.prior
        own = prior.house**2 + (0.0 if formula is None else prior.formula**2)
        if not self.said:
            return Estimate(0.0, float(np.sqrt(own)), 0)
        house = np.array([_house(prior, abs(one.day - day), one.things, things) for one in self.said])
        mine = np.array([one.formula == formula for one in self.said])
        covariance = house + prior.formula**2 * mine
        means, variances, shares = [], [], np.array([view.share for view in self.views])
        for view in self.views:
            seen = view.scale**2 * covariance
            means.append(float(seen @ view.weights))
            variances.append(max(view.scale**2 * own - float(seen @ view.precision @ seen), 1e-6))
        mean = float(shares @ means)
        variance = float(shares @ (np.array(variances) + (np.array(means) - mean) ** 2))
        count = len(self.said) if formula is None else int(mine.sum())
        return Estimate(mean, float(np.sqrt(variance)), count)


def _house(prior: Prior, days: float, one: tuple[Hashable, ...], other: tuple[Hashable, ...]) -> float:
    """Covariance of the house at two batches."""
    changes = sum(a != b for a, b in zip(one, other, strict=True))
    return float(prior.house**2 * np.exp(-days / prior.days) * prior.changed**changes)


def posterior(prior: Prior, said: Sequence[Said]) -> Posterior:
    """What a kitchen's batches say of a figure, together.

    Parameters
    ----------
    prior : what is believed before.
    said : what each batch says, in any order.
    """
    said = tuple(sorted(said, key=lambda one: (one.day, one.formula)))
    count = len(said)
    if not count:
        return Posterior(prior, (), ())
    covariance = np.array(
        [
            [
                _house(prior, abs(a.day - b.day), a.things, b.things)
                + prior.formula**2 * (a.formula == b.formula)
                for b in said
            ]
            for a in said
        ]
    )
    sites = np.array([_site(prior, one.likelihood) for one in said])
    precision, shift = np.full(count, LEAST_PRECISION), np.zeros(count)
    for _ in range(SWEEPS):
        root = np.sqrt(precision)
        inner = np.eye(count) + root[:, None] * covariance * root
        half = np.linalg.solve(inner, root[:, None] * covariance)
        after = covariance - (covariance * root) @ half
        mean = after @ shift
        variance = np.clip(np.diag(after), 1e-9, None)
        without = np.clip(1 / variance - precision, 1e-6, None)
        middle = (mean / variance - shift) / without
        tilted_mean, tilted_variance = _tilted(prior.grid, sites, middle, 1 / without)
        wanted = np.clip(1 / tilted_variance - without, LEAST_PRECISION, None)
        moved = tilted_mean / tilted_variance - middle * without
        step = np.abs(wanted - precision).max()
        precision += DAMPED * (wanted - precision)
        shift += DAMPED * (moved - shift)
        if step < SETTLED:
            break
    middle = shift / precision
    seen = [(1 - prior.right, 1.0), (prior.right, prior.small)]
    views = [_view(scale, covariance, precision, middle) for _, scale in seen]
    # How likely the batches are by either view decides between them.
    logs = np.array([np.log(share) + log for (share, _), (log, _) in zip(seen, views, strict=True)])
    shares = np.exp(logs - logs.max())
    return Posterior(
        prior,
        said,
        tuple(
            View(float(share), view.scale, view.weights, view.precision)
            for share, (_, view) in zip(shares / shares.sum(), views, strict=True)
        ),
    )


def _view(scale: float, covariance: Floats, precision: Floats, middle: Floats) -> tuple[float, View]:
    """A view of a kitchen, and the logarithm of how likely its batches are by it, up to what both share."""
    root = np.sqrt(precision)
    inner = np.eye(precision.size) + scale**2 * root[:, None] * covariance * root
    lost = root[:, None] * np.linalg.solve(inner, np.diag(root))
    # The mean is K (K + 1/precision)^-1 middle, and so is the exponent of the likelihood.
    weights = lost @ middle
    log = -(float(middle @ weights) + float(np.linalg.slogdet(inner)[1])) / 2
    return log, View(0.0, scale, weights, lost)


def _site(prior: Prior, likelihood: Floats) -> Floats:
    """What a batch says of its formula: blurred by what is peculiar to a batch, and never quite sure."""
    step = prior.grid[1] - prior.grid[0]
    off = step * np.arange(-(prior.grid.size - 1), prior.grid.size)
    tail = (1 + (off / prior.batch) ** 2 / TAIL_NU) ** (-(TAIL_NU + 1) / 2)
    # What lies beyond the grid is taken to go on as at its ends.
    padded = np.pad(likelihood, prior.grid.size - 1, mode="edge")
    blurred = np.convolve(padded, tail / tail.sum(), mode="valid")
    return np.asarray((1 - ODD) * blurred / blurred.max() + ODD)


def _tilted(grid: Floats, sites: Floats, mean: Floats, variance: Floats) -> tuple[Floats, Floats]:
    """Mean and variance of each batch's site times what all the others say."""
    # The grid is where sites are known; where the others lie beyond it they are looked at at its end.
    log = -((grid - mean[:, None]) ** 2) / (2 * variance[:, None])
    weight = np.exp(log - log.max(axis=1, keepdims=True)) * sites
    weight /= weight.sum(axis=1, keepdims=True)
    middle = weight @ grid
    spread = (weight * (grid - middle[:, None]) ** 2).sum(axis=1)
    return middle, np.clip(spread, 1e-6, None)
