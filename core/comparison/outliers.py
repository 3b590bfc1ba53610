"""Statistics that name the odd one out."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy.special import stdtrit

from core.assessment import Odd
from core.errors import OutOfRange
from core.knowledge import knowledge
from core.language import say
from core.quantities import percent

LEAST_FOR_SCORES = 3
LEAST_FOR_GRUBBS = 6


def modified_z_scores(values: ArrayLike) -> NDArray[np.float64]:
    """Distance of each value from the median, in robust standard deviations.

    Parameters
    ----------
    values : array_like, shape (n,)
        Readings of one kind.

    Returns
    -------
    ndarray, shape (n,)
        0.6745 (x - median) / MAD; where the MAD is zero the mean absolute deviation
        (times 1.253314) stands in, and all-equal values score zero. [-]

    References
    ----------
    B. Iglewicz and D. Hoaglin, How to Detect and Handle Outliers (1993), as quoted in the
    NIST/SEMATECH e-Handbook of Statistical Methods, section 1.3.5.17.
    """
    x = np.asarray(values, dtype=np.float64)
    off = x - np.median(x)
    mad = float(np.median(np.abs(off)))
    if mad > 0:
        return np.asarray(0.6745 * off / mad)
    mean_ad = float(np.mean(np.abs(off)))
    return np.asarray(off / (1.253314 * mean_ad)) if mean_ad > 0 else np.zeros_like(x)


def grubbs(values: ArrayLike, significance: float = 0.05) -> tuple[int, float, float]:
    """Grubbs' test for one low outlier, one-sided.

    Parameters
    ----------
    values : array_like, shape (n,)
        At least three readings.
    significance : float
        Chance of calling a sound set odd. [-]

    Returns
    -------
    tuple of (int, float, float)
        Index of the lowest value, its statistic, the critical value it must exceed.

    Raises
    ------
    OutOfRange
        With fewer than three values.

    References
    ----------
    NIST/SEMATECH e-Handbook of Statistical Methods, section 1.3.5.17.1.
    """
    x = np.asarray(values, dtype=np.float64)
    n = x.size
    if n < 3:
        raise OutOfRange("values", n, say("at least three values"))
    lowest = int(np.argmin(x))
    spread = float(np.std(x, ddof=1))
    statistic = float((x.mean() - x[lowest]) / spread) if spread > 0 else 0.0
    t = float(stdtrit(n - 2, 1 - significance / n))
    critical = (n - 1) / np.sqrt(n) * np.sqrt(t**2 / (n - 2 + t**2))
    return lowest, statistic, float(critical)


def odd_ones(readings: Mapping[int, float]) -> dict[int, list[Odd]]:
    """Which statistics call which cylinder's reading odd; two alone say nothing.

    The limits are those of small sets, and what lies near the middle is not worth a word.

    Parameters
    ----------
    readings : mapping of cylinder to reading
        Of one kind.

    Returns
    -------
    dict of cylinder to list of Odd
    """
    order = sorted(readings)
    named: dict[int, list[Odd]] = {number: [] for number in order}
    if len(order) < LEAST_FOR_SCORES:
        return named
    rule = knowledge().pressure["odd"]
    values = [readings[at] for at in order]
    middle = float(np.median(values))
    limit = rule["limits"][
        min(len(values), LEAST_FOR_SCORES + len(rule["limits"]) - 1) - LEAST_FOR_SCORES
    ]

    def far(number: int) -> bool:
        return abs(readings[number] - middle) >= float(rule["least_share"]) * abs(middle)

    for number, score in zip(order, modified_z_scores(values).tolist(), strict=True):
        if abs(score) > limit and far(number):
            text = say(
                "{apart}: more than scatter among {values} does",
                apart=_beside(readings[number], middle),
                values=len(values),
            )
            named[number].append(_odd("modified-z", score, text))
    if len(values) >= LEAST_FOR_GRUBBS:
        lowest, statistic, critical = grubbs(values)
        if statistic > critical and far(order[lowest]) and not named[order[lowest]]:
            text = say("the lowest by far, {apart}", apart=_beside(values[lowest], middle))
            named[order[lowest]].append(_odd("grubbs", statistic, text))
    return named


def _beside(value: float, middle: float) -> str:
    """How far a reading lies from the middle, as a person says it."""
    if middle == 0:
        under, over = (
            say("under the others' middle of nothing"),
            say("over the others' middle of nothing"),
        )
        return under if value < middle else over
    apart = percent(abs(value / middle - 1))
    if value < middle:
        return say("{apart} under the middle", apart=apart)
    return say("{apart} over the middle", apart=apart)


def _odd(statistic: str, value: float, text: str) -> Odd:
    return Odd(statistic, round(value, 3), text)
