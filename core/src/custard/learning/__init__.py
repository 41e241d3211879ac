"""What a kitchen's batches teach: where its sauces set, what its pans add off the heat, what stays behind.

>>> learn([]).of("Anglaise").set_k.batches
0
"""

from custard.learning.compare import Comparison, Difference, compare
from custard.learning.cooked import Cooked, conditions_of, cooked
from custard.learning.estimate import Estimate
from custard.learning.evidence import BITS_LOG, BITS_PERCENT, EYES_LOG
from custard.learning.house import (
    MOST_BATCHES,
    SETTING,
    SPEAK,
    SPOKE_VERSION,
    Figures,
    Learning,
    Spoke,
    learn,
    learned_from,
    spoke,
    teaches,
)
from custard.learning.overlay import Overlaid, overlaid
from custard.learning.proposed import Proposal, proposed
from custard.learning.replayed import replayed

__all__ = [
    "BITS_LOG",
    "BITS_PERCENT",
    "EYES_LOG",
    "MOST_BATCHES",
    "SETTING",
    "SPEAK",
    "SPOKE_VERSION",
    "Comparison",
    "Cooked",
    "Difference",
    "Estimate",
    "Figures",
    "Learning",
    "Overlaid",
    "Proposal",
    "Spoke",
    "compare",
    "conditions_of",
    "cooked",
    "learn",
    "learned_from",
    "overlaid",
    "proposed",
    "replayed",
    "spoke",
    "teaches",
]
