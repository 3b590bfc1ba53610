"""Cylinders under other numbers, over the API: all of it or nothing, back again, and meanwhile."""

import uuid

from core.document.log import replay
from core.tests.documents import quantity
from server.tests.people import said
from server.tests.test_recording import Recorder

TURNED = [4, 3, 2, 1]


class RenumberTests(Recorder):
    def renumber(self, wanted, **more):
        return self.record({**said("/numbering", wanted), **more})

    def test_what_was_recorded_moves_and_comes_back(self):
        self.record(
            said("/cylinders/2/plug/deposit_colour", "black"),
            said("/tests/compression/dry-1/kind", "dry"),
            said("/tests/compression/dry-1/readings/2/pressure", quantity(90, "psi")),
        )
        before = self.document()
        answer = self.renumber(TURNED).json()
        moved = answer["document"]
        self.assertEqual(answer["numbering"], TURNED)
        self.assertEqual([one["number"] for one in moved["cylinders"]], [3])
        self.assertEqual(moved["tests"]["compression"][0]["readings"][0]["cylinder"], 3)
        back = self.renumber([1, 2, 3, 4]).json()["document"]
        self.assertEqual(back["cylinders"], before["cylinders"])
        self.assertEqual(back["tests"], before["tests"])
        log = self.inspection.observations.values_list("path", "value")
        self.assertEqual(replay(log)[0], self.document())

    def test_a_number_named_twice_changes_nothing(self):
        before = self.client.get(self.address).json()["sequence"]
        for numbering in ([1, 2, 3, 3], [1, 2, 3], [0, 1, 2, 3], "4321"):
            answer = self.renumber(numbering)
            self.assertEqual(answer.status_code, 400)
            self.assertEqual(answer.json()["problems"][0]["path"], "/numbering")
        self.assertEqual(self.client.get(self.address).json()["sequence"], before)

    def test_a_late_entry_lands_on_the_cylinder_it_was_said_of(self):
        tablet, phone = str(uuid.uuid4()), str(uuid.uuid4())
        seen = self.client.get(self.address).json()["sequence"]
        self.renumber(TURNED, device=tablet, seen=seen, numbering=[1, 2, 3, 4])
        late = {"device": phone, "seen": seen, "numbering": [1, 2, 3, 4]}
        answer = self.record({**said("/cylinders/1/plug/wetness", "wet"), **late}).json()
        self.assertEqual(
            answer["document"]["cylinders"], [{"number": 4, "plug": {"wetness": "wet"}}]
        )
        other = {"device": tablet, "seen": seen, "numbering": TURNED}
        answer = self.record({**said("/cylinders/4/plug/wetness", "dry"), **other}).json()
        found = [
            (one["path"], [each["value"] for each in one["said"]]) for one in answer["conflicts"]
        ]
        self.assertEqual(found, [("/cylinders/4/plug/wetness", ["dry", "wet"])])

    def test_two_numberings_at_once_are_shown_and_one_is_chosen(self):
        seen = self.client.get(self.address).json()["sequence"]
        for numbering in (TURNED, [2, 1, 4, 3]):
            answer = self.renumber(numbering, device=str(uuid.uuid4()), seen=seen).json()
        self.assertEqual(answer["numbering"], [2, 1, 4, 3])
        self.assertEqual([one["path"] for one in answer["conflicts"]], ["/numbering"])
        answer = self.renumber(TURNED, device=str(uuid.uuid4()), seen=answer["sequence"]).json()
        self.assertEqual((answer["numbering"], answer["conflicts"]), (TURNED, []))
