"""A trial's question and its setups, seen as control bars: Ask and Set up."""
