"""The words of a saved page."""

from __future__ import annotations

import re
from html.parser import HTMLParser


class _Page(HTMLParser):
    """The words of a page, a block a line."""

    _BLOCKS = frozenset(
        [
            "p",
            "br",
            "li",
            "ul",
            "ol",
            "div",
            "h1",
            "h2",
            "h3",
            "h4",
            "h5",
            "h6",
            "tr",
            "table",
            "section",
            "article",
            "dt",
            "dd",
            "header",
            "footer",
        ]
    )

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.parts: list[str] = []
        self._hidden = 0

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        del attrs
        if tag in ("script", "style", "noscript", "nav"):
            self._hidden += 1
        self.parts.append("\n" if tag in self._BLOCKS else "\t" if tag in ("td", "th") else "")

    def handle_endtag(self, tag: str) -> None:
        if tag in ("script", "style", "noscript", "nav"):
            self._hidden = max(0, self._hidden - 1)
        self.parts.append("\n" if tag in self._BLOCKS else "")

    def handle_data(self, data: str) -> None:
        if not self._hidden:
            self.parts.append(re.sub(r"\s+", " ", data))


def words_of_page(text: str) -> str:
    """What a person reads on a page, a block a line, without its marks and empty lines."""
    page = _Page()
    page.feed(text)
    rows = (row.strip(" ") for row in "".join(page.parts).split("\n"))
    return "\n".join(row for row in rows if row)
