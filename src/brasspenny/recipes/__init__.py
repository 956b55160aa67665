"""Recipes and their versions: written, read from text, checked, scaled, compared, handed on as a card."""
