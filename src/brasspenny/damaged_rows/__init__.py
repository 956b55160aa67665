"""Rows that cannot be read: found, set aside with the unit they are a part of, listed, downloaded, put back or removed."""
