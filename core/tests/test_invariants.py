"""What must hold between all views of one record, over thousands of them."""

from __future__ import annotations

import json
import random
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from unittest import TestCase

import numpy as np

from core.document import check_document
from core.errors import DocumentRefused
from core.simulation import draw_truth, record
from core.tests.invariants import INVARIANTS, Said, broken
from core.tests.panel import PANEL
from core.tests.random_documents import random_document

DEMO = Path(__file__).parents[2] / "server" / "demo" / "documents"
FOOLISH = 5  # Of any kind, for each hundred records; of the grave none is borne.
LEGAL, SIMULATED, PARTS = 800, 1200, 2


def legal(part: int) -> Iterator[tuple[str, dict[str, Any]]]:
    """Whatever the schema allows, arrangement and all."""
    source, made = random.Random(700 + part), 0
    while made < LEGAL // PARTS:
        try:
            checked = check_document(random_document(source, most=5))
        except DocumentRefused:
            continue
        made += 1
        yield f"legal {part}/{made}", checked


def simulated(part: int) -> Iterator[tuple[str, dict[str, Any]]]:
    """Engines with faults, as people record them."""
    for seed in range(SIMULATED // PARTS):
        chance = np.random.default_rng(10_000 * (part + 1) + seed)
        yield f"simulated {part}/{seed}", check_document(record(draw_truth(chance), chance))


class Held(TestCase):
    def hold(self, records: Iterator[tuple[str, dict[str, Any]]]) -> None:
        """No grave contradiction, and few of the others; the first of each kind is shown."""
        tally: Counter[str] = Counter()
        grave, first, count = [], {}, 0
        for name, checked in records:
            count += 1
            for rule, is_grave, text in broken(Said(checked)):
                tally[rule] += 1
                first.setdefault(rule, f"{name}: {text}")
                grave += [f"{name}: {rule}: {text}"] if is_grave else []
        self.assertEqual(grave, [])
        self.assertLess(100 * sum(tally.values()) / count, FOOLISH, first)


class WrittenTests(Held):
    def test_there_are_some_thirty_each_with_its_reason(self):
        self.assertGreaterEqual(len(INVARIANTS), 30)
        self.assertTrue(all(check.__doc__ for check, _ in INVARIANTS))

    def test_the_panel(self):
        self.hold((one.name, check_document(one.made)) for one in PANEL)

    def test_the_demo(self):
        self.hold(
            (file.name, check_document(json.loads(file.read_text())))
            for file in sorted(DEMO.glob("*.json"))
        )


class FirstLegalTests(Held):
    def test_whatever_is_legal(self):
        self.hold(legal(0))


class SecondLegalTests(Held):
    def test_whatever_is_legal(self):
        self.hold(legal(1))


class FirstSimulatedTests(Held):
    def test_what_people_record_of_simulated_engines(self):
        self.hold(simulated(0))


class SecondSimulatedTests(Held):
    def test_what_people_record_of_simulated_engines(self):
        self.hold(simulated(1))
