"""Jobs of what is printed, done by a worker."""

from __future__ import annotations

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from papers import orders


@app.task(name="papers.make", retry=RetryStrategy(max_attempts=5, wait=2))
def make(paper_id: str) -> None:
    """Set one paper."""
    orders.make(paper_id)
