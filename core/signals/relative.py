"""Relative compression from a cranking trace: how hard each cylinder holds the starter back.

While an engine is cranked at an even speed, the starter's current rises once for each compression,
in the firing order. The height of each rise over the troughs beside it goes with the pressure of
that cylinder, so the cylinders compare with each other; it is no absolute pressure. Which rise is
whose has to be known from elsewhere (a mark on one cylinder's lead), or is left open.

Assumed: fuel and ignition off, plugs in, throttle open, some two turns of the cycle after the
inrush has died away. A cylinder without compression makes no rise; its place is kept by the rhythm.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.signal import butter, find_peaks, sosfiltfilt

from core.language import say
from core.signals.trace import Trace, TraceRefused, unbroken

RISES_EACH_SECOND = (1.5, 60.0)  # From one slow cylinder to twelve quick ones.
INRUSH_S = 0.35  # The starter's own first gulp, left aside.
NEAR = 0.4  # A rise belongs to its place within this share of the rhythm.
LEAST_TURNS = 2


@dataclass(frozen=True)
class Share:
    """One cylinder's rise against the highest.

    `cylinder` is None where the trace does not say which rise is whose; `place` counts along the
    firing order from the first whole rise. `spread` is one standard error of the share.
    """

    place: int
    cylinder: int | None
    share: float
    spread: float
    rises: int


def relative_compression(
    trace: Trace, firing_order: Sequence[int], first: tuple[int, float] | None = None
) -> list[Share]:
    """The rises of a cranking trace, by cylinder.

    Parameters
    ----------
    trace : Trace
        Cranking current, or pressure in the intake or exhaust.
    firing_order : sequence of int
        Every cylinder once.
    first : tuple of (cylinder, second), optional
        A cylinder and a time at which it was on compression, from a mark on its lead. [s]

    Returns
    -------
    list of Share
        In firing order; the highest has the share 1.

    Raises
    ------
    TraceRefused
        If no even rhythm is found, or too few turns of it.
    """
    count = len(firing_order)
    begins, step, values = _even(trace)
    rhythm = _rhythm(values, step)
    smooth = sosfiltfilt(butter(2, min(2.5 / rhythm * step * 2, 0.95), output="sos"), values)
    places = _places(smooth, rhythm / step)
    heights = _heights(smooth, places, rhythm / step)
    turns = len(heights) // count
    if turns < LEAST_TURNS:
        expected = f"at least {LEAST_TURNS} turns of {count} cylinders after the inrush"
        raise TraceRefused("too-short", "/", len(heights), expected)
    by_place = heights[: turns * count].reshape(turns, count)
    middle = np.median(by_place, axis=0)
    highest = float(middle.max())
    spread = by_place.std(axis=0, ddof=1) / np.sqrt(turns) / highest
    start = 0
    if first is not None:
        seconds = begins + places * step
        nearest = int(np.argmin(np.abs(seconds - first[1])))
        start = (list(firing_order).index(first[0]) - nearest) % count
    return [
        Share(
            place,
            firing_order[(start + place) % count] if first is not None else None,
            round(float(max(middle[place], 0.0) / highest), 4),
            round(float(spread[place]), 4),
            turns,
        )
        for place in range(count)
    ]


def _even(trace: Trace) -> tuple[float, float, NDArray[np.float64]]:
    """Where the trace begins once the inrush is left aside, its step, its values there. [s]"""
    trace = unbroken(trace)
    start = float(trace.seconds[0]) + INRUSH_S
    if start >= trace.seconds[-1]:
        raise TraceRefused(
            "too-short", "/", len(trace.seconds), say("more than the starter's inrush")
        )
    step = float(np.median(np.diff(trace.seconds)))
    grid = np.arange(start, float(trace.seconds[-1]), step)
    return start, step, np.interp(grid, trace.seconds, trace.values)


def _rhythm(values: NDArray[np.float64], step: float) -> float:
    """Seconds from one rise to the next, from the trace against itself later."""
    centred = values - values.mean()
    spectrum = np.abs(np.fft.rfft(centred * np.hanning(len(centred)), 8 * len(centred)))
    rates = np.fft.rfftfreq(8 * len(centred), step)
    usable = (rates >= RISES_EACH_SECOND[0]) & (rates <= min(RISES_EACH_SECOND[1], 0.4 / step))
    if not usable.any() or float(centred.std()) <= 0:
        raise TraceRefused("no-rhythm", "/", None, say("rises that follow each other evenly"))
    # A weak cylinder adds slower tones; the rises themselves stand at a multiple of each of them.
    strength = np.where(usable, spectrum, 0.0)
    best = rates[int(np.argmax(strength))]
    for multiple in range(2, 13):
        near = np.abs(rates - best * multiple) < 0.04 * best * multiple
        if near.any() and strength[near].max() > 0.6 * strength.max():
            best = float(rates[near][int(np.argmax(strength[near]))])
            break
    if strength.max() < 4 * np.median(spectrum[usable]):
        raise TraceRefused("no-rhythm", "/", None, say("rises that follow each other evenly"))
    return float(1 / best)


def _places(smooth: NDArray[np.float64], rhythm: float) -> NDArray[np.intp]:
    """Where each rise stands; where one is missing, where the rhythm puts it."""
    found, _ = find_peaks(smooth, distance=max(int(rhythm * (1 - NEAR)), 1))
    heights = smooth[found]
    tall = found[heights > np.median(smooth)]
    if not tall.size:
        raise TraceRefused("no-rhythm", "/", None, say("rises that follow each other evenly"))
    tall = tall[tall >= rhythm * 0.7]  # The first has a whole trough before it.
    if not tall.size:
        raise TraceRefused("no-rhythm", "/", None, say("rises that follow each other evenly"))
    places, at = [int(tall[0])], float(tall[0])
    pace = rhythm
    while at + pace < len(smooth) - rhythm / 2:
        wanted = at + pace
        near = tall[np.abs(tall - wanted) < NEAR * pace]
        if near.size:
            stands = float(near[int(np.argmin(np.abs(near - wanted)))])
            pace = 0.8 * pace + 0.2 * (stands - at)
            at = stands
        else:
            at = wanted
        places.append(round(at))
    return np.array(places, dtype=np.intp)


def _heights(
    smooth: NDArray[np.float64], places: NDArray[np.intp], rhythm: float
) -> NDArray[np.float64]:
    """Each rise over the mean of the troughs on either side of it."""
    half = max(int(rhythm / 2), 1)
    reach = max(int(rhythm * 0.2), 1)
    heights = []
    for place in places:
        before = smooth[max(place - half - reach, 0) : max(place - half + reach, 1)]
        after = smooth[place + half - reach : place + half + reach]
        top = smooth[max(place - reach, 0) : place + reach + 1].max()
        if before.size and after.size:
            heights.append(top - (before.min() + after.min()) / 2)
    return np.array(heights)
