import json
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from django.test import SimpleTestCase

from core.diagnosis import assess
from core.document import check_document, read_document
from core.simulation import draw_truth, record
from core.tests.test_cli import ran


def simulated(number, **options):
    random = np.random.default_rng([11, number])
    truth = draw_truth(random)
    return truth, check_document(record(truth, random, **options))


class SimulationTests(SimpleTestCase):
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

    def test_truth_is_above_the_written_threshold(self):
        for number in range(200):
            truth, _ = simulated(number)
            for one in truth.cylinders.values():
                self.assertTrue(all(area >= 0.35 for area in one.leaks.values()))


class SkillTests(SimpleTestCase):
    """A coarse guard on what bench/calibration.py measures in full."""

    ENGINES = 60

    def test_claims_hold_about_as_often_as_they_say(self):
        claimed, held, suspects, right = [], [], 0, 0
        for number in range(self.ENGINES):
            truth, document = simulated(number, wet=True)
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
        self.assertLess(abs(claimed[told].mean() - held[told].mean()), 0.08)
        self.assertGreater(suspects, 20)
        self.assertGreater(right / suspects, 0.8)
