"""What is asked of a batch where guests are vulnerable, and what it has reached."""

from __future__ import annotations

from dataclasses import dataclass

from custard.advice.mix.assess import Assessment
from custard.advice.mix.keeping import joins_raw
from custard.figures import Tenths


@dataclass(frozen=True)
class Guests:
    """What is asked where guests are vulnerable, and what was reached; it informs, it never clears.

    Attributes
    ----------
    asked_logs : decimal reductions of Salmonella asked for [1].
    reached_logs : what the model makes of the cook [1]; None before anything is known of it.
    pasteurised : whether the egg was pasteurised before; None while nobody has said.
    raw : what joins raw after the heat, which no heat has reached.
    met : pasteurised or shown by heat, and nothing raw in it; None while that is open.
    say : in a sentence.
    """

    asked_logs: Tenths
    reached_logs: Tenths | None
    pasteurised: bool | None
    raw: tuple[str, ...]
    met: bool | None
    say: str


INFORMS = "This informs and never clears: ask whoever answers for food safety here."


def guests(
    result: Assessment,
    reached_logs: float | None,
    pasteurised: bool | None,
    unheated: tuple[str, ...] = (),
) -> Guests:
    """What to ask of a batch for vulnerable guests, and what it has reached.

    Parameters
    ----------
    result : what it is made of.
    reached_logs : decimal reductions of Salmonella that its heat reached [1]; None where nobody knows.
    pasteurised : whether its egg was pasteurised; None while nobody has said.
    unheated : what else went into it unheated, out of other batches and remedies.
    """
    asked = result.conditions.parameters.lethality.asked_logs
    raw = tuple(dict.fromkeys([*joins_raw(result.formula), *unheated]))
    shown = reached_logs is not None and reached_logs >= asked
    if raw:
        met, say = (
            False,
            f"Raw in it after the heat: {', '.join(raw)}. Leave it out, or serve another dish.",
        )
    elif pasteurised:
        met, say = True, "Made with pasteurised egg, as was said."
    elif reached_logs is None:
        met, say = None, f"Use pasteurised egg, or show {asked:g} logs by a probe in the sauce."
    elif shown:
        met, say = True, f"The heat reached {asked:g} logs of Salmonella and more, by the model."
    else:
        met, say = (
            False,
            f"By the model the heat reached {reached_logs:.1f} logs of the {asked:g} asked for.",
        )
    return Guests(asked, reached_logs, pasteurised, raw, met, f"{say} {INFORMS}")
