"""The trainer: engines with hidden faults, instruments that answer, and what a round was worth."""
