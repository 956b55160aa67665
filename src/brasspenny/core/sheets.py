"""What a taster is asked: attributes, their scales and their words. Handbook §9."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

AttributeCode = Literal["aroma", "acidity", "sweetness", "bitterness", "body", "clarity", "finish"]
ATTRIBUTE_CODES: tuple[AttributeCode, ...] = get_args(AttributeCode)
DEFAULT_ATTRIBUTES: tuple[AttributeCode, ...] = ("acidity", "sweetness", "body")
LIKING = "liking"
WORDS = "words"


@dataclass(frozen=True)
class Attribute:
    """A scale from low to high in steps, with the words at its ends."""

    code: str
    label: str
    low: float
    high: float
    step: float
    low_word: str
    high_word: str


SCALES: dict[str, Attribute] = {
    a.code: a
    for a in (
        Attribute("aroma", "Aroma", 0, 10, 1, "faint", "strong"),
        Attribute("acidity", "Acidity", 0, 10, 1, "low", "high"),
        Attribute("sweetness", "Sweetness", 0, 10, 1, "low", "high"),
        Attribute("bitterness", "Bitterness", 0, 10, 1, "low", "high"),
        Attribute("body", "Body", 0, 10, 1, "light", "heavy"),
        Attribute("clarity", "Clarity", 0, 10, 1, "blurred", "clear"),
        Attribute("finish", "Finish", 0, 10, 1, "short", "long"),
        Attribute(LIKING, "Liking", 1, 9, 1, "dislike extremely", "like extremely"),
    )
}


def fits(attribute: str, value: float) -> bool:
    """Whether a score stands on the attribute's scale; half points are allowed.

    >>> fits("liking", 7), fits("liking", 0), fits("body", 6.5), fits("body", 6.3)
    (True, False, True, False)
    """
    scale = SCALES[attribute]
    return scale.low <= value <= scale.high and (2 * value) % 1 == 0
