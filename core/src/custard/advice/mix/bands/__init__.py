"""How sure an answer is: a seeded Monte Carlo over the ranges of the uncertain parameters."""

from custard.advice.mix.bands.drawing import DRAWS, Band, band_of, drawn_sets
from custard.advice.mix.bands.of_mix import texture_band, window_band
from custard.advice.mix.bands.of_process import bake_band, chill_band, cook_band, temper_band, whisk_band

__all__ = [
    "DRAWS",
    "Band",
    "bake_band",
    "band_of",
    "chill_band",
    "cook_band",
    "drawn_sets",
    "temper_band",
    "texture_band",
    "whisk_band",
    "window_band",
]
