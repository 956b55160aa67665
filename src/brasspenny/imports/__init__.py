"""Brews brought in from somebody's own table."""
