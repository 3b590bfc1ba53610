"""The tables of the trade: every entry has a note and a source, checked when read."""

from core.knowledge.tables import (
    Cause,
    Channel,
    Fault,
    Knowledge,
    Modifier,
    SharedFinding,
    knowledge,
)

__all__ = ["Cause", "Channel", "Fault", "Knowledge", "Modifier", "SharedFinding", "knowledge"]
