"""Brass Penny: a tasting bench for people who compare coffee brews."""

__version__ = "0.1.0"
