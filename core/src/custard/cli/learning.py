"""What the commands that learn from batches do: files of batches in, plain data out."""

from __future__ import annotations

from typing import Any

from custard.cli import given
from custard.errors import BadFormula, CustardError, within
from custard.figures import plain
from custard.formats.batch_json import EARLIEST_S, LATEST_S
from custard.formats.kept_batch import KeptBatch
from custard.learning import compare, cooked, learn, replayed


def batch_of(path: str) -> KeptBatch:
    """The batch in a file; a refusal says in which.

    Raises
    ------
    BadFormula
        when it is none.
    """
    content = given.read_json(path)
    if not given.is_batch(content):
        raise BadFormula(
            path, "a file", "must be a batch in the open format", "Write one with its page's link."
        )
    try:
        return given.batch(content)
    except CustardError as error:
        raise error.at(path) from None


def learn_from(options: Any) -> dict[str, Any]:
    """What a kitchen's batches teach, for the house and for each formula."""
    return learn([batch_of(path) for path in options.files]).as_json()


def compare_two(options: Any) -> dict[str, Any]:
    """Why one batch came out other than another."""
    return compare(cooked(batch_of(options.a)), cooked(batch_of(options.b))).as_json()


def replay(options: Any) -> dict[str, Any]:
    """The live states of a batch, as its screens showed them."""
    for at_s in options.at_s or ():
        within("at_s", at_s, EARLIEST_S, LATEST_S)
    found: dict[str, Any] = plain(replayed(batch_of(options.file), tuple(options.at_s or ())))
    return found
