"""What each instrument says while it captures: events, each with the seconds before it.

A capture ends with the event `done`, but for the counter's, which goes on until nobody listens.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import count
from typing import Any, ClassVar, NamedTuple

import numpy as np

from core.errors import OutOfRange
from core.quantities import PSI_PA
from core.signals import Trace, write_trace
from core.simulation.instruments import CRANKED_RPM, BenchEngine, cranking_current

CRANKED_S = 4.0
BATCH_S = 0.1


class Event(NamedTuple):
    """Something an instrument says, and how long it takes to come. [s]"""

    after_s: float
    name: str
    data: dict[str, Any]


DONE = Event(0.0, "done", {})


class Instrument:
    """An instrument on a bench engine."""

    id: ClassVar[str]
    title: ClassVar[str]

    def __init__(
        self, engine: BenchEngine, order: Sequence[int], strokes: int, random: np.random.Generator
    ) -> None:
        self.engine = engine
        self.order = order
        self.strokes = strokes
        self.random = random

    def capture(self, cylinder: int) -> Iterator[Event]:
        """One capture; `cylinder` says where a gauge is screwed in."""
        raise NotImplementedError

    def as_csv(self, cylinder: int) -> str:
        """One capture as a file."""
        raise NotImplementedError


class PressureGauge(Instrument):
    """A compression gauge that says after each stroke what it holds."""

    id = "gauge"
    title = "simulated gauge"

    def _held_psi(self, cylinder: int) -> list[float]:
        if not 1 <= cylinder <= self.engine.cylinders:
            raise OutOfRange("cylinder", cylinder, f"from 1 to {self.engine.cylinders}")
        shown = self.engine.strokes_pa(cylinder, self.strokes, self.random)
        return [round(float(pa) / PSI_PA, 1) for pa in shown]

    def capture(self, cylinder: int) -> Iterator[Event]:
        each_s = 120 / CRANKED_RPM  # A four-stroke compresses every other turn.
        for stroke, psi in enumerate(self._held_psi(cylinder), start=1):
            pressure = {"value": psi, "unit": "psi"}
            yield Event(each_s, "stroke", {"stroke": stroke, "pressure": pressure})
        yield DONE

    def as_csv(self, cylinder: int) -> str:
        rows = [f"{at},{psi}" for at, psi in enumerate(self._held_psi(cylinder), start=1)]
        return "\n".join(["stroke,pressure [psi]", *rows]) + "\n"


class CurrentClamp(Instrument):
    """A clamp on the starter's cable, the engine cranked with its plugs in."""

    id = "current-clamp"
    title = "simulated current clamp"

    def _trace(self) -> Trace:
        shares = self.engine.shares(self.order)
        return cranking_current(self.random, shares, rpm=CRANKED_RPM, seconds=CRANKED_S)[0]

    def capture(self, cylinder: int) -> Iterator[Event]:
        trace = self._trace()
        for samples in np.array_split(
            np.column_stack([trace.seconds, trace.values]).round(4), round(CRANKED_S / BATCH_S)
        ):
            yield Event(BATCH_S, "samples", {"samples": samples.tolist()})
        yield DONE

    def as_csv(self, cylinder: int) -> str:
        return write_trace(self._trace()).decode()


class MisfireCounter(Instrument):
    """Counters that go up with each miss, said once a second."""

    id = "misfire-counter"
    title = "simulated misfire counter"

    def capture(self, cylinder: int) -> Iterator[Event]:
        total = dict.fromkeys(range(1, self.engine.cylinders + 1), 0)
        for _ in count():
            for number, missed in self.engine.misses(1.0, self.random).items():
                total[number] += missed
            listed = [{"cylinder": number, "count": missed} for number, missed in total.items()]
            yield Event(1.0, "counts", {"counts": listed})

    def as_csv(self, cylinder: int) -> str:
        """A minute of it."""
        minute = self.engine.misses(60.0, self.random)
        return (
            "\n".join(["cylinder,count", *(f"{n},{missed}" for n, missed in minute.items())]) + "\n"
        )


INSTRUMENTS: dict[str, type[Instrument]] = {
    kind.id: kind for kind in (PressureGauge, CurrentClamp, MisfireCounter)
}
