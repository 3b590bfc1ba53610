"""Whatever the API is sent within its own description: no failure of the server, no other shop.

The requests are made by a general-purpose fuzzer from docs/openapi.yaml; half of those that name an
inspection, an engine or a link name one of this shop, and half one of another.
"""

import json
from pathlib import Path

import schemathesis
from django.test import TestCase
from hypothesis import HealthCheck, given, settings
from schemathesis.core import NotSet

from server.demo.load import DOCUMENTS
from server.inspections.models import Inspection, Observation
from server.inspections.services import import_document
from server.reports.models import ReportLink, Signing
from server.tests.people import own_media, shop_with

DESCRIPTION = Path(__file__).parents[2] / "docs" / "openapi.yaml"
EXAMPLES = 5
LEFT_OUT = {"/api/session"}  # Would sign the fuzzer out; test_access tries it.
UNSEEN = (400, 401, 403, 404, 405, 406, 409, 415)


class FuzzTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        data = (DOCUMENTS / "pump-inline-three.json").read_bytes()
        cls.user, cls.other = shop_with("owner"), shop_with("owner", "Another shop")
        cls.own = import_document(shop=cls.user.shop, by=cls.user, data=data)
        cls.theirs = import_document(shop=cls.other.shop, by=cls.other, data=data)

    def setUp(self):
        own_media(self)
        self.client.raise_request_exception = False
        self.client.force_login(self.user)

    def send(self, case, inspection):
        """One made-up request, to one inspection and its engine."""
        ids = {"inspection_id": str(inspection.pk), "engine_id": str(inspection.engine_id)}
        path = case.path
        for name, value in {**(case.path_parameters or {}), **ids}.items():
            path = path.replace(f"{{{name}}}", str(value).replace("/", "_") or "_")
        body = b"" if isinstance(case.body, NotSet) else case.body
        kind = case.media_type or "application/json"
        if not isinstance(body, bytes):
            body = json.dumps(body, default=str).encode("utf-8", "replace")
        return self.client.generic(
            case.method, path, body, content_type=kind, query_params=dict(case.query or {})
        )

    def test_every_operation(self):
        schema = schemathesis.openapi.from_path(str(DESCRIPTION))
        tried = 0
        for found in schema.get_all_operations():
            operation = found.ok()
            if operation.path in LEFT_OUT:
                continue
            with self.subTest(operation=f"{operation.method} {operation.path}"):
                self.fuzz(operation)
                tried += 1
        self.assertGreater(tried, 20)

    def fuzz(self, operation):
        before = self.seen_of_other()

        @settings(
            max_examples=EXAMPLES,
            deadline=None,
            derandomize=True,
            database=None,
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy())
        def run(case):
            answer = self.send(case, self.own)
            self.assertLess(answer.status_code, 500, said(answer))
            if "_id}" in operation.path:
                answer = self.send(case, self.theirs)
                self.assertIn(answer.status_code, UNSEEN, said(answer))
                self.assertNotIn(b"Village fire pump", said(answer))

        run()
        self.assertEqual(self.seen_of_other(), before, "another shop's things were touched")

    def seen_of_other(self):
        shop = self.other.shop
        return (
            Inspection.objects.filter(shop=shop).values_list("sequence", "document").get(),
            Observation.objects.filter(inspection__shop=shop).count(),
            Signing.objects.filter(inspection__shop=shop).count(),
            ReportLink.objects.filter(inspection__shop=shop).count(),
            list(shop.engines.values_list("title", "data")),
        )


def said(answer):
    """What an answer says, however it is sent."""
    return b"".join(answer.streaming_content) if answer.streaming else answer.content
