"""Judging blind scores from small panels. `judge` is the front door: one attribute's scores in, a verdict out.

Model: y = block + setup + (taster × setup) + brew + noise, with blocks flat and the last three random, so that every
interval speaks for this kind of panel and for another brew of the same setup. The standard deviations are integrated
over a grid; nothing is sampled but the probability of being best, with a fixed seed.
Where it stops being true: two opposed liking segments lower the coverage; single brews leave the brew scatter to its
prior. Both are said in the caveats. Beside it: ranks, pairs, repeats, peak, surface, segments, factorial, character, next_steps.
"""

from .scores import Score
from .tasters import taster_means
from .verdict import DIFFERENCES_NOTE, Caveat, Difference, Judgement, SetupResult, Verdict, judge

__all__ = ["DIFFERENCES_NOTE", "Caveat", "Difference", "Judgement", "Score", "SetupResult", "Verdict", "judge", "taster_means"]
