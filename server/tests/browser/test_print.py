"""What is printed from the browser: the plan on one page."""

import io

from playwright.sync_api import expect
from pypdf import PdfReader

from server.tests.browser.base import BrowserTestCase


class PrintTests(BrowserTestCase):
    def test_the_plan_of_each_demo_engine_is_one_page(self):
        self.sign_in()
        for title in ("Merganser", "Launch Grebe", "Village fire pump"):
            self.page.goto(self.live_server_url)
            self.page.get_by_role("link").filter(has_text="read by").filter(has_text=title).click()
            expect(self.page.get_by_label("Engine plan")).to_be_visible()
            self.step("Plan")
            expect(self.page.get_by_role("region", name="Steps")).to_be_visible()
            printed = PdfReader(io.BytesIO(self.page.pdf(format="A4")))
            text = " ".join(printed.pages[0].extract_text().split())
            with self.subTest(engine=title):
                self.assertEqual(len(printed.pages), 1)
                for words in ("Before you start", "To bring", "In this order", "Labels for"):
                    self.assertIn(words, text)
                self.assertNotIn("Print this page", text)
