"""From good probabilities to what is said and done: sentence, plug, key, money and next act."""

from core.judgement.answer import assess
from core.judgement.rules import rules_version

__all__ = ["assess", "rules_version"]
