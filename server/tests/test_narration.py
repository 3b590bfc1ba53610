"""What is said is understood where it is recorded, and recorded by hand alone."""

from django.test import TestCase

from server.tests.people import inspection_of, shop_with


class SayTests(TestCase):
    def setUp(self):
        self.user = shop_with()
        self.client.force_login(self.user)
        self.inspection = inspection_of(self.user)
        self.address = f"/api/inspections/{self.inspection.pk}"

    def say(self, line, **more):
        body = {"line": line, **more}
        return self.client.post(f"{self.address}/say", body, "application/json")

    def told(self, *args, **more):
        return {one["path"]: one["value"] for one in self.say(*args, **more).json()["proposals"]}

    def test_what_is_proposed_is_taken_by_the_log_as_it_is(self):
        proposals = self.say("146, 144, 82, 147", round="pressures").json()["proposals"]
        self.assertEqual(proposals[0]["path"], "/tests/compression/dry-1/kind")
        said = [{"client_id": f"00000000-0000-0000-0000-00000000000{at}", "path": one["path"],
                 "value": one["value"]} for at, one in enumerate(proposals)]  # fmt: skip
        body = {"observations": said}
        answer = self.client.post(f"{self.address}/observations", body, "application/json")
        self.assertEqual(answer.status_code, 200, answer.content)
        document = answer.json()["document"]
        self.assertEqual(
            document["tests"]["compression"][0]["readings"][2]["pressure"]["value"], 82
        )
        again = self.say("three, ninety", round="pressures").json()
        self.assertEqual(again["proposals"], [])
        self.assertEqual(
            again["questions"][0]["path"], "/tests/compression/dry-1/readings/3/pressure"
        )

    def test_context_and_nothing_recorded(self):
        lines = ["one, tan, dry"]
        self.assertEqual(
            self.told("two same as one", before=lines)["/cylinders/2/plug/wetness"], "dry"
        )
        self.assertEqual(self.told("dry", cylinder=4), {"/cylinders/4/plug/wetness": "dry"})
        self.inspection.refresh_from_db()
        self.assertNotIn("cylinders", self.inspection.document)

    def test_another_shop_is_not_listened_to(self):
        self.client.force_login(shop_with(name="Elsewhere"))
        self.assertEqual(self.say("one is tan").status_code, 404)
