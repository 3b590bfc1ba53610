"""A shop leaves with everything, and comes back with it."""

import io
import json
import zipfile
from datetime import timedelta
from hashlib import sha256
from pathlib import Path
from tempfile import TemporaryDirectory
from threading import Thread
from unittest.mock import patch
from uuid import uuid4

from django.apps import apps
from django.core.files.storage import default_storage
from django.core.management import CommandError, call_command
from django.db import connection
from django.test import TestCase, TransactionTestCase
from django.utils import timezone

from server.archive import backup
from server.archive.contents import EVERYTHING, SUMS
from server.archive.reading import ArchiveRefused, read
from server.archive.writing import Archive, whole
from server.demo.load import load
from server.inspections.log import Said, record
from server.inspections.models import Inspection
from server.photos.models import Photo
from server.photos.services import keep
from server.reports.services import link, reopen, sign
from server.shops import rules
from server.shops.models import AccessKey, Shop, User
from server.tests.people import own_media, shop_with
from server.tests.test_photos import picture

# What an archive leaves behind, and why: it belongs to a server and not to a shop.
LEFT_BEHIND = {
    "django_tasks_database.DBTaskResult",  # What waits is the server's, not a shop's.
    "shops.SignedIn", "shops.AccessKey",  # Sessions, and keys of other programs.
    "otp_totp.TOTPDevice", "otp_static.StaticDevice", "otp_static.StaticToken",  # Secrets.
    "axes.AccessAttempt", "axes.AccessLog", "axes.AccessFailureLog", "axes.AccessAttemptExpiration",
    "auth.Permission", "auth.Group", "contenttypes.ContentType",
}  # fmt: skip


def written(shop):
    return b"".join(Archive(shop).stream())


