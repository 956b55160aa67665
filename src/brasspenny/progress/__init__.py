"""The rail and the margin of a trial."""
