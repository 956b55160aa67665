"""Open formats in and out. Everything is checked before anything is taken."""
