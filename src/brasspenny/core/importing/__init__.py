"""Brews from somebody's own table: which column means what, in which unit, and what each row becomes."""
