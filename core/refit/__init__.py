"""The way back: from the parts box to a proven repair, by the record of one inspection."""

from core.refit.sheet import refit_sheet

__all__ = ["refit_sheet"]
