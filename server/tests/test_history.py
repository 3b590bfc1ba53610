"""What an engine remembers and what is due across a shop, over the API."""

from datetime import UTC, datetime, timedelta
from itertools import product
from uuid import uuid4

from icalendar import Calendar

from core.tests.documents import document, quantity
from server.inspections.due import due_of_shop
from server.inspections.models import Observation
from server.shops import keys
from server.shops.models import AccessKey
from server.tests.people import inspection_of, shop_with
from server.tests.test_learning import LearningCase


class HistoryCase(LearningCase):
    def season(self, date, hours, user=None, title="Tender Smew", **parts):
        """An inspection of an engine whose plugs are for 200 h."""
        made = document(2, title=title, specification={"plug_interval": quantity(200, "h")})
        made["inspection"] = {"date": date, "odometer": quantity(hours, "h")}
        return inspection_of(user or self.user, {**made, **parts})

    def two_seasons(self, **names):
        fitted = [{"cylinder": n, "fitted": True} for n in (1, 2)]
        self.season("2025-01-01", 500, refit={"cylinders": fitted}, **names)
        return self.season("2026-01-01", 573, **names)


class StoryTests(HistoryCase):
    def test_each_visit_says_what_became_of_it(self):
        coil = {"id": "r1", "cylinders": [2], "part": "coil", "action": "renewed"}
        first = self.season("2025-01-01", 500, refit={"repairs": [coil]})
        second = self.season("2026-01-01", 573)
        removed = self.season("2026-02-01", 580)
        self.client.put(
            f"/api/inspections/{removed.pk}/kept", {"kept": "removed"}, "application/json"
        )
        made = self.client.get(f"/api/engines/{second.engine_id}/over-time").json()
        told = [(one["inspection"], one["run"], one["events"]) for one in made["visits"]]
        done = [{"kind": "done", "text": "coil of 2 renewed"}]
        self.assertEqual(told, [(str(first.pk), "500 h", done), (str(second.pk), "573 h", [])])


class PlanTests(HistoryCase):
    def test_the_plan_says_how_long_a_step_took_on_this_engine(self):
        first = self.season("2025-01-01", 500)
        start = datetime(2025, 1, 1, 9, 0, tzinfo=UTC)
        fields = ("deposit_colour", "wetness", "deposit_colour")
        rows = [
            Observation(
                inspection=first, client_id=uuid4(), sequence=100 + at, value="tan",
                path=f"/cylinders/{n}/plug/{field}", place=f"/cylinders/{n}/plug/{field}",
                made=start + timedelta(minutes=3 * at),
            )
            for at, (n, field) in enumerate(product((1, 2), fields))
        ]  # fmt: skip
        Observation.objects.bulk_create(rows)
        second = self.season("2026-01-01", 573)
        steps = self.client.get(f"/api/inspections/{second.pk}/work-order").json()["steps"]
        self.assertEqual([s["minutes"] for s in steps if s["timed"]], [15.0])
        steps = self.client.get(f"/api/inspections/{first.pk}/work-order").json()["steps"]
        self.assertFalse(any(s["timed"] for s in steps))


class DueTests(HistoryCase):
    def test_what_is_due_stands_in_one_list_and_in_the_calendar(self):
        newest = self.two_seasons()
        self.season("2026-01-01", 10, title="Another", proof={"follow_up": "2026-03-01"})
        made = self.client.get("/api/due").json()
        self.assertEqual(
            [(one["title"], one["kind"], one["on"]) for one in made["due"]],
            [("Another", "again", "2026-03-01"), ("Tender Smew", "plugs", "2027-09-28")],
        )
        self.assertEqual(made["due"][1]["inspection"], str(newest.pk))
        _, secret = keys.make(self.user, name="diary", scope=AccessKey.Scope.CALENDAR, days=30)
        feed = Calendar.from_ical(self.client.get(f"/calendar/{secret}.ics").content)
        days = [str(one["dtstart"].dt) for one in feed.walk("VEVENT")]
        self.assertEqual(days, ["2026-03-01", "2027-09-28"])

    def test_what_several_engines_of_a_kind_had_is_told_beside_it(self):
        opened = {"cylinders": [{"cylinder": 2, "found": ["ring-sealing"]}]}
        for title in ("Teal", "Smew"):
            self.season("2026-01-01", 10, title=title, outcome=opened)
        self.season("2026-01-01", 10, title="Coot")
        made = self.client.get("/api/due").json()["alike"]
        names = [one["title"] for one in made[0]["engines"]]
        self.assertEqual(
            (sorted(names), made[0]["cylinder"], made[0]["of"]), (["Smew", "Teal"], 2, 3)
        )

    def test_another_shops_engines_are_its_own(self):
        self.two_seasons(user=shop_with(name="Elsewhere"))
        self.assertEqual(
            self.client.get("/api/due").json(), {"due": [], "alike": [], "more": False}
        )

    def test_more_engines_take_no_more_queries(self):
        self.two_seasons()
        with self.assertNumQueries(2):
            due_of_shop(self.user)
        for at in range(5):
            self.two_seasons(title=f"Engine {at}")
        with self.assertNumQueries(2):
            self.assertEqual(len(due_of_shop(self.user)), 6)
