"""Pictures of a bed or a cup, kept small with their brew."""
