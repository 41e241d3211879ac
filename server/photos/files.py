"""The pictures as files: each lies where its row says, whole or not at all."""

from __future__ import annotations

import contextlib
import hashlib
import os
import tempfile
from collections.abc import Iterator
from pathlib import Path
from uuid import UUID

from photos.models import Photo, folder


def write(photo: Photo, picture: bytes) -> None:
    """Write the picture of a photograph. A file without a row is deleted at night (`without_rows`)."""
    path = photo.path
    path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    with tempfile.NamedTemporaryFile(dir=path.parent, delete=False) as new:
        new.write(picture)
        new.flush()
        os.fsync(new.fileno())
    Path(new.name).replace(path)


def sum_of(photo: Photo) -> str:
    """The SHA-256 of the picture of a photograph as it lies there; "" where there is none."""
    try:
        return hashlib.sha256(photo.path.read_bytes()).hexdigest()
    except FileNotFoundError:
        return ""


def delete(paths: list[Path]) -> None:
    """Delete files; one that is gone already is no error."""
    for path in paths:
        path.unlink(missing_ok=True)


def without_rows(older_than: float) -> Iterator[Path]:
    """Files that no row speaks of, last written before a moment [s since 1970]."""
    if not folder().is_dir():
        return
    for part in sorted(folder().iterdir()):
        old = [path for path in part.iterdir() if path.stat().st_mtime < older_than]
        ids = {path: _id_of(path) for path in old}
        known = set(
            Photo.objects.filter(pk__in=[key for key in ids.values() if key]).values_list("pk", flat=True)
        )
        yield from (path for path, key in ids.items() if key not in known)


def _id_of(path: Path) -> UUID | None:
    with contextlib.suppress(ValueError):
        return UUID(path.stem)
    return None
