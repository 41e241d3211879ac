"""Sentences, and the amounts that stand within them."""

from __future__ import annotations

import re
from collections.abc import Sequence

from custard.reading.amounts import amount_at, piece_at
from custard.reading.fruit import part_of_fruit_at
from custard.reading.match import Hints
from custard.reading.names import find
from custard.reading.tokens import Kind, Token, fold, phrase_at, tidy, tokens
from custard.reading.words import lists

MAX_STEP = 2000


def sentences(text: str) -> list[str]:
    """A text sentence by sentence."""
    parts = re.split(r"(?<=[.!?;])\s+(?=[A-ZÀ-ÝÉ¿0-9])", " ".join(text.split()))
    return [part.strip()[:MAX_STEP] for part in parts if re.search(r"\w", part)]


def amounts_within(sentence: str, language: str) -> tuple[str, ...]:
    """The things with an amount that a sentence names, as lines."""
    text = tidy(sentence)
    found = tokens(text)
    out, at, unit = [], 0, ""
    while at < len(found):
        peel = part_of_fruit_at(found, at)
        if peel:
            out.append(text[found[at].start : found[at + peel - 1].end])
            at += peel
            continue
        read = amount_at(found, at, language)
        if read is None:
            at += 1
            continue
        amount, count = read
        end = at + count
        single = found[at].kind == Kind.WORD and not amount.unit and amount.number < 2
        if single and not (_is_one(found[end : end + 5], language) or _is_piece_of(found, end)):
            at += 1
            continue
        if is_time_or_heat(found[end:], amount.unit):
            at = end
            continue
        words: list[str] = []
        last = end
        while last < len(found) and len(words) < 6 and found[last].text not in ".;:,()":
            shared = (
                words[:1]
                and fold(words[0]) in lists("amount")["each"]
                and found[last].folded in lists("amount")["plus"]
            )
            stops = found[last].folded in lists("line")["stops"] or found[last].folded in _verbs(language)
            if words and not shared and stops:
                break
            if found[last].kind == Kind.NUMBER:
                break
            words.append(found[last].text)
            last += 1
        name = " ".join(words)
        if words and find(name, Hints(language)).id:
            written = text[found[_whole_name(found, at)].start : found[last - 1].end]
            # "three hundred millilitres of cream and two hundred of milk"
            bare = unit and not amount.unit and amount.number >= 10
            out.append(f"{amount.number:g} {unit} {name}" if bare else written)
            unit = amount.unit or unit
            at = last
        else:
            at = end
    return tuple(out)


def _verbs(language: str) -> frozenset[str]:
    """The verbs that no name of a thing goes on over: "new milk put a stick of cinnamon"."""
    return lists("verbs").get(language, frozenset()) - lists("layout")["no_verbs"]


def _is_piece_of(found: Sequence[Token], at: int) -> bool:
    """Whether a word that recipes count by follows, with what it is of: "a stick of cinnamon"."""
    piece = piece_at(found, at)
    return bool(piece) and bool(phrase_at(found, at + piece, lists("amount")["of"]))


def _whole_name(found: Sequence[Token], at: int) -> int:
    """Where a thing begins whose name stands before its number: "the yolks of six eggs"."""
    yolks = at > 1 and found[at - 2].folded in lists("amount")["egg_parts"]
    return at - 2 if yolks and found[at - 1].folded in lists("amount")["of"] else at


def _is_one(found: Sequence[Token], language: str) -> bool:
    """Whether "a" counts one of something that is used so: a vanilla pod, a bay leaf, an egg."""
    words: list[str] = []
    for token in found:
        if token.kind != Kind.WORD or token.folded in lists("line")["stops"]:
            break
        words.append(token.text)
    match = find(" ".join(words), Hints(language)) if words else None
    return match is not None and not match.assumed and match.id in _SINGLES


_SINGLES = frozenset(("vanilla-pod", "bay-leaf", "tonka-bean", "egg-yolk", "whole-egg", "egg-white"))


def is_time_or_heat(rest: Sequence[object], unit: str) -> bool:
    """Whether what follows a number makes it a time, a temperature or a size."""
    if unit:
        return False
    first = rest[0] if rest else None
    text = getattr(first, "text", "")
    return (
        text in ("°", "º", "%")
        or getattr(first, "folded", "") in lists("line")["times"]
        or text in ("C", "F")
    )
