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
class Learned:
    """What a kitchen's own batches say of a sauce, over what is computed.

    Attributes
    ----------
    set_k : how much later it sets than is computed [K]; `set_spread_k` how unsure the next batch is by that,
        one standard deviation [K], None where too few batches spoke for a narrower band.
    carry_over : what its pans add off the heat, over what is computed [1].
    left : what stays in pan and sieve, over what is computed [1].
    batches : how many batches of this kitchen spoke of where it sets.
    """

    set_k: float = 0.0
    set_spread_k: float | None = None
    carry_over: float = 1.0
    left: float = 1.0
    batches: int = 0

    def __post_init__(self) -> None:
        within("set_k", self.set_k, -10, 10)
        within("carry_over", self.carry_over, 0.1, 10)
        within("left", self.left, 0.1, 10)


NOTHING_LEARNED = Learned()


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
    parameters : the model's parameters, with what was learned in them.
    house : what the kitchen's own batches say of each sauce, by the name of its formula; "" for any other.
    learned : what they say of this very sauce; set by `for_sauce`, which every assessment begins with.
    """

    altitude_m: float = 0.0
    rate_k_per_min: float | None = None
    rule: str = USUAL_RULE
    eggs: str | None = None
    parameters: Parameters = field(default_factory=standard)
    own_rule: CoolingRule | None = None
    house: tuple[tuple[str, Learned], ...] = ()
    learned: Learned = NOTHING_LEARNED

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
            **({} if not self.house else {"house": {name: asdict(one) for name, one in self.house}}),
            **({} if self.learned == NOTHING_LEARNED else {"learned": asdict(self.learned)}),
        }

    @classmethod
    def of(cls, kept: Mapping[str, Any], parameters: Parameters) -> Conditions:
        """As they were kept, with the parameters of their version."""
        own, house, learned = (kept.get(name) for name in ("own_rule", "house", "learned"))
        rest = {name: value for name, value in kept.items() if name not in ("own_rule", "house", "learned")}
        found = cls(
            **rest,
            parameters=parameters,
            own_rule=None if own is None else CoolingRule(**own),
            house=() if house is None else tuple((name, Learned(**one)) for name, one in house.items()),
        )
        return found if learned is None else found.with_learned(Learned(**learned))

    @property
    def cooling_rule(self) -> CoolingRule:
        """The rule by its figures."""
        return cooling_rules()[self.rule] if self.own_rule is None else self.own_rule

    def for_sauce(self, name: str) -> Conditions:
        """The same conditions for one sauce, with what was learned of it, or of all sauces here."""
        if not self.house:
            return self
        house = dict(self.house)
        learned = house.get(name, house.get("", NOTHING_LEARNED))
        return replace(self, house=()).with_learned(learned)

    def with_learned(self, learned: Learned) -> Conditions:
        """The same conditions for a sauce of which a kitchen's batches say so much, and no more than that.

        Where it sets, and what clings to the pan, are figures of the parameters: whatever reads them, says
        the same.
        """
        plain = self.unlearned
        set_c = plain.coagulation.set_base_c + learned.set_k
        film = plain.losses.wall_film_g_m2 * learned.left
        found = plain.with_value("coagulation.set_base_c", set_c).with_value("losses.wall_film_g_m2", film)
        return replace(self, parameters=found, learned=learned)

    @property
    def unlearned(self) -> Parameters:
        """The parameters without what was learned: those that are kept by their version."""
        if self.learned == NOTHING_LEARNED:
            return self.parameters
        p = self.parameters
        # Rounded, so that a version comes out as it went in.
        set_c = round(p.coagulation.set_base_c - self.learned.set_k, 9)
        film = round(p.losses.wall_film_g_m2 / self.learned.left, 9)
        return p.with_value("coagulation.set_base_c", set_c).with_value("losses.wall_film_g_m2", film)

    def by(self, parameters: Parameters) -> Conditions:
        """The same conditions by other parameters."""
        return replace(self, parameters=parameters)


USUAL = Conditions()
"""At sea level, as fast as the family usually warms, by the parameters as shipped."""
