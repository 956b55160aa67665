"""The descriptor shelf: common flavour words in groups, and how words are counted. docs/formulas.md §9.

A plain list to search, with free text beside it; nobody's scheme of kinds and sub-kinds.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable

SHELF: dict[str, tuple[str, ...]] = {
    "floral": ("jasmine", "rose", "orange blossom", "lavender", "chamomile", "honeysuckle"),
    "citrus": ("lemon", "lime", "orange", "grapefruit", "mandarin", "bergamot"),
    "berry": ("blackberry", "blackcurrant", "raspberry", "strawberry", "blueberry", "redcurrant"),
    "stone fruit": ("peach", "apricot", "plum", "cherry", "nectarine"),
    "tropical": ("pineapple", "mango", "passion fruit", "papaya", "lychee", "banana"),
    "dried fruit": ("raisin", "date", "fig", "prune", "sultana"),
    "sweet and caramel": ("honey", "caramel", "toffee", "brown sugar", "molasses", "vanilla", "maple"),
    "chocolate": ("milk chocolate", "dark chocolate", "cocoa", "cocoa nib"),
    "nut": ("hazelnut", "almond", "walnut", "peanut", "marzipan"),
    "spice": ("cinnamon", "clove", "cardamom", "black pepper", "ginger", "nutmeg"),
    "herbal and tea": ("black tea", "green tea", "mint", "basil", "hay", "tomato leaf"),
    "roast": ("toast", "malt", "smoke", "ash", "burnt"),
    "wood and paper": ("cedar", "oak", "cardboard", "wet paper"),
    "fermented and boozy": ("wine", "rum", "whisky", "vinegar", "yoghurt", "overripe fruit"),
    "defects": ("sour", "harsh", "astringent", "salty", "metallic", "rubber", "mould", "baggy"),
}
MOST_WORDS = 12


def words_of(text: str) -> list[str]:
    """Single descriptors of what a taster wrote, each once.

    >>> words_of("Lime; black tea, lime\\nhoney.")
    ['lime', 'black tea', 'honey']
    """
    parts = (re.sub(r"\s+", " ", part).strip(" .!?\t").lower() for part in re.split(r"[,;/\n]+", text))
    return list(dict.fromkeys(part for part in parts if part))


def count_words(texts: Iterable[str]) -> list[tuple[str, int]]:
    """How many tastings of a setup each word came up in, most often first.

    >>> count_words(["lime, honey", "Lime"])
    [('lime', 2), ('honey', 1)]
    """
    counted = Counter(word for text in texts for word in words_of(text))
    return sorted(counted.items(), key=lambda x: (-x[1], x[0]))
