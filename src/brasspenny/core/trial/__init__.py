"""A trial as one frozen value, and everything that follows from it."""
