"""The processes that serve: whoever says nothing, or says it slowly, keeps nobody waiting."""

import socket
import urllib.error
import urllib.request
from contextlib import ExitStack

from django.core.management import call_command
from django.test import TransactionTestCase

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
