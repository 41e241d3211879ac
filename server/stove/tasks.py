"""Jobs of the stove, done by a worker."""

from __future__ import annotations

from procrastinate.contrib.django import app

from stove.after import learning, sauces
from stove.live import follow


@app.task(name="stove.learn", retry=3)
def learn(batch_id: int, user_id: int | None) -> None:
    """What a batch that was closed came to, and what it teaches."""
    learning.learn(batch_id, user_id)
    sauces.learn(batch_id, user_id)


@app.task(name="stove.learn_sauces", retry=3)
def learn_sauces(batch_id: int, user_id: int | None) -> None:
    """A batch was called odd, or not: what the kitchen knows of its sauces is worked out again."""
    sauces.learn(batch_id, user_id)


@app.task(name="stove.learn_for_now", retry=3)
def learn_for_now(kitchen_id: int, user_id: int | None) -> None:
    """Other eggs, or a probe that was checked."""
    sauces.learn_for_now(kitchen_id, user_id)


@app.periodic(cron="* * * * *")
@app.task(name="stove.follow_all", queueing_lock="stove.follow_all", pass_context=False)
def follow_all(timestamp: int) -> None:
    """Once a minute every open batch is due, whatever may have been missed."""
    follow.keep_all()
