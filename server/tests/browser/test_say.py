"""A vee-eight said aloud: sixteen lines, and what was said stands as if it had been keyed in."""

import json
import re

from playwright.sync_api import expect

from core.tests.documents import document
from server.inspections.services import import_document
from server.tests.browser.base import PHONE, BrowserTestCase

FACES = (
    "one, brown and dry, gap forty thou",
    "two same as one",
    "three, black, wet with fuel, gap forty two thou",
    "four, tan, dry",
    "five came out by hand, tan, dry",
    "six, tan, dry, strap's bent",
    "seven and eight are brown and dry",
    "eight, gap forty one thou",
)
PRESSURES = "one forty six, one forty four, eighty two, one forty seven, one forty five, " \
            "one forty six, one fifty, one forty four"  # fmt: skip


class SayTests(BrowserTestCase):
    viewport = PHONE
    touch = True

    def test_a_vee_eight_said_with_one_hand(self):
        made = document(8, layout="vee", title="Said aloud")
        data = json.dumps(made).encode()
        inspection = import_document(shop=self.shop, by=None, data=data)
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/inspections/{inspection.pk}/faces/1")
        for line in FACES:
            self.say(line)
        self.page.get_by_role("button", name="Close").click()
        self.page.goto(f"{self.live_server_url}/inspections/{inspection.pk}/dry/1")
        self.say(PRESSURES)
        self.say("three, ninety")
        panel = self.page.get_by_role("region", name="Say it")
        expect(panel).to_contain_text("82 psi was recorded here, now 90 psi: which?")
        self.expect_saved()
        inspection.refresh_from_db()
        plugs = {one["number"]: one["plug"] for one in inspection.document["cylinders"]}
        self.assertEqual(plugs[2], plugs[1])
        self.assertEqual((plugs[3]["deposit_colour"], plugs[3]["wet_with"]), ("black", "fuel"))
        self.assertEqual((plugs[5]["seating"], plugs[6]["ground_electrode"]), ("loose", "bent"))
        self.assertEqual(plugs[8]["gap"], {"value": 41, "unit": "thou"})
        test = inspection.document["tests"]["compression"][0]
        read = [one["pressure"]["value"] for one in test["readings"]]
        self.assertEqual(read, [146, 144, 82, 147, 145, 146, 150, 144])
        said = [one["text"] for one in inspection.document["inspection"]["said"]]
        self.assertEqual(said, [*FACES, PRESSURES, "three, ninety"])

    def say(self, line):
        field = self.page.get_by_label("Say it:")
        if not field.count():
            self.page.get_by_role("button", name="Say it", exact=True).click()
        field.fill(line)
        field.press("Enter")
        taken = self.page.get_by_role("button", name=re.compile("^Yes, "))
        apart = self.page.get_by_role("group", name="Each by itself").get_by_role("button")
        asked = self.page.get_by_text("which?")
        expect(taken.or_(apart.first).or_(asked).first).to_be_visible()
        if taken.count():
            taken.click()
        while apart.count():
            apart.first.click()
        if not asked.count():
            expect(self.page.get_by_text("Taken.")).to_be_visible()
