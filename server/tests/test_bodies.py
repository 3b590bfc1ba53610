"""Bodies that fail before anything reads them: refused in JSON, whoever sends them."""

import uuid
from pathlib import Path
from tempfile import TemporaryDirectory
from threading import Thread

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import connection, transaction
from django.test import Client, TestCase, TransactionTestCase

from server.reports.pdf import FONTS, _own_font
from server.tests.people import inspection_of, shop_with

DEEP = b'{"observations":' + b"[" * 100_000 + b"]" * 100_000 + b"}"
BODIES = (
    ("nested too deep", "application/json", DEEP),
    ("a lone surrogate", "application/json", b'{"email": "\\ud800", "password": "\\ud800"}'),
    ("no UTF-8", "application/json", b'{"email": "\xff\xfe"}'),
    ("an odd charset", "application/json; charset=utf-99", b'{"email": "a"}'),
    ("another charset", "application/json; charset=utf-16", b'{"email": "a"}'),
    ("a form", "application/x-www-form-urlencoded", b"email=a"),
    ("a list", "application/json", b"[1, 2]"),
    ("a number", "application/json", b"7"),
    ("not a number", "application/json", b'{"email": NaN}'),
    ("nothing", "application/json", b""),
    ("a NUL", "application/json", b'{"email": "a\\u0000@b.example", "password": "x"}'),
    ("too large", "application/json", b'{"email": "' + b"a" * 7_000_000 + b'"}'),
)


class BodyTests(TestCase):
    def setUp(self):
        self.user = shop_with("owner")
        self.inspection = inspection_of(self.user)
        self.client.force_login(self.user)
        self.client.raise_request_exception = False

    def test_they_are_refused_in_json(self):
        one = f"/api/inspections/{self.inspection.pk}"
        addresses = (
            ("post", "/api/session"), ("post", "/api/set-up"), ("post", "/api/forgotten"),
            ("post", "/api/engines"), ("post", "/api/inspections"),
            ("post", "/api/inspections/import"),
            ("post", f"{one}/observations"), ("put", f"{one}/kept"), ("put", "/api/shop/rules"),
            ("put", "/api/me"), ("post", "/api/people"), ("post", "/api/engine-plan"),
        )  # fmt: skip
        stranger = Client(raise_request_exception=False)
        for method, address in addresses:
            for name, content_type, body in BODIES:
                for who, client in (("signed in", self.client), ("a stranger", stranger)):
                    with self.subTest(address=address, body=name, who=who):
                        answer = client.generic(method.upper(), address, body, content_type)
                        self.assertIn(answer.status_code, (400, 401, 403, 413, 415))
                        self.assertIn("code", answer.json())
                        self.assertNotIn(" at 0x", answer.content.decode())

    def test_one_place_has_one_spelling(self):
        address = f"/api/inspections/{self.inspection.pk}/observations"
        for number in ("01", "+1", "1.0", "１", "%31", "0", "-1", "100"):
            path = f"/cylinders/{number}/plug/smell"
            said = {"client_id": str(uuid.uuid4()), "path": path, "value": "fuel"}
            with self.subTest(number=number):
                answer = self.client.post(address, {"observations": [said]}, "application/json")
                self.assertEqual(answer.status_code, 400)


class FileTests(TestCase):
    def test_a_report_takes_its_own_fonts_and_no_other_file(self):
        own = next(FONTS.glob("*.woff2"))
        self.assertTrue(_own_font(own.as_uri()))
        for address in (
            f"{FONTS.as_uri()}/../../settings.py", f"{FONTS.as_uri()}/%2e%2e/%2e%2e/settings.py",
            "file:///etc/passwd", "http://example.test/a.woff2", f"file://elsewhere{own}",
        ):  # fmt: skip
            with self.subTest(address=address):
                self.assertFalse(_own_font(address))

    def test_photos_are_not_for_other_users_of_the_machine(self):
        with TemporaryDirectory() as folder, self.settings(MEDIA_ROOT=folder):
            name = default_storage.save("photos/a/b.jpg", ContentFile(b"x"))
            place = Path(folder) / name
            self.assertEqual(place.stat().st_mode & 0o077, 0)
            self.assertEqual(place.parent.stat().st_mode & 0o077, 0)


class BusyTests(TransactionTestCase):
    def test_a_lock_that_somebody_else_holds_is_told_apart_from_a_database_that_is_away(self):
        user = shop_with("owner")
        inspection = inspection_of(user)
        self.client.force_login(user)
        said = {"client_id": str(uuid.uuid4()), "path": "/cylinders/1/plug/smell", "value": "fuel"}
        answers = []

        def record():
            with connection.cursor() as cursor:
                cursor.execute("SET lock_timeout = '200ms'")
            address = f"/api/inspections/{inspection.pk}/observations"
            body = {"observations": [said]}
            answers.append(self.client.post(address, body, "application/json"))
            connection.close()

        with transaction.atomic():
            type(inspection).objects.select_for_update().get(pk=inspection.pk)
            other = Thread(target=record)
            other.start()
            other.join()
        self.assertEqual(
            (answers[0].status_code, answers[0].json()["code"]), (503, "database-busy")
        )
