"""Growth, drift and faults over an engine's inspections, against lines worked by hand."""

from dataclasses import replace
from unittest import TestCase

import msgspec
import numpy as np
from scipy.stats import linregress

from core.assessment import Assessment
from core.document import check_document
from core.document.records import Document
from core.history.alike import same_faults
from core.history.due import due
from core.history.over_time import (
    GAUGE_SD_MM,
    Visit,
    _growth,
    compression_drift,
    faults_between,
    gap_growth,
    kept_sets,
)
from core.history.story import events, plugs_in
from core.quantities import Figure
from core.telling import assess
from core.tests.documents import compression, document, quantity


def visit(date, km, gaps=(), values=(), limit=1.3, unit="km", kept=None, opened=None):
    made = document(4, specification={"gap_max": quantity(limit, "mm")})
    made["inspection"] = {"plug_distance": quantity(km, unit)}
    made["cylinders"] = [
        {"number": n, "plug": {"gap": quantity(gap, "mm")}} for n, gap in enumerate(gaps, start=1)
    ]
    if values:
        made["tests"] = {"compression": [compression(list(values))]}
    if kept:
        made["refit"] = {"kept": kept}
    if opened:
        made["outcome"] = {"cylinders": opened}
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


class AlikeTests(TestCase):
    def test_a_fault_on_two_engines_of_a_kind_is_told_with_its_cylinder(self):
        def boosted(season):
            engine = msgspec.structs.replace(season.document.engine, aspiration="boosted")
            document = msgspec.structs.replace(season.document, engine=engine)
            return replace(season, document=document)

        opened = [{"cylinder": 3, "found": ["exhaust-valve-sealing"]}]
        had = visit("2025-05-01", 9e3, opened=opened)
        since = visit("2026-05-01", 12e3, opened=[{"cylinder": 3, "found": []}])  # Put right.
        found = same_faults(
            [("Teal", [had, since]), ("Smew", [had]), ("Coot", [since]), ("Swift", [boosted(had)])]
        )
        told = [(one.fault, one.engines, one.cylinder, one.of) for one in found]
        self.assertEqual(told, [("exhaust-valve-sealing", ("Teal", "Smew"), 3, 3)])
        self.assertIn("four-stroke inline, 4 cylinders", found[0].kind)
        self.assertEqual(same_faults([("Teal", [had]), ("Coot", [since]), ("None", [])]), [])


class GapTests(TestCase):
    def test_two_readings_make_a_line_to_the_limit(self):
        found = gap_growth([visit("2025", 10_000, [1.0]), visit("2026", 30_000, [1.1])])
        # 0.1 mm in 20,000 km: 0.005 mm in a thousand; 0.2 mm more takes 40,000 km.
        self.assertEqual([one.cylinder for one in found], [1])
        self.assertAlmostEqual(found[0].per_1000, 0.005)
        self.assertAlmostEqual(found[0].limit, 70_000, delta=100)
        self.assertLess(found[0].soonest, found[0].limit)
        self.assertGreater(found[0].latest, found[0].limit)

    def test_more_readings_agree_with_a_reference_library(self):
        km, gaps = [5e3, 12e3, 20e3, 31e3, 40e3], [1.02, 1.03, 1.10, 1.13, 1.21]
        visits = [
            visit(str(n), at, [gap]) for n, (at, gap) in enumerate(zip(km, gaps, strict=True))
        ]
        line = linregress(km, gaps)
        found = gap_growth(visits)[0]
        self.assertAlmostEqual(found.per_1000, 1000 * line.slope, places=4)
        self.assertAlmostEqual(found.limit, (1.3 - line.intercept) / line.slope, delta=100)

    def test_nine_in_ten_intervals_hold_the_truth(self):
        random = np.random.default_rng(4)
        for count in (2, 3, 5):
            held = 0
            for _ in range(300):
                km = np.linspace(5e3, 60e3, count)
                truth = (1.3 - 1.0) / 5e-6  # The gap began at 1.0 and grows by 0.005 in 1,000 km.
                gaps = 1.0 + 5e-6 * km + GAUGE_SD_MM * random.standard_normal(count)
                found = _growth(1, "km", list(zip(km, gaps, strict=True)), 1.3)
                soonest = found.soonest or 0.0
                held += soonest <= truth <= (found.latest or np.inf)
            with self.subTest(readings=count):
                self.assertGreater(held / 300, 0.85)

    def test_new_plugs_begin_a_new_line(self):
        old = [visit("2023", 20_000, [1.0]), visit("2024", 60_000, [1.25])]
        self.assertEqual(len(gap_growth(old)), 1)
        self.assertEqual(gap_growth([*old, visit("2025", 1_000, [1.0])]), [])

    def test_a_gap_that_does_not_grow_reaches_no_limit(self):
        found = gap_growth([visit("2025", 10_000, [1.1]), visit("2026", 30_000, [1.1])])[0]
        self.assertIsNone(found.limit)
        self.assertIsNone(found.latest)
        self.assertIsNotNone(found.soonest)

    def test_running_hours_make_a_line_of_their_own(self):
        hours = [visit("2025", 100, [1.0], unit="h"), visit("2026", 300, [1.1], unit="h")]
        found = gap_growth(hours)[0]
        # 0.1 mm in 200 h; 0.2 mm more takes 400 h.
        self.assertEqual((found.unit, found.per_1000, found.run), ("h", 0.5, 300))
        self.assertAlmostEqual(found.limit, 700, delta=1)
        self.assertEqual(gap_growth([visit("2024", 90_000, [0.9]), hours[0]]), [])


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


