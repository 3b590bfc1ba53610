"""Renumbering over the API: one batch, all of it or nothing, and back again."""

from core.tests.documents import quantity
from server.tests.people import said
from server.tests.test_recording import Recorder


class RenumberTests(Recorder):
    def renumber(self, *numbers):
        body = {"numbers": list(numbers)}
        return self.client.post(f"{self.address}/renumber", body, content_type="application/json")

    def test_what_was_recorded_moves_and_comes_back(self):
        self.record(
            said("/cylinders/2/plug/deposit_colour", "black"),
            said("/tests/compression/dry-1/kind", "dry"),
            said("/tests/compression/dry-1/readings/2/pressure", quantity(90, "psi")),
        )
        before = self.document()
        moved = self.renumber(4, 3, 2, 1).json()["document"]
        self.assertEqual([one["number"] for one in moved["cylinders"]], [3])
        self.assertEqual(moved["tests"]["compression"][0]["readings"][0]["cylinder"], 3)
        back = self.renumber(4, 3, 2, 1).json()["document"]
        self.assertEqual(back["cylinders"], before["cylinders"])
        self.assertEqual(back["tests"], before["tests"])

    def test_a_number_named_twice_changes_nothing(self):
        before = self.client.get(self.address).json()["sequence"]
        for numbers in ((1, 2, 3, 3), (1, 2, 3), (0, 1, 2, 3)):
            answer = self.renumber(*numbers)
            self.assertEqual(answer.status_code, 400)
            self.assertEqual(answer.json()["problems"][0]["path"], "/numbers")
        self.assertEqual(self.client.get(self.address).json()["sequence"], before)
