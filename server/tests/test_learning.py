"""The shop's record and an engine over time, over the API."""

import csv
import io

from django.test import TestCase

from core.tests.documents import compression, document, quantity
from server.inspections.log import Said, record
from server.tests.people import inspection_of, shop_with


class LearningCase(TestCase):
    def setUp(self):
        self.user = shop_with("owner")
        self.client.force_login(self.user)

    def inspected(self, values, outcome=None, date="2026-01-01", user=None, **inspection):
        made = document(4, title="Launch Grebe", identifier="G-1")
        made["inspection"] = {"date": date, **inspection}
        made["tests"] = {"compression": [compression(values)]}
        if outcome:
            made["outcome"] = {"cylinders": outcome}
        return inspection_of(user or self.user, made)


class TrackRecordTests(LearningCase):
    LOW = (150, 151, 75, 149)

    def get(self):
        return self.client.get("/api/shop/record").json()

    def test_only_what_is_known_counts(self):
        self.inspected(self.LOW)
        self.assertEqual(self.get()["cylinders"], 0)
        self.inspected(self.LOW, [{"cylinder": 1, "nothing": True}])
        made = self.get()
        self.assertEqual((made["cylinders"], made["hits"]), (1, 1))

    def test_a_miss_says_what_misled(self):
        self.inspected(self.LOW, [{"cylinder": 3, "found": ["plug-worn"]}])
        made = self.get()
        self.assertEqual(made["hits"], 0)
        self.assertTrue(any("75 psi" in one["finding"] for one in made["misled"]))

    def test_with_enough_outcomes_odds_are_proposed_and_put_in_force_by_hand(self):
        """Sixty cylinders, twenty of them worn out although nothing was claimed of most."""
        for at in range(15):
            worn = [{"cylinder": 2, "found": ["ring-sealing"]}] if at < 12 else []
            known = {one["cylinder"] for one in worn}
            rest = [{"cylinder": n, "nothing": True} for n in range(1, 5) if n not in known]
            self.assertEqual(self.get()["proposed"], [])
            self.inspected((150, 149, 151, 148), [*worn, *rest])
        first = self.get()["proposed"][0]
        self.assertEqual((first["fault"], first["found"]), ("ring-sealing", 12))
        self.assertGreater(first["after"], first["before"])
        odds = {"four-stroke": {"ring-sealing": first["factor"]}}
        self.client.put("/api/shop/rules", {"rules": {"odds": odds}}, "application/json")
        # What was judged by other odds says nothing of these.
        self.assertEqual(self.get()["proposed"], [])

    def test_an_outcome_told_later_joins_the_record(self):
        inspection = self.inspected(self.LOW)
        entry = {"observations": [
            {"client_id": "6d4d5d0e-7a3f-4c1e-9d5c-0a8f5c7b1e11",
             "path": "/outcome/cylinders/3/found", "value": ["exhaust-valve-sealing"]}
        ]}  # fmt: skip
        address = f"/api/inspections/{inspection.pk}/observations"
        self.client.post(address, entry, content_type="application/json")
        self.assertEqual(self.get()["cylinders"], 1)

    def test_another_shops_outcomes_are_its_own(self):
        known = [{"cylinder": 1, "nothing": True}]
        self.inspected(self.LOW, known, user=shop_with(name="Elsewhere"))
        self.assertEqual(self.get()["cylinders"], 0)
        self.assertNotIn("exhaust", self.client.get("/api/shop/record.csv").content.decode())

    def test_a_row_a_cylinder(self):
        known = [{"cylinder": 3, "found": ["plug-worn"]}, {"cylinder": 1, "nothing": True}]
        self.inspected(self.LOW, known)
        text = self.client.get("/api/shop/record.csv").content.decode()
        rows = {row["cylinder"]: row for row in csv.DictReader(io.StringIO(text))}
        self.assertEqual((rows["1"]["found"], rows["1"]["hit"]), ("nothing", "True"))
        self.assertEqual((rows["3"]["found"], rows["3"]["hit"]), ("plug-worn", "False"))


class OverTimeTests(LearningCase):
    def get(self, inspection):
        return self.client.get(f"/api/engines/{inspection.engine_id}/over-time").json()

    def test_a_first_inspection_has_no_past(self):
        made = self.get(self.inspected([150, 151, 150, 149]))
        past = {name: made[name] for name in ("gaps", "drift", "steps", "sets")}
        self.assertEqual(past, {"gaps": [], "drift": [], "steps": [], "sets": []})
        self.assertEqual([one["date"] for one in made["visits"]], ["2026-01-01"])

    def test_faults_come_and_go_and_pressures_drift(self):
        self.inspected([150, 150, 150, 150], date="2024-05-01")
        self.inspected([150, 150, 75, 150], date="2025-05-01")
        made = self.get(self.inspected([147, 150, 150, 150], date="2026-05-01"))
        came, went = made["steps"]
        self.assertEqual((came["since"], came["date"]), ("2024-05-01", "2025-05-01"))
        self.assertEqual({one["cylinder"] for one in came["appeared"]}, {3})
        self.assertEqual({one["cylinder"] for one in went["gone"]}, {3})
        drift = {one["cylinder"]: one["change"] for one in made["drift"]}
        self.assertEqual(drift, {1: -0.02, 2: 0.0, 3: 0.0, 4: 0.0})

    def test_a_gap_grows_to_its_limit(self):
        for date, km, gap in (("2024-05-01", 10_000, 0.9), ("2026-05-01", 40_000, 1.05)):
            inspection = self.inspected([150] * 4, date=date, plug_distance=quantity(km, "km"))
            said = [
                Said(f"00000000-0000-4000-8000-{km:012d}", "/cylinders/2/plug/gap",
                     quantity(gap, "mm")),
                Said(f"00000000-0000-4000-8001-{km:012d}", "/engine/specification/gap_max",
                     quantity(1.1, "mm")),
            ]  # fmt: skip
            record(inspection_id=inspection.pk, said=said, by=self.user)
        growth = self.get(inspection)["gaps"]
        self.assertEqual([one["cylinder"] for one in growth], [2])
        self.assertAlmostEqual(growth[0]["per_1000"], 0.005)
        self.assertEqual(growth[0]["limit"], 50_000)

    def test_another_shops_engine_is_not_there(self):
        theirs = self.inspected([150] * 4, user=shop_with(name="Elsewhere"))
        answer = self.client.get(f"/api/engines/{theirs.engine_id}/over-time")
        self.assertEqual(answer.status_code, 404)
