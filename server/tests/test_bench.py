"""Calculators, own tools, the refit and its follow-up over the API."""

from django.test import TestCase

from core.tests.documents import document, quantity
from server.tests.people import inspection_of, said, shop_with

ADDRESS = "/api/calculators"


class CalculatorTests(TestCase):
    def calculate(self, name, keys):
        return self.client.post(f"{ADDRESS}/{name}", keys, content_type="application/json")

    def test_whoever_may_look_may_calculate(self):
        keys = {"ratio": 32, "fuel": quantity(1, "L")}
        self.assertEqual(self.calculate("premix", keys).status_code, 401)
        self.client.force_login(shop_with("viewer"))
        self.assertEqual(self.calculate("premix", keys).json(), {"oil": quantity(31.25, "mL")})

    def test_a_wrong_key_is_refused_by_its_path(self):
        self.client.force_login(shop_with())
        for name, keys, path in (
            ("premix", {"ratio": 32, "fuel": quantity(1, "psi")}, "/fuel/unit"),
            ("premix", {"ratio": 32, "fuel": quantity(1, "L"), "oil": 1}, "/oil"),
            ("torque", {"maker": quantity(20, "N.m"), "adaptor_offset": quantity(50, "mm")},
             "/wrench_length"),
            ("premix", [], ""),
        ):  # fmt: skip
            with self.subTest(path=path):
                answer = self.calculate(name, keys)
                self.assertEqual(answer.status_code, 400)
                self.assertEqual(answer.json()["problems"][0]["path"], path)
        self.assertEqual(self.calculate("horoscope", {}).status_code, 400)

    def test_each_tells_its_formula_source_and_range(self):
        self.client.force_login(shop_with())
        told = {one["name"]: one for one in self.client.get(ADDRESS).json()}
        self.assertIn("Paschen", told["breakdown"]["formula"])
        self.assertTrue(all(one["source"] and one["note"] for one in told.values()))


class OwnToolsTests(TestCase):
    ADDRESS = "/api/session/tools"

    def keep(self, own):
        return self.client.put(self.ADDRESS, {"own": own}, content_type="application/json")

    def test_a_set_of_blades_is_kept_for_its_owner_alone(self):
        blades = [quantity(0.305, "mm"), quantity(10, "thou")]
        self.client.force_login(shop_with("viewer"))
        self.assertEqual(self.keep({"blades": blades}).status_code, 200)
        self.assertEqual(self.client.get(self.ADDRESS).json()["own"], {"blades": blades})
        self.client.force_login(shop_with())
        self.assertEqual(self.client.get(self.ADDRESS).json()["own"], {})

    def test_what_is_no_blade_is_refused(self):
        self.client.force_login(shop_with())
        answer = self.keep({"blades": [quantity(-1, "mm")]})
        self.assertEqual(answer.status_code, 400)
        self.assertEqual(answer.json()["problems"][0]["path"], "/blades/0")
        self.assertEqual(self.keep({"hammer": True}).status_code, 400)


class RefitTests(TestCase):
    def setUp(self):
        self.user = shop_with()
        self.client.force_login(self.user)
        self.inspection = inspection_of(self.user, document(2, title="A pump"))

    def record(self, *entries):
        body = {"observations": [said(path, value) for path, value in entries]}
        address = f"/api/inspections/{self.inspection.pk}/observations"
        return self.client.post(address, body, content_type="application/json")

    def test_the_list_is_not_closed_with_a_cylinder_missing(self):
        base = "/refit/cylinders"
        self.record((f"{base}/1/fitted", True), (f"{base}/1/torqued", True))
        refused = self.record(("/refit/closed", True))
        self.assertEqual(refused.status_code, 400)
        self.assertIn("missing: 2", refused.json()["problems"][0]["expected"])
        self.record((f"{base}/2/fitted", True), (f"{base}/2/torqued", True))
        self.assertEqual(self.record(("/refit/closed", True)).status_code, 200)
        sheet = self.client.get(f"/api/inspections/{self.inspection.pk}/refit").json()
        self.assertEqual(sheet["missing"], [])
        self.assertEqual(self.record((f"{base}/2/torqued", None)).status_code, 400)

    def test_a_follow_up_is_on_the_shops_list_until_it_is_done(self):
        def due():
            return [
                (one["id"], one["follow_up"])
                for one in self.client.get("/api/inspections", {"due": "true"}).json()
            ]

        later = inspection_of(self.user, document(2, title="Another"))
        self.record(("/proof/follow_up", "2026-12-24"))
        self.assertEqual(due(), [(str(self.inspection.pk), "2026-12-24")])
        self.inspection, first = later, self.inspection
        self.record(("/proof/follow_up", "2026-12-01"))
        self.assertEqual([day for _, day in due()], ["2026-12-01", "2026-12-24"])
        self.record(("/proof/followed_up", True))
        self.assertEqual([one for one, _ in due()], [str(first.pk)])

    def test_a_kept_set_is_among_the_engines_sets(self):
        self.record(
            ("/cylinders/1/plug/deposit_colour", "tan"), ("/refit/kept/label", "Set of spring")
        )
        address = f"/api/engines/{self.inspection.engine_id}/over-time"
        sets = self.client.get(address).json()["sets"]
        self.assertEqual([one["label"] for one in sets], ["Set of spring"])
        self.assertEqual(sets[0]["plugs"][0]["plug"], {"deposit_colour": "tan"})
