"""The processes that serve: whoever says nothing, or says it slowly, keeps nobody waiting."""

import socket
import threading
import urllib.error
import urllib.request
from contextlib import ExitStack
from unittest.mock import patch

from django.core.management import call_command
from django.test import SimpleTestCase, TransactionTestCase

from core.document import check_document
from core.language import speaking
from core.telling import assess
from core.tests.documents import document
from server import turns, weigher
from server.tests.browser.process import ServerProcess

TRICKLE = (
    b"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\n"
    b'Content-Length: 500\r\n\r\n{"email":'
)
PROMISE = (
    b"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\n"
    b"Content-Length: 20000001\r\n\r\n{"
)
SAID = (b"", b"GET /api/session HTTP/1.1\r\nHost:", TRICKLE, PROMISE)
OF_EACH = 10


class WeigherTests(SimpleTestCase):
    def test_it_says_what_the_core_says_and_is_there_again_after_one_that_took_too_long(self):
        weigher.begin()
        self.addCleanup(weigher.end)
        asked = check_document(document(4))
        with patch.object(weigher, "DEADLINE_S", 0.001), self.assertRaises(weigher.NotWeighed):
            weigher.assess(asked)
        with speaking("de"):
            self.assertEqual(weigher.assess(asked), assess(asked))

    def test_nobody_whose_turn_is_short_waits_for_a_weighing(self):
        begun, over = threading.Event(), threading.Event()

        def request():
            with turns.short(), turns.weighing():
                begun.set()
                over.wait(60)

        weighs = threading.Thread(target=request)
        weighs.start()
        self.assertTrue(begun.wait(60))
        with turns.short():  # Or else it waits here for good.
            over.set()
        weighs.join(60)
        self.assertFalse(weighs.is_alive())


class ServingTests(TransactionTestCase):
    def test_silent_connections_and_bodies_that_trickle_stop_nobody(self):
        call_command("createcachetable", verbosity=0)
        server = ServerProcess()
        self.addCleanup(server.kill)
        with ExitStack() as stack:
            for said in SAID * OF_EACH:
                line = stack.enter_context(socket.create_connection(("127.0.0.1", server.port)))
                line.sendall(said)
            for _ in range(4):
                with self.assertRaises(urllib.error.HTTPError) as answered:
                    urllib.request.urlopen(f"{server.address}/api/session", timeout=45)
                self.assertEqual(answered.exception.code, 401)
                answered.exception.close()
