"""What workers do after somebody was answered: letters, and weighing again by new rules."""

import io
from datetime import timedelta
from smtplib import SMTPServerDisconnected
from unittest.mock import patch

from django.core import mail
from django.core.management import call_command
from django.test import Client, TestCase, override_settings
from django.utils import timezone
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from server.inspections import tasks
from server.inspections.models import Inspection
from server.shops.tasks import TRIES
from server.tests.people import inspection_of, shop_with

QUEUED = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}


def work():
    """One worker, until nothing is left to do now; on the test's own connection."""
    with patch("django_tasks_db.management.commands.db_worker.close_old_connections"):
        call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0)


@override_settings(TASKS=QUEUED, EMAIL_HOST="mail.example.test")
class LetterTests(TestCase):
    def setUp(self):
        self.user = shop_with("owner")
        Client().post("/api/forgotten", {"email": self.user.email}, "application/json")

    def test_the_queue_holds_no_secret_and_a_worker_mails_the_link(self):
        job = DBTaskResult.objects.get()
        self.assertNotIn("welcome", str(job.args_kwargs))
        self.assertNotIn(self.user.email, str(job.args_kwargs))
        self.assertEqual(mail.outbox, [])
        work()
        self.assertEqual([one.to for one in mail.outbox], [[self.user.email]])
        self.assertIn("http://testserver/welcome/", mail.outbox[0].body)

    def test_a_mail_server_that_is_away_is_tried_again_and_then_given_up(self):
        with patch("server.shops.tasks.send_mail", side_effect=SMTPServerDisconnected):
            work()
            for _ in range(TRIES):
                waiting = DBTaskResult.objects.filter(status=TaskResultStatus.READY)
                self.assertTrue(all(one.run_after > timezone.now() for one in waiting))
                waiting.update(run_after=timezone.now() - timedelta(seconds=1))
                work()
        states = [one.status for one in DBTaskResult.objects.order_by("enqueued_at")]
        self.assertEqual(states, ["SUCCESSFUL"] * (TRIES - 1) + ["FAILED"])

    def test_what_a_killed_worker_left_is_done_again(self):
        long_ago = timezone.now() - timedelta(hours=2)
        DBTaskResult.objects.update(status=TaskResultStatus.RUNNING, started_at=long_ago)
        work()
        self.assertEqual(mail.outbox, [])
        call_command("clear_expired")
        work()
        self.assertEqual(len(mail.outbox), 1)


@override_settings(TASKS=QUEUED)
class WeighingTests(TestCase):
    def test_new_rules_are_dealt_out_and_each_inspection_is_weighed_once(self):
        user = shop_with("owner")
        for _ in range(3):
            inspection_of(user)
        Inspection.objects.update(grade="E", rules="older")
        told = io.StringIO()
        with patch.object(tasks, "AT_ONCE", 2):
            call_command("reweigh", stdout=told)
        self.assertIn("3 inspections handed to the workers", told.getvalue())
        self.assertEqual(DBTaskResult.objects.count(), 2)
        self.assertEqual({one.grade for one in Inspection.objects.all()}, {"E"})
        work()
        self.assertEqual({one.grade for one in Inspection.objects.all()}, {"U"})
        call_command("reweigh", stdout=told)
        self.assertIn("0 inspections handed", told.getvalue())
