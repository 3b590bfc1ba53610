import json
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

import numpy as np

from core.document import check_document, read_document
from core.simulation import draw_truth, record
from core.simulation.cases import draw_case
from core.simulation.signs import borescope, plug_signs, wet_with
from core.telling import assess
from core.tests.test_cli import ran


def simulated(number):
    random = np.random.default_rng([11, number])
    truth = draw_truth(random)
    return truth, check_document(record(truth, random))


class SimulationTests(TestCase):
    def test_the_same_seed_writes_the_same_files(self):
        with TemporaryDirectory() as folder:
            seen = []
            for _ in range(2):
                code, _, _ = ran("simulate", "--seed", "5", "--count", "2", "--out", folder)
                self.assertEqual(code, 0)
                seen.append({p.name: p.read_bytes() for p in Path(folder).iterdir()})
            self.assertEqual(*seen)
            inspection = read_document(seen[0]["simulated-5-0.json"])
            hidden = json.loads(seen[0]["simulated-5-0.truth.json"])
            self.assertEqual(inspection["engine"]["cylinders"], len(hidden["cylinders"]))

    def test_every_kind_of_test_and_layout_is_tried(self):
        done, layouts, cycles = set(), set(), set()
        for number in range(80):
            _, document = simulated(number)
            done |= {name for name, items in document["tests"].items() if items}
            layouts.add(document["engine"]["layout"])
            cycles.add(document["engine"]["cycle"])
        self.assertGreaterEqual(done, {"compression", "leakdown", "balance", "spark"})
        self.assertEqual(layouts, {"single", "inline", "vee", "flat", "radial"})
        self.assertEqual(cycles, {"four-stroke", "two-stroke"})

    def test_words_are_distributions(self):
        random = np.random.default_rng(3)
        for faults in ((), ("ring-sealing", "plug-fouled"), ("head-gasket-coolant",)):
            case = draw_case(random, faults, (), draws=50)
            signs = {**plug_signs(case), **borescope(case), "wet_with": wet_with(case)}
            for field, (words, rows) in signs.items():
                with self.subTest(field=field, faults=faults):
                    self.assertEqual(rows.shape, (50, len(words)))
                    np.testing.assert_allclose(rows.sum(axis=1), 1, atol=1e-9)
                    self.assertGreaterEqual(rows.min(), 0)

    def test_truth_is_above_the_written_threshold(self):
        for number in range(200):
            truth = draw_truth(np.random.default_rng([11, number]))
            for one in truth.cylinders.values():
                self.assertTrue(all(area == 0 or area >= 0.35 for area in one.leaks.values()))


class SkillTests(TestCase):
    """A coarse guard on what bench/calibration.py measures in full."""

    ENGINES = 60

    def test_claims_hold_about_as_often_as_they_say(self):
        claimed, held, suspects, right = [], [], 0, 0
        for number in range(self.ENGINES):
            truth, document = simulated(number)
            for cylinder in assess(document, explain=False)["cylinders"]:
                real = truth.cylinders[cylinder["number"]].faults
                for fault in cylinder["faults"]:
                    claimed.append(fault["probability"])
                    held.append(fault["fault"] in real)
                leading = cylinder["faults"][0]
                if leading["probability"] > 0.8:
                    suspects += 1
                    right += leading["fault"] in real
        claimed, held = np.array(claimed), np.array(held)
        told = claimed >= 0.05
        self.assertLess(
            abs(claimed[told].mean() - held[told].mean()), 0.1
        )  # Its rates are its own.
        self.assertGreater(suspects, 20)
        self.assertGreater(right / suspects, 0.8)
