"""What a person can do, from the door to the verdict."""

import json
import re
from pathlib import Path

from playwright.sync_api import expect

from core.tests.documents import document
from server.inspections.models import Inspection
from server.tests.browser.base import PHONE, BrowserTestCase


class ShopJourney(BrowserTestCase):
    def test_a_wrong_password_stays_at_the_door(self):
        self.page.goto(self.live_server_url)
        self.page.get_by_label("E-mail").fill("signe@tarnel.example")
        self.page.get_by_label("Password").fill("guess")
        self.page.get_by_role("button", name="Sign in").click()
        expect(self.page.get_by_text("do not belong together")).to_be_visible()

    def test_the_demo_opens_with_its_stories(self):
        self.sign_in()
        for title, story in (
            ("Launch Grebe", "exhaust valve not sealing ("),
            ("Merganser", "cylinders 4 and 6 lose pressure together"),
            ("Village fire pump", "No fault found in what was examined"),
        ):
            row = self.page.get_by_role("link").filter(has_text="read by").filter(has_text=title)
            expect(row).to_contain_text(story)

    def test_a_new_engine_is_confirmed_on_its_plan_and_inspected(self):
        self.sign_in()
        self.page.get_by_role("button", name="New engine").click()
        expect(self.page.get_by_role("heading", name="New engine")).to_be_visible()
        self.page.get_by_label("Name").fill("Tender Teal")
        self.page.get_by_label("Layout and numbering").select_option("vee-8-alternating")
        plan = self.page.get_by_label("Plan of the new engine")
        expect(plan.get_by_text("8", exact=True)).to_be_visible()
        self.page.get_by_label("Ignition").select_option("wasted-spark")
        expect(self.page.get_by_text("Share a coil: 1 and 6")).to_be_visible()
        self.page.get_by_label("Firing order").fill("1 8 4 3 6 5 7")
        self.page.get_by_role("button", name="Add and open").click()
        expect(self.page.get_by_role("alert")).to_contain_text("/engine/firing_order")
        self.page.get_by_label("Firing order").fill("1 8 4 3 6 5 7 2")
        self.page.get_by_label("Gap from").first.fill("0,9")
        self.page.get_by_role("button", name="Add and open").click()
        expect(self.page.get_by_role("heading", name="Tender Teal")).to_be_visible()
        self.expect_saved()
        engine = Inspection.objects.get(engine__title="Tender Teal").document["engine"]
        self.assertEqual(engine["banks"][0]["cylinders"], [1, 3, 5, 7])
        self.assertEqual(engine["specification"]["gap_min"], {"value": 0.9, "unit": "mm"})


class RecordingJourney(BrowserTestCase):
    def test_a_plug_is_recorded_drawn_and_graded_at_once(self):
        self.open("Village fire pump")
        self.page.keyboard.press("2")
        expect(self.station(2)).to_have_attribute("aria-pressed", "true")
        drawn = self.station(2).locator("svg").first.inner_html()
        self.choose("Deposit colour", "black")
        self.choose("Wet or dry", "wet")
        self.choose("Wet with what", "oil")
        self.assertNotEqual(self.station(2).locator("svg").first.inner_html(), drawn)
        expect(self.station(2)).to_have_accessible_name(re.compile("grade D: repair"))
        expect(self.page.get_by_label("Verdict")).to_contain_text("Cylinder 2")
        self.page.get_by_label("Gap", exact=True).fill("0.03")
        self.page.get_by_label("Unit of gap").select_option("in")
        self.page.get_by_label("Gap", exact=True).press("Enter")
        self.expect_saved()
        self.reload()
        self.page.keyboard.press("2")  # Enter went on to the next one.
        self.words()
        wet_with = self.page.get_by_role("radiogroup", name="Wet with what")
        expect(wet_with.get_by_role("radio", name="oil")).to_be_checked()
        plug = self.document("Village fire pump")["cylinders"][1]["plug"]
        self.assertEqual(plug["wet_with"], "oil")

    def document(self, title):
        return Inspection.objects.get(engine__title__startswith=title).document

    def test_tapping_again_takes_back_and_undo_brings_back(self):
        self.open("Village fire pump")
        self.page.keyboard.press("1")
        self.choose("Insulator", "sound")
        expect(self.page.get_by_role("radiogroup", name="Insulator not looked at")).to_be_visible()
        self.expect_saved()
        self.assertNotIn("insulator", self.document("Village")["cylinders"][0]["plug"])
        self.page.keyboard.press("Control+z")
        expect(self.page.get_by_role("radio", name="sound")).to_be_checked()
        self.expect_saved()
        self.assertEqual(self.document("Village")["cylinders"][0]["plug"]["insulator"], "sound")

    def test_compression_is_typed_straight_down_the_row(self):
        self.sign_in()
        item = self.page.get_by_role("listitem").filter(has_text="Launch Grebe")
        item.get_by_role("button", name="Inspect").click()
        self.page.get_by_role("button", name="Begin").click()
        self.step("Compression")
        self.page.get_by_label("Cylinder 1, psi").click()
        for figure in ("150", "149", "88", "151"):
            self.page.keyboard.type(figure)
            self.page.keyboard.press("Enter")
        self.expect_saved()
        verdict = self.page.get_by_label("Verdict")
        expect(verdict).to_contain_text("Cylinder 3")
        expect(verdict).to_contain_text("wet compression on 3")
        schools = self.page.get_by_label("Acceptance schools")
        expect(schools.get_by_role("row").first).to_contain_text("fails: 3")
        self.station(3).click()
        why = self.page.get_by_label("Why, cylinder 3")
        expect(why).to_contain_text("compression 88 psi, 59\u00a0% of its peers")
        self.page.get_by_label("Cylinder 2, psi").fill("15x")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("is no unit of this")).to_be_visible()

    def test_findings_that_share_their_weight_say_so(self):
        self.open("Launch Grebe")
        why = self.page.get_by_label("Why, cylinder 3")
        expect(why).to_contain_text(re.compile(r"took this from 2\s% to [89]\d\s%"))

    def test_what_was_not_looked_at_says_so(self):
        self.sign_in()
        item = self.page.get_by_role("listitem").filter(has_text="Merganser")
        item.get_by_role("button", name="Inspect").click()
        self.page.get_by_role("button", name="Begin").click()
        expect(self.station(4)).to_have_accessible_name(re.compile("no pressure, plug not read"))
        expect(self.page.get_by_role("tabpanel", name="Faces")).to_contain_text("not looked at")
        self.words()
        expect(self.page.get_by_role("radiogroup", name="not looked at")).to_have_count(13)

    def test_a_visitor_looks_and_cannot_write(self):
        self.sign_in(2)
        expect(self.page.get_by_role("button", name="New engine")).to_have_count(0)
        self.page.get_by_role("link").filter(has_text="read by").filter(
            has_text="Launch Grebe"
        ).click()
        expect(self.page.get_by_role("button", name="Sooty")).to_be_disabled()
        self.step("Running")
        expect(self.page.get_by_label("Of the faults that are weighed")).to_be_disabled()


