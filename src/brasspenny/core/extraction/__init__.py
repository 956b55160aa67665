"""What a brew's masses, times and readings come to: strength, yield, ratios, uncertainty, comparisons, and the lines of the two charts."""
