"""The bowl while things are stirred into it, one after the other."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from custard.advice.finish.outcome import Addition, degrees, grams, texts
from custard.advice.finish.waiting import alcohol_kept, waits_s
from custard.advice.mix.assess import Assessment
from custard.formula import Line
from custard.process.cooling.chocolate import Ladle
from custard.process.heating.pot import Pot, laid_out
from custard.process.whisking.folding import WHITE, Folded, fold_kind

FRIDGE_C = 5.0
Row = tuple[int, Line, float]
"""A line of the formula: its place, itself, what is weighed of it [g]."""


@dataclass
class Bowl:
    """The bowl while things are stirred into it, and what has been found so far."""

    result: Assessment
    pot: Pot
    air: float = 0.0
    done: list[Addition] = field(default_factory=list)
    folded: Folded | None = None
    dry: list[tuple[Any, float]] = field(default_factory=list)
    sugar: list[Row] = field(default_factory=list)

    def add(
        self,
        kind: str,
        rows: list[tuple[int, Line, float]],
        then: Pot,
        *,
        text: str = "",
        wait_c: float | None = None,
        ladles: tuple[Ladle, ...] = (),
        words: Mapping[str, str] | None = None,
    ) -> None:
        """Put one addition on the list; the bowl is then as `then`."""
        waits = None if wait_c is None or self.pot.at_c <= wait_c else waits_s(self.pot, wait_c)
        alcohol_g = sum(g * line.ingredient.composition["ethanol"] / 100 for _, line, g in rows)
        kept = alcohol_kept(then, self.result) if alcohol_g > 0 else None
        mass_g = sum(g for _, _, g in rows)
        known = {
            "name": " and ".join(line.ingredient.name for _, line, _ in rows),
            "grams": grams(mass_g),
            "wait": degrees(wait_c),
            "at": degrees(then.at_c),
            "kept": "" if kept is None else f"{100 * kept:.0f} %",
            **(words or {}),
        }
        told = texts()[text or kind]
        say = told["say"].format_map(known)
        if "more" in known:
            say += " " + texts()["more"]["say"].format_map(known)
        self.done.append(
            Addition(
                kind=kind,
                when=rows[0][1].when,
                lines=tuple(i for i, _, _ in rows),
                name=known["name"],
                grams=mass_g,
                wait_c=wait_c,
                wait_s=waits,
                at_c=then.at_c,
                mass_g=then.mass_g,
                say=say,
                see=tuple(one.format_map(known) for one in told["see"]),
                why=told["why"].format_map(known),
                cautions=tuple(told["cautions"]),
                ladles=ladles,
                alcohol_g=alcohol_g,
                alcohol_kept=kept,
            )
        )
        self.pot = then

    def whipped_with(self, row: Row) -> list[tuple[Line, float]]:
        """What is folded in as one: a white with the sugar that is whipped into it."""
        white = fold_kind(row[1].ingredient) == WHITE and self.folded is None
        return [(line, g) for _, line, g in (row, *(self.sugar if white else ()))]

    def cooled_to(self, at_c: float | None) -> Pot:
        """The bowl once one has waited for it."""
        if at_c is None or self.pot.at_c <= at_c:
            return self.pot
        return laid_out(self.pot.mixture, at_c)
