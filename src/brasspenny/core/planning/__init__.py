"""Before the coffee is spent: what is held and what is tested, designs, power, the budget, the day."""
