"""Bodies that fail before anything reads them: refused in JSON, whoever sends them."""

import io
import socket
import uuid
from pathlib import Path
from tempfile import TemporaryDirectory
from threading import Thread
from unittest.mock import patch

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import connection, transaction
from django.test import (
    Client,
    RequestFactory,
    SimpleTestCase,
    TestCase,
    TransactionTestCase,
)
from prometheus_client import REGISTRY

from server.bodies import Patient, bounded
from server.reports.pdf import FONTS, _own_font
from server.shops.keys import make
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

    def test_a_form_is_no_photo(self):
        address = f"/api/inspections/{self.inspection.pk}/photos"
        joined = f"{address}?path=/cylinders/1/photos&client_id={uuid.uuid4()}"
        for kind, body in (
            ("application/x-www-form-urlencoded", b"a=b"),
            ("multipart/form-data; boundary=x", b"--x\r\n"),
            ("image/heic", b"\0\0\0\x18ftypheic" + bytes(300)),
        ):
            with self.subTest(kind=kind):
                answer = self.client.generic("POST", joined, body, kind)
                self.assertIn(answer.status_code, (400, 415))

    def test_a_method_that_somebody_invents_is_counted_with_the_others(self):
        for name in ("INVENTED", "PROPFIND", "X" * 200):
            self.client.generic(name, "/api/me", b"")
        methods = {
            sample.labels.get("method")
            for metric in REGISTRY.collect()
            if metric.name == "fiacre_request_seconds"
            for sample in metric.samples
        }
        self.assertLessEqual(methods, {"GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS",
                                       "another"})  # fmt: skip

    def test_one_place_has_one_spelling(self):
        address = f"/api/inspections/{self.inspection.pk}/observations"
        for number in ("01", "+1", "1.0", "１", "%31", "0", "-1", "100"):
            path = f"/cylinders/{number}/plug/smell"
            said = {"client_id": str(uuid.uuid4()), "path": path, "value": "fuel"}
            with self.subTest(number=number):
                answer = self.client.post(address, {"observations": [said]}, "application/json")
                self.assertEqual(answer.status_code, 400)


class PatienceTests(SimpleTestCase):
    """How long a socket is read, by a clock of its own."""

    def setUp(self):
        here, self.there = socket.socketpair()
        self.addCleanup(here.close)
        self.addCleanup(self.there.close)
        self.now = 1000.0
        clock = patch("server.bodies.time.monotonic", lambda: self.now)
        clock.start()
        self.addCleanup(clock.stop)
        self.patient = Patient(here)

    def test_a_connection_that_was_opened_for_later_is_read_when_it_speaks(self):
        self.now += 60
        self.there.sendall(b"GET")
        self.assertEqual(self.patient.recv(100), b"GET")

    def test_who_trickles_is_let_go_and_who_sends_on_is_not(self):
        for _ in range(20):  # A megabyte over a bad line: slow, and at work.
            self.there.sendall(bytes(50_000))
            self.assertEqual(len(self.patient.recv(50_000)), 50_000)
            self.now += 4
        self.now += 60
        self.there.sendall(b"x")
        with self.assertRaises(ConnectionResetError):
            self.patient.recv(1)


class BoundedTests(TestCase):
    """What comes in before Django begins."""

    def asked(self, body=b"", **environ):
        """The answer's status, and how much of the body was read."""
        stream, told = io.BytesIO(body), []
        given = {**RequestFactory().generic("POST", "/api/session").environ, **environ}
        given = {"CONTENT_LENGTH": str(len(body)), **given, "wsgi.input": stream, **environ}
        inner = bounded(lambda environ, start: (start("200 OK", []), environ)[1:])
        (seen,) = inner(given, lambda status, headers: told.append(int(status[:3]))) or ({},)
        return told[0], stream.tell(), seen

    def test_a_promise_is_refused_without_being_read(self):
        status, read, _ = self.asked(b"{", CONTENT_LENGTH="20000001")
        self.assertEqual((status, read), (413, 0))

    def test_nobody_unknown_makes_it_read_more_than_a_little(self):
        body = b"a" * 50_000
        for who in ({}, {"HTTP_COOKIE": "sessionid=invented"}, {"HTTP_AUTHORIZATION": "Bearer x"}):
            with self.subTest(**who):
                self.assertEqual(
                    self.asked(body, CONTENT_LENGTH=str(len(body)), **who)[:2], (413, 0)
                )
        user = shop_with("owner")
        self.client.force_login(user)
        cookie = f"sessionid={self.client.cookies['sessionid'].value}"
        _, secret = make(user, "a program", "write", 9)
        for who in ({"HTTP_COOKIE": cookie}, {"HTTP_AUTHORIZATION": f"Bearer {secret}"}):
            with self.subTest(**who):
                self.assertEqual(self.asked(body, CONTENT_LENGTH=str(len(body)), **who)[0], 200)

    def test_a_charset_that_is_no_text_is_forgotten(self):
        for said, left in (
            ("text/plain; charset=zlib", "text/plain"),
            ("application/json; charset=rot13", "application/json"),
            ("application/json; charset=none-such", "application/json"),
            ("application/json; charset=UTF-8", "application/json; charset=UTF-8"),
        ):
            with self.subTest(said):
                self.assertEqual(self.asked(CONTENT_TYPE=said)[2]["CONTENT_TYPE"], left)


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
