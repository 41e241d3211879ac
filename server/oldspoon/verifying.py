"""Whether every record is still as it was written: nothing altered, nothing gone, nothing put in between."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from django.db import connection

ROWS = {
    ("mark", 1): "stove_mark",
    ("withdrawal", 1): "stove_withdrawal",
    ("remedy", 1): "stove_remedy",
    ("auditentry", 1): "kitchen_auditentry",
    ("movement", 1): "shelf_movement",
    ("dayclosing", 1): "shelf_dayclosing",
}
"""The table whose rows are of a kind and a shape. A new shape gets a line here and keeps the old."""
STATES = {
    ("kitchen", 1): "kitchen_kitchen",
    ("person", 1): "people_user",
    ("batch", 2): "stove_batch",
    ("probeuse", 2): "stove_probeuse",
    ("tub", 1): "shelf_tub",
}
"""The same for rows that change with time: each state has its entry, and the row must show the newest."""
MOST_TOLD = 20
"""So much is told of what is wrong; where more is, that is said."""

_ALTERED = """
SELECT entry.chain, entry.number, entry.keys, one.id IS NULL
FROM records_entry entry LEFT JOIN {table} one ON one.id::text = entry.keys
WHERE entry.kind = '{kind}' AND entry.shape = {shape} AND (one.id IS NULL
    OR sha256(convert_to(record_of_{kind}_{shape}(one), 'UTF8')) <> entry.digest)
ORDER BY entry.chain, entry.number
"""
_STATES = """
SELECT entry.chain, entry.number, entry.keys, one.id IS NULL
FROM (
    SELECT DISTINCT ON (keys) chain, number, keys, shape, digest FROM records_entry
    WHERE kind = '{kind}' ORDER BY keys, id DESC) entry
LEFT JOIN {table} one ON one.id::text = entry.keys
WHERE entry.shape <> {shape} OR one.id IS NULL
    OR sha256(convert_to(record_of_{kind}_{shape}(one), 'UTF8')) <> entry.digest
ORDER BY entry.chain, entry.number
"""
_LEFT = """
SELECT tub.id, tub.left_g, coalesce(sum(moved.change_g), 0)
FROM shelf_tub tub LEFT JOIN shelf_movement moved ON moved.tub_id = tub.id
GROUP BY tub.id HAVING tub.left_g <> coalesce(sum(moved.change_g), 0) ORDER BY tub.id
"""
_UNRECORDED = """
SELECT one.id::text FROM {table} one
WHERE NOT EXISTS (SELECT FROM records_entry WHERE kind = '{kind}' AND keys = one.id::text)
"""
_READINGS = """
WITH keyed AS (
    SELECT entry.chain, entry.number, entry.digest, key::bigint AS id
    FROM records_entry entry CROSS JOIN LATERAL unnest(string_to_array(entry.keys, ',')) key
    WHERE entry.kind = 'reading'),
thinned AS (
    SELECT DISTINCT entry.chain, key::bigint AS id
    FROM records_entry entry CROSS JOIN LATERAL unnest(string_to_array(entry.keys, ',')) key
    WHERE entry.kind = 'thinned'),
summed AS (
    SELECT keyed.chain, keyed.number, keyed.digest,
        count(*) FILTER (WHERE one.id IS NULL AND thinned.id IS NULL) AS gone,
        count(*) FILTER (WHERE thinned.id IS NOT NULL) AS thinned,
        string_agg(
            record_of_reading_1(one.device_id, one.at, one.celsius), E'\\n' ORDER BY keyed.id) AS content
    FROM keyed LEFT JOIN devices_reading one ON one.id = keyed.id
    LEFT JOIN thinned ON thinned.chain = keyed.chain AND thinned.id = keyed.id
    GROUP BY keyed.chain, keyed.number, keyed.digest)
SELECT chain, number, gone > 0 FROM summed
WHERE gone > 0 OR (thinned = 0 AND sha256(convert_to(content, 'UTF8')) <> digest)
ORDER BY chain, number
"""
_LOOSE_READINGS = """
SELECT id::text FROM devices_reading EXCEPT
SELECT key FROM records_entry entry CROSS JOIN LATERAL unnest(string_to_array(entry.keys, ',')) key
WHERE entry.kind = 'reading'
"""
_LINKS = """
WITH linked AS (
    SELECT *, lag(hash, 1, ''::bytea) OVER (PARTITION BY chain ORDER BY number) AS before,
        row_number() OVER (PARTITION BY chain ORDER BY number) AS place
    FROM records_entry)
SELECT chain, number FROM linked WHERE place <> number
    OR records_hash(before, chain, number, kind, shape, keys, digest) <> hash
ORDER BY chain, number
"""
_HEADS = """
SELECT chain.name, chain.number FROM records_chain chain
LEFT JOIN records_entry entry ON entry.chain = chain.name AND entry.number = chain.number
WHERE entry.hash IS DISTINCT FROM chain.hash
    OR chain.number <> (SELECT count(*) FROM records_entry WHERE chain = name)
"""


@dataclass(frozen=True)
class Verified:
    """How many records in how many chains, and what is wrong with them, in sentences; nothing when all is
    well.

    `heads` are the newest hash of each chain by its name: written down elsewhere, as on a day's record, they
    prove that nothing was cut off the end.
    """

    entries: int
    chains: int
    wrong: tuple[str, ...]
    heads: dict[str, str]


def verify() -> Verified:
    """Look at every record and every link. Reads only."""
    wrong = tuple(_wrong())
    heads = {str(name): bytes(head).hex() for name, head in _asked("SELECT name, hash FROM records_chain")}
    entries = int(next(_asked("SELECT count(*) FROM records_entry"))[0])
    return Verified(entries, len(heads), wrong, heads)


def _wrong() -> Iterator[str]:
    for tables, altered in ((ROWS, _ALTERED), (STATES, _STATES)):
        for (kind, shape), table in tables.items():
            for chain, number, key, gone in _asked(altered.format(table=table, kind=kind, shape=shape)):
                how = "is gone" if gone else "was altered"
                yield f"{kind} {key} {how}; it is record {number} of {chain}."
    for tub, left, moved in _asked(_LEFT):
        yield f"tub {tub} has {left} g left where its movements leave {moved} g."
    for kind, table in {kind: table for (kind, _), table in (ROWS | STATES).items()}.items():
        for (key,) in _asked(_UNRECORDED.format(table=table, kind=kind)):
            yield f"{kind} {key} is in no chain: it was put in past the records."
    for chain, number, gone in _asked(_READINGS):
        how = "are gone" if gone else "were altered"
        yield f"Readings of {chain} {how}; they are its record {number}."
    for (key,) in _asked(_LOOSE_READINGS):
        yield f"Reading {key} is in no chain: it was put in past the records."
    for chain, number in _asked(_LINKS):
        yield f"Record {number} of {chain} does not follow from the one before it."
    for chain, number in _asked(_HEADS):
        yield f"The newest record of {chain} is not its record {number}: its end was changed or cut off."


def _asked(sql: str) -> Iterator[tuple[Any, ...]]:
    with connection.cursor() as cursor:
        cursor.execute(sql)
        yield from cursor.fetchall()
