"""Planning a trial: the design, the order of brewing, the budget, whether it is fair, and the day's run sheet."""
