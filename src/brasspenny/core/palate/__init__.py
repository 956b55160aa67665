"""What each taster can tell apart: steps of a series, the belief about a threshold, the step to serve next, drills. docs/palate.md."""
