"""Runs and TDS readings, as logged: Brew."""
