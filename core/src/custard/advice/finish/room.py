"""How much room a finished sauce takes: with the air of a foam, and of what is folded in."""

from __future__ import annotations

from custard.advice.finish.additions import air_in
from custard.advice.finish.outcome import Finishing
from custard.advice.mix.assess import Assessment

ROOM_C = 20.0


def finished_g_ml(result: Assessment, done: Finishing) -> float:
    """What a millilitre of it weighs, finished and cooled [g/ml]."""
    if done.folded is not None:
        return done.folded.mass_g / done.folded.volume_ml
    still = float(result.whole.density_kg_m3(ROOM_C)) / 1000
    return still / (1 + air_in(result)) if result.way.foams else still
