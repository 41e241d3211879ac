"""The ingredients: composition per 100 g, density, level bulk density, pH, allergens, origin."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from difflib import get_close_matches
from functools import cache
from types import MappingProxyType

from custard.errors import OutOfRange, UnknownName, within
from custard.larder.tables import rows

COMPONENTS: tuple[str, ...] = (
    "water",
    "fat",
    "cocoa_butter",
    "yolk_protein",
    "white_protein",
    "milk_protein",
    "sucrose",
    "lactose",
    "other_sugars",
    "starch",
    "ethanol",
    "cocoa_solids",
    "salt",
    "acid",
    "rest",
)
"""What a mix is made of. `rest` holds other protein, fibre, dextrins and ash."""

_FOLDED_INTO_REST = ("other_protein", "fibre", "dextrin")
DECLARED = (*COMPONENTS, *_FOLDED_INTO_REST)
"""What a kitchen may declare of its own ingredients: a label tells fibre, and protein of no egg or milk."""
SUGARS = ("sucrose", "lactose", "other_sugars")
EGG_PROTEINS = ("yolk_protein", "white_protein")
US_CUP_ML = 236.588
BUFFER_PER_ACID_PERCENT = 32.0
LIGHTEST_G_ML, HEAVIEST_G_ML = 0.1, 3.0
"""What a food's density can be: from puffed and powdered to syrups of salt."""
"""Buffering of dissolved fruit acid, mmol/kg per pH unit and percent; for a cook's own ingredients."""


US_ALLERGENS = ("milk", "egg", "fish", "soya", "peanuts", "sesame")
"""Allergens that the list of the United States has under the same name, or nearly so."""
BUTTER_PERCENT = 60.0
"""Solid dairy of so much fat is butter, not cheese [g/100 g]."""
MILK_KG_L = 1.03
"""What a litre of milk weighs [kg]; milk and cream differ by a few percent, which a ratio does not show."""


@dataclass(frozen=True)
class Ingredient:
    """One thing that goes on the scale.

    Attributes
    ----------
    id : name in the open format ("egg-yolk"); empty for a cook's own ingredient.
    group : egg, dairy, dairy-free, sugar, starch, chocolate, alcohol, flavour, infusion, dry, fruit or own.
    form : liquid, solid or powder; decides how a volume measure weighs it.
    piece : the word for one of it ("yolk", "egg", "white", "pod"), or empty when it is not counted.
    composition : percent by mass of each of `COMPONENTS`; adds up to 100.
    dextrin : percent of oligosaccharides, part of `rest`; they thicken the serum but are no sugars here.
    bloom : strength of a gelatine [bloom], of soaked gelatine by its whole weight; 0 for everything else.
    density_g_ml : density of the thing itself at 20 °C.
    level_g_ml : what a level measure of it weighs, per millilitre.
    ph, buffer : pH and buffering [mmol/kg per pH unit] for the pH of a mix.
    allergens : as the European list has them, the cereal or the nut in brackets, as labels must say it.
    unmodelled : what it does that the model does not know; empty where nothing is left out.
    """

    id: str
    name: str
    group: str
    form: str
    piece: str
    composition: Mapping[str, float]
    starch_kind: str
    dextrin: float
    bloom: float
    density_g_ml: float
    level_g_ml: float
    ph: float
    buffer: float
    allergens: tuple[str, ...]
    range: str
    source: str
    confidence: str
    unmodelled: str = ""

    @property
    def allergen_groups(self) -> tuple[str, ...]:
        """The groups of the European list, without the cereal or the nut."""
        return groups_of_allergens(self.allergens)

    @property
    def us_allergens(self) -> tuple[str, ...]:
        """As the United States list them: wheat but no other gluten, tree nuts by name, no sulphites."""
        found = []
        for word in self.allergens:
            broad, _, named = word.rstrip(")").partition(" (")
            if broad == "gluten":
                # Where the cereal is not said it may be wheat: the safe side.
                found += ["wheat"] if "wheat" in named or not named else []
            elif broad == "nuts":
                found.append(f"tree nuts ({named})" if named else "tree nuts")
            elif broad in US_ALLERGENS:
                found.append({"soya": "soy"}.get(broad, broad))
        return tuple(found)

    @property
    def is_milk(self) -> bool:
        """Milk, cream and the like; not butter."""
        return self.group == "dairy" and self.form == "liquid"

    @property
    def is_butter(self) -> bool:
        """Butter, whose fat is free and not in droplets."""
        return self.group == "dairy" and self.form == "solid" and self.composition["fat"] >= BUTTER_PERCENT

    @property
    def is_chocolate(self) -> bool:
        """Chocolate that melts; not cocoa powder."""
        return self.group == "chocolate" and self.form == "solid"


def _ingredient(row: dict[str, str]) -> Ingredient:
    raw = {name: float(row[name]) for name in COMPONENTS}
    raw["rest"] += sum(float(row[name]) for name in _FOLDED_INTO_REST)
    total = sum(raw.values())
    density = float(row["density_g_ml"])
    level = density if row["form"] == "liquid" else float(row["us_cup_g"]) / US_CUP_ML
    return Ingredient(
        id=row["id"],
        name=row["name"],
        group=row["group"],
        form=row["form"],
        piece=row["piece"],
        composition=MappingProxyType({name: 100 * value / total for name, value in raw.items()}),
        starch_kind=row["starch_kind"],
        dextrin=float(row["dextrin"]),
        bloom=float(row["bloom"]),
        density_g_ml=density,
        level_g_ml=level,
        ph=float(row["ph"]),
        buffer=float(row["buffer"]),
        allergens=tuple(word for word in row["allergens"].split(";") if word),
        range=row["range"],
        source=row["source"],
        confidence=row["confidence"],
        unmodelled=row["unmodelled"],
    )


