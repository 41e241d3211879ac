"""What an attempt is worth compared with the best possible run."""

from custard.practice.best import Best, best_run
from custard.practice.bowl import BowlAttempt
from custard.practice.pan import PanAttempt
from custard.practice.question import QuestionAttempt
from custard.practice.rescue import RescueAttempt
from custard.practice.score.answer import of_answer
from custard.practice.score.away import best_bowl, best_tub, of_bowl, of_tub
from custard.practice.score.item import Item, Score
from custard.practice.score.pan import course_of, of_pan
from custard.practice.score.rescue import advised, of_rescue
from custard.practice.tub import TubAttempt

__all__ = ["Attempt", "Item", "Score", "advised", "best_bowl", "best_tub", "course_of", "score"]

Attempt = PanAttempt | BowlAttempt | TubAttempt | QuestionAttempt


def score(attempt: Attempt, best: Best | None = None) -> Score:
    """What an attempt is worth.

    Parameters
    ----------
    attempt : what was done.
    best : the best run there is; None to look for it.
    """
    if isinstance(attempt, RescueAttempt):
        return of_rescue(attempt)
    if isinstance(attempt, PanAttempt):
        return of_pan(attempt, best or best_run(attempt))
    if isinstance(attempt, BowlAttempt):
        return of_bowl(attempt)
    return of_tub(attempt) if isinstance(attempt, TubAttempt) else of_answer(attempt)
