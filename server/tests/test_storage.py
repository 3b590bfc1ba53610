"""Photos in an object store; a stand-in of it runs in the test."""

import logging
import tempfile
import uuid
from pathlib import Path
from unittest.mock import patch

import boto3
from django.conf import settings
from django.core.files.storage import default_storage
from django.test import TestCase, override_settings
from moto.server import ThreadedMotoServer

from server.archive import backup
from server.photos.models import Photo
from server.settings import bucket
from server.tests.people import inspection_of, shop_with
from server.tests.test_photos import picture

KEYS = {"S3_ACCESS_KEY": "who", "S3_SECRET_KEY": "secret", "S3_REGION": "us-east-1"}
NAME = "launch-photos"


class BucketTests(TestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        logging.getLogger("werkzeug").setLevel(logging.ERROR)  # The stand-in tells each request.
        store = ThreadedMotoServer(ip_address="127.0.0.1", port=0, verbose=False)
        store.start()
        cls.addClassCleanup(store.stop)
        host, port = store.get_host_and_port()
        cls.address = f"http://{host}:{port}"
        boto3.client(
            "s3", endpoint_url=cls.address, aws_access_key_id="who",
            aws_secret_access_key="secret", region_name="us-east-1",
        ).create_bucket(Bucket=NAME)  # fmt: skip

    def kept_at(self, address):
        """Keep files in the bucket there."""
        own = bucket({**KEYS, "S3_BUCKET": NAME, "S3_ENDPOINT": address})
        kept = override_settings(STORAGES={**settings.STORAGES, "default": own})
        kept.enable()
        self.addCleanup(kept.disable)

    def setUp(self):
        self.kept_at(self.address)
        self.user = shop_with()
        self.client.force_login(self.user)
        self.inspection = inspection_of(self.user)

    def send(self):
        return self.client.post(
            f"/api/inspections/{self.inspection.pk}/photos",
            picture(),
            content_type="image/jpeg",
            query_params={"path": "/cylinders/2/photos", "client_id": uuid.uuid4()},
        )

    def test_a_photo_goes_in_and_comes_out_and_its_loss_is_told(self):
        self.assertEqual(self.send().status_code, 200)
        photo = Photo.objects.get()
        shown = self.client.get(f"/api/photos/{photo.sha256}")
        whole = b"".join(shown.streaming_content)
        self.assertEqual(whole[:2], b"\xff\xd8")
        self.assertNotIn("amazonaws", str(shown.headers))
        default_storage.delete(str(photo.file.name))
        lost = self.client.get(f"/api/photos/{photo.sha256}")
        self.assertEqual((lost.status_code, lost.json()["code"]), (404, "photo-lost"))

    def test_a_backup_holds_what_the_bucket_held(self):
        self.send()
        photo = Photo.objects.get()
        with default_storage.open(str(photo.file.name)) as kept:
            before = kept.read()
        with tempfile.TemporaryDirectory() as folder, patch.object(backup, "_run"):
            file = Path(folder) / "now.tar.gz"
            with patch.object(backup.tarfile.TarFile, "add"):
                backup.write(file)
            default_storage.delete(str(photo.file.name))
            with backup.tarfile.open(file) as packed:
                backup._unpack(packed, backup.MEDIA + str(photo.file.name))
        with default_storage.open(str(photo.file.name)) as kept:
            self.assertEqual(kept.read(), before)

    def test_a_store_that_is_away_is_said_so_and_the_photo_is_not_lost(self):
        self.assertTrue(self.client.get("/readyz").json()["storage"])
        self.send()
        photo = Photo.objects.get()
        self.kept_at("http://127.0.0.1:9")
        shown = self.client.get(f"/api/photos/{photo.sha256}")
        self.assertEqual((shown.status_code, shown.json()["code"]), (503, "storage-away"))
        photo.delete()
        away = self.client.get("/readyz")
        self.assertEqual((away.status_code, away.json()["storage"]), (503, False))
        self.assertEqual(self.send().status_code, 507)
        self.assertEqual(Photo.objects.count(), 0)
