"""Under what conditions a mix is made: one frozen object that every advice and every process takes.

Whatever two parts of the product say of one mix is said under the same conditions, so it is the same number.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace
from typing import Any

from custard.errors import within
from custard.larder.eggs import egg_size
from custard.larder.parameters import Parameters, standard
from custard.larder.vessels import OWN, USUAL_RULE, CoolingRule, cooling_rules, one_of

LOWEST_M, HIGHEST_M = -500, 6000
SLOWEST_K_PER_MIN, FASTEST_K_PER_MIN = 0.05, 60


@dataclass(frozen=True)
class Conditions:
    """Where, how and by what rules a mix is made.

    Attributes
    ----------
    altitude_m : height of the kitchen above the sea [m]; it sets the boil.
    rate_k_per_min : heating rate at which windows are stated [K/min]; None for as fast as the family of the
        mix usually warms where it sets.
    rule : the cooling rule the kitchen goes by; "own" for `own_rule`.
    eggs : the class of the eggs in the house; None for the class each formula was written for.
    parameters : the model's parameters.
    """

    altitude_m: float = 0.0
    rate_k_per_min: float | None = None
    rule: str = USUAL_RULE
    eggs: str | None = None
    parameters: Parameters = field(default_factory=standard)
    own_rule: CoolingRule | None = None

    def __post_init__(self) -> None:
        within("altitude_m", self.altitude_m, LOWEST_M, HIGHEST_M)
        if self.rate_k_per_min is not None:
            within("rate_k_per_min", self.rate_k_per_min, SLOWEST_K_PER_MIN, FASTEST_K_PER_MIN)
        one_of("rule", self.rule, tuple(cooling_rules()) if self.own_rule is None else (OWN,))
        if self.eggs is not None:
            egg_size(self.eggs)

    def as_json(self) -> dict[str, Any]:
        """As kept beside a batch; its parameters are kept by their version."""
        return {
            "altitude_m": self.altitude_m,
            "rate_k_per_min": self.rate_k_per_min,
            "rule": self.rule,
            "eggs": self.eggs,
            **({} if self.own_rule is None else {"own_rule": asdict(self.own_rule)}),
        }

    @classmethod
    def of(cls, kept: Mapping[str, Any], parameters: Parameters) -> Conditions:
        """As they were kept, with the parameters of their version."""
        own = kept.get("own_rule")
        rest = {name: value for name, value in kept.items() if name != "own_rule"}
        return cls(**rest, parameters=parameters, own_rule=None if own is None else CoolingRule(**own))

    @property
    def cooling_rule(self) -> CoolingRule:
        """The rule by its figures."""
        return cooling_rules()[self.rule] if self.own_rule is None else self.own_rule

    def by(self, parameters: Parameters) -> Conditions:
        """The same conditions by other parameters."""
        return replace(self, parameters=parameters)


USUAL = Conditions()
"""At sea level, as fast as the family usually warms, by the parameters as shipped."""
