"""Words from a picture: Pillow prepares it, tesseract reads it. Both are kept to this file."""

from __future__ import annotations

import io
import os
import shutil
from collections.abc import Callable, Sequence
from typing import Any

import custard
import numpy as np
import pytesseract
from PIL import Image, ImageFilter, ImageOps

from book.models import PictureStep

READ_SIDE = 2200
"""A picture is enlarged or reduced to this for reading: letters are then 20 to 40 pixels high [pixels]."""
INK, PAPER = 0.25, 0.88
"""Of the light of the paper: what is darker is ink, what is brighter is paper."""
LANGUAGES = {"deu": "German", "fra": "French", "eng": "English"}
"""By their names to tesseract. The first decides most, and English, which has no accents, comes last."""
PACKAGES = ("tesseract-ocr", "tesseract-ocr-fra", "tesseract-ocr-deu")
LONGEST_S = 90
"""The longest that one reading of a picture may take [s]."""
NICE = 10
"""Whoever cooks meanwhile goes first."""
SHADOW = 24
"""Light is taken to be even within a part of the picture of this size, of its longer side [1/n]."""
CLEAR = 62.0
"""With less confidence than this on average a picture may be turned, or is no text at all [percent]."""
SKEW, SKEW_STEP, SKEW_SIDE = 8.0, 0.5, 700
"""How far rows may slope, the steps that are tried [degrees], and the side of the picture for it [pixels]."""
TURNS = (0, 180, 90, 270)
os.environ.setdefault("OMP_THREAD_LIMIT", "1")


def languages() -> tuple[str, ...]:
    """The languages that this machine can read in a picture; none where tesseract is not installed."""
    if shutil.which("tesseract") is None:
        return ()
    return tuple(one for one in LANGUAGES if one in pytesseract.get_languages())


def words_in(
    picture: bytes, report: Callable[[PictureStep], None]
) -> tuple[list[custard.reading.PictureWord], int]:
    """The words found in a picture, whichever way up it was taken.

    Parameters
    ----------
    picture : as `common.images.upright` returns it.
    report : called with what is done next.

    Returns
    -------
    the words, and by how many degrees against the clock the picture was turned to read them.

    Raises
    ------
    TimeoutError
        when it takes longer than `LONGEST_S`.
    """
    with Image.open(io.BytesIO(picture)) as opened:
        page = even_light(opened.convert("L"))
    by = "+".join(languages())
    report(PictureStep.TURNING)
    best: list[custard.reading.PictureWord] = []
    best_turn = 0
    for turn in _turns(page):
        report(PictureStep.READING)
        found = _words(straight(page.rotate(turn, expand=True)), by)
        if _score(found) > _score(best):
            best, best_turn = found, turn
        if _score(found) >= CLEAR:
            break
    return best, best_turn


def even_light(page: Image.Image) -> Image.Image:
    """A grey picture as if it were lit evenly, at the size for reading.

    The paper is what is brightest nearby; each point is divided by it.
    """
    page = ImageOps.contain(page, (READ_SIDE, READ_SIDE), Image.Resampling.LANCZOS)
    small = ImageOps.contain(page, (READ_SIDE // 8, READ_SIDE // 8))
    part = max(small.size) // SHADOW | 1
    paper = small.filter(ImageFilter.MaxFilter(part)).filter(ImageFilter.GaussianBlur(part))
    light = np.asarray(paper.resize(page.size, Image.Resampling.BICUBIC), dtype=np.float32)
    even = np.asarray(page, dtype=np.float32) / np.maximum(light, 1.0)
    return Image.fromarray((np.clip((even - INK) / (PAPER - INK), 0, 1) * 255).astype(np.uint8))


def straight(page: Image.Image) -> Image.Image:
    """A page whose rows run level, turned by a few degrees where they did not.

    Rows are level where the ink of the page lies in as few and as dense rows as it can.
    """
    small = ImageOps.contain(page, (SKEW_SIDE, SKEW_SIDE))

    def density(angle: float) -> float:
        ink = 255 - np.asarray(small.rotate(angle, fillcolor=255), dtype=np.float32)
        return float(np.var(ink.sum(axis=1)))

    angle = max(np.arange(-SKEW, SKEW + SKEW_STEP / 2, SKEW_STEP), key=lambda tried: density(float(tried)))
    if abs(angle) < SKEW_STEP:
        return page
    return page.rotate(float(angle), Image.Resampling.BICUBIC, expand=True, fillcolor=255)


def _turns(page: Image.Image) -> Sequence[int]:
    """The ways up to try, the likeliest first [degrees against the clock]."""
    try:
        seen = _asked(pytesseract.image_to_osd, page)
    except pytesseract.TesseractError:
        # Too few letters to tell.
        return TURNS
    first = (360 - int(seen["rotate"])) % 360
    return sorted(TURNS, key=lambda turn: turn != first)


def _words(page: Image.Image, by: str) -> list[custard.reading.PictureWord]:
    table = _asked(pytesseract.image_to_data, page, lang=by, config="--psm 3")
    boxes = zip(*(table[name] for name in ("text", "conf", "left", "top", "width", "height")), strict=True)
    return [
        custard.reading.PictureWord(str(text), float(sure), left, top, width, height)
        for text, sure, left, top, width, height in boxes
        if str(text).strip()
    ]


def _asked(question: Callable[..., dict[str, Any]], page: Image.Image, **more: str) -> dict[str, Any]:
    """What tesseract answers; a timeout is raised as one, apart from its own errors."""
    try:
        return question(page, output_type=pytesseract.Output.DICT, nice=NICE, timeout=LONGEST_S, **more)
    except pytesseract.TesseractError:
        raise
    except RuntimeError as error:
        raise TimeoutError(str(error)) from None


def _score(words: Sequence[custard.reading.PictureWord]) -> float:
    """How clearly words are read: their mean confidence, by their letters [percent]."""
    letters = sum(len(word.text) for word in words)
    return sum(len(word.text) * word.confidence for word in words) / letters if letters else 0.0
