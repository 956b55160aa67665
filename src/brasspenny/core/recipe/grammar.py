"""The grammar of recipes as text: what each pattern takes its words for. Told for people in docs/recipe-text.md.

At each place of a clause the first pattern that fits takes its words. Two readings are conventions, and are said: the
first mass with no word to it is the dose, the second the brew water.
"""

from __future__ import annotations

from . import spoken_amounts, spoken_doubts, spoken_steps

RULES = (*spoken_doubts.RULES, *spoken_amounts.RULES, *spoken_steps.RULES)
