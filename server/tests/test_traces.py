"""A cranking trace over the API: read, drawn, not recorded."""

import numpy as np

from core.signals import write_trace
from core.simulation.instruments import cranking_current
from core.tests.documents import document
from server.tests.people import inspection_of
from server.tests.test_recording import Recorder

ORDER = [1, 3, 4, 2]


class TraceTests(Recorder):
    def setUp(self):
        super().setUp()
        self.with_order = inspection_of(self.user, document(4, firing_order=ORDER))
        trace, self.second = cranking_current(np.random.default_rng(6), (1, 0.6, 1, 1))
        self.data = write_trace(trace)

    def read(self, inspection, data=None, mark=""):
        address = f"/api/inspections/{inspection.pk}/trace{mark}"
        return self.client.post(address, data or self.data, content_type="text/csv")

    def test_with_a_mark_each_share_has_its_cylinder(self):
        answer = self.read(self.with_order, mark=f"?cylinder=1&second={self.second}").json()
        shares = {one["cylinder"]: one["share"] for one in answer["shares"]}
        self.assertEqual(min(shares, key=shares.get), 3)
        self.assertAlmostEqual(shares[3], 0.6, delta=0.06)
        self.assertLessEqual(len(answer["values"]), 1200)
        self.with_order.refresh_from_db()
        self.assertNotIn("relative", self.with_order.document.get("tests", {}))

    def test_without_one_nobody_is_named(self):
        answer = self.read(self.with_order).json()
        self.assertEqual({one["cylinder"] for one in answer["shares"]}, {None})

    def test_what_cannot_be_read_says_where(self):
        for data, path in ((b"time [s],current [A]\n0,x\n", "/line/2"), (b"nonsense", "/line/1")):
            answer = self.read(self.with_order, data)
            self.assertEqual(answer.status_code, 400)
            self.assertEqual(answer.json()["problems"][0]["path"], path)
        answer = self.read(self.inspection)
        self.assertIn("firing order", answer.json()["problems"][0]["expected"])
