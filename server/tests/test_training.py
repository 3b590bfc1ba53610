"""The trainer over the API: rounds that hide the truth until they are over, and nobody's else's."""

from unittest.mock import patch

from django.test import TestCase

from core.tests.documents import compression, document
from core.training.cases import case_of, grave
from server.inspections.models import Inspection
from server.tests.people import colleague_of, inspection_of, shop_with
from server.training import services
from server.training.models import Attempt, PlugReading, TrainingClass

JSON = "application/json"


class TrainingCase(TestCase):
    def setUp(self):
        self.owner = shop_with("owner")
        self.client.force_login(self.owner)

    def begin(self, **asked):
        return self.client.post("/api/training/rounds", asked, JSON)

    def do(self, made, test, cylinders):
        address = f"/api/training/rounds/{made['id']}/acts"
        return self.client.post(address, {"test": test, "cylinders": cylinders}, JSON)

    def write(self, made, *entries):
        body = {"entries": [{"path": path, "value": value} for path, value in entries]}
        return self.client.post(f"/api/training/rounds/{made['id']}/record", body, JSON)

    def end(self, made, claims, may_run=True):
        body = {"claims": claims, "may_run": may_run}
        return self.client.post(f"/api/training/rounds/{made['id']}/answer", body, JSON)


class RoundTests(TrainingCase):
    def truth(self):
        return grave(case_of("school-day", 5).truth)

    def test_the_truth_is_hidden_until_it_is_said_what_it_is(self):
        made = self.begin(kind="school-day", seed=5).json()
        self.assertIsNone(made["replay"])
        done = self.do(made, "compression", [1, 2]).json()
        readings = done["shown"]["tests"]["compression"][0]["readings"]
        self.assertNotIn("compression", done["document"].get("tests", {}), "nobody writes it")
        self.assertEqual([one["cylinder"] for one in readings], [1, 2])
        self.assertEqual(done["minutes"], 15 + 2 * 2)
        self.assertGreater(done["rate"], 0)
        self.assertEqual([one["bits"] for one in done["acts"]], [None])
        ((number, faults),) = self.truth().items()
        claims = [{"cylinder": number, "fault": sorted(faults)[0], "percent": 80}]
        over = self.end(made, claims).json()
        self.assertEqual((over["score"]["found"], over["score"]["of"]), (1.0, 1))
        told = {one["cylinder"]: one["faults"] for one in over["replay"]["truth"]}
        self.assertLessEqual(faults, set(told[number]))  # Worn plugs, if any, are told beside it.
        self.assertTrue(over["replay"]["ideal"])
        self.assertEqual(self.end(made, claims).status_code, 409)
        self.assertEqual(self.do(made, "leakdown", [1]).status_code, 409)
        self.assertEqual(Inspection.objects.count(), 0, "no record is touched")

    def test_what_is_written_is_told_beside_what_was_shown_and_weighed_by_itself(self):
        ((number, faults),) = self.truth().items()
        made = self.begin(kind="school-day", seed=5).json()
        shown = self.do(made, "compression", [1, 2, 3]).json()["shown"]
        readings = {
            one["cylinder"]: one["pressure"]
            for one in shown["tests"]["compression"][0]["readings"]
        }  # fmt: skip
        place = "/tests/compression/mine"
        kept = self.write(
            made, (f"{place}/kind", "dry"), (f"{place}/readings/1/pressure", readings[1]),
            (f"{place}/readings/2/pressure", {**readings[2], "unit": "kPa"}),
        )  # fmt: skip
        self.assertEqual(kept.status_code, 200, kept.content)
        for path in ("/engine/cylinders", "/outcome/engine_faults", "/cylinders/1/nose"):
            self.assertEqual(self.write(made, (path, 4)).status_code, 400, path)
        claims = [{"cylinder": number, "fault": sorted(faults)[0], "percent": 80}]
        told = self.end(made, claims).json()["replay"]
        self.assertIn(told["needs"], ("ignition-fuel", "top-end", "bottom-end"))
        self.assertEqual((told["written"]["right"], told["written"]["left"]), (1, 1))
        self.assertEqual(
            [(one["path"], one["written"]["unit"]) for one in told["written"]["slips"]],
            [("/tests/compression/dry/readings/2/pressure", "kPa")],
        )
        self.assertNotEqual(told["record_claims"], told["model_claims"])
        self.assertEqual(self.write(made, (f"{place}/kind", "wet")).status_code, 409)
        self.assertEqual(Inspection.objects.count(), 0, "no record is touched")

    def test_an_act_that_tells_nothing_or_has_no_time_is_refused(self):
        made = self.begin(kind="school-day", seed=5).json()
        everyone = list(range(1, made["document"]["engine"]["cylinders"] + 1))
        self.assertEqual(self.do(made, "port-look", [1]).status_code, 400)
        self.do(made, "spark", everyone)
        self.assertEqual(self.do(made, "spark", everyone).status_code, 400)
        with patch.object(services, "budget", return_value=30.0):
            self.assertEqual(self.do(made, "leakdown", everyone).status_code, 400)
        self.assertEqual(len(Attempt.objects.get().acts), 1)

    def test_a_round_is_its_persons_own(self):
        made = self.begin(kind="school-day", seed=5).json()
        self.client.force_login(shop_with("owner", "Elsewhere"))
        for answer in (
            self.client.get(f"/api/training/rounds/{made['id']}"),
            self.do(made, "spark", [1]),
            self.end(made, []),
            self.write(made, ("/cylinders/1/plug/wetness", "dry")),
        ):
            self.assertEqual(answer.status_code, 404)


