"""A photo is taken in as a picture and nothing else."""

import io

from django.test import TestCase
from PIL import Image

from server.photos import services
from server.photos.models import Photo
from server.tests.people import own_media, shop_with

ORIENTATION, MAKER = 0x0112, 0x010F


def picture(size=(400, 300), form="JPEG", **options):
    target = io.BytesIO()
    Image.new("RGB", size, "sienna").save(target, form, **options)
    return target.getvalue()


class PhotoTests(TestCase):
    def setUp(self):
        own_media(self)
        self.user = shop_with()
        self.client.force_login(self.user)

    def send(self, data):
        return self.client.post("/api/photos", data, content_type="image/jpeg")

    def served(self, name):
        answer = self.client.get(f"/api/photos/{name.removeprefix('sha256:')}")
        return Image.open(io.BytesIO(b"".join(answer.streaming_content)))

    def test_metadata_go_and_the_picture_stands_upright(self):
        exif = Image.Exif()
        exif[ORIENTATION], exif[MAKER] = 6, "A camera"
        answer = self.send(picture(exif=exif))
        self.assertEqual(answer.status_code, 201)
        shown = self.served(answer.json()["photo"])
        self.assertEqual(shown.size, (300, 400), "turned by a quarter")
        self.assertEqual(dict(shown.getexif()), {})

    def test_a_large_picture_is_made_smaller(self):
        shown = self.served(self.send(picture((5000, 2500))).json()["photo"])
        self.assertEqual(shown.size, (services.LONGEST_SIDE, services.LONGEST_SIDE // 2))

    def test_png_and_webp_are_taken_and_the_same_picture_is_kept_once(self):
        first = self.send(picture(form="PNG")).json()["photo"]
        again = self.send(picture(form="PNG")).json()["photo"]
        self.assertEqual(first, again)
        self.assertEqual(Photo.objects.count(), 1)
        self.assertEqual(self.send(picture((40, 40), "WEBP")).status_code, 201)

    def test_what_is_no_picture_is_refused(self):
        whole = picture()
        for data in (b"", b"%PDF-1.4", whole[:200], picture(form="GIF"), b"<svg/>"):
            with self.subTest(data=data[:10]):
                answer = self.send(data)
                self.assertEqual(answer.status_code, 400)
                self.assertIn("picture", answer.json()["problems"][0]["expected"])
        self.assertEqual(Photo.objects.count(), 0)

    def test_another_shops_photo_is_not_there(self):
        name = self.send(picture()).json()["photo"].removeprefix("sha256:")
        self.client.force_login(shop_with())
        self.assertEqual(self.client.get(f"/api/photos/{name}").status_code, 404)
        self.client.force_login(shop_with("viewer"))
        self.assertEqual(self.send(picture()).status_code, 403)
