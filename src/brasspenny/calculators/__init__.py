"""The calculators: one plain endpoint per formula, the same code the bench uses. Nothing is stored."""
