"""A made-up bench aboard a moored, retired lightship, for looking at and trying things on."""
