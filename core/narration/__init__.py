"""Listening: a line of plain trade English becomes proposed observations."""

from core.narration.line import Heard, Proposal, Question
from core.narration.listener import Listener

__all__ = ["Heard", "Listener", "Proposal", "Question"]
