"""A dump as a script, loaded statement by statement: it may speak to the database alone."""

from __future__ import annotations

import re
from collections.abc import Iterable

import psycopg

_COPY = re.compile(rb"COPY [^;']* FROM stdin;\n")
_TO_PSQL = re.compile(rb"\\(un)?restrict \S+\n")
"""What pg_dump writes for psql, which is not used here."""
_ENDS_COPY = b"\\.\n"
MOST_STATEMENTS = 64 << 20
"""So long the statements between two tables' rows may be; ours come to a few hundred thousand [bytes]."""
_RUNNER = """
CREATE FUNCTION pg_temp.run(statements text) RETURNS void LANGUAGE plpgsql
    AS $$ BEGIN EXECUTE statements; END $$
"""


def load(script: Iterable[bytes], database: psycopg.Connection) -> None:
    """Run a script that pg_restore wrote, inside the transaction that is open.

    psql would obey commands of its own in it, such as one that starts a program. Here there is no psql: the
    server gets the statements, within a function, in which none can end the transaction, and the rows.

    Parameters
    ----------
    script : its lines, each with its end.
    database : a connection within a transaction; it keeps the settings that the script makes.

    Raises
    ------
    psycopg.Error
        when the database refuses a statement or a row.
    ValueError
        when the statements are no text or too long.
    """
    statements = bytearray()
    lines = iter(script)
    with database.cursor() as cursor:
        cursor.execute(_RUNNER)

        def run() -> None:
            cursor.execute("SELECT pg_temp.run(%s)", [statements.decode()])
            statements.clear()

        for line in lines:
            if _COPY.fullmatch(line):
                run()
                with cursor.copy(line) as rows:
                    for row in lines:
                        if row == _ENDS_COPY:
                            break
                        rows.write(row)
            elif not _TO_PSQL.fullmatch(line):
                statements += line
                if len(statements) > MOST_STATEMENTS:
                    raise ValueError("the statements are too long")
        run()
