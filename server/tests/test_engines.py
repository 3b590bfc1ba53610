from django.test import TestCase

from core.tests.documents import document
from server.engines.models import Engine
from server.tests.people import inspection_of, shop_with


class EngineTests(TestCase):
    def setUp(self):
        self.user = shop_with("owner")
        self.client.force_login(self.user)

    def send(self, method, address, body):
        return getattr(self.client, method)(address, body, content_type="application/json")

    def test_every_preset_can_be_planned_and_added(self):
        presets = self.client.get("/api/engine-presets").json()
        self.assertGreater(len(presets), 12)
        for preset in presets:
            engine = {"cycle": "four-stroke", "title": preset["label"], **preset["engine"]}
            plan = self.send("post", "/api/engine-plan", {"engine": engine})
            self.assertEqual(len(plan.json()["stations"]), engine["cylinders"])
            self.assertEqual(self.send("post", "/api/engines", {"data": engine}).status_code, 201)
        self.assertEqual(Engine.objects.count(), len(presets))

    def test_a_plan_stores_nothing(self):
        self.send("post", "/api/engine-plan", {"engine": document(4)["engine"]})
        self.assertEqual(Engine.objects.count(), 0)

    def test_a_plan_of_nonsense_names_the_path(self):
        for engine, path in (
            ({}, "/engine/cycle"),
            ({**document(4)["engine"], "layout": "wankel"}, "/engine/layout"),
            ("engine", "/engine"),
        ):
            answer = self.send("post", "/api/engine-plan", {"engine": engine})
            self.assertEqual(answer.status_code, 400)
            self.assertIn(path, [one["path"] for one in answer.json()["problems"]])

    def test_an_engine_needs_a_title(self):
        answer = self.send("post", "/api/engines", {"data": document(4)["engine"]})
        self.assertEqual(answer.json()["problems"][0]["path"], "/engine/title")

    def test_changing_an_engine_leaves_its_inspections_alone(self):
        inspection = inspection_of(self.user)
        changed = document(4, title="Renamed", ignition="magneto")["engine"]
        address = f"/api/engines/{inspection.engine_id}"
        self.assertEqual(self.send("put", address, {"data": changed}).json()["title"], "Renamed")
        inspection.refresh_from_db()
        self.assertNotIn("ignition", inspection.document["engine"])

    def test_two_records_of_one_engine_become_one(self):
        into = inspection_of(self.user, document(4, title="Teal", identifier="T-1")).engine
        twice = inspection_of(self.user, document(4, title="Tender Teal"))
        address = f"/api/engines/{twice.engine_id}/merge"
        other = inspection_of(self.user, document(6, title="A six")).engine
        stranger = inspection_of(shop_with("owner")).engine
        for wrong, status in ((other, 400), (twice.engine, 400), (stranger, 404)):
            answer = self.send("post", address, {"into": str(wrong.pk)})
            self.assertEqual(answer.status_code, status)
        self.assertEqual(self.send("post", address, {"into": str(into.pk)}).status_code, 200)
        twice.refresh_from_db()
        self.assertEqual(twice.engine, into)
        self.assertIn("t-1", twice.words.split())
        self.assertEqual(twice.document["engine"]["title"], "Tender Teal")
        self.assertFalse(Engine.objects.filter(title="Tender Teal").exists())

    def test_faults_and_tests_have_names(self):
        words = self.client.get("/api/vocabulary").json()
        labels = {one["id"]: one["label"] for one in words["faults"]}
        self.assertEqual(labels["exhaust-valve-sealing"], "exhaust valve not sealing")
        self.assertEqual(words["tests"]["leakdown"], "leak-down")
        self.assertIn("E:", words["grades"])
