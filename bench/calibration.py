"""How well the diagnosis is calibrated, on simulated engines that its tables did not make.

python -m bench.calibration [--engines 2000] [--seed 1] [--learn 0] [--agree] [--picture FILE]

The engines come with faults at rates of their own, or with `--agree` at those of the tables.
`--learn` opens so many others first, and puts the odds in force that a shop's own record proposes
of them, three times over.
"""

from __future__ import annotations

import argparse
from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from itertools import pairwise
from pathlib import Path
from typing import Any

import numpy as np

from bench.classes import CLASS_OF
from bench.ideal import ASIDE, guesses, nothing_shared
from bench.reliability import draw
from core.document import check_document
from core.knowledge import knowledge
from core.knowledge.tables import raw_tables
from core.learning.own_odds import Tally, proposals, tallies
from core.simulation import Truth, draw_truth, record
from core.simulation.engines import Rates
from core.telling import assess

BINS = np.array([0, 0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0])
TELLS = 0.8  # The evidence tells a cylinder's faults apart if the best guess is this sure.
LOW_OF_BEST, LOW_OF_MEAN = 0.75, 0.9
ROUNDS = 3
LEARNT = 77  # Keeps the engines that are learnt from apart from those that are measured.
Odds = dict[str, dict[str, float]]


