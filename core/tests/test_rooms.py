"""The rooms of the core: a reader meets each only after what it needs."""

import ast
from pathlib import Path
from unittest import TestCase

CORE = Path(__file__).parent.parent
# Hiding, weighing, explaining, judging, telling: a room knows those before it and none behind.
ORDER = ("hidden", "evidence", "inference", "explanation", "judgement", "telling")
OUTSIDE = {"django", "rest_framework", "server", "web"}


def imports(file: Path):
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module:
            yield node.module
        elif isinstance(node, ast.Import):
            yield from (one.name for one in node.names)


class RoomTests(TestCase):
    def test_arrows_point_one_way(self):
        for place, room in enumerate(ORDER):
            for file in sorted((CORE / room).glob("*.py")):
                behind = {f"core.{later}" for later in ORDER[place + 1 :]}
                wrong = [one for one in imports(file) if ".".join(one.split(".")[:2]) in behind]
                with self.subTest(file=f"{room}/{file.name}"):
                    self.assertEqual(wrong, [])

    def test_the_rest_of_the_core_knows_the_case_only_by_what_is_told_of_it(self):
        for file in sorted(CORE.glob("*/*.py")):
            if file.parent.name in (*ORDER, "tests"):
                continue
            rooms = ("core.judgement", "core.telling")
            asked = {one for one in imports(file) if one.startswith(rooms)}
            with self.subTest(file=f"{file.parent.name}/{file.name}"):
                self.assertLessEqual(asked, set(rooms))

    def test_nothing_of_the_core_knows_of_server_or_interface(self):
        for file in sorted(CORE.rglob("*.py")):
            known = {one.split(".")[0] for one in imports(file)} & OUTSIDE
            with self.subTest(file=file.name):
                self.assertEqual(known, set())