class FileJourney(BrowserTestCase):
    def test_out_and_in_again(self):
        self.open("Merganser")
        with self.page.expect_download() as started:
            self.page.get_by_role("link", name="Export").click()
        exported = Path(started.value.path()).read_bytes()
        self.assertEqual(json.loads(exported)["engine"]["identifier"], "TB-121")
        self.page.get_by_label("Fiacre, to the shop").click()
        self.take_in(exported)
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        self.assertEqual(Inspection.objects.filter(engine__identifier="TB-121").count(), 2)

    def test_a_table_is_read_shown_corrected_recorded_and_taken_back(self):
        self.open("Village fire pump")
        self.step("Story", "Notes")
        cells = b"Cyl;Reading A;Rest\n1;10,1;tan\n2;10,3;black\n3;9,9;who knows\n"
        file = {"name": "round.csv", "mimeType": "text/csv", "buffer": cells}
        self.page.get_by_label("A file of cells").set_input_files(file)
        self.page.get_by_label("What column 2 holds").select_option("wet")
        self.page.get_by_label("What column 3 holds").select_option("words")
        refused = self.page.get_by_role("list", name="Not understood")
        expect(refused).to_contain_text("brown was recorded here, now black: which?")
        expect(refused).to_contain_text("Row 4, column 3")
        self.page.get_by_role("button", name="Record all 4").click()
        self.expect_saved()

        def wet():
            document = Inspection.objects.get(engine__identifier="PUMP-2").document
            tests = document.get("tests", {}).get("compression", [])
            return [
                one["pressure"]
                for t in tests
                if t["kind"] == "wet"
                for one in t.get("readings", [])
            ]

        self.assertEqual(wet(), [{"value": v, "unit": "bar"} for v in (10.1, 10.3, 9.9)])
        self.page.get_by_role("heading", name="From a table").click()
        self.page.keyboard.press("z")
        self.expect_saved()
        self.assertEqual(wet(), [])
        # The next table with these heads is read as this one was.
        self.page.get_by_label("A file of cells").set_input_files(file)
        expect(self.page.get_by_label("What column 2 holds")).to_have_value("wet")

    def test_a_broken_file_is_refused_place_by_place(self):
        self.sign_in()
        broken = document(4, title="Broken", colour="red")
        broken["cylinders"] = [{"number": 1, "plug": {"gap": {"value": 1, "unit": "psi"}}}]
        self.take_in(json.dumps(broken).encode())
        alert = self.page.get_by_role("alert")
        expect(alert).to_contain_text("Nothing was imported")
        expect(alert).to_contain_text("/engine/colour")
        expect(alert).to_contain_text("/cylinders/0/plug/gap/unit")

    def test_a_table_of_past_inspections_comes_in(self):
        self.sign_in()
        table = (
            "Boat;Day;Cyl;Dry (bar)\nTB-121;31.05.2024;1;10,2\nTB-121;31.05.2024;2;9,9\nQ-1;x;1;9\n"
        )
        file = {"name": "past.csv", "mimeType": "text/csv", "buffer": table.encode()}
        self.page.get_by_label("Inspection file").set_input_files(file)
        read = self.page.get_by_role("group", name="What was read")
        expect(read.get_by_label("What column 1 holds")).to_have_value("engine")
        expect(read.get_by_role("list", name="Not understood")).to_contain_text("Row 4, column 2")
        read.get_by_role("button", name="Import it").click()
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        past = Inspection.objects.get(date="2024-05-31")
        self.assertEqual(past.engine.identifier, "TB-121")
        self.assertEqual(past.engine.inspections.count(), 2)

    def take_in(self, data):
        file = {"name": "inspection.json", "mimeType": "application/json", "buffer": data}
        self.page.get_by_label("Inspection file").set_input_files(file)


class PhoneJourney(BrowserTestCase):
    viewport = PHONE
    touch = True

    def test_a_thumb_can_do_it(self):
        self.open("Village fire pump")
        self.station(3).tap()
        self.words()
        colour = (
            self.page.get_by_role("radiogroup", name="Deposit colour").get_by_role("radio").first
        )
        self.assertGreaterEqual(colour.bounding_box()["height"], 48)
        colour.tap()
        self.expect_saved()
        wide = self.page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, PHONE["width"])
