"""The sample bench: made-up trials to look round, in a database of their own beside the bench's."""
