"""A trial on one or two pages: what was asked, how, what came of it, how sure it is."""
