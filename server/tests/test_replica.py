"""Lists from a database that follows the first, where there is one."""

from contextlib import contextmanager
from unittest import mock

from django.conf import settings
from django.db import OperationalError, connection
from django.test import TestCase

from server.api.replica import LAG, REPLICA, WROTE, from_replica
from server.demo.load import DOCUMENTS
from server.inspections.models import Inspection
from server.inspections.services import import_document
from server.tests.people import said, shop_with


@contextmanager
def lost_follower():
    """As if there were a second database that does not answer."""
    away = mock.Mock(ensure_connection=mock.Mock(side_effect=OperationalError("away")))
    with (
        mock.patch.dict(settings.DATABASES, {REPLICA: {"ATOMIC_REQUESTS": False}}),
        mock.patch("server.api.replica.connections", {REPLICA: away}),
    ):
        yield


class ReplicaTests(TestCase):
    def test_only_what_is_read_in_its_block_comes_from_there(self):
        with mock.patch("server.api.replica._answers", return_value=True):
            self.assertEqual(Inspection.objects.all().db, "default")
            with from_replica():
                self.assertEqual(Inspection.objects.all().db, REPLICA)
            self.assertEqual(Inspection.objects.all().db, "default")

    def test_where_it_is_away_the_first_one_answers(self):
        user = shop_with("owner")
        import_document(
            shop=user.shop, by=user, data=(DOCUMENTS / "pump-inline-three.json").read_bytes()
        )
        self.client.force_login(user)
        with lost_follower(), self.assertLogs("server.api.replica", "WARNING"):
            self.assertEqual(len(self.client.get("/api/inspections").json()), 1)

    def test_who_has_just_written_misses_nothing(self):
        user = shop_with("owner")
        made = import_document(
            shop=user.shop, by=user, data=(DOCUMENTS / "pump-inline-three.json").read_bytes()
        )
        self.client.force_login(user)
        body = {"observations": [said("/cylinders/1/plug/smell", "fuel")]}
        with lost_follower():
            answer = self.client.post(
                f"/api/inspections/{made.pk}/observations", body, "application/json"
            )
            self.assertTrue(answer.cookies[WROTE]["httponly"])
            with self.assertNoLogs("server.api.replica", "WARNING"):  # It was not even asked.
                self.assertEqual(len(self.client.get("/api/inspections").json()), 1)

    def test_one_that_no_longer_follows_is_not_believed_and_said_to_be_behind(self):
        user = shop_with("owner")
        self.client.force_login(user)
        there = mock.Mock(ensure_connection=mock.Mock())
        with (
            mock.patch.dict(settings.DATABASES, {REPLICA: {"ATOMIC_REQUESTS": False}}),
            mock.patch("server.api.replica.connections", {REPLICA: there}),
            mock.patch("server.api.replica._known_lag", {}),
        ):
            rows = mock.Mock()
            there.cursor.return_value = mock.MagicMock()
            there.cursor.return_value.__enter__.return_value = rows
            rows.fetchone.return_value = (3600.0,)
            with self.assertLogs("server.api.replica", "WARNING"):
                self.assertEqual(self.client.get("/api/inspections").status_code, 200)
            told = self.client.get("/readyz").json()
        self.assertEqual(told["replica"], {"follows": False, "behind_s": 3600.0})
        self.assertTrue(told["database"])

    def test_the_question_is_one_that_the_database_understands(self):
        with connection.cursor() as cursor:
            cursor.execute(LAG)
            self.assertEqual(cursor.fetchone()[0], 0)  # This is the first one, and no replica.
