"""Growth, drift and faults over an engine's inspections, against lines worked by hand."""

from unittest import TestCase

import numpy as np
from scipy.stats import linregress

from core.assessment import Assessment
from core.comparison.over_time import (
    GAUGE_SD_MM,
    Visit,
    _growth,
    compression_drift,
    faults_between,
    gap_growth,
    kept_sets,
)
from core.document import check_document
from core.document.records import Document
from core.judgement import assess
from core.quantities import Figure
from core.tests.documents import compression, document, quantity


def visit(date, km, gaps=(), values=(), limit=1.3, unit="km", kept=None):
    made = document(4, specification={"gap_max": quantity(limit, "mm")})
    made["inspection"] = {"plug_distance": quantity(km, unit)}
    made["cylinders"] = [
        {"number": n, "plug": {"gap": quantity(gap, "mm")}} for n, gap in enumerate(gaps, start=1)
    ]
    if values:
        made["tests"] = {"compression": [compression(list(values))]}
    if kept:
        made["refit"] = {"kept": kept}
    checked = check_document(made)
    said = assess(checked, explain=False, advise=False)
    return Visit(date, Document.of(checked), Assessment.of(said))


class KeptSetTests(TestCase):
    def test_sets_put_away_are_found_in_order_and_empty_ones_are_none(self):
        first, empty, second = (
            {"label": label, "where": "tin 3"} for label in ("first set", "nothing", "second set")
        )
        found = kept_sets(
            [
                visit("2024", 9e3, [1.0], kept=first),
                visit("2025", 1e3, kept=empty),
                visit("2026", 8e3, [1.1], kept=second),
            ]
        )
        self.assertEqual([one.label for one in found], ["first set", "second set"])
        self.assertEqual(found[1].plugs[0].plug.gap, Figure(1.1, "mm"))


class GapTests(TestCase):
    def test_two_readings_make_a_line_to_the_limit(self):
        found = gap_growth([visit("2025", 10_000, [1.0]), visit("2026", 30_000, [1.1])])
        # 0.1 mm in 20,000 km: 0.005 mm in a thousand; 0.2 mm more takes 40,000 km.
        self.assertEqual([one.cylinder for one in found], [1])
        self.assertAlmostEqual(found[0].per_1000_km, 0.005)
        self.assertAlmostEqual(found[0].limit_km, 70_000, delta=100)
        self.assertLess(found[0].soonest_km, found[0].limit_km)
        self.assertGreater(found[0].latest_km, found[0].limit_km)

    def test_more_readings_agree_with_a_reference_library(self):
        km, gaps = [5e3, 12e3, 20e3, 31e3, 40e3], [1.02, 1.03, 1.10, 1.13, 1.21]
        visits = [
            visit(str(n), at, [gap]) for n, (at, gap) in enumerate(zip(km, gaps, strict=True))
        ]
        line = linregress(km, gaps)
        found = gap_growth(visits)[0]
        self.assertAlmostEqual(found.per_1000_km, 1000 * line.slope, places=4)
        self.assertAlmostEqual(found.limit_km, (1.3 - line.intercept) / line.slope, delta=100)

    def test_nine_in_ten_intervals_hold_the_truth(self):
        random = np.random.default_rng(4)
        for count in (2, 3, 5):
            held = 0
            for _ in range(300):
                km = np.linspace(5e3, 60e3, count)
                truth = (1.3 - 1.0) / 5e-6  # The gap began at 1.0 and grows by 0.005 in 1,000 km.
                gaps = 1.0 + 5e-6 * km + GAUGE_SD_MM * random.standard_normal(count)
                found = _growth(1, list(zip(km, gaps, strict=True)), 1.3)
                soonest = found.soonest_km or 0.0
                held += soonest <= truth <= (found.latest_km or np.inf)
            with self.subTest(readings=count):
                self.assertGreater(held / 300, 0.85)

    def test_new_plugs_begin_a_new_line(self):
        old = [visit("2023", 20_000, [1.0]), visit("2024", 60_000, [1.25])]
        self.assertEqual(len(gap_growth(old)), 1)
        self.assertEqual(gap_growth([*old, visit("2025", 1_000, [1.0])]), [])

    def test_a_gap_that_does_not_grow_reaches_no_limit(self):
        found = gap_growth([visit("2025", 10_000, [1.1]), visit("2026", 30_000, [1.1])])[0]
        self.assertIsNone(found.limit_km)
        self.assertIsNone(found.latest_km)
        self.assertIsNotNone(found.soonest_km)

    def test_running_hours_are_no_distance(self):
        found = gap_growth(
            [visit("2025", 100, [1.0], unit="h"), visit("2026", 900, [1.1], unit="h")]
        )
        self.assertEqual(found, [])


class DriftTests(TestCase):
    def test_each_cylinder_against_its_own_past(self):
        before = visit("2025", 1, values=[150, 150, 150, 150])
        after = visit("2026", 2, values=[147, 150, 90, 150])
        self.assertEqual(compression_drift([before, after]), {1: -0.02, 2: 0.0, 3: -0.4, 4: 0.0})

    def test_faults_appear_and_go_and_what_was_not_looked_at_is_not_cured(self):
        good = visit("2025", 1, values=[150, 151, 150, 149])
        bad = visit("2026", 2, values=[150, 151, 75, 149])
        unseen = visit("2027", 3)
        came = faults_between(good, bad)
        self.assertEqual({number for number, _ in came["appeared"]}, {3})
        self.assertEqual({number for number, _ in faults_between(bad, good)["gone"]}, {3})
        self.assertEqual(faults_between(bad, unseen)["gone"], [])
