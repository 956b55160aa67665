"""The brew simulator: a small physical model, stated, seeded only in its readings, always labelled simulated. docs/formulas.md §11.

model: the physics; brews: from a recipe to its pours and valve; fitting: a few parameters learnt from own runs.
The equations, parameters and limits are told in docs/simulator.md.
"""
