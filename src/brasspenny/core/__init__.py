"""The rules of the job: pure functions and frozen values.

What may not enter this folder: Flask, peewee, any other I/O, the clock, and hidden randomness. A seed, a
Generator or a "now" comes in as an argument. numpy and scipy are allowed. tests/core/test_layers.py holds it.

Numbers carry their unit in their name (`dose_g`, `tds_pct`, `elapsed_s`); percentages are percent (1.42),
never fractions, except inside private helpers.
"""

CORE_VERSION = "17"
"""Raised whenever a stored verdict would come out differently; part of the key of every cached result."""
