"""One model of the engine; every screen is a view of it."""

from core.diagnosis.assess import assess, rules_version

__all__ = ["assess", "rules_version"]
