"""The bench over the API: calculators, and the tools that a person owns."""
