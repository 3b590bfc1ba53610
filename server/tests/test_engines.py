import uuid

from django.test import TestCase

from core.tests.documents import document
from server.engines.models import Engine
from server.inspections.services import open_inspection
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
        body = {"data": changed, "version": 1}
        self.assertEqual(self.send("put", address, body).json()["title"], "Renamed")
        inspection.refresh_from_db()
        self.assertNotIn("ignition", inspection.document["engine"])

    def test_a_description_is_not_overwritten_by_one_who_has_not_seen_it(self):
        address = f"/api/engines/{inspection_of(self.user).engine_id}"
        first, late = (
            {"data": document(4, title="T", ignition=kind)["engine"], "version": 1}
            for kind in ("magneto", "distributor")
        )
        self.assertEqual(self.send("put", address, first).json()["version"], 2)
        answer = self.send("put", address, late)
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "changed-meanwhile"))
        self.assertEqual(self.client.get(address).json()["data"]["ignition"], "magneto")

    def test_an_inspection_tells_its_engine_what_it_corrected_and_no_more(self):
        inspection = inspection_of(self.user, document(4, title="T", ignition="magneto"))
        address = f"/api/engines/{inspection.engine_id}"
        data = document(4, title="T", ignition="distributor")["engine"]
        self.send("put", address, {"data": data, "version": 1})
        said = {"client_id": str(uuid.uuid4()), "path": "/engine/identifier", "value": "T-9"}
        told = self.send(
            "post", f"/api/inspections/{inspection.pk}/observations", {"observations": [said]}
        )
        self.assertEqual(told.status_code, 200)
        known = self.client.get(address).json()["data"]
        self.assertEqual((known["identifier"], known["ignition"]), ("T-9", "distributor"))

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
        titles = [one["title"] for one in self.client.get("/api/engines").json()]
        self.assertEqual(titles.count("Tender Teal"), 0)

    def test_what_is_begun_on_a_record_while_it_is_merged_is_begun_on_the_other(self):
        into = inspection_of(self.user, document(4, title="Teal", identifier="T-1")).engine
        twice = inspection_of(self.user, document(4, title="Tender Teal")).engine
        known = Engine.objects.get(pk=twice.pk)
        self.send("post", f"/api/engines/{twice.pk}/merge", {"into": str(into.pk)})
        begun = open_inspection(engine=known, by=self.user, fields={})
        self.assertEqual(begun.engine, into)
        late = self.send("post", "/api/inspections", {"engine": str(twice.pk)})
        self.assertEqual(late.json()["document"]["engine"]["title"], "Teal")
        self.assertEqual(self.client.get(f"/api/engines/{twice.pk}").json()["id"], str(into.pk))

    def test_faults_and_tests_have_names(self):
        words = self.client.get("/api/vocabulary").json()
        labels = {one["id"]: one["label"] for one in words["faults"]}
        self.assertEqual(labels["exhaust-valve-sealing"], "exhaust valve not sealing")
        self.assertEqual(words["tests"]["leakdown"], "leak-down")
        self.assertIn("E:", words["grades"])
