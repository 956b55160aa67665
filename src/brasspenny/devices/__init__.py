"""Instruments behind one small interface, so that a real driver can take the place of a simulated one."""
