"""The order of the work at one engine, before anything comes off."""

from core.planning.work_order import work_order

__all__ = ["work_order"]
