"""Predictions against outcomes that are known."""

from unittest import TestCase

import numpy as np

from core.document import check_document
from core.learning.own_odds import Tally, proposals, tallies
from core.learning.track_record import Scored, scored, track_record
from core.simulation import draw_truth, record
from core.telling import assess
from core.tests.documents import compression, document


def claim(*pairs, hit=True, guess=None):
    return Scored(1, "x", 0.5, ("x",), hit, hit, guess, pairs, ())


class ScoreTests(TestCase):
    def said(self, outcome, guess=None):
        made = document(4)
        made["tests"] = {"compression": [compression([150, 151, 75, 149])]}
        made["outcome"] = {"cylinders": outcome}
        if guess:
            made["work"] = {"first_guess": guess}
        checked = check_document(made)
        return scored(checked, assess(checked, advise=False))

    def test_only_known_outcomes_count(self):
        self.assertEqual(self.said([{"cylinder": 3, "note": "not apart yet"}]), [])
        one = self.said([{"cylinder": 1, "nothing": True}])[0]
        self.assertEqual((one.cylinder, one.hit, one.found), (1, True, ()))

    def test_a_right_and_a_wrong_guess(self):
        first = self.said([{"cylinder": 3, "found": ["plug-worn"]}])[0]
        self.assertFalse(first.hit)
        self.assertTrue(any("compression" in finding for finding in first.misled))
        right = self.said([{"cylinder": 3, "found": [first.guess]}])[0]
        self.assertTrue(right.hit)
        self.assertEqual(right.misled, ())

    def test_one_of_these_is_one_claim(self):
        both = ["intake-valve-sealing", "exhaust-valve-sealing"]
        apart = self.said([{"cylinder": 3, "found": both}])[0]
        one = self.said([{"cylinder": 3, "found": both, "one_of": True}])[0]
        self.assertEqual(len(one.claims), len(apart.claims) - 1)
        self.assertEqual(sum(held for _, held in one.claims), 1)

    def test_the_inspectors_own_guess(self):
        found = [{"cylinder": 3, "found": ["exhaust-valve-sealing"]}]
        for guess, right in (
            ({"cylinders": [3]}, True),
            ({"cylinders": [3], "fault": "exhaust-valve-sealing"}, True),
            ({"cylinders": [3], "fault": "plug-worn"}, False),
            ({"cylinders": [2]}, False),
            (None, None),
        ):
            with self.subTest(guess=guess):
                self.assertEqual(self.said(found, guess)[0].inspector_hit, right)


class RecordTests(TestCase):
    # Published: G. W. Brier (1950), the score's definition, worked by hand:
    # ((0.8-1)^2 + (0.2-0)^2 + (0.6-0)^2) / 3 = 0.1467.
    def test_brier_by_hand(self):
        made = track_record([claim((0.8, True), (0.2, False)), claim((0.6, False), hit=False)])
        self.assertEqual(made["brier"], 0.1467)
        self.assertEqual((made["cylinders"], made["hits"]), (2, 1))
        top = made["calibration"][-1]
        self.assertEqual((top["claims"], top["claimed"], top["held"]), (1, 0.8, 1.0))

    def test_an_empty_shop_has_an_empty_record(self):
        made = track_record([])
        self.assertIsNone(made["brier"])
        self.assertEqual(made["calibration"], [])

    def test_on_simulated_engines_it_beats_the_base_rate(self):
        random = np.random.default_rng(3)
        cylinders = []
        for _ in range(25):
            truth = draw_truth(random)
            made = record(truth, random)
            made["outcome"] = {
                "cylinders": [
                    {"cylinder": number, "found": sorted(faults)} if faults
                    else {"cylinder": number, "nothing": True}
                    for number, faults in outcomes(truth).items()
                ]
            }  # fmt: skip
            checked = check_document(made)
            cylinders += scored(checked, assess(checked, explain=False, advise=False))
        made = track_record(cylinders)
        self.assertLess(made["brier"], made["brier_of_base_rate"])
        self.assertGreater(made["hits"], made["cylinders"] / 2)


def outcomes(truth):
    """What the hidden truth would show once it came apart, by cylinder."""
    told = truth.as_document()
    return {one["number"]: set(one["faults"]) for one in told["cylinders"]}


