"""The cylinders as each other's control group."""
