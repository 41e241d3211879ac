"""Pictures for tests: pages drawn with a plain font, turned, darkened, and hostile ones."""

from __future__ import annotations

import base64
import io
from collections.abc import Sequence
from pathlib import Path
from uuid import uuid4

import matplotlib as mpl
from common import clock
from PIL import Image, ImageDraw, ImageFilter, ImageFont

FONT = Path(mpl.get_data_path()) / "fonts" / "ttf" / "DejaVuSans.ttf"
"""A font that comes with a library we have, with every letter of the six languages."""
INK, PAPER = 40, 244


def png(width: int, height: int) -> bytes:
    """An empty page."""
    return saved(Image.new("L", (width, height), PAPER))


def page(columns: Sequence[tuple[int, str]], *, size: tuple[int, int] = (1400, 1150)) -> Image.Image:
    """A page with columns of text, each from its left edge [pixels] on."""
    made = Image.new("L", size, PAPER)
    draw, font = ImageDraw.Draw(made), ImageFont.truetype(str(FONT), 30)
    for left, text in columns:
        draw.multiline_text((left, 80), text, font=font, fill=INK, spacing=14)
    return made


def in_bad_light(made: Image.Image) -> Image.Image:
    """The same page with a shadow over one side, grain, and not quite sharp."""
    light = Image.linear_gradient("L").rotate(90).resize(made.size).point(lambda value: 90 + value * 0.6)
    shaded = Image.composite(made, Image.new("L", made.size, 0), light)
    return Image.blend(shaded, Image.effect_noise(made.size, 25), 0.12).filter(ImageFilter.GaussianBlur(0.8))


def saved(made: Image.Image, kind: str = "PNG", **more: object) -> bytes:
    """The file of a picture."""
    file = io.BytesIO()
    made.save(file, kind, **more)
    return file.getvalue()


def photo(**more: object) -> dict[str, object]:
    """What is sent of a photograph of a batch."""
    content = base64.b64encode(saved(Image.new("RGB", (8, 6), "wheat"), "JPEG")).decode()
    return {"id": str(uuid4()), "stage": "cook", "at": clock.now().isoformat(), "content": content, **more}
