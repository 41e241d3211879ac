"""An ingredient from its label: the table of nutrients, and what the list of ingredients holds.

A label counts by nutrients, the model by what sets, melts and dissolves. What lies between is assumed, is
said, and can be changed. Energy is a check, by the factors of the European rule for labels: fat 37, alcohol
29, protein and carbohydrate 17, fibre 8 kJ/g, as remembered; confidence H.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from custard.errors import OutOfRange
from custard.larder.ingredients import COMPONENTS, density_of
from custard.reading.label import Label, read_label, without_others
from custard.reading.tokens import fold, says
from custard.reading.words import lists

KJ_PER_G = {"fat": 37.0, "alcohol": 29.0, "protein": 17.0, "carbohydrate": 17.0, "fibre": 8.0}
ENERGY_OFF = 0.12
"""A label's energy further off than this from its nutrients is reported; labels are rounded."""
MILK_LACTOSE_PER_PROTEIN = 1.45
"""Of milk: grams of lactose for a gram of protein; whey has more, cheese less."""
MILK_FAT_PER_PROTEIN = 1.1
ETHANOL_G_ML = 0.789
FRUIT_ACID = 0.9
DAIRY_ASH_PER_PROTEIN = 0.2
MOST_ABOVE_100 = 1.0


@dataclass(frozen=True)
class FromLabel:
    """A composition worked out from a label.

    Attributes
    ----------
    composition : grams in 100 g, by component.
    density_g_ml : as such a composition has it [g/ml].
    allergens : that it names or holds.
    assumed : what was assumed, and what does not fit, each a sentence.
    """

    label: Label
    composition: Mapping[str, float]
    density_g_ml: float
    allergens: tuple[str, ...]
    assumed: tuple[str, ...]


def from_label(text: str) -> FromLabel:
    """A composition from what is printed on a packet.

    Parameters
    ----------
    text : the table of nutrients, the list of ingredients and what it contains, as typed or pasted, in one of
        the six languages of `LANGUAGES`.

    Raises
    ------
    BadFormula
        when it has neither fat, carbohydrate, protein nor alcohol.
    OutOfRange
        when its nutrients are more than 100 g in 100 g.

    >>> found = from_label("Fat 35 g, carbohydrate 3.2 g, sugars 3.2 g, protein 2.2 g. Ingredients: cream")
    >>> {name: round(share, 1) for name, share in found.composition.items() if share > 1}
    {'water': 59.2, 'fat': 35.0, 'milk_protein': 2.2, 'lactose': 3.2}
    """
    label = read_label(text)
    shares = _Shares(label)
    found = shares.composition()
    return FromLabel(
        label, found, round(density_of(found), 3), _allergens(label), (*shares.assumed, *_energy(label))
    )


def _allergens(label: Label) -> tuple[str, ...]:
    return tuple(dict.fromkeys((*label.contains, *(("alcohol",) if label.nutrients.get("alcohol") else ()))))


def _energy(label: Label) -> tuple[str, ...]:
    """What does not fit: energy that the nutrients do not give."""
    stated = label.nutrients.get("energy")
    if not stated:
        return ()
    if label.nutrients.get("alcohol") and label.unit == "g":
        return ()
    given = dict(label.nutrients)
    if "alcohol" in given:
        given["alcohol"] *= ETHANOL_G_ML
    counted = sum(KJ_PER_G[name] * given.get(name, 0.0) for name in KJ_PER_G)
    if abs(counted - stated) <= ENERGY_OFF * max(counted, stated, 100.0):
        return ()
    return (
        f"its energy of {stated:.0f} kJ does not fit its nutrients, which give {counted:.0f}: read it again",
    )


