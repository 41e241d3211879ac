"""What a kitchen's batches teach of its sauces: where they set, what its pans add, what stays behind.

Rehearsals teach nothing, nor does a batch that somebody called odd. A figure is forgotten as months pass, and
for a part it starts over where what it hangs on changes: other eggs or another probe for where a sauce sets,
another hob or pan for how far it still rises off the heat.
"""

from __future__ import annotations

from collections.abc import Hashable, Iterable, Mapping
from dataclasses import asdict, dataclass, fields, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from custard.conditions import Learned
from custard.errors import CustardError
from custard.formats.kept_batch import KeptBatch
from custard.learning import evidence
from custard.learning.cooked import Cooked, cooked
from custard.learning.estimate import Estimate, Posterior, Prior, Said, posterior

MOST_BATCHES = 400
"""So many of the newest batches are learned from; by then older ones are forgotten."""
SPOKE_VERSION = 1
"""To be raised when what is made of a batch changes: what was kept before is then computed again."""
SPEAK = 3
"""From so many batches on what was learned narrows a band."""
FORGOTTEN_DAYS = 288.0
"""The house's setting drifts by 0.1 K in a day's square root at first, and stays within what is believed of
any house: two batches so far apart agree by 1/e [days]."""
CHANGED = 0.65
"""How far two batches agree with other eggs, or another probe [1]: as after a step of 1 K."""

SETTING = Prior(1.2, 0.6, 0.5, FORGOTTEN_DAYS, CHANGED, evidence.SHIFTS_K)
CARRY_OVER = Prior(0.35, 0.15, 0.15, FORGOTTEN_DAYS, CHANGED, evidence.RISES)
LEFT = Prior(0.35, 0.15, 0.15, FORGOTTEN_DAYS, 1.0, evidence.LEFTS)


@dataclass(frozen=True)
class Figures:
    """What is known of a house or of one formula; masses as what stays behind [g per cm across the pan].

    Attributes
    ----------
    set_k : how much later it sets than is computed [K].
    carry_over : the logarithm of what its pans add, over what is computed [1].
    left : the logarithm of what stays behind, over what is computed [1].
    """

    set_k: Estimate
    carry_over: Estimate
    left: Estimate

    @property
    def as_learned(self) -> Learned:
        """As conditions take it."""
        few = self.set_k.batches < SPEAK
        # As finely as it matters: with each batch some figure changes a little, and lists are computed again.
        return Learned(
            set_k=round(round(float(np.clip(self.set_k.mean, -6, 6)) / 0.05) * 0.05, 2),
            set_spread_k=None if few else round(self.next_spread_k, 2),
            carry_over=round(float(np.exp(self.carry_over.mean)), 2),
            left=round(float(np.exp(self.left.mean)), 2),
            batches=self.set_k.batches,
        )

    @property
    def carry_over_factor(self) -> Estimate:
        """What its pans add over what is computed, and one standard deviation of it [1]."""
        return _factor(self.carry_over)

    @property
    def left_factor(self) -> Estimate:
        """What stays behind over what is computed, and one standard deviation of it [1]."""
        return _factor(self.left)

    def as_json(self) -> dict[str, Any]:
        """As a kitchen keeps it: mean, spread and count of each figure."""
        return asdict(self)

    @classmethod
    def of(cls, kept: Mapping[str, Any]) -> Figures:
        """As it was kept."""
        return cls(**{one.name: Estimate(**kept[one.name]) for one in fields(cls)})

    @property
    def next_spread_k(self) -> float:
        """How unsure it is where the next batch sets, one standard deviation [K]."""
        return float(np.hypot(self.set_k.sd, SETTING.batch))


def _factor(log: Estimate) -> Estimate:
    """A figure of which the logarithm is known; its spread is that of the logarithm times itself."""
    factor = float(np.exp(log.mean))
    return Estimate(round(factor, 3), round(factor * log.sd, 3), log.batches)


BOTH = 2
"""What setting hangs on: the eggs, and the probe."""


@dataclass(frozen=True)
class Learning:
    """What a kitchen has learned.

    Attributes
    ----------
    setting, carry_over, left : each figure after all batches.
    day : the day of the newest batch [days since 1970].
    setting_things, pan_things : the eggs and the probe, the hob and the pan of the newest batch.
    left_g_cm : what is computed to stay behind [g per cm across the pan], the middle of the batches.
    formulas : the names of the formulas that were cooked, in order.
    skipped : how many batches were not learned from.
    """

    setting: Posterior
    carry_over: Posterior
    left: Posterior
    day: float
    setting_things: tuple[Hashable, ...]
    pan_things: tuple[Hashable, ...]
    left_g_cm: float
    formulas: tuple[str, ...]
    skipped: int

    def of(self, formula: str | None = None, day: float | None = None) -> Figures:
        """What is known of a formula, or of the house.

        Parameters
        ----------
        formula : its name; None for the house.
        day : when [days since 1970]; None for the day of the newest batch.
        """
        at = self.day if day is None else max(day, self.day)
        return Figures(
            self.setting.of(formula, at, self.setting_things),
            self.carry_over.of(formula, at, self.pan_things),
            self.left.of(formula, at, ()),
        )

    def under(
        self, eggs: tuple[str | None, str] | None = None, checked_on: Mapping[str, str] | None = None
    ) -> Learning:
        """The same for what there is now, if that is no longer what the newest batch was made with.

        Parameters
        ----------
        eggs : the class of the eggs in the house, and whose they are; None for those of the newest batch.
        checked_on : the day of the last check of each probe by its name, as "2026-03-01".
        """
        if len(self.setting_things) < BOTH:
            return self
        were, probe = self.setting_things
        name = probe[0] if isinstance(probe, tuple) else ""
        if name in (checked_on or {}):
            probe = (name, (checked_on or {})[name])
        return replace(self, setting_things=(were if eggs is None else eggs, probe))

    def as_json(self) -> dict[str, object]:
        """As the command prints it."""
        return {
            "house": self._written(self.of()),
            "formulas": {name: self._written(self.of(name)) for name in self.formulas},
            "skipped": self.skipped,
        }

    def _written(self, known: Figures) -> dict[str, object]:
        carry, left = known.carry_over_factor, known.left_factor
        return {
            "set_k": {
                "mean": round(known.set_k.mean, 2),
                "sd": round(known.set_k.sd, 2),
                "batches": known.set_k.batches,
            },
            "carry_over": {"factor": carry.mean, "sd": carry.sd, "batches": carry.batches},
            "left_g": {
                "mean": round(self.left_g_cm * left.mean, 2),
                "sd": round(self.left_g_cm * left.sd, 2),
                "batches": known.left.batches,
                "unit": "g per cm across the pan",
            },
        }


