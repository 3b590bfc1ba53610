"""The shop's page: finding, house rules, the record, an engine over time."""

import re

from playwright.sync_api import expect

from core.document import check_document, write_document
from core.tests.documents import document
from server.engines.models import Engine
from server.inspections.models import Inspection
from server.inspections.services import import_document
from server.shops.models import HouseRules
from server.tests.browser.base import PHONE, BrowserTestCase


class ShopJourney(BrowserTestCase):
    def rows(self):
        return self.page.get_by_role("link").filter(has_text="read by")

    def test_what_is_asked_for_is_found(self):
        self.sign_in()
        expect(self.rows()).to_have_count(9)
        self.page.get_by_label("Find: name, number, note, part, code").fill("launch tb-114")
        expect(self.rows()).to_have_count(1)
        expect(self.rows()).to_contain_text("Launch Grebe")
        self.page.get_by_label("Grade", exact=True).select_option("A")
        expect(self.page.get_by_text("No inspection fits all of that")).to_be_visible()
        self.page.get_by_role("button", name="All", exact=True).click()
        expect(self.rows()).to_have_count(9)
        self.page.get_by_label("Find: name, number, note, part, code").fill("regatta EV-8")
        expect(self.rows()).to_have_count(1)
        self.page.reload()
        expect(self.rows()).to_have_count(1)
        expect(self.rows()).to_contain_text("exhaust valve of 3 renewed", ignore_case=True)
        self.page.get_by_role("button", name="All", exact=True).click()
        self.page.get_by_label("Suspected").select_option("head-gasket-between")
        expect(self.rows()).to_have_count(1)
        expect(self.rows()).to_contain_text("Merganser")
        self.page.get_by_label("Find an engine").fill("pump-2")
        expect(self.page.get_by_role("button", name="Inspect", exact=True)).to_have_count(1)

    def test_house_rules_are_tried_before_they_are_put_in_force(self):
        self.sign_in()
        self.page.get_by_role("link", name=re.compile("House rules")).click()
        force = self.page.get_by_role("button", name="Put in force")
        expect(force).to_be_disabled()
        self.page.get_by_label("Name").fill("Strict")
        self.page.get_by_label("Name").press("Enter")
        self.choose("Which compression school decides", "each within 10 % of the mean")
        self.page.get_by_role("button", name="What would change?").click()
        tried = self.page.get_by_role("main").get_by_role("status")
        expect(tried).to_contain_text("lowest within 75 % of highest: fail 4, 6")
        expect(tried).to_contain_text("each within 10 % of the mean: fail 1, 2, 3, 4, 5, 6")
        self.assertEqual(HouseRules.objects.count(), 0)
        force.click()
        expect(self.page.get_by_text("version 1, by Signe Aldersund")).to_be_visible()
        self.page.get_by_role("link", name="Back to the shop").click()
        engine = self.page.get_by_role("listitem").filter(has_text="Launch Grebe")
        engine.get_by_role("button", name="Inspect").click()
        self.page.get_by_role("button", name="Begin").click()
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        self.expect_saved()
        rules = Inspection.objects.latest("opened").document["house_rules"]
        self.assertEqual(rules, {"name": "Strict, version 1", "compression": "peers-10"})

    def test_an_inspection_is_deleted_and_brought_back(self):
        self.sign_in()
        rows = self.page.get_by_role("listitem").filter(has=self.rows())
        row = rows.filter(has_text="Merganser")
        row.get_by_label("More about").click()
        row.get_by_role("button", name="Delete").click()
        expect(self.rows()).to_have_count(8)
        done = self.page.get_by_role("status").filter(has_text="can be brought back for 30 days")
        done.get_by_role("button", name="Undo").click()
        expect(self.rows()).to_have_count(9)
        row.get_by_label("More about").click()
        row.get_by_role("button", name="Put by").click()
        expect(self.rows()).to_have_count(8)
        self.page.get_by_label("Among").select_option("archived")
        expect(self.rows()).to_have_count(1)
        self.page.get_by_role("button", name="Bring back").click()
        expect(self.page.get_by_text("No inspection fits all of that")).to_be_visible()

    def test_another_like_it_and_one_that_is_there_already(self):
        self.sign_in()
        engines = self.page.get_by_role("region", name="Engines")
        grebe = engines.get_by_role("listitem").filter(has_text="Launch Grebe")
        grebe.get_by_label("More about").click()
        grebe.get_by_role("link", name="Another like it").click()
        expect(self.page.get_by_label("Like one that the shop knows")).not_to_have_value("")
        self.page.get_by_label("Number or mark").fill("tb-114")
        twice = self.page.get_by_role("status").filter(has_text="has this mark already")
        expect(twice).to_be_visible()
        self.page.get_by_label("Number or mark").fill("TB-115")
        self.page.get_by_label("Name").fill("Launch Dunlin")
        before = Engine.objects.count()
        self.page.get_by_label("Name").press("Enter")
        self.assertEqual(Engine.objects.count(), before, "Enter finishes a field")
        self.page.get_by_role("button", name="Add and open").click()
        expect(self.page.get_by_role("heading", name="Launch Dunlin")).to_be_visible()
        self.expect_saved()
        made, model = (Engine.objects.get(identifier=mark).data for mark in ("TB-115", "TB-114"))
        named = ("title", "identifier")
        self.assertEqual(
            {name: value for name, value in made.items() if name not in named},
            {name: value for name, value in model.items() if name not in named},
        )

    def test_an_outcome_stands_in_the_shops_record(self):
        self.open("Launch Grebe")
        self.page.keyboard.press("3")
        self.step("Prove", "What it was")
        turned = self.page.get_by_role("region", name="What it turned out to be")
        turned.get_by_role("button", name="exhaust valve not sealing").click()
        self.expect_saved()
        self.page.get_by_role("link", name="Fiacre, to the shop").click()
        record = self.page.get_by_role("region", name="The shop's own record")
        expect(record).to_contain_text("First guess right, of 7 cylinders")
        expect(record).to_contain_text("100\u00a0%")

    def test_an_engine_is_followed_over_time(self):
        first = Inspection.objects.get(engine__identifier="TB-114")
        later = {**first.document, "inspection": {"date": "2026-11-20"}}
        later["tests"] = {
            "compression": [
                {"kind": "dry", "readings": [
                    {"cylinder": n, "pressure": {"value": 150, "unit": "psi"}} for n in range(1, 5)
                ]}
            ]
        }  # fmt: skip
        later["cylinders"] = []
        data = write_document(check_document(later))
        import_document(shop=self.shop, by=None, data=data)
        self.sign_in()
        self.page.get_by_role("link").filter(has_text="2026-11-20").click()
        self.step("Story", "Earlier")
        over = self.page.get_by_role("region", name="Over time")
        expect(over).to_contain_text("no longer suspected: exhaust valve not sealing on 3")
        expect(over).to_contain_text("Dry compression since the first reading")


class ShopOnAPhone(BrowserTestCase):
    viewport = PHONE
    touch = True

    def test_neither_the_shop_nor_its_rules_are_wider_than_a_phone(self):
        long = "Passenger launch with a name that goes on and on, port engine of two, " * 2
        data = write_document(check_document(document(4, title=long)))
        import_document(shop=self.shop, by=None, data=data)
        self.sign_in()
        for address in ("/", "/rules", "/engines/new", "/device", "/due", "/training"):
            self.page.goto(f"{self.live_server_url}{address}")
            expect(self.page.get_by_role("heading", level=1)).to_be_visible()
            wide = self.page.evaluate("document.documentElement.scrollWidth")
            with self.subTest(address=address):
                self.assertLessEqual(wide, PHONE["width"])
