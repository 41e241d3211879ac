"""A picture as it is kept: upright, reduced, as a JPEG that holds nothing but the picture."""

from __future__ import annotations

import io

from PIL import Image, ImageOps, UnidentifiedImageError

from common.refusals import Refusal

FORMATS = ("JPEG", "PNG", "WEBP", "GIF", "BMP", "TIFF")
MOST_PIXELS = 24_000_000
"""A picture with more is refused before it is unpacked: it would take more memory than a worker has."""
KEPT_SIDE = 2200
"""The longer side of a picture that is kept [pixels]."""
QUALITY = 80


def upright(data: bytes) -> tuple[bytes, int, int]:
    """A picture as it is kept: turned as its camera says, reduced, and without anything that is no picture.

    Parameters
    ----------
    data : the file, in any usual format.

    Returns
    -------
    a JPEG without EXIF, its width and its height [pixels].

    Raises
    ------
    Refusal
        when it is none, is damaged, or has too many points.
    """
    try:
        # Elsewhere in this process the library may be set to accept files that are cut off.
        with Image.open(io.BytesIO(data), formats=FORMATS) as whole:
            whole.verify()
        with Image.open(io.BytesIO(data), formats=FORMATS) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                raise _refused(
                    f"This picture has {picture.width * picture.height / 1e6:.0f} million points; "
                    f"at most {MOST_PIXELS / 1e6:.0f} million are read. Make it smaller."
                )
            # Made smaller first: turning and filling it takes its memory twice.
            picture.draft("RGB", (KEPT_SIDE, KEPT_SIDE))
            picture.thumbnail((KEPT_SIDE, KEPT_SIDE))
            turned = ImageOps.exif_transpose(picture)
            # What lies behind a transparent picture is paper.
            paper = Image.new("RGB", turned.size, "white")
            paper.paste(turned, mask=turned.getchannel("A") if turned.mode in ("RGBA", "LA") else None)
    except (UnidentifiedImageError, Image.DecompressionBombError, OSError, ValueError, SyntaxError):
        raise _refused("This is no picture that can be opened. Choose a JPEG or PNG.") from None
    return _jpeg(paper)


def turned(picture: bytes, degrees: int) -> tuple[bytes, int, int]:
    """A picture as `upright` returns it, turned by quarters against the clock."""
    with Image.open(io.BytesIO(picture)) as opened:
        return _jpeg(opened.rotate(degrees, expand=True)) if degrees else (picture, *opened.size)


def _jpeg(picture: Image.Image) -> tuple[bytes, int, int]:
    kept = io.BytesIO()
    picture.save(kept, "JPEG", quality=QUALITY, optimize=True)
    return kept.getvalue(), picture.width, picture.height


def _refused(sentence: str) -> Refusal:
    return Refusal(422, sentence, fields=[("content", sentence)])