class ClassTests(TrainingCase):
    def test_a_class_gets_the_same_engines_and_sees_who_does_what(self):
        made = self.client.post("/api/training/classes", {"name": "Winter"}, JSON).json()
        self.assertEqual(len({one["kind"] for one in made["cases"]}), 5)
        case = made["cases"][0]
        asked = {"kind": case["kind"], "seed": case["seed"], "of_class": made["id"]}
        apprentice = colleague_of(self.owner, "viewer")
        first = self.begin(**asked).json()
        self.client.force_login(apprentice)
        second = self.begin(**asked).json()
        self.assertEqual(first["document"], second["document"])
        self.assertEqual(self.begin(**asked).json()["id"], second["id"], "it goes on")
        faults = grave(case_of(case["kind"], case["seed"]).truth)
        sound = next(n for n in range(1, 9) if n not in faults)
        self.end(second, [{"cylinder": sound, "fault": "ring-sealing", "percent": 90}])
        seen = self.client.get("/api/training").json()["classes"][0]
        self.assertEqual(seen["players"][0]["wrong"], 1)
        self.assertEqual(seen["players"][0]["often"], "rings or bore not sealing")
        self.assertIsNotNone(seen["cases"][0]["points"])

    def test_only_an_owner_makes_one_and_another_shop_sees_none(self):
        services.new_class(shop=self.owner.shop, name="Winter", seed=1)
        self.client.force_login(shop_with("inspector", "Elsewhere"))
        self.assertEqual(self.client.get("/api/training").json()["classes"], [])
        answer = self.client.post("/api/training/classes", {"name": "Mine"}, JSON)
        self.assertEqual(answer.status_code, 403)
        theirs = TrainingClass.objects.get()
        asked = {**theirs.cases[0], "of_class": str(theirs.pk)}
        self.assertEqual(self.begin(**asked).status_code, 404)


class OwnCaseTests(TrainingCase):
    SECRET = "Hedda's launch"

    def inspected(self, found, user=None):
        made = document(4, title=self.SECRET, identifier=self.SECRET)
        made["inspection"] = {"date": "2026-05-01", "trouble_codes": ["P0303"]}
        made["tests"] = {"compression": [compression((150, 151, 75, 149))]}
        made["outcome"] = {"cylinders": found}
        return inspection_of(user or self.owner, made)

    def keep(self, inspection):
        return self.client.post("/api/training/own", {"inspection": str(inspection.pk)}, JSON)

    def known(self):
        sound = [{"cylinder": n, "nothing": True} for n in (1, 2, 4)]
        return [*sound, {"cylinder": 3, "found": ["exhaust-valve-sealing"]}]

    def test_an_engine_of_ones_own_is_played_and_nobodys(self):
        kept = self.keep(self.inspected(self.known()))
        self.assertEqual((kept.status_code, kept.json()["label"]), (201, "inline 4, four-stroke"))
        apprentice = colleague_of(self.owner, "viewer")
        self.client.force_login(apprentice)
        (case,) = self.client.get("/api/training").json()["own"]
        made = self.begin(kind=case["kind"], seed=case["seed"]).json()
        self.assertNotIn(self.SECRET, str(made))
        self.assertEqual([one["test"] for one in made["open"]], ["compression"])
        read = self.do(made, "compression", [1, 2, 3, 4]).json()
        self.assertEqual(len(read["shown"]["tests"]["compression"][0]["readings"]), 4)
        claims = [{"cylinder": 3, "fault": "exhaust-valve-sealing", "percent": 90}]
        over = self.end(made, claims, may_run=False).json()
        self.assertEqual(over["score"]["found"], 1.0)
        self.assertTrue(over["replay"]["ideal"])

    def test_only_what_is_known_makes_a_case_and_only_an_owner(self):
        self.assertEqual(self.keep(self.inspected(self.known()[:3])).status_code, 400)
        nothing = [{"cylinder": n, "nothing": True} for n in range(1, 5)]
        self.assertEqual(self.keep(self.inspected(nothing)).json()["code"], "outcome")
        theirs = self.inspected(self.known(), shop_with("owner", "Elsewhere"))
        self.assertEqual(self.keep(theirs).status_code, 404)
        own = self.inspected(self.known())
        self.keep(own)
        self.begin(kind="own", seed=1)
        self.client.force_login(colleague_of(self.owner, "inspector"))
        self.assertEqual(self.keep(own).status_code, 403)
        self.assertEqual(self.client.delete("/api/training/own/1").status_code, 403)
        self.client.force_login(self.owner)
        self.assertEqual(self.client.delete("/api/training/own/1").status_code, 204)
        self.assertEqual(Attempt.objects.count(), 0)
        self.assertEqual(self.begin(kind="own", seed=1).status_code, 400)


class PlugTests(TrainingCase):
    def test_a_plug_is_named_once_and_then_told(self):
        asked = self.client.get("/api/training/plug").json()
        self.assertEqual(asked, self.client.get("/api/training/plug").json())
        body = {"number": asked["number"], "answered": asked["offered"][0]["face"]}
        told = self.client.post("/api/training/plug", body, JSON).json()
        self.assertTrue(told["proves_not"])
        self.assertEqual(self.client.post("/api/training/plug", body, JSON).status_code, 400)
        self.assertEqual(PlugReading.objects.count(), 1)
        seen = self.client.get("/api/training").json()
        self.assertEqual((seen["plugs_read"], seen["plugs_right"]), (1, int(told["right"])))
