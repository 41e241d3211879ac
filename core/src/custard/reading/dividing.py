"""One thing divided into its amount, its name and its note."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from custard.quantities import units
from custard.reading.amounts import Amount, amount_at, piece_at, unit_at
from custard.reading.line import Reader
from custard.reading.match import Hints
from custard.reading.names import find
from custard.reading.tokens import Kind, Token, phrase_at, tokens
from custard.reading.words import lists, pieces


def divided(text: str, reader: Reader) -> tuple[Amount | None, str, str]:
    """A line as its amount, its name, and what it says behind a comma."""
    found = tokens(text)
    start = _bullet(found)
    sized = _packets(found[start:], reader)
    if sized is not None:
        amount, rest = sized
        return amount, *_name(rest, text)
    read = amount_at(found, start, reader.language)
    if read is not None:
        amount, count = read
        rest = found[start + count :]
        amount, rest = _summed(amount, rest, reader)
        amount, rest = said_again(amount, rest, reader)
        amount, rest = _counted(amount, rest, reader)
        amount, rest = _as_much(amount, rest, reader)
        if any(token.kind == Kind.WORD for token in rest):
            return amount, *_name(rest, text)
    behind = _amount_behind(found[start:], text, reader)
    return _one_of_it(found[start:], text, reader) or behind if behind[0] is None else behind


def _one_of_it(found: Sequence[Token], text: str, reader: Reader) -> tuple[Amount | None, str, str] | None:
    """A line that leaves the number out: "pinch of salt", "knob of butter"."""
    unit = unit_at(found, 0, reader.language)
    if unit is not None and len(found[0].folded) > 2 and len(found) > unit[3]:
        name, times, guess, count = unit
        return Amount(times, name, assumed=(guess,) if guess else ()), *_name(found[count:], text)
    piece = piece_at(found, 0)
    words = " ".join(token.folded for token in found[:piece])
    if piece and len(found) > piece and words not in lists("line")["no_piece"]:
        return Amount(1.0, "", words), *_name(found[piece:], text)
    return None


def _bullet(found: Sequence[Token]) -> int:
    """Tokens of a bullet, or of an article before a name."""
    at = 0
    while at < len(found) and found[at].kind == Kind.SIGN and found[at].text in "-–—•*·▪|:,;.>":
        at += 1
    return at


def _packets(found: Sequence[Token], reader: Reader) -> tuple[Amount, Sequence[Token]] | None:
    """Packets with their size: "2 x 400 ml tins", "1 14-oz can", "a 400 g tin of"."""
    read = amount_at(found, 0, reader.language)
    if read is None:
        return None
    first, count = read
    at = count
    if first.unit == "" and at < len(found) and found[at].text in "xX*":
        at += 1
    size = amount_at(found, at, reader.language) if first.unit == "" else None
    if size is not None and size[0].exact:
        after = at + size[1]
        after += 1 if after < len(found) and found[after].text == "-" else 0
        piece = piece_at(found, after)
        if piece or at > count:
            return size[0].times(first.number), found[after + piece :]
        return None
    if first.exact:
        piece = piece_at(found, count)
        rest = found[count + piece :]
        if piece and rest and count and found[0].kind == Kind.WORD:
            return first, rest
    return None


def _summed(amount: Amount, rest: Sequence[Token], reader: Reader) -> tuple[Amount, Sequence[Token]]:
    """An amount and what is added to it: "1 cup plus 2 tbsp", in millilitres or grams."""
    joint = 1 if rest[:1] and rest[0].text in "+&" else phrase_at(rest, 0, lists("amount")["plus"])
    more = amount_at(rest, joint, reader.language) if joint else None
    if more is None or not more[0].unit or not amount.unit:
        return amount, rest
    added, count = more
    sizes = [_size(one, reader) for one in (amount, added)]
    if sizes[0] is None or sizes[1] is None or sizes[0][1] != sizes[1][1]:
        return amount, rest
    total = Amount(sizes[0][0] + sizes[1][0], sizes[0][1], assumed=(*amount.assumed, *added.assumed))
    return total, rest[joint + count :]


def _size(amount: Amount, reader: Reader) -> tuple[float, str] | None:
    """An amount in millilitres or grams."""
    unit = units().get(amount.unit)
    if unit is None or unit.dimension not in ("g", "ml"):
        return None
    return amount.number * unit.size[reader.measures] * (2.0 if amount.heaped else 1.0), unit.dimension


def said_again(amount: Amount, rest: Sequence[Token], reader: Reader) -> tuple[Amount, Sequence[Token]]:
    """An amount written twice, "500 ml / 2 cups" or "1 oz | 28 g": the weight wins over cups."""
    while (rest and rest[0].text in "/|=~") or (rest and rest[0].folded in lists("amount")["or"]):
        again = amount_at(rest, 1, reader.language)
        if again is None or not again[0].unit:
            return amount, rest
        other, count = again
        amount = other if other.rank() > amount.rank() else amount
        rest = rest[1 + count :]
    return amount, rest


def _as_much(amount: Amount, rest: Sequence[Token], reader: Reader) -> tuple[Amount, Sequence[Token]]:
    """What a count comes to, said behind the name: "4 lemons, that is 160 ml"."""
    for at in range(1, len(rest)):
        joint = phrase_at(rest, at, lists("amount")["as_much"])
        other = amount_at(rest, at + joint, reader.language) if joint else None
        if other is not None and other[0].rank() > amount.rank():
            return other[0], [token for token in rest[:at] if token.text != ","]
    return amount, rest


def _counted(amount: Amount, rest: Sequence[Token], reader: Reader) -> tuple[Amount, Sequence[Token]]:
    """A count of pieces with its word: "6 sheets of gelatine"; the word stays where it is the name."""
    if amount.unit not in ("", "stick"):
        return amount, rest
    if amount.unit == "stick":
        words = " ".join(token.text for token in rest if token.kind == Kind.WORD)
        match = find(words, Hints(reader.language, reader.country))
        if match.id.startswith("butter"):
            return amount, rest
        return replace(amount, unit="", piece="stick"), rest
    named = rest[: next((at for at, token in enumerate(rest) if token.text in ",;"), len(rest))]
    whole = find(
        " ".join(token.text for token in named if token.kind == Kind.WORD),
        Hints(reader.language, reader.country),
    )
    size = phrase_at(rest, 0, lists("amount")["size"]) or phrase_at(rest, 0, lists("amount")["about"])
    for skip in dict.fromkeys((0, size)):
        piece = piece_at(rest, skip)
        if not piece or skip + piece >= len(named):
            continue
        counted = " ".join(token.folded for token in rest[skip : skip + piece])
        if counted in lists("amount")["egg_parts"]:
            # "Yolks from large eggs"
            continue
        if not whole.assumed and counted in whole.words.split():
            # The word is a part of the name: "egg yolks", "rama de canela".
            known = any(counted in one.words and one.weighs(whole.id) for one in pieces())
            return replace(amount, piece=counted if known else ""), rest
        return replace(amount, piece=counted), rest[skip + piece :]
    return amount, rest


def _name(rest: Sequence[Token], text: str) -> tuple[str, str]:
    """The words that name it, and what stands behind the first comma."""
    at = 0
    while at < len(rest) and rest[at].kind == Kind.SIGN and rest[at].text not in "(%":
        at += 1
    at += phrase_at(rest, at, lists("amount")["of"])
    if at < len(rest) and rest[at].text == "'":
        at += 1
    words = text[rest[at].start : rest[-1].end] if at < len(rest) else ""
    name, _, after = re.sub(r"(\d),(\d)", r"\1·\2", words).partition(",")
    name, _, also = name.partition(";")
    return name.replace("·", ",").strip(" .:-–—*"), ", ".join(
        part.replace("·", ",").strip() for part in (also, after) if part
    ).strip()


def _amount_behind(found: Sequence[Token], text: str, reader: Reader) -> tuple[Amount | None, str, str]:
    """A line that names the thing first: "butter, 50 g", "Lait : 500 g", "yolks x 6"."""
    for at in range(1, len(found)):
        before = found[at - 1]
        if found[at].kind == Kind.NUMBER and (is_share(found, at) or _is_of_the_name(found, at)):
            continue
        # "The yolks of six eggs": elsewhere a number in words does not begin an amount behind a name.
        of_egg = at > 1 and found[at - 2].folded in lists("amount")["egg_parts"]
        of_egg = of_egg and before.folded in lists("amount")["of"]
        starts = of_egg or found[at].kind == Kind.NUMBER or before.text in ":,;-–—=|x."
        read = amount_at(found, at, reader.language) if starts else None
        if read is None:
            continue
        amount, count = read
        amount, before = _unit_in_front(amount, found, at)
        amount, rest = _summed(amount, found[at + count :], reader)
        amount, rest = said_again(amount, rest, reader)
        if amount.unit == "stick":
            amount, _ = _counted(amount, [*found[:at], *rest], reader)
        piece = piece_at(rest, 0)
        if piece and not amount.unit:
            amount = replace(amount, piece=" ".join(token.folded for token in rest[:piece]))
            rest = rest[piece:]
        elif not amount.unit and not piece and not reader.unit and before.folded in lists("line")["sheets"]:
            amount = replace(amount, piece=before.folded)
        name = re.sub(r"\s[x×]$", "", text[found[0].start : before.end].strip(" .:,;-–—=|*"))
        if not re.search(r"[^\W\d_]", name):
            continue
        after = text[rest[0].start : rest[-1].end].strip(" .,;-–—") if rest else ""
        whole, _, more = name.partition(",")
        return amount, whole.strip(), ", ".join(part for part in (more.strip(), after) if part)
    name, note = _name(found, text)
    return None, name, note


def _is_of_the_name(found: Sequence[Token], at: int) -> bool:
    """Whether a number belongs to a name whose amount comes last: "cream 35 400", "mass 1:5 24"."""
    rest = found[at:-1] if found[-1].kind == Kind.WORD else found[at:]
    numbers = sum(token.kind == Kind.NUMBER for token in rest)
    return numbers > 1 and all(token.kind == Kind.NUMBER or token.text in ":-–—" for token in rest)


def _unit_in_front(amount: Amount, found: Sequence[Token], at: int) -> tuple[Amount, Token]:
    """The amount with a unit that stands before its number, "latte g 500", and where the name ends."""
    before = found[at - 1]
    unit = _IN_FRONT.get(before.folded)
    if amount.unit or unit is None or at < 2:
        return amount, before
    return replace(amount, unit=unit), found[at - 2]


_IN_FRONT = {
    **{unit: unit for unit in ("g", "kg", "ml", "cl", "dl", "l")},
    **dict.fromkeys(("gr",), "g"),
    **dict.fromkeys(("n", "no", "nr", "nos"), ""),
}


def is_share(found: Sequence[Token], at: int) -> bool:
    """Whether a number is a percentage, or a strength, or counts bloom or DE."""
    after = found[at + 1].text if at + 1 < len(found) else ""
    return after in ("%", "°", "DE") or after.casefold() == "bloom"


def with_brackets(
    amount: Amount | None, inside: Sequence[str], reader: Reader
) -> tuple[Amount | None, list[str]]:
    """An amount and what brackets say of it: a weight wins over pieces and cups; the rest are notes."""
    notes = []
    for part in inside:
        found: Sequence[Token] = tokens(part)
        at = phrase_at(found, 0, lists("amount")["about"])
        at += phrase_at(found, at, lists("amount")["each"]) or (
            1 if found[at : at + 1] and found[at].folded == "a" else 0
        )
        each = at > 0 and found[at - 1].folded in lists("amount")["each"] | {"a"}
        read = amount_at(found, at, reader.language) or amount_at(found, 0, reader.language)
        unit = unit_at(found, 0, reader.language)
        if read is None and amount is None and unit is not None and unit[3] == len(found):
            # "Nutmeg (pinch)"
            amount = Amount(unit[1], unit[0], assumed=(unit[2],) if unit[2] else ())
            continue
        if read is None or (found and is_share(found, min(at, len(found) - 1))):
            notes.append(part)
            continue
        other, count = read
        rest = found[max(at, 0) + count :]
        other, rest = said_again(other, rest, reader)
        for token in rest:
            if token.text in ",;/|":
                again = amount_at(rest, rest.index(token) + 1, reader.language)
                if again is not None and again[0].rank() > other.rank():
                    other = again[0]
        each = each or any(phrase_at(rest, i, lists("amount")["each"]) for i in range(len(rest)))
        if not other.unit and not rest and reader.unit:
            other = replace(other, unit=reader.unit)
        if not other.unit:
            counted = piece_at(rest, 0)
            if amount is None and counted == len(rest):
                amount = replace(other, piece=" ".join(token.folded for token in rest[:counted]))
            else:
                notes.append(part)
            continue
        if amount is None:
            amount = other
        elif other.rank() > amount.rank():
            alone = amount.piece in lists("line")["packs"] and amount.number > 1 and not each
            amount = other.times(amount.number if each or alone else 1.0)
        notes.append(part)
    return amount, notes
