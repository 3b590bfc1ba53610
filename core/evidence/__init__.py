"""What was said of an engine, and how likely it is under everything that may be hidden."""
