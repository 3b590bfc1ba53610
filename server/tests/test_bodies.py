"""Bodies that fail before anything reads them: refused in JSON, whoever sends them."""

from django.test import Client, TestCase

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