@dataclass
class _Shares:
    """The components of a food, from its nutrients and what it is made of."""

    label: Label
    assumed: list[str] = field(default_factory=list)

    def has(self, what: str) -> bool:
        """Whether the list of ingredients names something of a kind."""
        listed = self.label.ingredients
        folded = fold(listed) if what.startswith("cocoa") else without_others(listed)
        return says(folded, lists("holds", "label")[what])

    def composition(self) -> Mapping[str, float]:
        """Grams in 100 g by component, water as the rest."""
        label = self.label
        if not label.ingredients:
            self.assumed.append("no list of ingredients: what its sugars and protein are is a guess")
        scale = 100.0 / label.per
        given = {name: value * scale for name, value in label.nutrients.items()}
        given["alcohol"] = label.nutrients.get("alcohol", 0.0)
        parts = self._parts(given)
        if label.unit == "ml":
            # The table is of a volume: the density that fits it is found by going round a few times.
            density = 1.0
            for _ in range(6):
                by_weight = {name: value / density for name, value in parts.items()}
                density = density_of(self._with_water(by_weight))
            parts = {name: value / density for name, value in parts.items()}
            self.assumed.append(f"per 100 ml, taken as {100 * density:.0f} g")
        elif given["alcohol"]:
            parts["ethanol"] /= density_of(self._with_water(parts))
        return self._with_water(parts)

    def _with_water(self, parts: Mapping[str, float]) -> dict[str, float]:
        total = sum(parts.values())
        if total > 100 + MOST_ABOVE_100:
            raise OutOfRange(
                "text", f"{total:.1f} g", "in 100 g is more than there is", "Look at its table again."
            )
        whole = {name: parts.get(name, 0.0) for name in COMPONENTS}
        whole["water"] = max(0.0, 100 - total)
        full = sum(whole.values())
        return {name: 100 * value / full for name, value in whole.items()}

    def _parts(self, given: Mapping[str, float]) -> dict[str, float]:
        parts = {"salt": given.get("salt", 0.0), "ethanol": ETHANOL_G_ML * given["alcohol"]}
        parts |= self._proteins(given.get("protein", 0.0))
        milk_protein = parts.get("milk_protein", 0.0)
        parts |= self._fats(given.get("fat", 0.0), milk_protein)
        parts |= self._carbohydrates(given, milk_protein)
        rest = parts.pop("other_protein", 0.0) + given.get("fibre", 0.0) + parts.pop("dextrin", 0.0)
        if self.has("cocoa") and self.has("cocoa_butter"):
            # What is neither fat, sugar nor milk in a chocolate is the dry part of its cocoa.
            counted = sum(parts.values())
            parts["cocoa_solids"] = max(0.0, 100 - counted - 1.0)
            self.assumed.append(
                "what is neither fat, sugar nor milk is taken for the dry part of cocoa, with 1 % water"
            )
            rest = 0.0
        if self.has("fruit") and not self.has("milk"):
            parts["acid"] = FRUIT_ACID
            self.assumed.append(f"fruit acid {FRUIT_ACID:g} %, which a label does not say")
        parts["rest"] = rest + DAIRY_ASH_PER_PROTEIN * milk_protein
        return parts

    def _proteins(self, protein: float) -> dict[str, float]:
        """Protein by what it is of."""
        kinds = [kind for kind in ("milk", "yolk", "white", "egg") if self.has(kind)]
        egg = [kind for kind in kinds if kind != "milk"]
        if egg and "milk" in kinds:
            self.assumed.append("of its protein half is taken for egg's, half for milk's")
        egg_share = 0.0 if not egg else 0.5 if "milk" in kinds else 1.0
        yolk = {"yolk": 0.94, "white": 0.0, "egg": 0.41}
        of_yolk = yolk[egg[0]] if egg else 0.0
        milk = protein * (1 - egg_share) if "milk" in kinds or not self.label.ingredients else 0.0
        return {
            "milk_protein": milk,
            "yolk_protein": protein * egg_share * of_yolk,
            "white_protein": protein * egg_share * (1 - of_yolk),
            "other_protein": 0.0 if kinds or not self.label.ingredients else protein,
        }

    def _fats(self, fat: float, milk_protein: float) -> dict[str, float]:
        """Fat as cocoa butter or another."""
        if not self.has("cocoa_butter"):
            return {"fat": fat}
        of_milk = min(fat, MILK_FAT_PER_PROTEIN * milk_protein) if self.has("milk") else 0.0
        if of_milk:
            self.assumed.append(f"of its fat {of_milk:.1f} g are taken for milk's, the rest for cocoa butter")
        return {"fat": of_milk, "cocoa_butter": fat - of_milk}

    def _carbohydrates(self, given: Mapping[str, float], milk_protein: float) -> dict[str, float]:
        """Sugars by kind, then starch, dextrins and polyols."""
        sugars = given.get("sugars", 0.0)
        more = max(0.0, given.get("carbohydrate", sugars) - sugars)
        added, simple = self.has("sucrose"), self.has("simple")
        dairy = self.has("milk") or not self.label.ingredients
        lactose = (
            sugars
            if dairy and not added and not simple
            else min(sugars, MILK_LACTOSE_PER_PROTEIN * milk_protein)
        )
        if not dairy:
            lactose = 0.0
        left = sugars - lactose
        sucrose = left if added and not simple else left / 2 if added else 0.0
        if dairy and left:
            self.assumed.append(f"of its sugars {lactose:.1f} g are taken for lactose, by its milk protein")
        if added and simple:
            self.assumed.append("its other sugars are taken half for sucrose, half for simple ones")
        polyols = min(more, given.get("polyols", 0.0))
        dry = more - polyols
        starchy = self.has("starch")
        if dry > 1 and starchy:
            self.assumed.append(f"{dry:.1f} g of carbohydrate that are no sugars are taken for starch")
        return {
            "lactose": lactose,
            "sucrose": sucrose,
            "other_sugars": left - sucrose + polyols,
            "starch": dry if starchy else 0.0,
            "dextrin": 0.0 if starchy else dry,
        }
