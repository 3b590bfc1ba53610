"""The report in a client's language: all of it, signed or not, on paper and behind a link."""

import json
import random
import re
from contextlib import suppress
from datetime import UTC, datetime
from html.parser import HTMLParser
from unittest import mock

from core.errors import DocumentRefused
from core.language import PROOF, speaking, spoken_language
from core.tests.random_documents import random_document
from core.tests.test_language import outside
from server.inspections.services import import_document
from server.reports.models import Signing
from server.reports.pdf import html, job_html
from server.shops.models import Shop
from server.tests.test_reports import ReportCase

READ_ALOUD = ("alt", "aria-label", "title")
# Names of people and shops, digests, the two languages' own names, and the record's own words.
GIVEN = re.compile(r"^(Text|[A-EU]|[a-e]|[0-9a-f]{8,}|sha256|UTC)$")
IDS = re.compile(r"fiacre-inspection|\b[a-z_]+-\d+\b")  # The second as random documents have them.


class Texts(HTMLParser):
    """What somebody reads or hears of a page."""

    def __init__(self, page):
        super().__init__()
        self.found, self.skipped = [], 0
        self.feed(page)

    def handle_starttag(self, tag, attrs):
        self.skipped += tag == "style"
        self.found += [value for name, value in attrs if name in READ_ALOUD]

    def handle_endtag(self, tag):
        self.skipped -= tag == "style"

    def handle_data(self, data):
        if not self.skipped and data.strip():
            self.found.append(data)


class LanguageTests(ReportCase):
    def past(self, inspection):
        """Words of both papers that no catalogue was asked for."""
        with speaking(PROOF):
            pages = html(inspection, "metric", photos=False), job_html(inspection, "metric")
        known = set(re.findall(r"\w+", f"{inspection.shop.name} {inspection.opened_by.name}"))
        texts = [text for page in pages for text in Texts(page).found]
        texts = [IDS.sub("", text) for text in texts]
        words = {word for text in texts for word in outside(text)} - known
        return {word for word in words if not GIVEN.match(word)}

    def test_nothing_of_a_report_goes_past_the_catalogue(self):
        source, read = random.Random(8), 0
        for _ in range(12):
            with suppress(DocumentRefused):
                made = import_document(
                    shop=self.user.shop,
                    by=self.user,
                    data=json.dumps(random_document(source)).encode(),
                )
                self.assertEqual(self.past(made), set())
                read += 1
        self.assertGreater(read, 6)

    def test_a_clients_page_is_in_the_language_of_its_link_and_turns_to_another(self):
        address = self.send("/links", {"days": 7, "language": "de"}).json()["address"]
        self.client.logout()
        page = self.client.get(address)
        self.assertContains(page, '<html lang="de">')
        self.assertContains(page, "Zylinder 4 und 6: ein Leck vom einen in den anderen")
        self.assertContains(page, "690 kPa")
        self.assertContains(page, 'href="?language=en"')
        english = self.client.get(f"{address}?language=en")
        self.assertContains(english, "Cylinders 4 and 6: a leak from one into the other")
        gone = self.client.get("/r/guessed", headers={"Accept-Language": "de-AT,en;q=0.5"})
        self.assertContains(gone, "abgelaufen", status_code=404)

    def test_what_was_signed_is_told_as_it_was_signed(self):
        """In the shop's language by the rules of its day; in another one while they are today's."""
        Shop.objects.update(language="de")
        self.send("/handing-over")
        signed = Signing.objects.get()
        self.assertIn("verlieren gemeinsam Druck", self.page())
        signed.content["assessment"]["rules_version"] = "its-day"
        signed.save()
        self.assertIn("verlieren gemeinsam Druck", self.page())
        signed.told = {}
        signed.save()
        page = self.page()
        self.assertIn("lose pressure together", page)
        self.assertIn("steht auf Englisch", page)

    def page(self):
        with speaking("de"):
            return html(self.inspection, "as-read", photos=False)

    def test_the_shops_language_is_what_its_reports_are_in(self):
        with mock.patch("server.reports.views.pdf", return_value=b"%PDF") as made:
            made.side_effect = lambda *_, **__: spoken_language().encode()
            self.assertEqual(self.client.get(f"{self.address}/report").content, b"en")
            Shop.objects.update(language="de")
            self.assertEqual(self.client.get(f"{self.address}/report").content, b"de")
            asked = self.client.get(f"{self.address}/report?language=en")
            self.assertEqual(asked.content, b"en")
        self.assertEqual(self.client.get(f"{self.address}/report?language=tlh").status_code, 400)

    def test_the_shop_has_units_and_a_clock_of_its_own(self):
        self.send("/handing-over")
        Signing.objects.update(at=datetime(2026, 7, 1, 22, 30, tzinfo=UTC))
        Shop.objects.update(units="imperial", time_zone="Europe/Oslo")
        self.inspection.shop.refresh_from_db()
        page = html(self.inspection, "as-read", photos=False)
        self.assertIn("Signed 2 July 2026", page)
        self.assertIn("on 2026-07-02 00:30 CEST", page)
        link = self.send("/links", {"days": 7}).json()
        self.assertEqual(link["units"], "imperial")
        shop = self.client.get("/api/shop").json()
        wrong = self.client.put("/api/shop", {**shop, "time_zone": "Mars"}, "application/json")
        self.assertEqual(wrong.status_code, 400)
        kept = self.client.put("/api/shop", {**shop, "units": "metric"}, "application/json")
        self.assertEqual(
            (kept.json()["units"], kept.json()["time_zone"]), ("metric", "Europe/Oslo")
        )
