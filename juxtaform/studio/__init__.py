"""Use cases: they open transactions, call the core, and return plain results."""
