"""Practice: a stove where eggs that do not exist are ruined, until a trainee knows the signs.

A room beside the public door, as planning is: `exercises` and `of_formula` for what is practised, `begin` and
`replayed` for where an attempt stands, `picture` for what a cook could see of it, `debrief` for afterwards.
What is hidden of an attempt is never in its picture.

>>> attempt = begin(exercise("nappe"), seed=1)
>>> attempt.on(30.0)
>>> attempt.picture().tells[0]
'a wisp of steam'
"""

from custard.practice.acts import LONGEST_S, Act, read_acts
from custard.practice.again import batch_conditions, of_batch
from custard.practice.debrief import Debrief, debrief
from custard.practice.exercises import ASKED, DIFFICULTIES, Exercise, exercise, exercises, of_formula, signs
from custard.practice.played import begin, replayed
from custard.practice.question import PracticeQuestion, QuestionAttempt
from custard.practice.score import Attempt
from custard.practice.seen import Picture

__all__ = [
    "ASKED",
    "DIFFICULTIES",
    "LONGEST_S",
    "Act",
    "Attempt",
    "Debrief",
    "Exercise",
    "Picture",
    "PracticeQuestion",
    "QuestionAttempt",
    "batch_conditions",
    "begin",
    "debrief",
    "exercise",
    "exercises",
    "of_batch",
    "of_formula",
    "read_acts",
    "replayed",
    "signs",
]
