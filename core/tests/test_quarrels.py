"""Entries that cannot both be right, and entries that all others make rare: common practice."""

from unittest import TestCase

import numpy as np

from core.document import check_document
from core.knowledge.contradictions import pairs
from core.simulation import draw_truth, record
from core.telling import assess
from core.tests.documents import probability, quantity
from core.tests.panel import CARBURETTED, INJECTED, TAN, engine, leakdown, read

EVEN = (150, 148, 151, 149)
QUARRELS = {"contradiction", "surprise"}
PULLS = [{"cylinder": n, "felt": "clear"} for n in (1, 2, 3, 4)]


def four(own=None, *, tests=None, records=None, **described):
    described = described or CARBURETTED
    plugs = [TAN, {**TAN, **(own or {})}, TAN, TAN]
    return engine(4, *plugs, tests={**read(*EVEN), **(tests or {})}, records=records, **described)


def swapped(*parts):
    return {
        "swap": [
            {"id": part, "part": part, "from": 2, "to": 3, "result": "moved"} for part in parts
        ]
    }


IMPOSSIBLE = {
    "shut, and a gap measured": four({"gap_closed": True, "gap": quantity(0.8, "mm")}),
    "no strap, and a gap measured": four(
        {"ground_electrode": "missing", "gap": quantity(0.8, "mm")}
    ),
    "dry, and wet with oil": four({"wet_with": "oil"}),
    "no spark, and it pulls": four(
        tests={"spark": [{"cylinder": 2, "result": "none", "condition": "tester"}],
               "balance": PULLS}
    ),
    "no pulse, and it pulls": four(
        tests={"injector": [{"cylinder": 2, "pulse": "absent"}], "balance": PULLS}, **INJECTED
    ),
    "moved with two parts": four(tests=swapped("coil", "plug"), **INJECTED),
    "cut out on a stand": {
        **four(tests={"balance": PULLS}), "inspection": {"engine_place": "stand"}
    },
    "coolant where there is none": four({"wetness": "wet", "wet_with": "coolant"},
                                        cooling="air", **CARBURETTED),
    "a list that says clean and oily": four({"threads": ["clean", "oily"]}),
    "go and no-go crossed": four(
        {"gap_passes": quantity(1.0, "mm"), "gap_refuses": quantity(0.8, "mm")}
    ),
}  # fmt: skip


class QuarrelTests(TestCase):
    def test_what_cannot_both_be_right_is_said_with_both(self):
        for name, made in IMPOSSIBLE.items():
            with self.subTest(name):
                said = assess(check_document(made))
                codes = {one["code"] for one in said["warnings"]}
                self.assertTrue(codes & {*QUARRELS, "inconsistent"}, codes)

    def test_neither_half_convicts(self):
        for name, fault in (
            ("no spark, and it pulls", "ignition-weak"),
            ("no pulse, and it pulls", "fuel-lean"),
            ("moved with two parts", "ignition-weak"),
            ("coolant where there is none", "fuel-rich"),
        ):
            with self.subTest(name):
                said = assess(check_document(IMPOSSIBLE[name]))
                self.assertLess(probability(said, fault, 2), 0.2)

    def test_every_pair_of_the_table_is_of_places_that_a_record_has(self):
        self.assertGreaterEqual(len(pairs()), 30)
        for row in pairs():
            with self.subTest(row.says):
                self.assertNotEqual((row.one, row.words), (row.other, row.means))

    def test_a_burnt_edge_beside_a_tight_cylinder_is_looked_at_again(self):
        made = four(
            tests=leakdown(5, 4, 5, 4, restrictor=quantity(0.04, "in")),
            records=[{"number": 2, "borescope": {"valves": "burnt-edge"}}],
        )
        said = assess(check_document(made))
        told = [one for one in said["warnings"] if one["code"] == "surprise"]
        self.assertEqual([one["path"] for one in told], ["/cylinders/2/borescope/valves"])
        self.assertIn("/cylinders/2/borescope/valves",
                      [one["path"] for one in said["engine"]["read_again"]])  # fmt: skip
        self.assertEqual(said["next_tests"][0]["cylinders"], [2])
        self.assertLess(probability(said, "exhaust-valve-sealing", 2), 0.1)

    def test_a_crack_alone_is_rare_and_no_quarrel(self):
        said = assess(check_document(four({"insulator": "cracked-nose"})))
        self.assertFalse({one["code"] for one in said["warnings"]} & QUARRELS)

    def test_it_is_calm_on_engines_that_have_nothing(self):
        asked = sound = 0
        for seed in range(120):
            random = np.random.default_rng([4711, seed])
            truth = draw_truth(random)
            shared = truth.engine_faults or truth.bank_faults or truth.gaskets
            if shared or any(one.faults - {"plug-worn"} for one in truth.cylinders.values()):
                continue
            said = assess(check_document(record(truth, random)), explain=False, advise=False)
            sound += 1
            asked += bool({one["code"] for one in said["warnings"]} & QUARRELS)
        self.assertGreater(sound, 15)
        self.assertLessEqual(asked / sound, 0.02)
