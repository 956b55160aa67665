"""The chart room: every brew ever, on the same charts."""
