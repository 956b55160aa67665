"""Brewing along: a brew while it is made, step by step, with a scale beside it."""
