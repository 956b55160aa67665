"""Flights, blind sheets and scores: Taste."""
