"""Compiled code on disk, forgotten when anything it was compiled from has changed.

Numba looks only at the file a compiled function stands in; ours are built from the laws in `physics` too.
"""

from __future__ import annotations

import contextlib
import hashlib
from pathlib import Path

import numba

PROCESS = Path(__file__).parents[1]
SOURCES = (PROCESS, PROCESS.parent / "physics", PROCESS.parent / "larder" / "data")


def digest() -> str:
    """What the compiled code is made from, as one sum."""
    sum_ = hashlib.sha256()
    for folder in SOURCES:
        for path in sorted(folder.rglob("*")):
            if path.suffix in (".py", ".csv"):
                sum_.update(path.name.encode() + path.read_bytes())
    return sum_.hexdigest()


def forget_stale() -> None:
    """Delete this package's compiled functions unless they were made from the files as they are.

    They lie beside their sources, or in the folder that NUMBA_CACHE_DIR names, which is then ours alone.
    Where that cannot be written numba keeps its files elsewhere, and nothing is done.
    """
    cache = Path(numba.config.CACHE_DIR or PROCESS)
    stamp = (cache if numba.config.CACHE_DIR else PROCESS / "__pycache__") / "compiled-from"
    now = digest()
    with contextlib.suppress(OSError):
        if stamp.exists() and stamp.read_text() == now:
            return
        stamp.parent.mkdir(exist_ok=True)
        for path in (*cache.rglob("*.nbi"), *cache.rglob("*.nbc")):
            path.unlink(missing_ok=True)
        stamp.write_text(now)
