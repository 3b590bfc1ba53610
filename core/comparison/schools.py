"""The acceptance schools of a compression test. All are run; the house's decides.

`lowest-75` is the default: it needs no specification, no number of peers, and holds whatever the
absolute level, so it can be applied to a cold or slow test too.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from core.document.records import Specification
from core.knowledge.limits import limits
from core.language import later, say
from core.quantities import PSI_PA, Dimension, from_si, pressure_pa, spoken
from core.vocabulary import Passing

DEFAULT = "lowest-75"
FLOOR_PSI = limits().compared.floor_psi

Readings = dict[int, float]
School = Callable[["Readings", Specification, str], "Verdict"]


@dataclass(frozen=True)
class Verdict:
    """What one school says: pass, fail, or that it cannot say."""

    rule: str
    label: str
    verdict: Passing
    failing: tuple[int, ...]
    detail: str


def verdicts(
    readings_pa: Readings, specification: Specification, unit: str = "psi"
) -> list[Verdict]:
    """Run every school on one test's readings.

    Parameters
    ----------
    readings_pa : dict of cylinder to pressure
        Final gauge pressures of one dry test. [Pa]
    specification : Specification
        The engine maker's figures, as entered.
    unit : str
        The pressure unit to speak in.

    Returns
    -------
    list of Verdict
        In a fixed order, the default first.
    """
    return [rule(readings_pa, specification, unit) for rule in SCHOOLS.values()]


def _in(unit: str, pressure: float) -> str:
    return from_si(pressure, unit, Dimension.PRESSURE).spoken()


def _cannot(rule: str, label: str, why: str) -> Verdict:
    return Verdict(rule, say(label), "cannot-say", (), why)


def _said(rule: str, label: str, failing: list[int], detail: str) -> Verdict:
    return Verdict(rule, say(label), "fail" if failing else "pass", tuple(sorted(failing)), detail)


def lowest_against_highest(
    rule: str, label: str, share: float, floor_pa: float | None = None
) -> School:
    """Published in many factory manuals: lowest at least a share of the highest; from memory."""

    def judge(readings_pa: Readings, _: Specification, unit: str) -> Verdict:
        if len(readings_pa) < 2:
            return _cannot(rule, label, say("needs at least two cylinders"))
        highest = max(readings_pa.values())
        limit = max(share * highest, floor_pa or 0.0)
        failing = [at for at, pressure in readings_pa.items() if pressure < limit]
        lowest = min(readings_pa.values())
        detail = say(
            "lowest is {lowest} of the highest; the limit is {share:.0f} %",
            lowest=_share(lowest, highest),
            share=share * 100,
        )
        if floor_pa:
            detail += say(" and {floor}", floor=_in(unit, floor_pa))
        return _said(rule, label, failing, detail)

    return judge


def _share(part: float, whole: float) -> str:
    return f"{part / whole * 100:.0f} %" if whole > 0 else say("nothing")


def near_the_mean(rule: str, label: str, tolerance: float) -> School:
    """Common practice: every cylinder within a tolerance of the mean of all."""

    def judge(readings_pa: Readings, _: Specification, unit: str) -> Verdict:
        if len(readings_pa) < 2:
            return _cannot(rule, label, say("needs at least two cylinders"))
        mean = sum(readings_pa.values()) / len(readings_pa)
        failing = [
            at for at, pressure in readings_pa.items() if abs(pressure - mean) > tolerance * mean
        ]
        detail = say(
            "mean {mean}; each within {tolerance:.0f} % of it",
            mean=_in(unit, mean),
            tolerance=tolerance * 100,
        )
        return _said(rule, label, failing, detail)

    return judge


def specification(readings_pa: Readings, given: Specification, unit: str) -> Verdict:
    """The engine maker's minimum and greatest spread, as entered."""
    rule, label = "specification", later("maker's figures")
    least, spread = given.compression_min, given.compression_max_spread
    if least is None and spread is None:
        return _cannot(rule, label, say("no minimum or spread is entered for this engine"))
    if not readings_pa:
        return _cannot(rule, label, say("no readings"))
    highest = max(readings_pa.values())
    failing: set[int] = set()
    said = []
    if least is not None:
        limit = pressure_pa(least)
        failing |= {at for at, pressure in readings_pa.items() if pressure < limit}
        said.append(say("minimum {least}", least=spoken(least, 4)))
    if spread is not None:
        in_percent = spread.unit == "%"
        allowed = highest * spread.value / 100 if in_percent else pressure_pa(spread)
        failing |= {at for at, pressure in readings_pa.items() if pressure < highest - allowed}
        said.append(say("spread at most {spread}", spread=spread))
    return _said(rule, label, sorted(failing), ", ".join(said))


SCHOOLS: dict[str, School] = {
    "lowest-75": lowest_against_highest("lowest-75", later("lowest within 75 % of highest"), 0.75),
    "lowest-70-floor-100": lowest_against_highest(
        "lowest-70-floor-100",
        later("lowest within 70 %, none under 100 psi"),
        0.70,
        FLOOR_PSI * PSI_PA,
    ),
    "peers-10": near_the_mean("peers-10", later("each within 10 % of the mean"), 0.10),
    "peers-15": near_the_mean("peers-15", later("each within 15 % of the mean"), 0.15),
    "specification": specification,
}
