"""Setting up, starting and checking: only Python's own library, for a machine that has no more."""
