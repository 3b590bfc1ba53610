"""Pulling the database away in the middle of recording."""

import psycopg
from django.conf import settings
from django.db import connections
from playwright.sync_api import expect

from server.inspections.models import Inspection
from server.tests.browser.base import BrowserTestCase


class DatabaseAwayTests(BrowserTestCase):
    def database(self, allowed):
        """Let connections to the test database in, or throw all of them out."""
        given = settings.DATABASES["default"]
        connections.close_all()
        name = given["NAME"]
        with psycopg.connect(
            host=given["HOST"], port=given["PORT"], user=given["USER"],
            password=given["PASSWORD"], dbname="postgres", autocommit=True,
        ) as other:  # fmt: skip
            other.execute(f'ALTER DATABASE "{name}" WITH ALLOW_CONNECTIONS {allowed}')
            if not allowed:
                # Ours alone: the database's own sweepers come by too, and nobody may end those.
                other.execute(
                    "SELECT pg_terminate_backend(pid) FROM pg_stat_activity "
                    "WHERE datname = %s AND usename = current_user",
                    [name],
                )

    def test_everything_confirmed_is_there_and_nothing_twice(self):
        self.open("Village fire pump")
        self.page.keyboard.press("1")
        self.choose("Insulator", "chipped")
        self.expect_saved()
        status = self.page.get_by_role("status", name="Entries")
        try:
            self.database(allowed=False)
            self.choose("Deposit colour", "grey")
            expect(status).to_contain_text("1 entry on this device, not yet saved")
            self.choose("Deposit texture", "crust")
            expect(status).to_contain_text("2 entries on this device, not yet saved")
            expect(self.page.get_by_role("radio", name="grey")).to_be_checked()
        finally:
            self.database(allowed=True)
        expect(status).to_have_text("All saved")
        inspection = Inspection.objects.get(engine__identifier="PUMP-2")
        first = inspection.document["cylinders"][0]
        self.assertEqual(first["plug"]["insulator"], "chipped")
        self.assertEqual(first["plug"]["deposit_colour"], "grey")
        self.assertEqual(first["plug"]["deposit_texture"], "crust")
        for path in ("plug/insulator", "plug/deposit_colour", "plug/deposit_texture"):
            rows = inspection.observations.filter(path=f"/cylinders/1/{path}")
            self.assertEqual(rows.count(), 2, "the imported one, and the one recorded here")

    def test_what_waits_outlives_the_page(self):
        self.open("Village fire pump")
        self.page.keyboard.press("2")
        try:
            self.database(allowed=False)
            self.choose("Deposit colour", "white")
            expect(self.page.get_by_role("status", name="Entries")).to_contain_text("not yet saved")
            self.page.goto("about:blank")
        finally:
            self.database(allowed=True)
        self.page.goto(self.live_server_url)
        self.page.get_by_role("link").filter(has_text="read by").filter(
            has_text="Village fire pump"
        ).click()
        self.expect_saved()
        inspection = Inspection.objects.get(engine__identifier="PUMP-2")
        self.assertEqual(inspection.document["cylinders"][1]["plug"]["deposit_colour"], "white")
