"""The evidence grade: five steps, and the named rule behind every step that is missing. docs/formulas.md §10.

Each rule caps the grade; the lowest cap is the grade. Nothing is weighed in secret: the reasons are listed with it.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

GRADES = ("none", "poor", "weak", "fair", "good", "strong")
"""0 to 5."""
DESIGN_WORDS = ("nothing to judge", "an anecdote", "weak", "fair", "sound", "very sound")
"""What the grade is called where people read it: of how it was tested, in words that cannot be taken for the result."""

CAPS: dict[str, tuple[int, str]] = {
    "simulated": (0, "Numbers from a model prove nothing about coffee."),
    "nothing_tested": (0, "The setups do not differ in what is asked."),
    "one_setup": (0, "One setup compares with nothing."),
    "unlinked": (0, "No taster had both."),
    "anecdote": (1, "Two tasters with one brew each is an anecdote."),
    "blindness_broken": (1, "The seal was broken before the scores were in."),
    "sighted": (1, "Labels were in sight."),
    "confound": (2, "Something undeclared differs and could get the credit."),
    "one_taster": (2, "One palate."),
    "single_brews": (2, "A setup cannot be told from its one pour."),
    "few_tasters": (3, "Two or three tasters."),
    "too_few_tasters": (3, "Fewer than four tasters."),
    "not_dialled_in": (3, "A setup may have lost for its setting."),
    "told_by_eye": (3, "Tasters could tell cups by eye."),
    "host_saw_key": (4, "Somebody at the table could have known the key."),
    "flipped_flight_deleted": (3, "A flight was deleted when its scores were known."),
    "marks_corrected": (4, "Marks were entered again when the scores were known."),
    "off_strength": (3, "A stronger cup may win for its strength."),
    "propose_matching": (3, "A stronger cup may win for its strength."),
    "spread_temperature": (3, "Cups were not equally hot."),
    "cold_cups": (3, "Cups were tasted cold."),
    "unequal_first_sip": (4, "Tasters met the cups at different temperatures."),
    "no_readings": (4, "Strength or yield of some brews is not known."),
    "off_plan": (4, "Brews were off plan."),
    "off_windows": (4, "Brews missed their own recipe's targets."),
    "rule_broken": (4, "A declared match does not hold."),
    "unsampled": (4, "A match by sieve has no samples behind it."),
    "setup_changed": (4, "A setup changed after brewing."),
    "no_cleanser": (4, "No cleanser between cups."),
    "unbalanced_order": (4, "Carry-over is not fully balanced out."),
    "mixed_yield_bases": (4, "Yields by two methods."),
    "segments": (4, "One verdict for two kinds of drinkers."),
    "leader_changes": (4, "The winner changes as it cools."),
    "pass_chosen_after": (4, "The pass was chosen when the scores were known."),
    "difference_chosen_after": (4, "What counts as a tie was changed when the scores were known."),
    "pass_missed": (4, "The pass it asks about was not tasted."),
    "late_scores": (4, "Scores came after the lock."),
    "conditions_unknown": (4, "A plain file says nothing of blindness, strength or temperature."),
    "brought_in": (4, "From another bench: how it was tasted is known by its file only."),
    "told_blind": (4, "Tasted elsewhere: that it was blind is known by word only."),
    "small_panel": (4, "Fewer than eight tasters or three brews of each."),
}


def design_word(name: str) -> str:
    """What a grade is called where people read it.

    >>> design_word("good"), design_word("poor")
    ('sound', 'an anecdote')
    """
    return DESIGN_WORDS[GRADES.index(name)]


STRONG_TASTERS, STRONG_BREWS = 8, 3


@dataclass(frozen=True)
class Reason:
    code: str
    cap: int
    text: str


@dataclass(frozen=True)
class Grade:
    """step 0 to 5; name of GRADES; reasons: the rules that keep it from the next step first, then the milder ones."""

    step: int
    name: str
    reasons: tuple[Reason, ...]

    @property
    def design(self) -> str:
        return design_word(self.name)


def grade(codes: Collection[str], *, tasters: int, fewest_brews: int) -> Grade:
    """codes: caveats in force. tasters and brews of the least brewed setup decide whether anything above "good" is possible.

    >>> grade([], tasters=8, fewest_brews=3).name, grade(["sighted"], tasters=8, fewest_brews=3).name
    ('strong', 'poor')
    """
    found = set(codes) | ({"small_panel"} if tasters < STRONG_TASTERS or fewest_brews < STRONG_BREWS else set())
    reasons = sorted((Reason(code, *CAPS[code]) for code in found if code in CAPS), key=lambda r: (r.cap, r.code))
    step = min((r.cap for r in reasons), default=5)
    return Grade(step, GRADES[step], tuple(reasons))
