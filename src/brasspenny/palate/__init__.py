"""The Palate room: what each taster can tell apart."""
