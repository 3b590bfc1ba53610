import io
import json
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase, mock

from core.cli import main
from core.tests.documents import document


def ran(*arguments):
    out, err = io.StringIO(), io.StringIO()
    with redirect_stdout(out), redirect_stderr(err):
        code = main(list(arguments))
    return code, out.getvalue(), err.getvalue()


class AssessTests(TestCase):
    def assess(self, text):
        with TemporaryDirectory() as folder:
            path = Path(folder) / "file.json"
            path.write_text(text)
            return ran("assess", str(path))

    def test_an_assessment_is_one_json_document(self):
        code, out, err = self.assess(json.dumps(document()))
        self.assertEqual((code, err), (0, ""))
        self.assertEqual(json.loads(out)["format"], "fiacre-assessment")

    def test_a_refused_file_says_why_a_reason_a_line(self):
        broken = document(99, colour="red")
        code, out, err = self.assess(json.dumps(broken))
        self.assertEqual((code, out), (2, ""))
        self.assertEqual([line.split(":")[0] for line in sorted(err.splitlines())],
                         ["/engine/colour", "/engine/cylinders"])  # fmt: skip

    def test_a_missing_file_is_no_trace(self):
        code, _, err = ran("assess", "/nowhere/at/all.json")
        self.assertEqual(code, 2)
        self.assertEqual(len(err.splitlines()), 1)


class CalcTests(TestCase):
    GEOMETRY = {
        "bore": {"value": 86, "unit": "mm"},
        "stroke": {"value": 86, "unit": "mm"},
        "rod": {"value": 143, "unit": "mm"},
        "compression_ratio": 9.5,
        "intake_closing_deg_abdc": 50,
    }

    def calc(self, name, keys):
        with mock.patch("sys.stdin", io.TextIOWrapper(io.BytesIO(json.dumps(keys).encode()))):
            return ran("calc", name)

    def test_what_cannot_be_computed_names_the_key(self):
        keys = {
            "maker": {"value": 20, "unit": "N.m"},
            "adaptor_offset": {"value": 50, "unit": "mm"},
        }
        code, out, err = self.calc("torque", keys)
        self.assertEqual((code, out), (2, ""))
        self.assertTrue(err.startswith("/wrench_length: "), err)

    # Published: US Standard Atmosphere 1976, table I; from memory.
    def test_atmosphere(self):
        code, out, _ = self.calc("atmosphere", {"altitude_m": 2000})
        self.assertEqual(code, 0)
        pressure = json.loads(out)["pressure"]
        self.assertEqual(pressure["unit"], "kPa")
        self.assertAlmostEqual(pressure["value"], 79.501, delta=0.002)

    def test_cranking_without_leaks_is_the_closed_form(self):
        keys = {**self.GEOMETRY, "ring_leak_mm2": 0, "strokes": 30, "polytropic_exponent": 1.3}
        said = json.loads(self.calc("cranking", keys)[1])
        peak = 101.325 * said["effective_ratio"] ** 1.3
        self.assertAlmostEqual(said["leak_free_peak"]["value"] / peak, 1, delta=1e-4)
        last = said["strokes"][-1]["value"]
        self.assertEqual(len(said["strokes"]), 30)
        self.assertAlmostEqual((last + 101.325) / peak, 1, delta=2e-3)

    def test_leakdown_and_back(self):
        tester = {
            "supply": {"value": 80, "unit": "psi"},
            "restrictor": {"value": 0.04, "unit": "in"},
        }
        held = json.loads(self.calc("leakdown", {**tester, "area_mm2": 0.7})[1])
        for known in ("held", "percent"):
            area = json.loads(self.calc("leak-area", {**tester, known: held[known]})[1])
            self.assertAlmostEqual(area["area_mm2"], 0.7, delta=1e-4)

    def test_wrong_and_unknown_keys_are_refused_with_their_path(self):
        for name, keys, path in (
            ("atmosphere", {"altitude_m": "high"}, "/altitude_m"),
            ("atmosphere", {}, "/altitude_m"),
            ("atmosphere", {"altitude_m": 0, "mood": 1}, "/mood"),
            ("cranking", {**self.GEOMETRY, "bore": {"value": 1, "unit": "psi"}}, "/bore/unit"),
            ("cranking", {**self.GEOMETRY, "bore": {"value": -1, "unit": "mm"}}, "/bore"),
            ("leak-area", {"supply": {"value": 80, "unit": "psi"}}, "/restrictor"),
            ("unheard-of", {}, "name"),
        ):
            with self.subTest(name=name, path=path):
                code, out, err = self.calc(name, keys)
                self.assertEqual((code, out), (2, ""))
                self.assertIn(path, [line.split(":")[0] for line in err.splitlines()])