class OwnOddsTests(TestCase):
    """Odds that a shop's own outcomes propose; a conjugate gamma and Poisson, worked by hand."""

    def told(self, cylinders, claimed, found):
        return [
            Tally("four-stroke", "ring-sealing", claimed / cylinders, at < found)
            for at in range(cylinders)
        ]

    def test_nothing_is_proposed_before_enough_is_known(self):
        self.assertEqual(proposals(self.told(59, 3, 20), {}), [])
        self.assertEqual(proposals(self.told(100, 2, 4), {}), [])
        self.assertEqual(proposals(self.told(100, 10, 11), {}), [])
        # A seventh more is chance in so few, and is none in ten times as many.
        self.assertEqual(proposals(self.told(200, 14, 16), {}), [])
        self.assertEqual(proposals(self.told(4000, 280, 320), {})[0].factor, 1.14)

    def test_what_was_found_more_often_than_claimed_is_commoner_here(self):
        one = proposals(self.told(100, 5, 15), {})[0]
        self.assertEqual((one.factor, one.found, one.places), (2.0, 15, 100))  # (15+5)/(5+5)
        self.assertGreater(one.after, one.before)
        # What is in force already is the point of departure.
        again = proposals(self.told(100, 10, 25), {"four-stroke": {"ring-sealing": 2.0}})[0]
        self.assertEqual(again.factor, 4.0)

    def test_what_all_share_counts_once_every_cylinder_is_known(self):
        """Who names a rich carburettor and looked no further says nothing of how common it is."""
        made = document(2)
        sound = [{"cylinder": number, "nothing": True} for number in (1, 2)]
        made["outcome"] = {"cylinders": sound[:1], "engine_faults": ["mixture-rich"]}
        checked = check_document(made)
        said = assess(checked, advise=False)

        def counted(**outcome):
            made["outcome"] |= outcome
            told = tallies(check_document(made), said)
            return {one.fault: one.found for one in told if one.fault.startswith("mixture")}

        self.assertEqual(counted(), {})
        self.assertEqual(counted(cylinders=sound), {"mixture-rich": True, "mixture-lean": False})
        named = {one.fault for one in tallies(check_document(made), said)}
        self.assertNotIn("test-condition", named)  # No part shows how a test was run.
        self.assertIn("head-gasket-between", named)

    def test_odds_of_a_shared_fault_move_the_answer(self):
        made = document(4)
        plain = assess(check_document(made))
        made["house_rules"] = {"odds": {"four-stroke": {"mixture-lean": 4.0}}}
        own = assess(check_document(made))

        def lean(said):
            faults = said["engine"]["faults"]
            return next(f["probability"] for f in faults if f["fault"] == "mixture-lean")

        odds = [lean(said) / (1 - lean(said)) for said in (plain, own)]
        self.assertGreater(odds[1], 3 * odds[0])

    def test_odds_in_force_move_the_answer_and_are_told(self):
        made = document(4)
        made["tests"] = {"compression": [compression([150, 151, 130, 149])]}
        plain = assess(check_document(made))
        made["house_rules"] = {"odds": {"four-stroke": {"ring-sealing": 3.0}}}
        own = assess(check_document(made))

        def rings(said):
            faults = said["cylinders"][2]["faults"]
            return next(one for one in faults if one["fault"] == "ring-sealing")

        self.assertGreater(rings(own)["probability"], 1.5 * rings(plain)["probability"])
        told = [one["finding"] for one in rings(own)["because"]]
        self.assertIn("this shop's own record of such engines", told)
        made["house_rules"] = {"odds": {"two-stroke": {"ring-sealing": 3.0}}}
        self.assertEqual(rings(assess(check_document(made))), rings(plain))

    def test_a_gap_that_was_off_is_no_worn_plug(self):
        made = document(4)
        made["outcome"] = {"cylinders": [{"cylinder": 3, "found": ["gap-wide"]}]}
        checked = check_document(made)
        said = assess(checked, advise=False)
        worn = next(
            one["probability"] for one in said["cylinders"][2]["faults"]
            if one["fault"] == "plug-worn"
        )  # fmt: skip
        claims = [chance for chance, _ in scored(checked, said)[0].claims]
        self.assertNotIn(worn, claims)
