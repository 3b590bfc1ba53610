"""From good probabilities to what is said and done: sentence, plug, key, money and next act."""

from core.judgement.assessor import assess, rules_version

__all__ = ["assess", "rules_version"]
