"""Jobs of what is printed, done by a worker."""

from __future__ import annotations

from procrastinate.contrib.django import app

from papers import orders


@app.task(name="papers.make", retry=1)
def make(paper_id: str) -> None:
    """Set one paper."""
    orders.make(paper_id)
