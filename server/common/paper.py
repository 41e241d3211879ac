"""What is printed: HTML of ours set as PDF by WeasyPrint, with the fonts that ship and nothing fetched.

The browser's own printing is there too; a PDF is for what is kept, sent, or fed to a label printer whose page
a browser cannot be told.
"""

from __future__ import annotations

import logging
import re
import threading
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from typing import Any

from django.conf import settings
from django.template.loader import render_to_string

from common.refusals import Refusal

NO_PANGO = (
    "Nothing can be set as PDF on this machine: it lacks Pango (Debian's libpangoft2-1.0-0 and "
    "libharfbuzz-subset0). Print from the page instead."
)
FONTS = {
    "Atkinson": re.compile(r"atkinson-hyperlegible-next-latin(-ext)?-wght-normal-"),
    "Fraunces": re.compile(r"fraunces-latin(-ext)?-soft-normal-"),
}


@cache
def _faces() -> str:
    """The fonts of the front end as it was built; without it what the machine has will do."""
    folder = Path(settings.BASE_DIR).parent / "web" / "dist" / "assets"
    found = [
        f"@font-face {{ font-family: {family}; src: url({path.as_uri()}); font-weight: 100 900; }}"
        for path in sorted(folder.glob("*.woff2"))
        for family, pattern in FONTS.items()
        if pattern.match(path.name)
    ]
    return "\n".join(found)


Report = Callable[[int], None]
"""Called with how many pages are laid out so far."""


def pdf(template: str, known: Mapping[str, Any], report: Report | None = None) -> bytes:
    """A template filled and set as PDF; takes about half a second a page.

    Raises
    ------
    Refusal
        when Pango is not installed on this machine.
    """
    # It loads Pango, which a machine that only serves pages may lack.
    try:
        import weasyprint  # type: ignore[import-untyped]  # noqa: PLC0415
        from weasyprint.urls import URLFetcher  # type: ignore[import-untyped]  # noqa: PLC0415
    except OSError:
        raise Refusal(503, NO_PANGO, kind="no-pango") from None

    html = render_to_string(template, {**known, "faces": _faces()})
    fetcher = URLFetcher(allowed_protocols=("file", "data"))
    with _reporting(report):
        return bytes(weasyprint.HTML(string=html, url_fetcher=fetcher).write_pdf())


@contextmanager
def _reporting(report: Report | None) -> Iterator[None]:
    """While the block runs, what WeasyPrint logs of this thread's pages is passed on."""
    if report is None:
        yield
        return
    pages, mine = report, threading.get_ident()
    progress = logging.getLogger("weasyprint.progress")

    class Pages(logging.Handler):
        def emit(self, record: logging.LogRecord) -> None:
            page = re.search(r"Page (\d+)", record.getMessage())
            if page and record.thread == mine:
                pages(int(page[1]))

    handler = Pages(logging.INFO)
    before = progress.level
    progress.setLevel(logging.INFO)
    # A line a page and step is for us, and for no log.
    progress.propagate = False
    progress.addHandler(handler)
    try:
        yield
    finally:
        progress.removeHandler(handler)
        progress.setLevel(before)
