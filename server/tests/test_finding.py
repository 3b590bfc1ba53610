"""What is found, by whom, and in how many queries."""

from django.test import TestCase

from core.tests.documents import compression, document
from server.engines.models import Engine
from server.inspections.models import Inspection
from server.tests.people import inspection_of, shop_with

QUERIES = 3  # The session, the person, the rows.


class FindingTests(TestCase):
    def setUp(self):
        self.user = shop_with()
        self.client.force_login(self.user)
        self.sound = self.made("Launch Teal", "T-1", "2025-03-01", [150, 151, 149, 150])
        self.leaking = self.made("Launch Smew", "S-1", "2026-03-01", [150, 60, 62, 150])

    def made(self, title, identifier, day, values, user=None):
        made = document(4, title=title, identifier=identifier)
        made["inspection"] = {"date": day}
        made["tests"] = {"compression": [compression(values)]}
        return inspection_of(user or self.user, made)

    def ids(self, **asked):
        answer = self.client.get("/api/inspections", asked)
        self.assertEqual(answer.status_code, 200, answer.content)
        return [one["id"] for one in answer.json()]

    def test_each_question_finds_its_own(self):
        sound, leaking = str(self.sound.pk), str(self.leaking.pk)
        for asked, wanted in (
            ({}, [leaking, sound]),
            ({"q": "teal"}, [sound]),
            ({"q": "launch s-1"}, [leaking]),
            ({"q": self.user.name.upper()}, [leaking, sound]),
            ({"q": "launch %"}, []),
            ({"fault": "head-gasket-between"}, [leaking]),
            ({"grade": self.sound.grade}, [sound]),
            ({"since": "2026-01-01"}, [leaking]),
            ({"until": "2025-12-31"}, [sound]),
            ({"inspector": str(self.user.pk)}, [leaking, sound]),
            ({"engine": str(self.sound.engine_id), "q": "smew"}, []),
            ({"page": "2"}, []),
            ({"order": "oldest"}, [sound, leaking]),
            ({"order": "worst"}, [leaking, sound]),
            ({"order": "engine"}, [leaking, sound]),
            ({"order": "changed"}, [leaking, sound]),
        ):
            with self.subTest(asked=asked):
                self.assertEqual(self.ids(**asked), wanted)

    def test_nonsense_is_refused_by_name(self):
        for asked in (
            {"grade": "F"},
            {"order": "luck"},
            {"fault": "gremlins"},
            {"since": "soon"},
            {"page": "0"},
        ):
            with self.subTest(asked=asked):
                answer = self.client.get("/api/inspections", asked)
                self.assertEqual(answer.status_code, 400)
                self.assertEqual(answer.json()["problems"][0]["path"], f"/{next(iter(asked))}")

    def test_more_rows_cost_no_more_queries(self):
        for count in (1, 20):
            for number in range(count):
                self.made(f"Launch {number}", f"{count}-{number}", "2026-01-01", [150] * 4)
            for address in ("/api/inspections?q=launch", "/api/engines?q=launch"):
                with self.subTest(count=count, address=address), self.assertNumQueries(QUERIES):
                    self.client.get(address)

    def test_no_other_shop_is_found(self):
        stranger = shop_with(name="Elsewhere")
        self.made("Launch Teal", "T-1", "2026-05-01", [150] * 4, stranger)
        self.assertEqual(self.ids(q="teal"), [str(self.sound.pk)])
        self.assertEqual(self.ids(inspector=str(stranger.pk)), [])
        names = {one["id"] for one in self.client.get("/api/people").json()}
        self.assertEqual(names, {str(self.user.pk)})

    def test_a_renamed_engine_is_found_by_its_new_name(self):
        engine = Engine.objects.get(pk=self.sound.engine_id)
        data = {**engine.data, "title": "Launch Garganey"}
        self.client.put(
            f"/api/engines/{engine.pk}", {"data": data, "version": 1}, "application/json"
        )
        self.assertEqual(self.ids(q="garganey"), [str(self.sound.pk)])
        self.assertEqual(
            Inspection.objects.get(pk=self.sound.pk).document["engine"]["title"], "Launch Teal"
        )
