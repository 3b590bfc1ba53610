"""Engines with chosen faults, and inspectors who record them: to try the diagnosis on.

None of this uses the inference tables, not even their rates (`world.toml` has its own). Leaks and
pressures come from the physics with continuous areas, plugs from amounts of soot, oil, fuel and
heat, words from people who disagree.
"""

from core.simulation.engines import Truth, draw_truth
from core.simulation.recording import record

__all__ = ["Truth", "draw_truth", "record"]