class ArchiveTests(TestCase):
    def setUp(self):
        own_media(self)
        self.shop = load()
        self.owner = self.shop.people.get(role="owner")
        first, second = Inspection.objects.filter(shop=self.shop)[:2]
        sign(inspection=first, by=self.owner)
        reopen(inspection=first, by=self.owner, reason="smelt it again")
        sign(inspection=first, by=self.owner)
        link(inspection=first, by=self.owner, days=3, units="metric", photos=False)
        rules.change(shop=self.shop, by=self.owner, rules={"hourly_rate": 70})
        keep(shop=self.shop, by=self.owner, data=picture())
        Inspection.objects.filter(pk=second.pk).update(archived=True)

    def read_elsewhere(self, data):
        """Everything gone here, as on another server."""
        for photo in Photo.objects.all():
            default_storage.delete(photo.file.name)
        Shop.objects.all().delete()
        return read(io.BytesIO(data))

    def test_the_round_trip_is_equal_byte_for_byte(self):
        other = shop_with("owner", "Another shop")
        data = written(self.shop)
        self.assertEqual(data, written(self.shop))
        other.shop.delete()
        shop = self.read_elsewhere(data)
        self.assertEqual(written(shop), data)
        names = zipfile.ZipFile(io.BytesIO(data)).namelist()
        for folder, at_least in (("inspections/", 5), ("signed/", 1), ("photos/", 1), ("rows/", 9)):
            self.assertGreaterEqual(sum(one.startswith(folder) for one in names), at_least, folder)
        owner = User.objects.get(email=self.owner.email)
        self.assertFalse(owner.has_usable_password())
        again = Inspection.objects.filter(shop=shop, archived=False).first()
        if not again.signed_off:
            sign(inspection=again, by=owner)  # Numbers go on after those that came.

    def test_no_secret_travels(self):
        data = zipfile.ZipFile(io.BytesIO(written(self.shop)))
        people = data.read("rows/user.jsonl").decode()
        self.assertIn(self.owner.email, people)
        self.assertNotIn("argon2", people)

    def test_it_knows_every_table_of_the_house(self):
        travels = {rows.model._meta.label for rows in EVERYTHING}
        models = {model._meta.label for model in apps.get_models()}
        self.assertEqual(models - travels - LEFT_BEHIND, set())

    def test_what_is_not_whole_is_refused_and_leaves_nothing(self):
        data = written(self.shop)
        with self.assertRaisesRegex(ArchiveRefused, "a shop already"):
            read(io.BytesIO(data))
        changed = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(changed, "w") as new:
            for name in old.namelist():
                new.writestr(name, old.read(name).replace(b"Tarnel", b"Carnel"))
        for broken, why in (
            (changed.getvalue(), "is not what it was"),
            (data[: len(data) // 2], "no ZIP"),
            (b"", "no ZIP"),
        ):
            with self.subTest(why=why), self.assertRaisesRegex(ArchiveRefused, why):
                self.read_elsewhere(broken)
            self.assertFalse(Shop.objects.exists())


class ForgedTests(TestCase):
    """An archive is a file from elsewhere: only the shop's own tables come in, each from its own
    file, and only what can be gone on with."""

    def setUp(self):
        own_media(self)
        self.data = written(load())
        Shop.objects.all().delete()

    def forged(self, name, change):
        """The archive with one of its files changed, and its sums made right again."""
        made = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(self.data)) as old, zipfile.ZipFile(made, "w") as new:
            files = {one: old.read(one) for one in old.namelist() if one != SUMS}
            files[name] = change(files[name].decode()).encode()
            for one, data in files.items():
                new.writestr(one, data)
            sums = [f"{sha256(data).hexdigest()}  {one}" for one, data in files.items()]
            new.writestr(SUMS, "\n".join(sums))
        made.seek(0)
        return made

    def assert_refused(self, name, change, why):
        with self.assertRaisesRegex(ArchiveRefused, why):
            read(self.forged(name, change))
        self.assertFalse(Shop.objects.exists())
        self.assertFalse(AccessKey.objects.exists())

    def test_a_key_among_the_people_is_refused(self):
        owner = json.loads(self.data_of("rows/user.jsonl").splitlines()[0])["pk"]
        key = {"model": "shops.accesskey", "pk": str(uuid4()), "fields": {
            "user": owner, "name": "x", "scope": "write", "digest": "0" * 64, "used": None,
            "made": "2026-01-01T00:00:00Z", "expires": "2036-01-01T00:00:00Z"}}  # fmt: skip
        self.assert_refused(
            "rows/user.jsonl", lambda text: text + json.dumps(key) + "\n", "rows/user.jsonl, row"
        )

    def test_a_job_among_the_engines_is_refused(self):
        job = {"model": "django_tasks_database.dbtaskresult", "pk": str(uuid4()), "fields": {}}
        self.assert_refused(
            "rows/engine.jsonl", lambda text: json.dumps(job) + "\n" + text, "engine.jsonl, row 1"
        )

    def test_a_password_that_came_along_is_refused(self):
        def with_password(text):
            first, *rest = text.splitlines()
            row = json.loads(first)
            row["fields"]["password"] = "argon2$x"
            return "\n".join([json.dumps(row), *rest]) + "\n"

        self.assert_refused("rows/user.jsonl", with_password, "other fields")

    def test_a_log_that_does_not_fold_to_its_document_is_refused(self):
        self.assert_refused(
            "rows/observation.jsonl",
            lambda text: "\n".join(text.splitlines()[:-1]) + "\n",
            "rows/inspection.jsonl: .*log",
        )

    def data_of(self, name):
        return zipfile.ZipFile(io.BytesIO(self.data)).read(name).decode()


class MeanwhileTests(TransactionTestCase):
    """People write while the archive is written."""

    def test_it_is_of_one_moment(self):
        own_media(self)
        shop = load()
        owner = shop.people.get(role="owner")
        open_one = Inspection.objects.filter(shop=shop).open().first()
        plainly = Archive._rows

        def write():
            said = Said(uuid4(), "/inspection/note", "written meanwhile")
            record(inspection_id=open_one.pk, said=[said], by=owner)
            connection.close()

        def rows_and_somebody_writes(archive, rows):
            name = plainly(archive, rows)
            if rows.model is Inspection:  # Its log comes after it.
                other = Thread(target=write)
                other.start()
                other.join()
            return name

        with patch.object(Archive, "_rows", rows_and_somebody_writes), whole(shop) as file:
            data = file.read()
        open_one.refresh_from_db()
        self.assertEqual(open_one.document["inspection"]["note"], "written meanwhile")
        for photo in Photo.objects.all():
            default_storage.delete(photo.file.name)
        Shop.objects.all().delete()
        read(io.BytesIO(data))
        again = Inspection.objects.get(pk=open_one.pk)
        self.assertNotEqual(again.document["inspection"].get("note"), "written meanwhile")
        said = Said(uuid4(), "/inspection/note", "and on it goes")
        record(inspection_id=again.pk, said=[said], by=User.objects.get(email=owner.email))


class BackupTests(TransactionTestCase):
    """The drill: everything destroyed, restored, and compared byte for byte."""

    def setUp(self):
        own_media(self)
        folder = TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.file = Path(folder.name) / "tonight.tar.gz"
        shop = load()
        keep(shop=shop, by=shop.people.first(), data=picture())
        self.before = written(shop)
        backup.write(self.file)
        default_storage.delete(Photo.objects.get().file.name)
        Shop.objects.all().delete()

    def test_everything_comes_back(self):
        shop_with("owner", "Came since")
        self.assertEqual(backup.restore(self.file), 1)
        shop = Shop.objects.get()
        self.assertEqual(written(shop), self.before)
        self.assertTrue(shop.people.get(role="owner").check_password("launch-and-pump"))

    def test_one_from_before_an_upgrade_comes_back_after_it(self):
        """The newer version has a table more, which points to one of those that come back."""
        with connection.cursor() as cursor:
            cursor.execute("CREATE TABLE newer (shop uuid NOT NULL REFERENCES shops_shop (id))")
        backup.restore(self.file)
        self.assertEqual(written(Shop.objects.get()), self.before)
        self.assertNotIn("newer", connection.introspection.table_names())

    def test_nobody_else_on_the_machine_reads_it(self):
        self.assertEqual(self.file.stat().st_mode & 0o077, 0)
        self.file.chmod(0o644)
        backup.write(self.file)
        self.assertEqual(self.file.stat().st_mode & 0o077, 0)

    def test_a_night_whose_backup_fails_goes_on_with_the_rest_and_says_so(self):
        AccessKey.objects.create(
            user=shop_with("owner", "Came since"), name="old", scope="read", digest="0" * 64,
            expires=timezone.now() - timedelta(days=1),
        )  # fmt: skip
        with self.assertRaisesRegex(CommandError, "backup"):
            call_command("night", "/proc/nowhere/tonight.tar.gz", stderr=io.StringIO())
        self.assertFalse(AccessKey.objects.exists())

    def test_a_backup_that_was_cut_off_changes_nothing(self):
        stays = shop_with("owner", "Came since").shop
        self.file.write_bytes(self.file.read_bytes()[:-2000])
        with self.assertRaises(backup.BackupFailed):
            backup.restore(self.file)
        self.assertEqual(Shop.objects.get(), stays)
