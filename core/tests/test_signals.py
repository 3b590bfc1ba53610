"""Relative compression from traces whose truth is known, with noise and a tired battery."""

import json
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

import numpy as np

from core.signals import Trace, TraceRefused, read_trace, relative_compression, write_trace
from core.simulation.instruments import cranking_current
from core.tests.test_cli import ran

ORDER = (1, 3, 4, 2)


def found(shares, order=ORDER, **options):
    random = np.random.default_rng(4)
    trace, at = cranking_current(random, shares, **options)
    return {one.cylinder: one for one in relative_compression(trace, order, (order[0], at))}


class RelativeCompressionTests(TestCase):
    def test_each_cylinder_gets_its_own_share(self):
        for shares in ((1, 1, 1, 1), (1, 0.6, 1, 1), (0.95, 1, 0.8, 0.7)):
            with self.subTest(shares=shares):
                said = found(shares)
                for cylinder, share in zip(ORDER, shares, strict=True):
                    self.assertAlmostEqual(said[cylinder].share, share / max(shares), delta=0.06)

    def test_a_dead_cylinder_keeps_its_place(self):
        said = found((1, 0.02, 1, 0.9))
        self.assertLess(said[3].share, 0.15)
        self.assertGreater(min(said[n].share for n in (1, 2, 4)), 0.8)

    def test_more_cylinders_slow_cranking_and_noise(self):
        order = (1, 8, 4, 3, 6, 5, 7, 2)
        shares = (1, 1, 0.55, 1, 0.95, 1, 1, 1)
        for options in ({"noise": 0.1}, {"rpm": 130, "seconds": 6.0}, {"drift": 0.2}):
            with self.subTest(**options):
                said = found(shares, order, **options)
                lowest = min(said.values(), key=lambda one: one.share)
                self.assertEqual(lowest.cylinder, 4)
                self.assertAlmostEqual(lowest.share, 0.55, delta=0.1)

    def test_without_a_mark_nobody_is_named(self):
        trace, _ = cranking_current(np.random.default_rng(1), (1, 0.6, 1, 1))
        said = relative_compression(trace, ORDER)
        self.assertEqual({one.cylinder for one in said}, {None})
        self.assertAlmostEqual(min(one.share for one in said), 0.6, delta=0.06)

    def test_where_nothing_was_sampled_nothing_is_made_up(self):
        trace, _ = cranking_current(np.random.default_rng(1), (1, 0.6, 1, 1))
        late = len(trace.seconds) // 8
        for pause in (10.0, 1e5, 1e9):
            seconds = trace.seconds + np.where(np.arange(len(trace.seconds)) < late, 0.0, pause)
            with self.subTest(pause=pause):
                said = relative_compression(Trace("current", seconds, trace.values), ORDER)
                self.assertAlmostEqual(min(one.share for one in said), 0.6, delta=0.08)

    def test_times_that_double_have_no_rate(self):
        seconds = np.cumsum(1e-3 * 2.0 ** np.arange(60))
        with self.assertRaises(TraceRefused):
            relative_compression(Trace("current", seconds, np.ones(60)), ORDER)

    def test_old_line_ends_are_line_ends(self):
        trace, _ = cranking_current(np.random.default_rng(1), (1, 1, 1, 1))
        again = read_trace(write_trace(trace).replace(b"\n", b"\r"))
        self.assertEqual(len(again.values), len(trace.values))

    def test_noise_alone_is_refused(self):
        random = np.random.default_rng(2)
        seconds = np.arange(0, 3, 1e-3)
        with self.assertRaises(TraceRefused):
            relative_compression(Trace("current", seconds, random.normal(100, 5, 3000)), ORDER)
        short, _ = cranking_current(random, (1, 1, 1, 1), seconds=0.8)
        with self.assertRaises(TraceRefused):
            relative_compression(short, ORDER)


class ShellTests(TestCase):
    def test_a_simulated_clamp_is_read_from_a_shell(self):
        random = np.random.default_rng(0)
        text = write_trace(cranking_current(random, (1, 0.6, 1, 1))[0]).decode()
        with TemporaryDirectory() as folder:
            path = Path(folder) / "trace.csv"
            path.write_text(text)
            code, said, _ = ran("trace", str(path), "--order", "1,3,4,2")
            self.assertEqual(code, 0)
            shares = [one["share"] for one in json.loads(said)["relative_compression"]]
            self.assertAlmostEqual(min(shares), 0.6, delta=0.06)
            code, _, error = ran("trace", str(path), "--order", "1,3,3,2")
            self.assertEqual(code, 2)
            self.assertIn("--order", error)


class TraceTests(TestCase):
    def test_what_is_written_is_read_back(self):
        trace, _ = cranking_current(np.random.default_rng(3), (1, 1), seconds=1.0)
        again = read_trace(write_trace(trace))
        np.testing.assert_allclose(again.values, trace.values, rtol=1e-5)
        self.assertEqual(again.quantity, "current")

    def test_units_are_read_from_the_headings(self):
        rows = "\n".join(f"{at};{at % 7}" for at in range(60))
        trace = read_trace(f"time [ms];pressure (bar)\n{rows}".encode())
        self.assertAlmostEqual(trace.seconds[-1], 0.059)
        self.assertAlmostEqual(float(trace.values.max()), 6e5)

    def test_each_refusal_names_its_line(self):
        rows = "".join(f"{at},1\n" for at in range(60))
        for text, path in (
            ("", "/line/1"),
            ("time,current\n" + rows, "/line/1"),
            ("time [s],current [volt]\n" + rows, "/line/1"),
            ("time [s],current [A]\n0,1\n1,x\n", "/line/3"),
            ("time [s],current [A]\n" + rows + "5,1\n", "/line/62"),
            ("time [s],current [A]\n0,1\n", "/"),
        ):
            with self.subTest(text=text[:30]), self.assertRaises(TraceRefused) as refused:
                read_trace(text.encode())
            self.assertEqual(refused.exception.path, path)
