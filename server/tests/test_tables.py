"""Tables as programs write them: dialects, encodings, workbooks, and what is none."""

import io
import zipfile
from datetime import date

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


class HistoriesTests(TestCase):
    TABLE = (
        "Boat;Date;Hours;Cyl;Dry (bar)\n"
        "TB-7;31.05.2025;410;1;10,2\nTB-7;31.05.2025;;2;9,9\n"
        "TB-7;02.06.2026;480;1;9,8\nOther;02.06.2026;;1;11\n"
    )

    def setUp(self):
        self.user = shop_with()
        self.client.force_login(self.user)

    def read(self, data, asked=""):
        return self.client.post(f"/api/histories{asked}", data, "application/octet-stream")

    def test_past_inspections_come_in_as_files_do_under_the_engine_that_is_there(self):
        engine = inspection_of(self.user).engine
        engine.identifier = engine.data["identifier"] = "tb-7"
        engine.title = engine.data["title"] = "Launch"
        engine.save()
        told = self.read(self.TABLE.encode()).json()
        self.assertEqual([one["known"] for one in told["inspections"]], [True, True, False])
        for one in told["inspections"]:
            made = self.client.post("/api/inspections/import", one["document"], "application/json")
            self.assertEqual(made.status_code, 201, made.content)
        self.assertEqual(engine.inspections.count(), 3)
        dates = sorted(str(one.date) for one in engine.inspections.all())
        self.assertIn("2025-05-31", dates)

    def test_a_workbooks_days_are_days_and_another_shops_engines_nobodys(self):
        elsewhere = inspection_of(shop_with(name="Elsewhere")).engine
        type(elsewhere).objects.filter(pk=elsewhere.pk).update(identifier="TB-7")
        book = Workbook()
        for row in (("Boat", "Date", "Cyl", "Dry (bar)"), ("TB-7", date(2025, 5, 31), 1, 10.2)):
            book.active.append(row)
        written = io.BytesIO()
        book.save(written)
        (one,) = self.read(written.getvalue()).json()["inspections"]
        self.assertEqual((one["date"], one["known"]), ("2025-05-31", False))
        self.assertEqual(self.read(b"Boat;Date\n").status_code, 400)
