"""What a taster is asked: attributes, their scales and their words; what else a cup can be told. docs/formulas.md §9."""

from __future__ import annotations

from ..vocabulary import ATTRIBUTES, Attribute, AttributeCode
from ..vocabulary import LIKING as LIKING_SCALE

ATTRIBUTE_CODES: tuple[AttributeCode, ...] = tuple(a.code for a in ATTRIBUTES)
DEFAULT_ATTRIBUTES: tuple[AttributeCode, ...] = tuple(a.code for a in ATTRIBUTES if a.usual)
LIKING, WORDS, RANK, PICK, GUESS, BY_EYE, FIRST_SIP = "liking", "words", "rank", "pick", "guess", "told_by_eye", "sip_c"
JAR_PREFIX = "jar_"
NO_PREFERENCE = "none"


SCALES: dict[str, Attribute] = {a.code: a for a in (*ATTRIBUTES, LIKING_SCALE)}
JAR_STEPS: tuple[tuple[int, str], ...] = ((-2, "much too little"), (-1, "too little"), (0, "just right"), (1, "too much"), (2, "much too much"))
"""Just about right: for one attribute of one cup."""
OTHER_RANGES: dict[str, tuple[float, float]] = {RANK: (1, 12), BY_EYE: (1, 1), FIRST_SIP: (0, 99)}
TEXT_ONLY = frozenset({WORDS, PICK, GUESS})
ITEMS: tuple[str, ...] = (*SCALES, WORDS, RANK, PICK, GUESS, BY_EYE, FIRST_SIP, *(JAR_PREFIX + a for a in ATTRIBUTE_CODES))
"""Everything a touch on a sheet can be about."""


def fits(attribute: str, value: float) -> bool:
    """Whether a score stands on the attribute's scale; half points are allowed.

    >>> fits("liking", 7), fits("liking", 0), fits("body", 6.5), fits("body", 6.3)
    (True, False, True, False)
    """
    scale = SCALES[attribute]
    return scale.low <= value <= scale.high and (2 * value) % 1 == 0


def refuse_value(item: str, value: float | None) -> tuple[str, str] | None:
    """What is wrong with a touch's number and how to mend it; None when nothing is. None clears a score and always may.

    >>> refuse_value("rank", 2), refuse_value("jar_body", 3)
    (None, ('3 is off the scale.', 'Give −2 (much too little) to 2 (much too much), whole.'))
    """
    if item in TEXT_ONLY:
        return None if value is None else ("This has no number.", "Send it as text.")
    if value is None:
        return None
    if item.startswith(JAR_PREFIX):
        good = value in dict(JAR_STEPS)
        return None if good else (f"{value:g} is off the scale.", "Give −2 (much too little) to 2 (much too much), whole.")
    if item in OTHER_RANGES:
        low, high = OTHER_RANGES[item]
        good = low <= value <= high and (item == FIRST_SIP or value % 1 == 0)
        return None if good else (f"{value:g} cannot be.", f"Give {low:g} to {high:g}{'' if item == FIRST_SIP else ', whole'}.")
    scale = SCALES[item]
    return None if fits(item, value) else (f"{value:g} is off the scale.", f"Give {scale.low:g} to {scale.high:g} in half points.")
