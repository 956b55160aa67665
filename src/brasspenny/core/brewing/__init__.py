"""The brew while it is made and just after: along its plan, what was seen, a scale's curve, whether it is dialled in, what to change."""
