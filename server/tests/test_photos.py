"""A photo is taken in as a picture and nothing else."""

import errno
import io
import uuid
from pathlib import Path
from unittest import mock

from django.conf import settings
from django.core.files.base import ContentFile
from django.test import TestCase
from PIL import Image

from server.photos import services
from server.photos.models import Photo
from server.reports.pdf import html
from server.shops.models import User
from server.tests.people import PASSWORD, inspection_of, own_media, shop_with

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
        self.inspection = inspection_of(self.user)
        self.address = f"/api/inspections/{self.inspection.pk}/photos"

    def send(self, data, path="/cylinders/2/photos", client_id=None, **more):
        asked = {"path": path, "client_id": client_id or uuid.uuid4(), **more}
        return self.client.post(self.address, data, content_type="image/jpeg", query_params=asked)

    def sent(self, data):
        """What the document calls a photo that was sent."""
        return self.send(data).json()["document"]["cylinders"][0]["photos"][-1]

    def served(self, name):
        answer = self.client.get(f"/api/photos/{name.removeprefix('sha256:')}")
        return Image.open(io.BytesIO(b"".join(answer.streaming_content)))

    def test_metadata_go_and_the_picture_stands_upright(self):
        exif = Image.Exif()
        exif[ORIENTATION], exif[MAKER] = 6, "A camera"
        answer = self.send(picture(exif=exif))
        self.assertEqual(answer.status_code, 200)
        shown = self.served(answer.json()["document"]["cylinders"][0]["photos"][-1])
        self.assertEqual(shown.size, (300, 400), "turned by a quarter")
        self.assertEqual(dict(shown.getexif()), {})

    def test_a_picture_of_somebody_who_was_shut_out_is_theirs_and_says_who_sent_it(self):
        gone = User.objects.create_user(
            "bo@example.test", PASSWORD, name="Bo", role="inspector", shop=self.user.shop
        )
        User.objects.filter(pk=gone.pk).update(is_active=False)
        User.objects.filter(pk=self.user.pk).update(role="owner")
        self.assertEqual(self.send(picture(), author=gone.pk).status_code, 200)
        row = self.inspection.observations.last()
        self.assertEqual((row.by, row.sent_by), (gone, self.user))

    def test_a_large_picture_is_made_smaller(self):
        shown = self.served(self.sent(picture((5000, 2500))))
        self.assertEqual(shown.size, (services.LONGEST_SIDE, services.LONGEST_SIDE // 2))

    def test_png_and_webp_are_taken_and_the_same_picture_is_kept_once(self):
        first = self.sent(picture(form="PNG"))
        again = self.sent(picture(form="PNG"))
        self.assertEqual(first, again)
        self.assertEqual(Photo.objects.count(), 1)
        self.assertEqual(self.send(picture((40, 40), "WEBP")).status_code, 200)

    def test_what_a_telephone_writes_is_taken(self):
        sent = self.sent(picture(form="HEIF"))
        photo = Photo.objects.get(sha256=sent.removeprefix("sha256:"))
        with Image.open(photo.file.path) as kept:
            self.assertEqual((kept.format, kept.size), ("JPEG", (400, 300)))

    def test_what_is_no_picture_is_refused(self):
        whole = picture()
        for data in (b"", b"%PDF-1.4", whole[:200], picture(form="GIF"), b"<svg/>"):
            with self.subTest(data=data[:10]):
                answer = self.send(data)
                self.assertEqual(answer.status_code, 400)
                self.assertIn("picture", answer.json()["problems"][0]["expected"])
        self.assertEqual(Photo.objects.count(), 0)

    def test_a_photo_joins_once_whatever_else_joined_meanwhile(self):
        once = uuid.uuid4()
        for data, client_id in ((picture(), once), (picture((20, 20)), None), (picture(), once)):
            answer = self.send(data, client_id=client_id, numbering="1,2,3,4").json()
        self.assertEqual(len(answer["document"]["cylinders"][0]["photos"]), 2)
        self.assertEqual(answer["conflicts"], [])
        late = self.send(picture((30, 30)), path="/cylinders/3/photos", numbering="1,3,2,4").json()
        self.assertEqual([one["number"] for one in late["document"]["cylinders"]], [2])
        self.assertEqual(self.send(picture(), path="/inspection/note").status_code, 400)

    def test_a_full_disk_is_said_and_leaves_no_half_file(self):
        class HalfWritten(ContentFile):
            def chunks(self, chunk_size=None):
                yield self.read(10)
                raise OSError(errno.ENOSPC, "No space left on device")

        with mock.patch.object(services, "ContentFile", HalfWritten):
            answer = self.send(picture())
        self.assertEqual((answer.status_code, answer.json()["code"]), (507, "storage-full"))
        self.assertEqual(Photo.objects.count(), 0)
        left = [one for one in Path(settings.MEDIA_ROOT).rglob("*") if one.is_file()]
        self.assertEqual(left, [])
        self.assertEqual(self.send(picture()).status_code, 200)

    def test_a_report_says_which_photo_is_lost_and_is_written_all_the_same(self):
        self.sent(picture())
        self.inspection.refresh_from_db()
        whole = html(self.inspection, "as-read", photos=True)
        self.assertIn("data:image/jpeg", whole)
        Path(Photo.objects.get().file.path).unlink()
        without = html(self.inspection, "as-read", photos=True)
        self.assertNotIn("data:image/jpeg", without)
        self.assertEqual(
            ("its file is lost" in whole, "its file is lost" in without), (False, True)
        )
        self.assertNotIn('src=""', without)

    def test_another_shops_photo_is_not_there(self):
        name = self.sent(picture()).removeprefix("sha256:")
        self.client.force_login(shop_with())
        self.assertEqual(self.client.get(f"/api/photos/{name}").status_code, 404)
        self.assertEqual(self.send(picture()).status_code, 404)
        self.client.force_login(shop_with("viewer"))
        self.assertEqual(self.send(picture()).status_code, 403)
