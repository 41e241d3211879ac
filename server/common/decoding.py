"""What comes as base64."""

from __future__ import annotations

import base64
import binascii

from common.refusals import Refusal


def decoded(content: str, damaged: str) -> bytes:
    """The bytes that came as the field `content`.

    Parameters
    ----------
    content : the bytes in base64.
    damaged : the sentence for who sent something else.

    Raises
    ------
    Refusal
        when it is no base64.
    """
    try:
        return base64.b64decode(content, validate=True)
    except binascii.Error:
        raise Refusal(422, damaged, fields=[("content", damaged)]) from None
