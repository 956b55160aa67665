"""Recipes: timed steps with targets, and what is worked out from them. docs/formulas.md §6.

model    the document: a dose, its steps and targets, and the timeline worked out from them
lint     what does not add up, where, why, and its mend
reading  plain text → steps, with what was and was not understood
writing  steps → the same plain text
changes  what differs between two versions; scaling to another dose, cup count or vessel
outlook  the drink a recipe should give, from the brewer's own history
starters one recipe for each main way of brewing
"""
