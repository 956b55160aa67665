"""Finding any trial, recipe, piece of kit or person by what is typed."""
