"""Timing the day so that all cups are tasted at one temperature. docs/formulas.md §8.6.

jobs     a brew as blocks of time, from its recipe; resources and vessels
solver   the constraint schedule itself (OR-Tools CP-SAT)
advice   why a spread cannot be kept, and what would
"""
