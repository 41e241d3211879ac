"""A fortnight of the demo kitchen: who cooked what, on which hob, and what its own core makes of that.

The hobs are not quite what the kitchen takes them for: each hides its own figures behind a seed, the same
for every batch cooked on it, so that what the curves teach comes out alike.
"""

from __future__ import annotations

import random
from dataclasses import dataclass

import custard

LANDS_K = 1.0
"""How far a tempering lands from where it was reckoned to."""
EVERY_S, EVERY_COLD_S, EVERY_BAKED_S = 2.0, 15.0, 30.0
NOISE_K, LOST_SHARE = 0.2, 0.03
FRIDGE_WARM_C, COLD_C = 18.0, 10.0
BUBBLES_K = 0.7
"""How far under its boiling point the first bubbles break."""
LONGEST_S = 3 * 3600.0
CLEAN, FEW_BITS = 0.02, 0.08
"""Share of the egg that has curdled, up to which the sieve stays clean, or holds only a few bits."""


@dataclass(frozen=True)
class Ring:
    """A hob as the kitchen takes it [W], and the seed behind which it hides what it is."""

    name: str
    power_w: float
    seed: int
    over_steam: bool = False


RINGS = (
    Ring("front ring", 360, 4),
    Ring("back ring", 300, 9),
    Ring("induction", 420, 2),
    Ring("bain-marie", 1500, 6, over_steam=True),
)


@dataclass(frozen=True)
class Went:
    """What was done with the tub of a batch, so many hours after it was put away, with what share of it.

    `to` is for what or why; `of` is "ice" where it is done with what was churned of it.
    """

    kind: str
    after_h: float
    share: float
    to: str = ""
    of: str = ""


@dataclass(frozen=True)
class Tale:
    """One batch: lifted `over_k` past its plan, after which it stood in its pan for `stood_s`.

    `turned` is how much higher the flame was set than usual; `set_k` how much later its eggs set than is
    computed [K], `probe_k` how far its probe read too high [K]; `sieve` is told where the core knows nothing
    of it, such as lumps of starch. `takes` is the place of an earlier tale, most of whose batch went into
    this one; `went` what became of it on the shelf.
    """

    formula: str
    days_ago: float
    by: str
    ring: str
    verdict: str
    note: str = ""
    over_k: float = 0.0
    stood_s: float = 12.0
    turned: float = 1.0
    set_k: float = 0.0
    probe_k: float = 0.0
    sieve: str | None = None
    takes: int | None = None
    went: tuple[Went, ...] = ()


FORTNIGHT = (
    Tale("Bay leaf anglaise", 13.4, "trainee", "front ring", "discarded",
         "left in the hot pan while the sieve was looked for", over_k=2.6, stood_s=100),
    Tale("Rye pastry cream", 12.6, "pastry", "induction", "good",
         went=(Went("used", 4, 0.55, "choux"), Went("used", 26, 0.45, "choux"))),
    Tale("Bay leaf anglaise", 12.4, "trainee", "front ring", "usable",
         "stopped too early, used in the ice base", over_k=-3,
         went=(Went("used", 30, 0.4, "staff, as a sauce"),)),
    Tale("Barley ice base", 11.6, "pastry", "back ring", "good",
         takes=2, went=(Went("churned", 19, 1.0), Went("used", 40, 0.5, "malted ice", of="ice"))),
    Tale("Perry sabayon", 10.3, "section", "bain-marie", "good",
         went=(Went("used", 5, 1.0, "baked apples, table of nine"),)),
    Tale("Bay leaf anglaise", 9.4, "trainee", "front ring", "good", "sieved, smooth", over_k=0.3,
         went=(Went("used", 5, 0.4, "poached quince"), Went("used", 29, 0.5, "poached quince"),
               Went("thrown", 71, 0.1, "the last of it, over"))),
    Tale("Hay-milk cup custard", 8.5, "pastry", "oven", "good",
         went=(Went("used", 9, 1.0, "cups, table 1 to 6"),)),
    Tale("Burnt honey filling", 7.6, "pastry", "induction", "good", over_k=-0.5,
         went=(Went("used", 24, 0.35, "hazelnut tartlets"), Went("frozen", 30, 0.0))),
    Tale("Saffron pouring custard", 6.4, "trainee", "back ring", "good", "a few bits, sieved",
         went=(Went("used", 6, 0.6, "plum cobbler"), Went("used", 30, 0.4, "plum cobbler"))),
    Tale("Bay leaf anglaise", 5.4, "trainee", "front ring", "good", "the flame stood lower than usual",
         turned=0.8, went=(Went("used", 7, 0.7, "poached quince"), Went("used", 28, 0.3, "staff"))),
    Tale("Bitter chocolate crémeux", 4.5, "section", "induction", "good", over_k=-0.5,
         went=(Went("used", 26, 0.55, "tart"), Went("frozen", 28, 0.0))),
    Tale("Buckwheat cold-start pudding", 3.6, "trainee", "induction", "usable",
         "lumps from the edge of the pan, sieved hot", sieve="a few bits",
         went=(Went("used", 8, 0.5, "staff"), Went("used", 30, 0.5, "staff"))),
    Tale("Smoked salt burnt cream", 3.2, "pastry", "back ring", "good", "crusts held through dessert",
         went=(Went("used", 10, 1.0, "burnt cream, 8"),)),
    Tale("Perry sabayon", 2.3, "trainee", "bain-marie", "discarded",
         "water touched the bowl, the base cooked", over_k=8.6, stood_s=60, turned=1.6),
    Tale("Saffron pouring custard", 2.4, "trainee", "back ring", "good",
         went=(Went("film", 1, 0.0), Went("labelled", 1, 0.0), Went("used", 30, 0.62, "plum cobbler"))),
    Tale("Bay leaf anglaise", 1.4, "pastry", "front ring", "good",
         went=(Went("film", 1, 0.0), Went("labelled", 1, 0.0), Went("used", 9, 0.3, "poached quince"),
               Went("promised", 10, 0.4, "poached quince, tonight"))),
    Tale("Bitter chocolate crémeux", 0.9, "section", "induction", "good", over_k=-0.5,
         went=(Went("film", 1, 0.0), Went("labelled", 1, 0.0), Went("promised", 2, 0.7, "tart, 12"))),
    Tale("Barley ice base", 0.12, "pastry", "back ring", "good",
         went=(Went("film", 0.1, 0.0), Went("promised", 0.2, 0.9, "malted ice"))),
)  # fmt: skip


