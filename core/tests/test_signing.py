"""The seal on a signed inspection, and units of choice."""

import hashlib
import json
from copy import deepcopy
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

from scipy import constants

from core.document import check_document
from core.document.signing import digest, sealed, verify
from core.document.units import in_units
from core.errors import CoreError, OutOfRange
from core.telling import assess
from core.tests.documents import SOUND_PLUG, compression, document, plugs, quantity
from core.tests.test_cli import ran
from core.tests.test_document import full

SIGNED = {"by": "Signe", "shop": "A yard", "at": "2026-11-25T10:00:00+00:00"}


def content():
    checked = check_document(full())
    return sealed(checked, assess(checked), SIGNED)


class SealTests(TestCase):
    # Published: FIPS 180-4, the SHA-256 of the three bytes "abc".
    def test_the_digest_is_sha_256_of_canonical_json(self):
        abc = "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad"
        self.assertEqual(hashlib.sha256(b"abc").hexdigest(), abc)
        made = {"b": "ä", "a": 1, "digest": "left out"}
        by_hand = hashlib.sha256('{"a":1,"b":"ä"}'.encode()).hexdigest()
        self.assertEqual(digest(made), by_hand)

    def test_order_and_layout_of_the_file_do_not_matter(self):
        made = content()
        turned = json.loads(json.dumps(dict(reversed(made.items())), indent=7))
        self.assertTrue(verify(turned, made["digest"])["matches"])
        grouped = " ".join(made["digest"][at : at + 8] for at in range(0, 64, 8)).upper()
        self.assertTrue(verify(turned, grouped)["matches"])

    def test_anything_that_is_changed_breaks_it(self):
        made = content()
        for where in (
            ("document", "engine", "cylinders"),
            ("assessment", "engine", "grade"),
            ("signed", "by"),
            ("version",),
        ):
            changed = deepcopy(made)
            *steps, last = where
            target = changed
            for step in steps:
                target = target[step]
            target[last] = "something else"
            with self.subTest(where=where):
                self.assertFalse(verify(changed)["matches"])
        self.assertFalse(verify(made, "0" * 64)["matches"])

    def test_what_is_no_signed_inspection_is_refused_by_name(self):
        made = content()
        for broken, path in (
            ([], "/format"),
            ({**made, "format": "fiacre-inspection"}, "/format"),
            ({name: one for name, one in made.items() if name != "digest"}, "/digest"),
        ):
            with self.subTest(path=path), self.assertRaises(CoreError) as refused:
                verify(broken)
            self.assertEqual(refused.exception.path, path)

    def test_from_a_shell(self):
        made = content()
        with TemporaryDirectory() as folder:
            path = Path(folder) / "signed.json"
            path.write_text(json.dumps(made))
            code, out, _ = ran("verify", str(path), "--digest", made["digest"])
            self.assertEqual((code, json.loads(out)["matches"]), (0, True))
            made["signed"]["by"] = "Somebody else"
            path.write_text(json.dumps(made))
            code, out, error = ran("verify", str(path))
            self.assertEqual((code, out), (2, ""))
            self.assertIn("digest", error)


class UnitTests(TestCase):
    def made(self):
        made = document(
            4, specification={"compression_max_spread": quantity(15, "%"),
                              "torque_new": quantity(18, "lbf.ft")},
        )  # fmt: skip
        made["cylinders"] = plugs({**SOUND_PLUG, "gap": quantity(40, "thou")})
        made["inspection"] = {"odometer": quantity(100, "mi"), "plug_distance": quantity(60, "h")}
        made["tests"] = {"compression": [compression([150, 151, 112, 149])]}
        return check_document(made)

    # Published: NIST SP 811 (2008), appendix B: psi, inch, foot pound-force, mile.
    def test_every_quantity_is_converted_and_nothing_else(self):
        metric = in_units(self.made(), "metric")
        reading = metric["tests"]["compression"][0]["readings"][0]["pressure"]
        self.assertEqual(reading, quantity(float(f"{150 * constants.psi / 1e3:.4g}"), "kPa"))
        self.assertEqual(metric["cylinders"][0]["plug"]["gap"], quantity(1.016, "mm"))
        self.assertEqual(metric["inspection"]["odometer"], quantity(160.9, "km"))
        self.assertEqual(metric["engine"]["specification"]["torque_new"], quantity(24.4, "N.m"))
        spread = metric["engine"]["specification"]["compression_max_spread"]
        self.assertEqual(spread, quantity(15, "%"))
        self.assertEqual(metric["inspection"]["plug_distance"], quantity(60, "h"))
        self.assertEqual(metric["cylinders"][0]["plug"]["deposit_colour"], "tan")

    def test_as_read_changes_nothing_and_there_and_back_is_the_same(self):
        made = self.made()
        self.assertEqual(in_units(made, "as-read"), made)
        back = in_units(in_units(made, "metric"), "imperial")
        reading = back["tests"]["compression"][0]["readings"][2]["pressure"]
        self.assertEqual(reading, quantity(112.0, "psi"))

    def test_units_never_change_the_answer(self):
        made = self.made()
        grades = [
            [one["grade"] for one in assess(in_units(made, system), explain=False)["cylinders"]]
            for system in ("as-read", "metric", "imperial")
        ]
        self.assertEqual(grades[0], grades[1])
        self.assertEqual(grades[0], grades[2])

    def test_a_system_that_is_none(self):
        with self.assertRaises(OutOfRange):
            in_units(self.made(), "ells")
