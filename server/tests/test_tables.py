"""Tables as programs write them: dialects, encodings, workbooks, and what is none."""

import io
import zipfile

from django.test import TestCase
from openpyxl import Workbook

from server.tests.people import inspection_of, shop_with

PRESSURE = "/tests/compression/dry-1/readings/2/pressure"


class CellsTests(TestCase):
    def setUp(self):
        self.user = shop_with()
        self.client.force_login(self.user)

    def read(self, data, asked=""):
        address = f"/api/inspections/{inspection_of(self.user).pk}/cells{asked}"
        return self.client.post(address, data, "application/octet-stream")

    def found(self, data, asked=""):
        answer = self.read(data, asked)
        self.assertEqual(answer.status_code, 200, answer.content)
        return {one["path"]: one["value"] for one in answer.json()["entries"]}

    def test_every_common_dialect_says_the_same(self):
        plain = "Cyl;Dry (bar);Note\r\n1;10,2;läuft\r\n2;6,4;\r\n"
        for name, data in {
            "semicolons, the West's old encoding": plain.encode("cp1252"),
            "a mark of order": plain.encode("utf-8-sig"),
            "two bytes a letter": plain.encode("utf-16"),
            "pasted": plain.replace(";", "\t").encode(),
            "commas and quotes": b'"Cyl","Dry (bar)","Note"\n1,10.2,"l\xc3\xa4uft"\n2,"6,4",""\n',
        }.items():
            with self.subTest(name=name):
                found = self.found(data)
                self.assertEqual(found[PRESSURE], {"value": 6.4, "unit": "bar"})
                self.assertEqual(found["/cylinders/1/note"], "läuft")

    def test_a_workbook_and_a_mapping_of_ones_own(self):
        book = Workbook()
        for row in (("Nr", "A", "B"), (1, 150, 0.9), (2, 82.0, None)):
            book.active.append(row)
        data = io.BytesIO()
        book.save(data)
        found = self.found(data.getvalue(), "?holds=cylinder&holds=dry&holds=gap&unit=&unit=psi")
        self.assertEqual(found[PRESSURE], {"value": 82.0, "unit": "psi"})
        self.assertEqual(found["/cylinders/1/plug/gap"], {"value": 0.9, "unit": "mm"})

    def test_what_is_no_table_is_refused_in_words(self):
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as book:
            book.writestr("xl/worksheets/sheet1.xml", b"0" * 30_000_000)
        for data in (packed.getvalue(), b"PK\x03\x04 no", bytes(range(256)), b"1" * 2_000_001):
            with self.subTest(data=data[:8]):
                answer = self.read(data)
                self.assertIn(answer.status_code, (400, 413))
                self.assertIn("problems", answer.json())
        self.assertEqual(self.found(b""), {})
