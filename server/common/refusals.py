"""How an action or a read says no: a status, a sentence, and the fields it is about."""

from __future__ import annotations

from collections.abc import Sequence


class Refusal(Exception):
    """A request that was understood and cannot be done.

    Attributes
    ----------
    status : HTTP status to answer with.
    fields : pairs of field path and sentence.
    kind : a stable name for clients that react to this refusal.
    """

    def __init__(
        self, status: int, sentence: str, fields: Sequence[tuple[str, str]] = (), kind: str = "about:blank"
    ) -> None:
        super().__init__(sentence)
        self.status = status
        self.fields = fields
        self.kind = kind


class Conflict(Refusal):
    """Someone else was faster; nothing was overwritten."""

    def __init__(self, sentence: str, kind: str = "conflict") -> None:
        super().__init__(409, sentence, kind=kind)
