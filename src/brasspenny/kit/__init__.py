"""Coffees and their stock, grinders and burr sets with their matched settings, filters, brewers, waters, kettles, vessels, instruments."""
