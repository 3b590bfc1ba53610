"""The processes that serve: whoever says nothing, or says it slowly, keeps nobody waiting."""

import json
import socket
import subprocess
import sys
import threading
import urllib.error
import urllib.request
from contextlib import ExitStack

from django.core.management import call_command
from django.test import SimpleTestCase, TransactionTestCase

from core.document import check_document
from core.language import speaking
from core.telling import assess
from core.tests.documents import document
from server import turns
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


# In a process of its own: one that a test runner began may begin none itself.
WEIGHS = """
import json, sys
from core.language import speaking
from server import weigher
asked = json.load(sys.stdin)
weigher.begin()
usual, weigher.DEADLINE_S = weigher.DEADLINE_S, 0.001
try:
    late = weigher.assess(asked)
except weigher.NotWeighed:
    late = "not weighed"
weigher.DEADLINE_S = usual
with speaking("de"):
    print(json.dumps([late, weigher.assess(asked)]))
weigher.end()
"""


class WeigherTests(SimpleTestCase):
    def test_it_says_what_the_core_says_and_is_there_again_after_one_that_took_too_long(self):
        asked = json.dumps(check_document(document(4)))
        command = [sys.executable, "-c", WEIGHS]
        told = subprocess.run(command, input=asked, capture_output=True, text=True, check=True)
        late, answer = json.loads(told.stdout)
        self.assertEqual(late, "not weighed")
        with speaking("de"):
            self.assertEqual(answer, assess(json.loads(asked)))

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
