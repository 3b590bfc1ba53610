"""What is written down of a request and counted: its route and its id, nobody's name or secret."""

import json
import logging
from unittest.mock import patch

import sentry_sdk
from django.conf import settings
from django.test import TestCase
from pythonjsonlogger.json import JsonFormatter
from sentry_sdk.transport import Transport

from server.api.reporting import REPORTED
from server.api.watching import WithRequestId
from server.tests.people import inspection_of, shop_with

KEY = {"METRICS_KEY": "k" * 32}
CLIENT = "hedda"


class WatchingTests(TestCase):
    def lines(self, address, **headers):
        with self.assertLogs("fiacre.access", "INFO") as logged:
            answer = self.client.get(address, headers=headers)
        return answer, logged.records

    def test_a_request_keeps_its_id_and_an_odd_one_gets_another(self):
        answer, _ = self.lines("/healthz", **{"X-Request-Id": "from-the-proxy-1"})
        self.assertEqual(answer["X-Request-Id"], "from-the-proxy-1")
        for odd in ("short", "a\tb" * 10, "x" * 500):
            answer, _ = self.lines("/healthz", **{"X-Request-Id": odd})
            self.assertRegex(answer["X-Request-Id"], "^[0-9a-f]{32}$")

    def test_a_line_names_the_route_and_no_address(self):
        person = shop_with("owner")
        self.client.force_login(person)
        made = inspection_of(person)
        _, (line,) = self.lines(f"/api/inspections/{made.pk}?q=secret-name")
        self.assertEqual(line.route, "api/inspections/<uuid:inspection_id>")
        self.assertEqual((line.method, line.status), ("GET", 200))
        told = json.loads(self.formatted(line))
        self.assertEqual(told["route"], line.route)
        self.assertNotIn(str(made.pk), json.dumps(told))
        self.assertNotIn("secret-name", json.dumps(told))
        _, (line,) = self.lines("/r/nobody-knows-this-one")
        self.assertEqual((line.route, line.status), ("r/<str:secret>", 404))

    def formatted(self, line):
        WithRequestId().filter(line)
        given = settings.LOGGING["formatters"]["json"]
        return JsonFormatter(given["fmt"], rename_fields=given["rename_fields"]).format(line)

    def test_an_error_report_tells_the_fault_and_nobody(self):
        """What would go out, of an error in a view with a secret in its address."""
        sent = []

        class Kept(Transport):
            def capture_envelope(self, envelope):
                sent.append(envelope.get_event())

        client = sentry_sdk.Client(dsn="http://key@127.0.0.1/1", transport=Kept, **REPORTED)
        with sentry_sdk.isolation_scope() as scope:
            scope.set_client(client)
            scope.set_user({"email": f"{CLIENT}@client.example"})
            scope.add_breadcrumb(message=f"{CLIENT} opened /r/secret")
            scope.add_event_processor(
                lambda event, _: {**event, "request": {
                    "url": f"http://fiacre.test/r/{CLIENT}", "method": "GET",
                    "query_string": f"q={CLIENT}", "headers": {"Cookie": f"sessionid={CLIENT}"},
                }}
            )  # fmt: skip
            try:
                raise ZeroDivisionError(f"Key (email)=({CLIENT}) already exists")
            except ZeroDivisionError:
                sentry_sdk.capture_exception()
        told = json.dumps(sent[0], default=str)
        self.assertIn("ZeroDivisionError", told)
        self.assertEqual(sent[0]["request"], {"method": "GET"})
        self.assertNotIn(CLIENT, told)

    def test_counters_are_for_whoever_has_the_key(self):
        self.assertEqual(self.client.get("/metrics").status_code, 404)
        with patch.dict("os.environ", KEY):
            wrong = self.client.get("/metrics", headers={"Authorization": "Bearer no"})
            self.assertEqual(wrong.status_code, 404)
            self.client.get("/healthz")
            right = self.client.get(
                "/metrics", headers={"Authorization": f"Bearer {KEY['METRICS_KEY']}"}
            )
        self.assertContains(right, 'fiacre_request_seconds_count{method="GET",route="healthz"')
        self.assertContains(right, 'fiacre_jobs{state="ready"} 0.0')

    def test_without_being_asked_for_the_access_log_is_still(self):
        self.assertGreater(logging.getLogger("fiacre.access").level, logging.INFO)
