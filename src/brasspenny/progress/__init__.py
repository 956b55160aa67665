"""The progress and the margin of a trial."""
