"""Why: what each finding alone does to the odds of each fault."""
