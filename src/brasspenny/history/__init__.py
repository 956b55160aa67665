"""What was changed, by whom, and undoing it."""
