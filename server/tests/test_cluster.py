"""The database that `./start` makes: killed, started twice, its secrets lost."""

import os
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase
from unittest.mock import Mock, patch

import psycopg

from tools import cluster, machine, start

HOLD = """
import sys, time
from pathlib import Path
from tools import cluster, machine
cluster.LOCAL = machine.LOCAL = Path(sys.argv[1])
held = cluster.Cluster()
print(held.start(), flush=True)
time.sleep(600)
"""


class ClusterTests(TestCase):
    def setUp(self):
        folder = TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        Path(folder.name).chmod(0o755)
        self.local = Path(folder.name) / "local"
        for module in (cluster, machine):
            changed = patch.object(module, "LOCAL", self.local)
            changed.start()
            self.addCleanup(changed.stop)
        self.addCleanup(self.end)
        self.processes = []

    def end(self):
        for one in self.processes:
            one.kill()
            one.wait()
            one.stdout.close()
        made = cluster.Cluster()
        if (made.data / "PG_VERSION").exists() and made.lives():
            made._stop_server()

    def another(self):
        """Another process that uses the cluster."""
        command = [sys.executable, "-c", HOLD, str(self.local)]
        one = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
        self.processes.append(one)
        return one

    def asked(self, url, question="SELECT 1"):
        with psycopg.connect(url, connect_timeout=5) as connection:
            return connection.execute(question).fetchone()[0]

    def test_two_at_once_share_it_and_the_last_to_leave_stops_it(self):
        first, second = self.another(), self.another()
        urls = {
            next(line for line in one.stdout if line.startswith("postgresql"))
            for one in (first, second)
        }
        self.assertEqual(len(urls), 1)
        own = cluster.Cluster()
        url = own.start()
        self.assertEqual(self.asked(url, "SELECT count(*) FROM pg_roles WHERE rolsuper AND "
                                         "rolname = current_user"), 0)  # fmt: skip
        with psycopg.connect(url) as connection:
            connection.execute("CREATE TABLE kept (word text)")
            connection.execute("INSERT INTO kept VALUES ('oil')")
        own.stop()
        self.assertEqual(self.asked(url, "SELECT word FROM kept"), "oil", "others use it")
        for one in self.processes:
            one.kill()
            one.wait()
        own.start()
        own.stop()
        self.assertFalse(own.lives())

    def test_killed_while_it_is_made_and_its_server_dead_and_its_password_cut_off(self):
        for wait in (0.15, 0.6, 1.2):
            one = self.another()
            time.sleep(wait)
            one.kill()
            one.wait()
        own = cluster.Cluster()
        url = own.start()
        self.assertEqual(self.asked(url), 1)
        server = int((own.data / "postmaster.pid").read_text().splitlines()[0])
        os.kill(server, signal.SIGKILL)
        time.sleep(1)
        self.assertEqual(self.asked(own.start()), 1)
        for file in (own.password_file, own.port_file):
            file.write_text(file.read_text()[:3])
        self.assertEqual(self.asked(own.start()), 1)
        own.stop()

    def test_a_folder_that_cannot_be_written_to_is_said(self):
        self.local.write_text("a file where a folder should be")
        with self.assertRaisesRegex(Exception, "cannot be written to"):
            cluster.Cluster().start()


class StartTests(TestCase):
    def test_who_interrupts_while_it_starts_leaves_no_server_behind(self):
        server = Mock(poll=Mock(return_value=None))
        with (
            patch("tools.start.subprocess.Popen", return_value=server),
            patch("tools.start.urllib.request.urlopen", side_effect=KeyboardInterrupt),
            self.assertRaises(KeyboardInterrupt),
        ):
            start._serve(8020, {})
        server.terminate.assert_called_once()

    def test_a_port_that_a_killed_database_left_half_closed_is_taken_again(self):
        """Somebody's connection to it lingers; the next one still comes up where it was."""
        with socket.socket() as listening:
            listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)  # As PostgreSQL does.
            listening.bind(("127.0.0.1", 0))
            listening.listen()
            port = listening.getsockname()[1]
            caller = socket.create_connection(("127.0.0.1", port))
            answered, _ = listening.accept()
        answered.close()  # The server's side ends first, and waits out its time.
        caller.close()
        with TemporaryDirectory() as folder:
            own = cluster.Cluster()
            own.port_file = Path(folder) / "database-port"
            own.port_file.write_text(str(port))
            self.assertEqual(own._free_port(), port)
