"""Names of coffees, grinders, filters, brewers and waters that setups are made of."""
