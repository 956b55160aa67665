"""What is to be known about a piece of kit, in words: resting a coffee, and what can hurt. docs/formulas.md §5, §6."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

RESTED_AFTER_DAYS = 5
"""Fresher coffee still gives off so much gas that it blooms hard and brews unevenly."""


def resting(days_off_roast: int) -> str:
    """Advice by days off roast, empty when rested.

    >>> resting(2), resting(9)
    ('Very fresh: rest it, it blooms hard.', '')
    """
    if days_off_roast < 0:
        return "Roasted in the future: check the date."
    return "Very fresh: rest it, it blooms hard." if days_off_roast < RESTED_AFTER_DAYS else ""


def kit_cautions(kind: str, facts: Mapping[str, Any]) -> Iterator[str]:
    """Cautions of a kind of kit with these facts; the maker's guidance and local rules come first."""
    if kind in ("grinder", "burr_set"):
        yield "Unplug a grinder before clearing it; no wet hands on plugs."
    if kind == "filter" and facts.get("reusable"):
        yield "Hot rinsing is not sanitising: follow the maker's cleaning guidance."
    if kind == "coffee" and facts.get("may_hold_alcohol"):
        yield "May carry alcohol: ask tasters first."
    if kind == "vessel" and facts.get("use", "server") == "server":
        yield "Glass servers crack when knocked or shocked by heat."
    if kind == "kettle":
        yield "Rinse descaler out well; boiling water and steam scald."
