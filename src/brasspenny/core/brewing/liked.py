"""A cup's pleasure: how brews were liked by people who saw what they drank. It leans, and proves nothing. docs/formulas.md §9.

It is never evidence in a trial: labels in sight, one taster as a rule, and what was brewed last is remembered best.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from .. import figures
from ..vocabulary import PASSES

SIGHTED = "Tasted with the label in sight: a leaning, never evidence."
ENOUGH_BREWS, ENOUGH_PEOPLE = 3, 2


@dataclass(frozen=True)
class Liked:
    """by_pass: 1 to 9 while hot, warm or cool, "" when that was not said; words: what it tasted of."""

    by_pass: dict[str, float]
    words: tuple[str, ...] = ()

    @property
    def liking(self) -> float | None:
        """One number for a brew: as said of the whole, else the mean of its passes.

        >>> Liked({"hot": 6, "warm": 8}).liking, Liked({"": 5, "hot": 9}).liking, Liked({}).liking
        (7.0, 5, None)
        """
        if "" in self.by_pass:
            return self.by_pass[""]
        said = [self.by_pass[p.code] for p in PASSES if p.code in self.by_pass]
        return sum(said) / len(said) if said else None


@dataclass(frozen=True)
class LikedBrew:
    """recipe: what is brewed again, "" for none; who: the person, "" when nobody said."""

    recipe_id: str
    recipe: str
    liking: float
    who: str


@dataclass(frozen=True)
class LikedRecipe:
    """mean, low and high: of its brews, 1 to 9."""

    recipe_id: str
    recipe: str
    mean: float
    low: float
    high: float
    brews: int
    people: int
    text: str


def liked_most(brews: Sequence[LikedBrew]) -> tuple[LikedRecipe, ...]:
    """Recipes by mean liking, most liked first; of equal ones the one brewed more often.

    >>> [r.text for r in liked_most([LikedBrew("a", "Rocket", 8, "x"), LikedBrew("a", "Rocket", 7, "x"), LikedBrew("b", "Bell", 6, "y")])]
    ['Rocket: 7.5 of 9 over 2 brews, 7 to 8, by one person. Too few to lean on.', 'Bell: 6 of 9, one brew by one person. Too few to lean on.']
    """
    groups: dict[str, list[LikedBrew]] = {}
    for b in brews:
        groups.setdefault(b.recipe_id, []).append(b)
    found = [_recipe(group) for group in groups.values()]
    return tuple(sorted(found, key=lambda r: (-r.mean, -r.brews, r.recipe)))


def _recipe(group: Sequence[LikedBrew]) -> LikedRecipe:
    likings = [b.liking for b in group]
    people = len({b.who for b in group if b.who}) or 1
    mean, low, high = sum(likings) / len(likings), min(likings), max(likings)
    by = "one person" if people == 1 else f"{people} people"
    few = "" if len(group) >= ENOUGH_BREWS and people >= ENOUGH_PEOPLE else " Too few to lean on."
    told = f"{figures.liking(mean)} of 9"
    over = f"{told}, one brew by {by}." if len(group) == 1 else f"{told} over {len(group)} brews, {low:g} to {high:g}, by {by}."
    return LikedRecipe(group[0].recipe_id, group[0].recipe, mean, low, high, len(group), people, f"{group[0].recipe}: {over}{few}")
