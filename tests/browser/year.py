"""A year of the demo kitchen, kept as an archive, and brought in as if it ended today.

`manage.py demo_year` makes it in some minutes, `manage.py export_kitchen tidemill-house` writes `year.zip`.
"""

from __future__ import annotations

import functools
import hashlib
import json
import os
import re
import subprocess
import sys
import tempfile
import zipfile
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import IO

from conftest import SERVER, database_name

ARCHIVE = Path(__file__).with_name("year.zip")
YEAR = "/k/tidemill-year"
BATCHES, WEAKENED, SINCE_K = 400, 0.7, 1.4
"""How many batches it has, what is left of its front ring, how much later its eggs set since spring [K]."""
DAY = re.compile(rb'(?<=")\d{4}-\d\d-\d\d(?=["T])')


def bring_in() -> None:
    """The kitchen of the year stands beside the demo's, until the next test that changes something."""
    with tempfile.TemporaryFile() as file:
        moved_to_today(file)
        file.seek(0)
        subprocess.run(
            [sys.executable, "manage.py", "import_kitchen", "pastry", "--slug", "tidemill-year"],
            cwd=SERVER,
            env={**os.environ, "OLDSPOON_DB_NAME": database_name()},
            stdin=file,
            check=True,
        )


def moved_to_today(out: IO[bytes]) -> None:
    """Write the archive with every day in it so much later that it was made today."""
    with zipfile.ZipFile(ARCHIVE) as kept, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as moved:
        manifest = json.loads(kept.read("manifest.json"))
        days = (datetime.now(UTC).date() - datetime.fromisoformat(manifest["made_at"]).date()).days

        @functools.cache
        def later(day: bytes) -> bytes:
            return str(date.fromisoformat(day.decode()) + timedelta(days=days)).encode()

        for name in kept.namelist():
            part = kept.read(name)
            if name.endswith(".ndjson"):
                part = DAY.sub(lambda found: later(found[0]), part)
                manifest["members"][name.removesuffix(".ndjson")]["sha256"] = hashlib.sha256(part).hexdigest()
            if name != "manifest.json":
                moved.writestr(name, part)
        moved.writestr("manifest.json", json.dumps(manifest))