@dataclass(frozen=True)
class Cooked:
    """What came of one batch, in seconds since it was in the pan.

    It was in there at `start_c`; `readings` are what its probe said [s, degC]. What sets in its cup has no
    `coat`, but a `wobble`.
    """

    start_c: float
    readings: tuple[tuple[float, float], ...]
    bubbles_s: float | None
    off_s: float
    out_s: float | None
    end_s: float
    curdled: float
    coat: str = ""
    wobble: str = ""

    def read(self, at_s: float) -> float:
        """What the probe said last by then [degC]."""
        return [celsius for t, celsius in self.readings if t <= at_s][-1]

    @property
    def line(self) -> str:
        """What a line drawn through the coat does."""
        return {"runs off": "runs", "thin coat": "closes"}.get(self.coat, "holds")

    @property
    def sieve(self) -> str:
        """What stays in the sieve."""
        if self.curdled < CLEAN:
            return "clean"
        return "a few bits" if self.curdled < FEW_BITS else "many bits"


class _Probe:
    """A probe with its noise and its gaps."""

    def __init__(self, seed: int, high_k: float = 0.0) -> None:
        self._dice = random.Random(seed)  # noqa: S311 noise, not a secret
        self.high_k = high_k
        self.readings: list[tuple[float, float]] = []

    def read(self, t_s: float, celsius: float) -> None:
        if not self.readings or self._dice.random() >= LOST_SHARE:
            self.readings.append((t_s, round(celsius + self.high_k + self._dice.gauss(0, NOISE_K), 1)))


def cooked(tale: Tale, result: custard.Assessment, landing_c: float | None) -> Cooked:
    """Cook a batch as its tale has it, from where tempering left it [degC]."""
    seed = round(10 * tale.days_ago)
    landed_k = random.Random(seed).gauss(0, LANDS_K)  # noqa: S311 chance, not a secret
    start_c = FRIDGE_WARM_C if landing_c is None else landing_c + landed_k
    way = result.way
    if way.in_the_oven:
        return _baked(custard.process.OvenRehearsal(result.pan, start_c, seed), _Probe(seed))
    ring = next(ring for ring in RINGS if ring.name == tale.ring)
    stove = custard.process.Stove(power_w=ring.power_w, over_steam=ring.over_steam)
    eggs = result.conditions.with_learned(custard.Learned(set_k=tale.set_k))
    real = custard.process.StoveRehearsal(
        result.pan, stove, start_c, ring.seed, foam=way.foams, conditions=eggs
    )
    real.turned(tale.turned)
    probe = _Probe(seed, tale.probe_k)
    bubbles_s = None
    if result.stop.boiled:
        bubbles_s = _heated(real, probe, result.boiling_c - BUBBLES_K)
        _stood(real, probe, result.conditions.parameters.cook.boil_hold_s, lit=True)
    else:
        _heated(real, probe, result.stop.at_c + tale.over_k)
    off_s = real.t_s
    _stood(real, probe, tale.stood_s, lit=False)
    out_s, coat, curdled = real.t_s, custard.word(real.yield_pa), real.curdled
    while not way.foams and real.sauce_c > COLD_C:
        real.on(EVERY_COLD_S, in_ice=True)
        probe.read(real.t_s, real.probe_c)
    served = way.foams
    return Cooked(
        start_c, tuple(probe.readings), bubbles_s, off_s, None if served else out_s, real.t_s, curdled, coat
    )


def _heated(real: custard.process.StoveRehearsal, probe: _Probe, to_c: float) -> float:
    while real.probe_c + probe.high_k < to_c and real.t_s < LONGEST_S:
        real.on(EVERY_S)
        probe.read(real.t_s, real.probe_c)
    return real.t_s


def _stood(real: custard.process.StoveRehearsal, probe: _Probe, seconds: float, *, lit: bool) -> None:
    until_s = real.t_s + seconds
    while real.t_s < until_s:
        real.on(EVERY_S, lit=lit)
        probe.read(real.t_s, real.probe_c)


def _baked(real: custard.process.OvenRehearsal, probe: _Probe) -> Cooked:
    start_c, out_s = real.sauce_c, real.baked.out_s or LONGEST_S
    while real.t_s < out_s:
        real.on(EVERY_BAKED_S)
        probe.read(real.t_s, real.probe_c)
    wobble = custard.process.wobble(real.set_centre)
    return Cooked(start_c, tuple(probe.readings), None, real.t_s, None, real.t_s, 0.0, wobble=wobble)
