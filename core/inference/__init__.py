"""The exact answer: what the evidence makes of all that may be hidden."""
