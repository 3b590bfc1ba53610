"""What an engine may hide, and how likely that is before anything is seen."""
