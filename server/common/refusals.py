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
    retry_s : after so long it is worth asking again [s]; None when that is not known.
    """

    def __init__(
        self,
        status: int,
        sentence: str,
        fields: Sequence[tuple[str, str]] = (),
        kind: str = "about:blank",
        retry_s: int | None = None,
    ) -> None:
        super().__init__(sentence)
        self.status = status
        self.fields = fields
        self.kind = kind
        self.retry_s = retry_s

    def at(self, where: str) -> Refusal:
        """The same, its fields named as parts of `where`; unchanged where that is empty."""
        if where:
            self.fields = [(f"{where}.{path}", sentence) for path, sentence in self.fields]
        return self


class Conflict(Refusal):
    """Someone else was faster; nothing was overwritten."""

    def __init__(self, sentence: str, kind: str = "conflict") -> None:
        super().__init__(409, sentence, kind=kind)
