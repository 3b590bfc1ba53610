"""The gap of a plug: what is aimed at, and what a gauge says of it."""

from __future__ import annotations

from dataclasses import dataclass

from core.errors import OutOfRange
from core.language import say

AIMS = ("middle", "minimum", "maximum")
SAME_MM = 1e-6  # 0.035 in and 35 thou are one gap.


@dataclass(frozen=True)
class Window:
    """The gaps that a maker allows, both ends included. [mm]"""

    low_mm: float
    high_mm: float

    def __post_init__(self) -> None:
        if not 0 < self.low_mm <= self.high_mm:
            raise OutOfRange(
                "minimum",
                self.low_mm,
                say("above zero, at most {high_mm:g} mm", high_mm=self.high_mm),
            )

    def aim_mm(self, aim: str = "middle") -> float:
        """What to set: the middle unless a house aims elsewhere. [mm]

        Gaps grow as they wear, so a house may aim at the minimum; fuels that are hard to light
        speak for the maximum.
        """
        if aim not in AIMS:
            raise OutOfRange("aim", aim, say("one of {known}", known=", ".join(AIMS)))
        if aim == "middle":
            return (self.low_mm + self.high_mm) / 2
        return self.low_mm if aim == "minimum" else self.high_mm

    def verdict(self, passes_mm: float | None, refuses_mm: float | None) -> str:
        """What a go / no-go pair says: `in`, `out`, or `cannot-say`.

        Parameters
        ----------
        passes_mm : float or None
            The thickest blade that passes: the gap is at least that. [mm]
        refuses_mm : float or None
            The thinnest that does not: the gap is under that. [mm]

        Returns
        -------
        str

        Raises
        ------
        OutOfRange
            If what passes is no thinner than what does not.
        """
        if passes_mm is not None and refuses_mm is not None and refuses_mm <= passes_mm + SAME_MM:
            raise OutOfRange("refuses", refuses_mm, say("thicker than the blade that passes"))
        if passes_mm is not None and passes_mm > self.high_mm + SAME_MM:
            return "out"
        if refuses_mm is not None and refuses_mm <= self.low_mm + SAME_MM:
            return "out"
        if passes_mm is None or refuses_mm is None:
            return "cannot-say"
        within = passes_mm >= self.low_mm - SAME_MM and refuses_mm <= self.high_mm + SAME_MM
        return "in" if within else "cannot-say"

    def holds(self, gap_mm: float) -> bool:
        """Whether a gap that was read lies inside, both ends included."""
        return self.low_mm - SAME_MM <= gap_mm <= self.high_mm + SAME_MM
