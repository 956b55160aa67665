"""The bench itself: its name, instruments, passphrase, and what to do next."""