@dataclass
class Skill:
    """How often guesses about faulty cylinders were right."""

    judged: int = 0
    first: int = 0
    third: int = 0
    baselines: dict[str, int] = field(default_factory=lambda: defaultdict(int))

    def count(self, ranked: list[str], wanted: set[str], baselines: dict[str, bool]) -> None:
        self.judged += 1
        self.first += ranked[0] in wanted
        self.third += bool(set(ranked[:3]) & wanted)
        for name, right in baselines.items():
            self.baselines[name] += right

    def told(self, who: str) -> str:
        return (
            f"{who}: first guess right {self.first / self.judged:.1%}, among the first three "
            f"{self.third / self.judged:.1%} of {self.judged}"
        )


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--engines", type=int, default=2000)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--learn", type=int, default=0)
    parser.add_argument("--agree", action="store_true")
    parser.add_argument("--picture", type=Path, default=None)
    options = parser.parse_args()
    odds: Odds = {}
    for part in range(ROUNDS if options.learn else 0):
        odds = _learnt(options.seed, part, options.learn // ROUNDS, odds)
    rates = _of_the_tables() if options.agree else None
    claims: list[tuple[str, float, bool]] = []
    grades: list[tuple[str, bool]] = []
    degrees: list[tuple[float, float]] = []
    everywhere, plain, clear = Skill(), Skill(), Skill()
    best_plain, best_clear = Skill(), Skill()
    for number in range(options.engines):
        random = np.random.default_rng([options.seed, number])
        truth = draw_truth(random, rates)
        document = check_document({**record(truth, random), "house_rules": {"odds": odds}})
        said = assess(document, explain=False, advise=False)
        claims += list(_claims(truth, said))
        grades += list(_grades(truth, said))
        degrees += list(_degrees(truth, said))
        for cylinder, one in truth.cylinders.items():
            wanted = one.faults - set(ASIDE)
            if not wanted:
                continue
            faults = next(c for c in said["cylinders"] if c["number"] == cylinder)["faults"]
            ranked = [f["fault"] for f in faults if f["fault"] not in ASIDE]
            baselines = _baselines(document, cylinder, wanted)
            everywhere.count(ranked, wanted, baselines)
            if not nothing_shared(truth):
                continue
            ideal = guesses(truth, document, cylinder)
            best = sorted(ideal, key=lambda name: -ideal[name])
            plain.count(ranked, wanted, baselines)
            best_plain.count(best, wanted, {})
            if ideal[best[0]] >= TELLS:
                clear.count(ranked, wanted, baselines)
                best_clear.count(best, wanted, {})
    _print(claims)
    _print_grades(grades)
    _print_degrees(degrees)
    print(everywhere.told("faulty cylinders"))
    print(plain.told("where nothing shared is wrong"))
    print(best_plain.told("  the ideal, with all else known"))
    print(clear.told(f"where the ideal is at least {TELLS:.0%} sure"))
    print(best_clear.told("  the ideal"))
    for name, right in everywhere.baselines.items():
        print(f"baseline '{name}': right {right / everywhere.judged:.1%}")
    if options.picture:
        chance = np.array([claim[1] for claim in claims])
        true = np.array([claim[2] for claim in claims])
        draw(chance, true, BINS, options.picture)


def _of_the_tables() -> Rates:
    """How common the diagnosis takes each fault to be, where it sits."""
    known = knowledge()
    rates = {
        scope: {fault.id: fault.prior for fault in known.of_scope(scope)}
        for scope in ("cylinder", "engine", "pair")
    }
    parts = raw_tables()["faults"]["parts"]
    mixture = {name: rates["engine"][name] for name in ("mixture-rich", "mixture-lean")}
    rates["bank"] = {name: parts["bank"] * prior for name, prior in mixture.items()}
    rates["coil"] = {"ignition-weak": parts["coil"]}
    return rates


def _learnt(seed: int, part: int, engines: int, odds: Odds) -> Odds:
    """Odds after what some engines turned out to have was held against what was claimed of them."""
    told: list[Tally] = []
    for number in range(engines):
        random = np.random.default_rng([seed, part, number, LEARNT])
        truth = draw_truth(random)
        made = {**record(truth, random), "house_rules": {"odds": odds}, "outcome": _opened(truth)}
        document = check_document(made)
        told += tallies(document, assess(document, explain=False, advise=False))
    learnt = {cycle: dict(own) for cycle, own in odds.items()}
    for one in proposals(told, odds):
        learnt.setdefault(one.cycle, {})[one.fault] = one.factor
    return learnt


def _opened(truth: Truth) -> dict[str, Any]:
    """What somebody who opens the whole engine writes down."""
    cylinders = []
    for number, one in truth.cylinders.items():
        leaks = {"head-gasket-between"} if truth.gasket_area(number) else set()
        found = sorted(one.faults | leaks)
        cylinders.append({"cylinder": number, **({"found": found} if found else {"nothing": True})})
    return {"cylinders": cylinders, "engine_faults": sorted(truth.engine_faults)}


def _claims(truth: Truth, said: dict[str, Any]) -> Iterator[tuple[str, float, bool]]:
    for cylinder in said["cylinders"]:
        real = truth.cylinders[cylinder["number"]].faults
        for fault in cylinder["faults"]:
            yield fault["fault"], fault["probability"], fault["fault"] in real
    for fault in said["engine"]["faults"]:
        if len(truth.cylinders) > 1:
            name = fault["fault"]
            yield f"engine {name}", fault["probability"], name in truth.engine_faults
    for pair in said["pairs"]:
        yield "head-gasket-between", pair["probability"], tuple(pair["cylinders"]) in truth.gaskets


def _grades(truth: Truth, said: dict[str, Any]) -> Iterator[tuple[str, bool]]:
    """Each cylinder's grade, and whether more than a worn plug or a wet well is wrong."""
    for one in said["cylinders"]:
        number = one["number"]
        touched = truth.cylinders[number].faults | truth.shared_on(number)
        yield one["grade"], bool(touched - set(ASIDE)) or truth.gasket_area(number) > 0


def _degrees(truth: Truth, said: dict[str, Any]) -> Iterator[tuple[float, float]]:
    """Each leak of a cylinder's own [mm2 for each 500 cm3], and what it is claimed at."""
    for one in said["cylinders"]:
        claimed = {fault["fault"]: fault["probability"] for fault in one["faults"]}
        for fault, area in truth.cylinders[one["number"]].leaks.items():
            yield area, claimed.get(fault, 0.0)


def _baselines(document: dict[str, Any], cylinder: int, wanted: set[str]) -> dict[str, bool]:
    """Two plain schools that call every low cylinder rings."""
    tests = document["tests"]["compression"]
    readings = {
        item["cylinder"]: item["pressure"]["value"]
        for item in (tests or [{"readings": []}])[0]["readings"]
    }
    own = readings.get(cylinder, np.inf)
    best, mean = max(readings.values(), default=0), np.mean(list(readings.values()) or [0])
    rings = "ring-sealing" in wanted
    return {
        "under 75 % of the best is rings": bool(own < LOW_OF_BEST * best and rings),
        "over 10 % under the mean is rings": bool(own < LOW_OF_MEAN * mean and rings),
    }


def _print(claims: list[tuple[str, float, bool]]) -> None:
    chance = np.array([claim[1] for claim in claims])
    true = np.array([claim[2] for claim in claims])
    place = np.clip(np.digitize(chance, BINS) - 1, 0, len(BINS) - 2)
    error = told_error = strong_error = 0.0
    told, strong = chance >= BINS[1], chance >= 0.5
    print("claimed      held true    claims")
    for at in range(len(BINS) - 1):
        here = place == at
        if here.any():
            claimed, held = chance[here].mean(), true[here].mean()
            error += here.sum() / len(chance) * abs(claimed - held)
            if at:
                told_error += here.sum() / told.sum() * abs(claimed - held)
            if BINS[at] >= 0.5:
                strong_error += here.sum() / strong.sum() * abs(claimed - held)
            print(f"{claimed:8.3f} {held:12.3f} {here.sum():10d}")
    print(f"expected calibration error {error:.4f}; of claims of 5 % and more {told_error:.4f}, "
          f"of one half and more {strong_error:.4f}")  # fmt: skip
    print(f"Brier score {np.mean((chance - true) ** 2):.5f}, of the priors alone "
          f"{np.mean((true.mean() - true) ** 2):.5f}")  # fmt: skip
    _print_by("fault", claims, lambda fault: fault)
    _print_by("class", claims, lambda fault: CLASS_OF[fault.removeprefix("engine ")])


def _print_by(
    title: str, claims: list[tuple[str, float, bool]], named: Callable[[str], str]
) -> None:
    rows = defaultdict(list)
    for fault, claimed, true in claims:
        rows[named(fault)].append((claimed, true))
    print(f"{title:28s}   claimed     true   claims of 5 % and more: claimed, true")
    for name, pairs in sorted(rows.items()):
        told = [pair for pair in pairs if pair[0] >= BINS[1]] or [(np.nan, np.nan)]
        (mean, truth), (told_mean, told_truth) = np.mean(pairs, axis=0), np.mean(told, axis=0)
        print(f"{name:28s} {mean:9.4f} {truth:8.4f} {told_mean:12.3f} {told_truth:7.3f}")


def _print_grades(grades: list[tuple[str, bool]]) -> None:
    print("grade   cylinders   something but wear or a wet well is wrong")
    for grade in sorted({grade for grade, _ in grades}):
        wrong = [touched for own, touched in grades if own == grade]
        print(f"{grade:5s} {len(wrong):11d} {np.mean(wrong):12.1%}")


def _print_degrees(degrees: list[tuple[float, float]]) -> None:
    threshold = knowledge().pressure["areas"]["threshold"]
    print("true leak, thresholds     leaks   mean claim   claimed at one half and more")
    for low, high in pairwise((1.0, 2.0, 4.0, 8.0, np.inf)):
        claimed = np.array([p for area, p in degrees if low <= area / threshold < high])
        if len(claimed):
            print(f"{low:6.0f} to {high:<6.0f} {len(claimed):16d} {claimed.mean():12.2f} "
                  f"{np.mean(claimed >= 0.5):14.0%}")  # fmt: skip


if __name__ == "__main__":
    main()
