"""Listening: a line of plain trade English becomes proposed observations."""

from core.narration.listener import Heard, Listener, Proposal, Question

__all__ = ["Heard", "Listener", "Proposal", "Question"]
