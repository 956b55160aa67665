"""Coffees, waters and kettles: what is worked out about them, and what to mind."""
