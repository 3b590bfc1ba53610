"""A warning about the record, made of fields so that nobody has to match its wording."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Caution:
    """Something about the record that a person should look at."""

    code: str
    path: str
    text: str
    doubts: bool = False  # Whether what it is about is left out of the evidence.
    also: tuple[str, ...] = ()  # What else is left out with it.
    beside: str = ""  # The other of two records that cannot both be right,
    cylinder: int = 0  # and the cylinder that they are of.
