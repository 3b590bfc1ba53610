"""What a gauge shows: compression while cranking, and what leaks do to it."""
