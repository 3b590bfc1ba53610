"""A weight is what leaving the finding out would have done: held to really leaving it out."""

from copy import deepcopy
from unittest import TestCase

import numpy as np

from core.document import check_document
from core.telling import assess
from core.tests.documents import SOOTY_PLUG, SOUND_PLUG, compression, document, plugs, quantity


def odds(said, cylinder, fault):
    faults = said["cylinders"][cylinder - 1]["faults"]
    chance = next(one["probability"] for one in faults if one["fault"] == fault)
    return np.log2(chance / (1 - chance))


class LeavingOutTests(TestCase):
    def setUp(self):
        made = document(4, fuel_system="port", ignition="coil-on-plug")
        made["cylinders"] = plugs(
            SOUND_PLUG,
            SOUND_PLUG,
            {**SOOTY_PLUG, "insulator": "sound", "threads": ["oily"], "smell": "fuel"},
            SOUND_PLUG,
        )
        made["cylinders"][2]["well"] = {"oil": "trace"}
        made["cylinders"][2]["borescope"] = {"bore": "polished"}
        made["tests"] = {
            "compression": [
                {**compression([150, 151, 112, 149]), "id": "dry-1"},
                {**compression([160, 161, 131, 159], "wet"), "id": "wet-1"},
            ],
            "balance": [
                {"cylinder": n, "felt": "clear" if n != 3 else "slight"} for n in range(1, 5)
            ],
            "spark": [{"cylinder": 3, "result": "strong"}],
            "leakdown": [
                {
                    "id": "leak-1",
                    "supply": quantity(80, "psi"),
                    "readings": [{"cylinder": 3, "held": quantity(66, "psi")}],
                }
            ],
        }
        self.made = made
        self.said = assess(check_document(made))

    def weights(self, fault):
        faults = self.said["cylinders"][2]["faults"]
        because = next(one["because"] for one in faults if one["fault"] == fault)
        return {one["path"]: one["weight"] for one in because if "together" not in one["finding"]}

    def without(self, *way):
        """The same document had one thing not been recorded."""
        made = deepcopy(self.made)
        *steps, last = way
        target = made
        for step in steps:
            target = target[step]
        del target[last]
        return assess(check_document(made), explain=False)

    def assert_weight(self, path, left, faults=("ring-sealing", "ignition-weak", "plug-fouled")):
        for fault in faults:
            weight = self.weights(fault).get(path, 0.0)
            moved = odds(self.said, 3, fault) - odds(left, 3, fault)
            with self.subTest(path=path, fault=fault):
                # Weights under a tenth of a bit are not listed.
                self.assertAlmostEqual(weight, moved, delta=0.005 if weight else 0.1)

    def test_words(self):
        plug = ("cylinders", 2, "plug")
        for field in ("deposit_colour", "smell", "insulator", "wetness"):
            self.assert_weight(f"/cylinders/3/plug/{field}", self.without(*plug, field))
        bore = self.without("cylinders", 2, "borescope", "bore")
        self.assert_weight("/cylinders/3/borescope/bore", bore)
        self.assert_weight("/cylinders/3/well/oil", self.without("cylinders", 2, "well", "oil"))

    def test_tests(self):
        self.assert_weight("/tests/balance/3", self.without("tests", "balance", 2))
        self.assert_weight("/tests/spark/3/result", self.without("tests", "spark", 0))

    def test_gauges_up_to_what_the_others_are_compared_with(self):
        held = self.without("tests", "leakdown", 0, "readings", 0)
        self.assert_weight("/tests/leakdown/leak-1/readings/3/held", held)
        for at, kind in enumerate(("dry", "wet")):
            left = self.without("tests", "compression", at, "readings", 2)
            path = f"/tests/compression/{kind}-1/readings/3/pressure"
            weight = self.weights("ring-sealing")[path]
            moved = odds(self.said, 3, "ring-sealing") - odds(left, 3, "ring-sealing")
            # The reading also placed the level's grid, which moves a little without it.
            self.assertAlmostEqual(weight, moved, delta=0.12)
