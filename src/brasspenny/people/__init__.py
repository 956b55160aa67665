"""The people of the bench: hosts and tasters, by name only."""