@cache
def all_ingredients() -> Mapping[str, Ingredient]:
    """Every ingredient of the open format, by id, in the order of the table."""
    return MappingProxyType({row["id"]: _ingredient(row) for row in rows("ingredients")})


def ingredient(name: str) -> Ingredient:
    """The ingredient of that id.

    Parameters
    ----------
    name : the id of an ingredient.

    Raises
    ------
    UnknownName
        when there is none; the next step names the closest ids.
    """
    found = all_ingredients().get(name)
    if found is None:
        raise UnknownName("ingredient", name, "is not an ingredient of the list", _closest(name))
    return found


@cache
def _also_called() -> Mapping[str, tuple[str, ...]]:
    columns = ("en", "fr", "de", "it", "es", "pt")
    words = {
        row["id"]: [word for one in columns for word in row[one].split("|") if word] for row in rows("words")
    }
    for row in rows("choices"):
        # A word that may be several finds the one that it usually is.
        usual = (row["usual"], *(pair.partition(":")[2] for pair in row["but"].split("|") if pair))
        for name in dict.fromkeys(usual):
            words[name] += row["words"].split("|")
    return MappingProxyType({name: tuple(dict.fromkeys(found)) for name, found in words.items()})


def also_called(name: str) -> tuple[str, ...]:
    """What cooks call the ingredient of that id, in English first, then in five other languages.

    Parameters
    ----------
    name : the id of an ingredient.
    """
    return _also_called().get(name, ())


def groups_of_allergens(named: Iterable[str]) -> tuple[str, ...]:
    """The groups of the European list, each once: "nuts" of "nuts (almonds)".

    Parameters
    ----------
    named : allergens with the cereal or the nut in brackets, where it is known.
    """
    return tuple(dict.fromkeys(word.partition(" (")[0] for word in named))


def own_ingredient(
    name: str,
    composition: Mapping[str, float],
    allergens: tuple[str, ...] = (),
    density_g_ml: float | None = None,
) -> Ingredient:
    """A cook's own ingredient, from its composition in percent by mass.

    Parameters
    ----------
    name : what it is called.
    composition : by component [g per 100 g], adding up to 100.
    allergens : by name, with the cereal or the nut in brackets where it is known: "nuts (almonds)".
    density_g_ml : density [g/ml]; None where it was not said.

    Raises
    ------
    UnknownName
        when a component is not one of `DECLARED`.
    OutOfRange
        when the name has no letter or number, a share is outside 0 to 100, the shares do not add up to 100
        (within 0.5), or the density is no food's.
    """
    if not any(char.isalnum() for char in name):
        raise OutOfRange("name", name, "has no letter or number, so nobody could call for it")
    if density_g_ml is not None:
        within("density_g_per_ml", density_g_ml, LIGHTEST_G_ML, HEAVIEST_G_ML)
    for part, share in composition.items():
        if part not in DECLARED:
            raise UnknownName(
                f"composition.{part}", part, "is not a component", f"Write {', '.join(DECLARED)}."
            )
        if not 0 <= share <= 100:
            raise OutOfRange(f"composition.{part}", share, "must be from 0 to 100 g per 100 g")
    total = sum(composition.values())
    if abs(total - 100) > 0.5:
        raise OutOfRange(
            "composition",
            f"{total:.4g} g",
            "must add up to 100 g per 100 g",
            "Put what is left under “rest”.",
        )
    full = {part: 100 * composition.get(part, 0.0) / total for part in COMPONENTS}
    full["rest"] += sum(100 * composition.get(part, 0.0) / total for part in _FOLDED_INTO_REST)
    acid = full["acid"]
    density = density_g_ml if density_g_ml is not None else density_of(full)
    return Ingredient(
        id="",
        name=name,
        group="own",
        form="liquid" if full["water"] + full["ethanol"] > 40 else "solid",
        piece="",
        composition=MappingProxyType(full),
        starch_kind="maize" if full["starch"] else "",
        dextrin=100 * composition.get("dextrin", 0.0) / total,
        bloom=0.0,
        density_g_ml=density,
        level_g_ml=density,
        ph=6.6 if acid < 0.05 else 3.4,
        buffer=BUFFER_PER_ACID_PERCENT * acid + 6 * full["milk_protein"] + 4 * full["yolk_protein"],
        allergens=allergens,
        range="",
        source="given by the kitchen",
        confidence="M",
    )


def density_of(shares: Mapping[str, float]) -> float:
    """Ideal-mixing density [g/ml] at 20 °C, from rounded component densities.

    Parameters
    ----------
    shares : percent by mass of each component, adding up to 100.
    """
    rho = {"water": 0.998, "ethanol": 0.789, "fat": 0.92, "cocoa_butter": 0.92}
    return 1 / sum(share / 100 / rho.get(part, 1.45) for part, share in shares.items())


def _closest(name: str) -> str:
    near = get_close_matches(str(name).lower().replace(" ", "-"), all_ingredients(), n=3, cutoff=0.5)
    return f"Close to it: {', '.join(near)}." if near else "See the list of ingredients."
