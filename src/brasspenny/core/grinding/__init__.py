"""Settings of grinders and burrs, and what leads from one dial to another."""
