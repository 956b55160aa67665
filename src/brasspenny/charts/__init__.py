"""The charts: every brew ever, on the same charts."""
