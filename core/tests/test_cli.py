import io
import json
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from tempfile import TemporaryDirectory

from django.test import SimpleTestCase

from core.cli import main
from core.tests.documents import document


def ran(*arguments):
    out, err = io.StringIO(), io.StringIO()
    with redirect_stdout(out), redirect_stderr(err):
        code = main(list(arguments))
    return code, out.getvalue(), err.getvalue()


class AssessTests(SimpleTestCase):
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
