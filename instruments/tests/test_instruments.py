import io
import json
import threading
from contextlib import redirect_stderr, redirect_stdout
from http.client import HTTPConnection
from unittest import TestCase

import numpy as np

from core.errors import OutOfRange
from core.signals import read_trace, relative_compression
from core.simulation.instruments import BenchEngine
from instruments.__main__ import main
from instruments.readings import INSTRUMENTS
from instruments.stream import serve


def ran(*arguments):
    out, err = io.StringIO(), io.StringIO()
    with redirect_stdout(out), redirect_stderr(err):
        code = main(list(arguments))
    return code, out.getvalue(), err.getvalue()


class BenchEngineTests(TestCase):
    def strokes(self, leak):
        engine = BenchEngine(4, {3: leak})
        return engine.strokes_pa(3, 6, np.random.default_rng(0))

    # Common practice, no source: a gauge climbs stroke by stroke, a leaking cylinder less.
    def test_a_gauge_climbs_and_a_leak_lowers_every_stroke(self):
        sound, leaking = self.strokes(0.0), self.strokes(2.0)
        self.assertTrue((np.diff(sound) >= 0).all())
        self.assertLess(sound[0], 0.95 * sound[-1])
        self.assertTrue((leaking < sound).all())

    def test_a_clamp_shows_what_its_gauge_shows(self):
        engine = BenchEngine(4, {3: 2.0})
        final = self.strokes(2.0)[-1] / self.strokes(0.0)[-1]
        self.assertAlmostEqual(engine.shares([1, 3])[1], final, delta=0.04)

    def test_no_such_cylinder(self):
        with self.assertRaises(OutOfRange):
            BenchEngine(4, {5: 1.0})


class ShellTests(TestCase):
    def test_a_clamp_as_a_file_is_read_back(self):
        code, text, _ = ran("current-clamp", "--leak", "3=2", "--order", "1,3,4,2")
        self.assertEqual(code, 0)
        shares = relative_compression(read_trace(text.encode()), [1, 3, 4, 2])
        self.assertAlmostEqual(min(one.share for one in shares), 0.71, delta=0.08)

    def test_nonsense_is_refused_by_name(self):
        for arguments, named in (
            (("gauge", "--leak", "9=1"), "cylinder"),
            (("gauge", "--leak", "3=much"), "--leak"),
            (("current-clamp", "--order", "1,1,2,3"), "--order"),
            (("gauge", "--strokes", "0"), "--strokes"),
        ):
            with self.subTest(arguments=arguments):
                code, out, error = ran(*arguments)
                self.assertEqual((code, out), (2, ""))
                self.assertIn(named, error)


class StreamTests(TestCase):
    def setUp(self):
        kind = INSTRUMENTS["gauge"](BenchEngine(2), (1, 2), 2, np.random.default_rng(0))
        self.server = serve(kind, 0)
        threading.Thread(target=self.server.serve_forever, daemon=True).start()
        self.addCleanup(self.server.server_close)
        self.addCleanup(self.server.shutdown)

    def get(self, path, **headers):
        connection = HTTPConnection("127.0.0.1", self.server.server_port, timeout=10)
        self.addCleanup(connection.close)
        connection.request("GET", path, headers=headers)
        answer = connection.getresponse()
        return answer, answer.read().decode()

    def test_a_capture_is_events_to_its_end(self):
        answer, text = self.get("/capture?cylinder=2", Origin="http://127.0.0.1:8020")
        self.assertEqual(answer.headers["Access-Control-Allow-Origin"], "http://127.0.0.1:8020")
        events = [block.split("\n") for block in text.strip().split("\n\n")]
        self.assertEqual(
            [block[0] for block in events], ["event: stroke", "event: stroke", "event: done"]
        )
        first, last = (json.loads(block[1].removeprefix("data: ")) for block in events[:2])
        self.assertLess(first["pressure"]["value"], last["pressure"]["value"])

    def test_only_this_machine_is_answered(self):
        for headers in ({"Origin": "https://elsewhere.example"}, {"Host": "elsewhere.example"}):
            with self.subTest(headers=headers):
                answer, _ = self.get("/", **headers)
                self.assertEqual(answer.status, 403)
                self.assertIsNone(answer.headers["Access-Control-Allow-Origin"])

    def test_a_hole_that_is_not_there_is_refused(self):
        for asked in ("9", "first"):
            self.assertEqual(self.get(f"/capture?cylinder={asked}")[0].status, 400)
