"""One model of the engine; every screen is a view of it."""

from core.diagnosis.assess import assess

__all__ = ["assess"]
