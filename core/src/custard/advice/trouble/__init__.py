"""When it has gone wrong."""

from custard.advice.trouble.answer import CODES_FIRST, Afterwards, Answer, Happened, answer, rescue
from custard.advice.trouble.change import Change, changed
from custard.advice.trouble.diagnose import Cause, Question, diagnose, questions
from custard.advice.trouble.faults import Fault, fault_of, faults, figures, met
from custard.advice.trouble.kept import story_of_batch
from custard.advice.trouble.remedies import Added, Rescued, rescued, there_is_g
from custard.advice.trouble.remedies.rescued import curds
from custard.advice.trouble.story import Story, story_of, story_of_cups, suppose, unknown_story, with_answers

__all__ = [
    "CODES_FIRST",
    "Added",
    "Afterwards",
    "Answer",
    "Cause",
    "Change",
    "Fault",
    "Happened",
    "Question",
    "Rescued",
    "Story",
    "answer",
    "changed",
    "curds",
    "diagnose",
    "fault_of",
    "faults",
    "figures",
    "met",
    "questions",
    "rescue",
    "rescued",
    "story_of",
    "story_of_batch",
    "story_of_cups",
    "suppose",
    "there_is_g",
    "unknown_story",
    "with_answers",
]
