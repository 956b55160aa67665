"""The bars of the verdict's rule, each once (docs/judging.md §4)."""

from __future__ import annotations

LEVEL_POINTS = 0.05
"""A lead that would be written 0.0: means this close are level."""
CLEAR_BEST, TIE_SLACK, DROP_P = 0.85, 0.30, 0.05
HARDLY_EVER = 0.05
"""A step that settles the question this seldom is no call to act."""