def season(date, hours, *, fitted=(), repairs=(), plugs=None, gaps=(), follow_up=None, values=()):
    """A visit to an engine whose plugs are for 200 h or three years, their gap for 1.0 mm."""
    made = document(
        4,
        specification={
            "gap_max": quantity(1.0, "mm"),
            "plug_interval": quantity(200, "h"),
            "plug_interval_years": 3,
        },
    )
    made["inspection"] = {"date": date, "odometer": quantity(hours, "h")}
    if plugs is not None:
        made["inspection"]["plug_distance"] = quantity(plugs, "h")
    made["cylinders"] = [
        {"number": n, "plug": {"gap": quantity(gap, "mm")}} for n, gap in enumerate(gaps, start=1)
    ]
    made["refit"] = {
        "cylinders": [{"cylinder": n, "fitted": True} for n in fitted],
        "repairs": list(repairs),
    }
    if values:
        made["tests"] = {"compression": [compression(list(values))]}
    if follow_up:
        made["proof"] = {"follow_up": follow_up}
    checked = check_document(made)
    said = assess(checked, explain=False, advise=False)
    return Visit(date, Document.of(checked), Assessment.of(said))


class StoryTests(TestCase):
    def test_a_visit_is_told_in_the_order_of_the_work(self):
        coil = {"id": "r1", "cylinders": [3], "part": "coil", "action": "renewed"}
        points = {"id": "r2", "part": "points", "action": "set"}
        told = [
            (one.kind, one.text)
            for one in events(
                season("2025-05-01", 100, fitted=[1, 2], repairs=[coil, points]).document
            )
        ]
        self.assertEqual(
            told,
            [
                ("done", "coil of 3 renewed"),
                ("done", "points set"),
                ("done", "plugs of 1 and 2 renewed"),
            ],
        )

    def test_a_set_that_was_renewed_in_part_has_two_ages(self):
        visits = [
            season("2024-05-01", 900, plugs=150),
            season("2025-05-01", 1000, fitted=[2, 3]),
            season("2026-05-01", 1120, plugs=370),
        ]
        ages = {one.cylinders: (one.since, one.run) for one in plugs_in(visits)}
        self.assertEqual(
            ages,
            {(1, 4): ("", Figure(370, "h")), (2, 3): ("2025-05-01", Figure(120, "h"))},
        )


class DueTests(TestCase):
    def test_plugs_are_due_when_the_season_brings_them_there(self):
        # 73 h in 365 days are 0.2 h a day; 200 - 73 = 127 h more take 635 days.
        visits = [season("2025-01-01", 500, fitted=[1, 2, 3, 4]), season("2026-01-01", 573)]
        by_hours, by_years = due(visits)
        self.assertEqual(by_hours.text, "plugs of 1, 2, 3 and 4: 73 of 200 h")
        self.assertEqual(by_hours.on, "2027-09-28")
        self.assertEqual(by_years.on, "2028-01-01", "three years, to the day")

    def test_without_a_rate_there_is_no_day_and_past_it_there_is(self):
        self.assertEqual([one.on for one in due([season("2026-01-01", 500, plugs=150)])], [""])
        late = due([season("2026-01-01", 500, plugs=260)])
        self.assertEqual([(one.on, "overdue" in one.text) for one in late], [("2026-01-01", True)])

    def test_what_was_promised_has_its_day_and_what_is_on_watch_has_none(self):
        kept = due([season("2026-01-01", 500, follow_up="2026-03-01")])
        self.assertEqual([(one.kind, one.on) for one in kept], [("again", "2026-03-01")])
        watched = due([season("2026-01-01", 500, values=[150, 150, 132, 150])])
        self.assertEqual([(one.kind, one.on) for one in watched], [("watch", "")])
        self.assertIn("cylinder 3", watched[0].text)

    def test_what_was_put_right_is_not_on_watch(self):
        rings = {"id": "r1", "cylinders": [3], "part": "rings", "action": "renewed"}
        mended = season("2026-01-01", 500, values=[150, 150, 132, 150], repairs=[rings])
        self.assertEqual(mended.assessment.cylinders[2].grade, "C")
        self.assertEqual(due([mended]), [])

    def test_a_gap_reaches_its_limit_on_a_day(self):
        # 0.1 mm in 100 h, 0.1 mm more: 100 h, at 100 h a year.
        visits = [
            season("2025-01-01", 500, plugs=20, gaps=[0.8]),
            season("2026-01-01", 600, plugs=120, gaps=[0.9]),
        ]
        found = next(one for one in due(visits) if one.kind == "gap")
        self.assertEqual(found.on, "2027-01-01")
