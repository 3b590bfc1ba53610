"""A photo from a phone, with a network and without one."""

from playwright.sync_api import expect

from server.inspections.models import Inspection
from server.photos.models import Photo
from server.tests.browser.base import BrowserTestCase
from server.tests.people import own_media
from server.tests.test_photos import picture


class PhotoJourney(BrowserTestCase):
    worker = True

    def setUp(self):
        own_media(self)
        super().setUp()

    def take(self, data, name="plug.jpg"):
        if not self.page.get_by_label("Take or choose a photo").count():
            self.words()
        file = {"name": name, "mimeType": "image/jpeg", "buffer": data}
        self.page.get_by_label("Take or choose a photo").set_input_files(file)

    def test_a_photo_joins_its_cylinder_and_a_broken_one_does_not(self):
        self.open("Village fire pump")
        self.page.keyboard.press("2")
        self.take(picture())
        strip = self.page.get_by_label("Photos of cylinder 2")
        expect(strip.get_by_alt_text("Cylinder 2, photo 1")).to_be_visible()
        self.expect_saved()
        self.take(b"no picture at all")
        expect(strip.get_by_role("alert")).to_contain_text("Not kept")
        cylinder = Inspection.objects.get(engine__identifier="PUMP-2").document["cylinders"][1]
        self.assertEqual(cylinder["photos"], [f"sha256:{Photo.objects.get().sha256}"])
        strip.get_by_role("button", name="Take photo 1 out").click()
        expect(strip.get_by_role("img")).to_have_count(0)
        self.page.keyboard.press("Control+z")
        expect(strip.get_by_alt_text("Cylinder 2, photo 1")).to_be_visible()

    def test_a_photo_taken_without_a_network_waits(self):
        self.open("Village fire pump")
        self.page.keyboard.press("3")
        self.context.set_offline(True)
        self.take(picture((60, 60)))
        strip = self.page.get_by_label("Photos of cylinder 3")
        expect(strip).to_contain_text("1 on this device, not yet saved")
        self.context.set_offline(False)
        expect(strip.get_by_alt_text("Cylinder 3, photo 1")).to_be_visible(timeout=15_000)
        self.expect_saved()