@dataclass(frozen=True)
class Spoke:
    """What one batch says of each figure; None where it says nothing of it.

    Kept beside a batch, it spares that it is cooked again each time that something is learned.
    """

    formula: str
    day: float
    setting_things: tuple[Hashable, ...]
    pan_things: tuple[Hashable, ...]
    setting: NDArray[np.float64] | None
    carry_over: NDArray[np.float64] | None
    left: NDArray[np.float64] | None
    left_g_cm: float

    def as_json(self) -> dict[str, Any]:
        """As it is kept beside a batch; likelihoods to four figures."""
        kept = {
            name: None if row is None else [float(f"{value:.4g}") for value in row]
            for name, row in (("setting", self.setting), ("carry_over", self.carry_over), ("left", self.left))
        }
        return {
            "version": SPOKE_VERSION,
            "formula": self.formula,
            "day": self.day,
            "setting_things": self.setting_things,
            "pan_things": self.pan_things,
            "left_g_cm": self.left_g_cm,
            **kept,
        }

    @classmethod
    def of(cls, kept: Mapping[str, Any]) -> Spoke | None:
        """As it was kept; None for what another version of the model wrote, which is to be computed again."""
        if kept.get("version") != SPOKE_VERSION:
            return None

        def row(name: str) -> NDArray[np.float64] | None:
            return None if kept[name] is None else np.array(kept[name], dtype=np.float64)

        return cls(
            formula=kept["formula"],
            day=kept["day"],
            setting_things=_frozen(kept["setting_things"]),
            pan_things=_frozen(kept["pan_things"]),
            setting=row("setting"),
            carry_over=row("carry_over"),
            left=row("left"),
            left_g_cm=kept["left_g_cm"],
        )


def _frozen(things: Iterable[Any]) -> tuple[Hashable, ...]:
    """What a batch hangs on, as it was before it was written as lists."""
    return tuple(tuple(one) if isinstance(one, list | tuple) else one for one in things)


def teaches(kept: KeptBatch) -> bool:
    """Whether a batch is to be learned from: it was cooked, and nobody called it odd."""
    return not kept.odd and not kept.rehearsal


def spoke(batch: Cooked, day: float) -> Spoke:
    """What a batch says.

    Parameters
    ----------
    batch : what was cooked.
    day : when [days since 1970].
    """

    setting = evidence.of_setting(batch)
    return Spoke(
        formula=batch.kept.formula.name,
        day=day,
        setting_things=batch.setting_things,
        pan_things=batch.pan_things,
        setting=setting,
        carry_over=evidence.of_carry_over(batch, setting),
        left=evidence.of_left(batch),
        left_g_cm=evidence.computed_left_g(batch) / evidence.across_cm(batch),
    )


def learn(batches: Iterable[KeptBatch]) -> Learning:
    """What a kitchen's batches teach.

    A batch without a day counts as made a day after the one before it.

    Parameters
    ----------
    batches : in the order in which they were made, where they do not say when.
    """
    found: list[Spoke] = []
    skipped, last = 0, 0.0
    for kept in batches:
        last = kept.day if kept.day is not None else last + 1.0
        if not teaches(kept):
            skipped += 1
            continue
        try:
            found.append(spoke(cooked(kept), last))
        except CustardError:
            skipped += 1
    return learned_from(found, skipped)


def learned_from(found: Iterable[Spoke], skipped: int = 0) -> Learning:
    """What batches teach of which is known what each says.

    Parameters
    ----------
    found : what each says, in any order.
    skipped : how many were left out.
    """
    said = sorted(found, key=lambda one: one.day)[-MOST_BATCHES:]
    newest = said[-1] if said else None
    grams = [one.left_g_cm for one in said]
    return Learning(
        setting=posterior(
            SETTING,
            [
                Said(one.formula, one.day, one.setting_things, one.setting)
                for one in said
                if one.setting is not None
            ],
        ),
        carry_over=posterior(
            CARRY_OVER,
            [
                Said(one.formula, one.day, one.pan_things, one.carry_over)
                for one in said
                if one.carry_over is not None
            ],
        ),
        left=posterior(
            LEFT, [Said(one.formula, one.day, (), one.left) for one in said if one.left is not None]
        ),
        day=0.0 if newest is None else newest.day,
        setting_things=() if newest is None else newest.setting_things,
        pan_things=() if newest is None else newest.pan_things,
        left_g_cm=float(np.median(grams)) if grams else 0.0,
        formulas=tuple(dict.fromkeys(one.formula for one in said)),
        skipped=skipped,
    )
