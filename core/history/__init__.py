"""What an engine remembers: its inspections in time, what was put in, and what is due."""
