"""The case: what is claimed of an engine, what was seen, asked and done, and how it grades."""

from core.judgement.rules import rules_version

__all__ = ["rules_version"]
