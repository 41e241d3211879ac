"""What the amount of a line weighs, by pieces, packets, spoons and scales."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from custard.errors import CustardError
from custard.larder.eggs import egg_size
from custard.larder.ingredients import all_ingredients, ingredient
from custard.quantities import grams, read_quantity
from custard.reading.amounts import Amount
from custard.reading.line import Option, Reader, ReadLine
from custard.reading.match import Match
from custard.reading.words import lists, pieces

FEW_OF = {"yolk": 24.0, "white": 24.0, "egg": 24.0, "pod": 6.0, "leaf": 6.0}
"""A number this small, of what is counted, is a count though the recipe says that all is in grams."""
FEW_PIECES = 2.0
"""Of a thing that is named by its piece, "gelatine sheets 10", so few are counted in a list of grams."""
MOST_COUNTED = 60.0
"""Nobody counts more eggs than this: a larger number without a unit is in grams."""
BARE = "a number without a unit is in grams"
KILOS = "numbers like 0.080 are in kilos"
HEAPED = "a heaped or rounded spoon holds two level ones"
BARE_G = 10.0
"""A number without a unit this large, of what is not counted, is meant in grams."""


def weighed_as(line: ReadLine, amount: Amount, match: Match, reader: Reader) -> ReadLine:
    """A line with its amount as a formula takes it, and what it weighs.

    Parameters
    ----------
    line : with its ingredient.
    amount : as it was read.
    match : the ingredient and what else it may be.
    reader : measures, eggs, and the unit of bare numbers.
    """
    if amount.piece in lists("line")["each_piece"]:
        amount = replace(amount, piece="")
    weighs_all = reader.unit and amount.number > FEW_PIECES
    if not amount.unit and not amount.piece and not weighs_all:
        # "1/2 cinnamon stick": the word that is counted is a part of the name.
        known = {word for one in pieces() if one.weighs(match.id) for word in one.words}
        last = [word for word in match.words.split() if word in known and not ingredient(match.id).piece]
        amount = replace(amount, piece=last[-1]) if last else amount
    counted = _counted(amount, match.id, reader) if not amount.unit else _Counted(amount)
    assumed = [*line.assumed, *amount.assumed, *counted.assumed]
    written = counted.amount
    if written is None or (written.unit == "stick" and not match.id.startswith("butter")):
        why = f"say how much a {amount.piece} weighs" if amount.piece else "say how much"
        return replace(line, assumed=tuple(assumed), why=why, options=(Option(match.id, ""), *line.options))
    sizes = counted.sizes
    if written.heaped:
        level = replace(written, heaped=False)
        if ingredient(match.id).form != "powder":
            written = level
        else:
            assumed.append(HEAPED)
            sizes = (*sizes, level)
    if reader.guessed and written.unit in ("cup", "pint", "quart", "fl oz"):
        assumed.append(reader.guessed)
    if reader.scale != 1.0:
        written = written.times(reader.scale)
        assumed.append(f"{reader.scale:g} times, as the recipe says")
    done = weighed(replace(line, amount=written.text(), assumed=tuple(dict.fromkeys(assumed))), reader)
    others = tuple(Option(one.ingredient, done.amount) for one in line.options)
    resized = tuple(Option(match.id, one.times(reader.scale).text()) for one in sizes)
    return replace(done, options=(*resized, *others))


@dataclass(frozen=True, slots=True)
class _Counted:
    """A count as a formula takes it, None where nobody knows what one weighs, and other sizes."""

    amount: Amount | None
    assumed: tuple[str, ...] = ()
    sizes: tuple[Amount, ...] = ()


def _counted(amount: Amount, name: str, reader: Reader) -> _Counted:
    """What so many of a thing are."""
    thing = ingredient(name)
    own = bool(thing.piece) and (not amount.piece or amount.piece.rstrip("s") in (thing.piece, "egg"))
    few = own and amount.number <= FEW_OF.get(thing.piece, 0.0)
    if reader.unit and (few or not amount.piece):
        return _of_the_unit(amount.number, thing.piece if few else "", reader.unit)
    if own and not amount.piece:
        return _bare(amount.number, thing.piece, few=few)
    where = ("", reader.country, reader.language)
    piece = next(
        (one for one in pieces() if amount.piece in one.words and one.weighs(name) and one.country in where),
        None,
    )
    if piece is not None:
        guess = f"{amount.piece or thing.name}: {piece.grams:g} g each"
        usual = (size for size in (piece.low, piece.high) if size != piece.grams)
        sizes = tuple(Amount(amount.number * size, "g") for size in usual)
        return _Counted(Amount(amount.number * piece.grams, "g"), (guess,), sizes)
    if own:
        return _Counted(Amount(amount.number))
    unknown = amount.piece or amount.number < BARE_G
    return _Counted(None) if unknown else _Counted(Amount(amount.number, "g"), (BARE,))


def _of_the_unit(number: float, piece: str, unit: str) -> _Counted:
    """A number without a unit in a recipe that gives one for all; so few of a `piece` are still counted."""
    if unit == "kg":
        return _Counted(Amount(number, "kg"), (KILOS,))
    # "All in g", yet nobody weighs out twelve grams of yolk.
    return _Counted(Amount(number), (_not_grams(number, piece),)) if piece else _Counted(Amount(number, unit))


def _bare(number: float, piece: str, *, few: bool) -> _Counted:
    """A number without a unit, of what is counted."""
    if number > MOST_COUNTED:
        return _Counted(Amount(number, "g"), (BARE,))
    if few:
        return _Counted(Amount(number))
    return _Counted(Amount(number), (_not_grams(number, piece),), (Amount(number, "g"),))


def _not_grams(number: float, piece: str) -> str:
    return f"{number:g} {piece}s, not grams"


def in_proportion(lines: Sequence[ReadLine], reader: Reader) -> tuple[ReadLine, ...]:
    """Lines of which no count that may be in grams outweighs all the others.

    "60 Egg yolks" next to half a litre of milk stands in a list of grams.

    Parameters
    ----------
    lines : of one recipe, weighed.
    reader : measures, eggs, and the unit of bare numbers.
    """
    whole = sum(line.grams or 0.0 for line in lines)
    return tuple(_as_grams(line, reader) if 2 * (line.grams or 0.0) > whole else line for line in lines)


def _as_grams(line: ReadLine, reader: Reader) -> ReadLine:
    counted, weight = Option(line.ingredient, line.amount), Option(line.ingredient, f"{line.amount} g")
    if weight not in line.options:
        return line
    said = _not_grams(float(line.amount), ingredient(line.ingredient).piece)
    assumed = tuple(BARE if one == said else one for one in line.assumed)
    options = tuple(counted if one == weight else one for one in line.options)
    return weighed(replace(line, amount=weight.amount, assumed=assumed, options=options), reader)


def weighed(line: ReadLine, reader: Reader) -> ReadLine:
    """A line with its weight, or with the reason why it cannot be weighed."""
    try:
        thing = all_ingredients()[line.ingredient]
        weight = grams(read_quantity(line.amount), thing, egg_size(reader.eggs), reader.measures)
    except CustardError as error:
        return replace(line, why=error.sentence())
    return replace(line, grams=weight)
