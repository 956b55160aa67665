"""What the scores say, paired with what was measured: Verdict."""
