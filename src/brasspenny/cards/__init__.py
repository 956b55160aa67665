"""Cards: everything the bench has learnt of one grinder, brewer or filter, on one page."""
