import io
import json
import threading
import uuid
from unittest import mock

from django.core.management import call_command
from django.db import OperationalError, connection
from django.test import TestCase, TransactionTestCase

from core.document import read_document
from core.document.observations import fold
from core.telling import assess
from core.tests.documents import document, quantity
from core.tests.test_document import full
from server.inspections import derive
from server.inspections import log as inspection_log
from server.inspections.models import Inspection, Observation
from server.shops.models import User
from server.tests.people import PASSWORD, inspection_of, said, shop_with
from server.weigher import NotWeighed


class Recorder(TestCase):
    role = "inspector"

    def setUp(self):
        self.user = shop_with(self.role)
        self.inspection = inspection_of(self.user)
        self.address = f"/api/inspections/{self.inspection.pk}"
        self.client.force_login(self.user)

    def record(self, *observations):
        body = {"observations": list(observations)}
        return self.client.post(
            f"{self.address}/observations", body, content_type="application/json"
        )

    def document(self):
        return self.client.get(self.address).json()["document"]


class RecordTests(Recorder):
    def test_what_is_recorded_is_in_the_document_and_assessed(self):
        answer = self.record(said("/cylinders/2/well/oil", "pooled")).json()
        self.assertEqual(
            answer["document"]["cylinders"], [{"number": 2, "well": {"oil": "pooled"}}]
        )
        self.assertEqual(answer["assessment"]["engine"]["most_suspect"], [2])

    def test_sending_again_changes_nothing(self):
        batch = [said("/cylinders/2/plug/wetness", "dry"), said("/cylinders/3/plug/wetness", "wet")]
        first = self.record(*batch).json()
        rows = Observation.objects.count()
        again = self.record(*batch).json()
        self.assertEqual(again, first)
        self.assertEqual(Observation.objects.count(), rows)

    def test_a_repeated_batch_with_something_new_adds_only_the_new(self):
        old, new = said("/cylinders/2/plug/wetness", "dry"), said("/cylinders/2/plug/smell", "fuel")
        before = self.record(old).json()["sequence"]
        self.assertEqual(self.record(old, new).json()["sequence"], before + 1)

    def test_what_another_device_said_unseen_is_a_conflict_until_somebody_who_saw_it_judges(self):
        mine, theirs, third = (str(uuid.uuid4()) for _ in range(3))
        path = "/cylinders/2/plug/wetness"
        seen = self.client.get(self.address).json()["sequence"]

        def say(value, device, known):
            answer = self.record({**said(path, value), "device": device, "seen": known}).json()
            return [[each["value"] for each in one["said"]] for one in answer["conflicts"]]

        self.assertEqual(say("dry", theirs, seen), [])
        self.assertEqual(say("dry", mine, seen), [], "equal words do not conflict")
        self.assertEqual(say("wet", mine, seen), [["wet", "dry"]])
        self.assertEqual(say("dry", third, seen), [["dry", "wet", "dry"]], "saw neither")
        self.assertEqual(self.client.get(self.address).json()["conflicts"][0]["path"], path)
        known = self.client.get(self.address).json()["sequence"]
        self.assertEqual(say("damp", mine, known), [])

    def test_of_two_pages_of_one_person_the_word_said_last_stands_whichever_arrives_first(self):
        path = "/cylinders/2/plug/wetness"
        seen = self.client.get(self.address).json()["sequence"]
        mine = {"device": str(uuid.uuid4()), "seen": seen}
        self.record({**said(path, "wet"), **mine, "order": 7})
        answer = self.record({**said(path, "dry"), **mine, "order": 6}).json()
        self.assertEqual(answer["document"]["cylinders"][0]["plug"]["wetness"], "wet")
        self.assertEqual(answer["conflicts"], [])
        answer = self.record({**said(path, "damp"), **mine, "order": 5, "again": True}).json()
        self.assertEqual(answer["document"]["cylinders"][0]["plug"]["wetness"], "wet")
        (found,) = answer["conflicts"]
        self.assertEqual([one["value"] for one in found["said"]], ["wet", "damp"])
        log = self.inspection.observations.filter(held=False).values_list("path", "value")
        self.assertEqual(fold(log), self.document())

    def test_two_people_on_one_device_disagree_too(self):
        other = User.objects.create_user(
            "bo@example.test", PASSWORD, name="Bo", role="inspector", shop=self.user.shop
        )
        device, path = str(uuid.uuid4()), "/cylinders/2/plug/wetness"
        seen = self.client.get(self.address).json()["sequence"]
        self.record({**said(path, "dry"), "device": device, "seen": seen})
        self.client.force_login(other)
        answer = self.record({**said(path, "wet"), "device": device, "seen": seen}).json()
        self.assertEqual(
            [each["by"] for each in answer["conflicts"][0]["said"]], ["Bo", "The inspector"]
        )

    def test_nobody_sends_what_somebody_else_entered(self):
        body = {
            "author": str(uuid.uuid4()),
            "observations": [said("/cylinders/2/well/oil", "none")],
        }
        before = Observation.objects.count()
        answer = self.client.post(
            f"{self.address}/observations", body, content_type="application/json"
        )
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "another-author"))
        self.assertEqual(Observation.objects.count(), before)

    def test_what_somebody_left_who_was_shut_out_an_owner_sends_in_their_name(self):
        gone = User.objects.create_user(
            "bo@example.test", PASSWORD, name="Bo", role="inspector", shop=self.user.shop
        )

        def sent(author, oil):
            body = {
                "author": str(author.pk),
                "observations": [said("/cylinders/2/well/oil", oil)],
            }
            return self.client.post(f"{self.address}/observations", body, "application/json")

        User.objects.filter(pk=self.user.pk).update(role="owner")
        self.assertEqual(sent(gone, "none").status_code, 409, "may still sign in")
        User.objects.filter(pk=gone.pk).update(role="viewer")
        self.assertEqual(sent(gone, "none").status_code, 200, "may only look by now")
        User.objects.filter(pk=gone.pk).update(is_active=False)
        User.objects.filter(pk=self.user.pk).update(role="inspector")
        self.assertEqual(sent(gone, "none").status_code, 409, "no owner")
        User.objects.filter(pk=self.user.pk).update(role="owner")
        self.assertEqual(sent(gone, "none").status_code, 200)
        row = self.client.get(f"{self.address}/observations").json()[-1]
        self.assertEqual((row["by"], row["sent_by"]), ("Bo", self.user.name))
        opening = {"engine": str(self.inspection.engine_id), "author": str(gone.pk)}
        opened = self.client.post("/api/inspections", opening, "application/json").json()
        first = Observation.objects.filter(inspection=opened["id"]).first()
        self.assertEqual((first.by, first.sent_by), (gone, self.user))
        stranger = shop_with("inspector", name="Elsewhere")
        User.objects.filter(pk=stranger.pk).update(is_active=False)
        self.assertEqual(sent(stranger, "none").status_code, 409, "of another shop")

    def test_a_removed_test_comes_back_for_a_reading_that_its_remover_never_saw(self):
        base = "/tests/compression/dry-1"
        self.record(
            said(f"{base}/kind", "dry"),
            said(f"{base}/readings/1/pressure", quantity(150, "psi")),
        )
        seen = self.client.get(self.address).json()["sequence"]
        mine, theirs = ({"device": str(uuid.uuid4()), "seen": seen} for _ in "ab")
        removed = self.record({**said(base, None), **mine}).json()
        self.assertNotIn("tests", removed["document"])
        late = said(f"{base}/readings/3/pressure", quantity(120, "psi"))
        answer = self.record({**late, **theirs}).json()
        readings = answer["document"]["tests"]["compression"][0]["readings"]
        self.assertEqual([one["cylinder"] for one in readings], [1, 3])
        self.assertEqual([one["path"] for one in answer["conflicts"]], [base])
        log = self.inspection.observations.filter(held=False).values_list("path", "value")
        self.assertEqual(fold(log), self.document())
        keep = {**said(base, None), **mine, "keeps": True, "seen": answer["sequence"]}
        answer = self.record(keep).json()
        self.assertEqual(answer["conflicts"], [])
        self.assertEqual(len(answer["document"]["tests"]["compression"][0]["readings"]), 2)

    def test_what_is_accepted_never_makes_a_later_entry_fail(self):
        for path, value in (
            ("/tests/balance/2/rpm_drop", 1e16),
            ("/tests/balance/2/rpm_drop", 10**16),
            ("/tests/misfires/2/count", 10**16),
            ("/cylinders/2/note", "half a \ud83d"),
            ("/cylinders/2/note", "\0"),
        ):
            with self.subTest(path=path, value=value):
                answer = self.record(said(path, value))
                self.assertEqual(answer.status_code, 400, answer.content)
                self.assertEqual(answer.json()["problems"][0]["path"][:2], path[:2])
        self.assertEqual(self.record(said("/tests/balance/2/rpm_drop", 1e15)).status_code, 200)
        self.assertEqual(self.record(said("/cylinders/2/well/oil", "none")).status_code, 200)

    def test_a_batch_is_taken_whole_or_not_at_all(self):
        before = self.document()
        answer = self.record(
            said("/cylinders/2/plug/wetness", "dry"), said("/cylinders/7/plug/wetness", "dry")
        )
        self.assertEqual(answer.status_code, 400)
        self.assertEqual(answer.json()["problems"][0]["path"], "/cylinders/1/number")
        self.assertEqual(self.document(), before)

    def test_a_bad_value_names_its_path(self):
        for path, value in (
            ("/cylinders/2/plug/gap", {"value": 1, "unit": "psi"}),
            ("/cylinders/2/plug/wetness", "moist"),
            ("/nonsense", 1),
            ("/format", "other"),
        ):
            with self.subTest(path=path):
                answer = self.record(said(path, value))
                self.assertEqual(answer.status_code, 400)
                self.assertEqual(answer.json()["problems"][0]["path"], path)

    def test_taking_back_leaves_the_log_and_not_the_value(self):
        self.record(said("/cylinders/2/plug/wetness", "wet"))
        self.record(said("/cylinders/2/plug/wetness", None))
        self.assertNotIn("cylinders", self.document())
        log = self.client.get(f"{self.address}/observations").json()
        self.assertEqual([row["value"] for row in log[-2:]], ["wet", None])
        self.assertEqual(log[-1]["by"], "The inspector")

    def test_the_document_is_the_fold_of_the_log(self):
        self.record(said("/cylinders/2/plug/gap", quantity(0.8, "mm")))
        self.record(said("/cylinders/2/plug/gap", quantity(0.9, "mm")))
        log = self.inspection.observations.values_list("path", "value")
        self.assertEqual(fold(log), self.document())

    def test_an_absent_database_is_said_and_nothing_else(self):
        with mock.patch.object(inspection_log, "record", side_effect=OperationalError("gone")):
            answer = self.record(said("/cylinders/2/plug/wetness", "wet"))
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "database-away"))


class WeighingTests(Recorder):
    def keep(self, path, value):
        body = {"observations": [said(path, value)]}
        address = f"{self.address}/observations?weigh=later"
        return self.client.post(address, body, content_type="application/json")

    def weighed(self):
        return self.client.get(f"{self.address}/weighed")

    def test_what_is_kept_waits_for_nothing_that_follows_from_it(self):
        with mock.patch.object(derive, "assess", side_effect=NotWeighed):
            kept = self.keep("/cylinders/2/well/oil", "pooled")
            self.assertEqual((kept.status_code, "assessment" in kept.json()), (200, False))
            late = self.weighed()
        self.assertEqual((late.status_code, late.json()["code"]), (503, "not-weighed"))
        self.assertTrue(self.client.get("/api/inspections").json()[0]["old"])
        self.assertEqual(self.weighed().json()["assessment"]["engine"]["most_suspect"], [2])
        row = self.client.get("/api/inspections").json()[0]
        self.assertFalse(row["old"])

    def test_many_words_are_weighed_once_however_many_ask(self):
        for word in ("damp", "dry", "wet"):
            self.keep("/cylinders/2/plug/wetness", word)
        with mock.patch.object(derive, "assess", wraps=derive.assess) as assessed:
            told = [self.weighed().json() for _ in range(2)]
        self.assertEqual((told[0], assessed.call_count), (told[1], 1))
        self.assertEqual(told[0]["sequence"], self.client.get(self.address).json()["sequence"])


class RulesTests(Recorder):
    def test_an_assessment_by_older_rules_is_made_again_when_opened(self):
        today = self.client.get(self.address).json()["assessment"]
        older = {**today, "rules_version": "older", "cylinders": []}
        Inspection.objects.filter(pk=self.inspection.pk).update(
            assessment=older, grade="E", rules="older"
        )
        self.assertEqual(self.client.get(self.address).json()["assessment"], today)
        self.inspection.refresh_from_db()
        self.assertEqual(self.inspection.grade, "U")

    def test_lists_say_which_are_old_until_all_are_weighed_again(self):
        Inspection.objects.filter(pk=self.inspection.pk).update(grade="E", rules="older")
        row = self.client.get("/api/inspections").json()[0]
        self.assertEqual((row["grade"], row["old"]), ("E", True))
        told = io.StringIO()
        call_command("reweigh", here=True, stdout=told)
        self.assertIn("1 inspections weighed again", told.getvalue())
        row = self.client.get("/api/inspections").json()[0]
        self.assertEqual((row["grade"], row["old"]), ("U", False))


class TogetherTests(TransactionTestCase):
    def test_two_people_at_once_both_count(self):
        user = shop_with()
        inspection = inspection_of(user)

        def write(cylinder):
            try:
                for colour in ("tan", "brown", "grey"):
                    path = f"/cylinders/{cylinder}/plug/deposit_colour"
                    one = inspection_log.Said(uuid.uuid4(), path, colour)
                    inspection_log.record(inspection_id=inspection.pk, said=[one], by=user)
            finally:
                connection.close()

        before = inspection.sequence
        writers = [threading.Thread(target=write, args=(cylinder,)) for cylinder in (1, 2, 3)]
        for writer in writers:
            writer.start()
        for writer in writers:
            writer.join()
        inspection.refresh_from_db()
        colours = [one["plug"]["deposit_colour"] for one in inspection.document["cylinders"]]
        self.assertEqual(colours, ["grey"] * 3)
        self.assertEqual(inspection.sequence, before + 9)


class HouseRulesTests(Recorder):
    role = "owner"

    def put(self, **rules):
        body = {"rules": rules}
        return self.client.put("/api/shop/rules", body, content_type="application/json")

    def opened(self):
        body = {"engine": str(self.inspection.engine_id)}
        answer = self.client.post("/api/inspections", body, content_type="application/json")
        return answer.json()["document"].get("house_rules")

    def test_each_inspection_keeps_the_rules_it_was_opened_under(self):
        self.assertIsNone(self.opened())
        self.put(name="Strict", compression="peers-10")
        before = self.opened()
        self.assertEqual(self.put(name="Strict", compression="peers-10").json()["version"], 1)
        self.assertEqual(self.put(name="Strict", compression="peers-15").json()["version"], 2)
        self.assertEqual(before, {"name": "Strict, version 1", "compression": "peers-10"})
        self.assertEqual(self.opened()["compression"], "peers-15")

    def test_a_change_shows_what_it_would_change_and_stores_nothing(self):
        reading = "/tests/compression/dry-1"
        values = {1: 150, 2: 128, 3: 151, 4: 149}
        self.record(
            said(f"{reading}/kind", "dry"),
            *(
                said(f"{reading}/readings/{n}/pressure", quantity(v, "psi"))
                for n, v in values.items()
            ),
        )
        body = {"rules": {"compression": "peers-10"}}
        answer = self.client.post("/api/shop/rules/try", body, content_type="application/json")
        changes = {one["what"]: one for one in answer.json()[0]["changes"]}
        self.assertIn("pass", changes["compression"]["before"])
        self.assertIn("fail", changes["compression"]["after"])
        self.assertEqual(self.client.get("/api/shop/rules").json()["version"], 0)

    def test_rules_that_are_none_are_refused(self):
        answer = self.put(compression="by-feel")
        self.assertEqual(answer.json()["problems"][0]["path"], "/house_rules/compression")


class DocumentTests(Recorder):
    def take_in(self, data):
        return self.client.post("/api/inspections/import", data, content_type="application/json")

    def export(self, inspection_id):
        return self.client.get(f"/api/inspections/{inspection_id}/document").content

    def test_imported_exported_and_imported_again_is_the_same_bytes(self):
        once = self.export(self.take_in(json.dumps(full())).json()["id"])
        twice = self.export(self.take_in(once).json()["id"])
        self.assertEqual(once, twice)

    def test_the_server_and_the_shell_give_one_assessment(self):
        answer = self.take_in(json.dumps(full())).json()
        document = read_document(self.export(answer["id"]))
        self.assertEqual(answer["assessment"], assess(document, explain=False))
        said = self.client.get(f"/api/inspections/{answer['id']}/reasons").json()
        self.assertEqual(said["assessment"], assess(document))

    def test_a_refused_document_leaves_nothing_behind(self):
        broken = document(4, title="Never seen", colour="red")
        answer = self.take_in(json.dumps(broken))
        self.assertEqual(answer.status_code, 400)
        self.assertEqual(answer.json()["problems"][0]["path"], "/engine/colour")
        self.assertFalse(Inspection.objects.filter(engine__title="Never seen").exists())
        for data in (b"", b"{", b"\xff", b"[1]"):
            self.assertEqual(self.take_in(data).status_code, 400)

    def test_two_documents_of_one_engine_belong_to_one_engine(self):
        first, second = (self.take_in(json.dumps(document(4, title="T"))).json() for _ in "ab")
        self.assertEqual(first["engine"], second["engine"])


class EngineTests(Recorder):
    def test_an_inspection_opens_with_the_engine_as_it_is(self):
        engine = {**document(4, title="New", firing_order=[1, 3, 4, 2])["engine"]}
        made = self.client.post("/api/engines", {"data": engine}, content_type="application/json")
        self.assertEqual(made.status_code, 201)
        body = {"engine": made.json()["id"], "purpose": "routine"}
        opened = self.client.post("/api/inspections", body, content_type="application/json").json()
        self.assertEqual(opened["document"]["engine"]["firing_order"], [1, 3, 4, 2])
        self.assertEqual(opened["document"]["inspection"]["purpose"], "routine")

    def test_a_wrong_engine_names_the_path(self):
        engine = document(4, title="X", firing_order=[1, 2, 3])["engine"]
        answer = self.client.post("/api/engines", {"data": engine}, content_type="application/json")
        self.assertEqual(answer.json()["problems"][0]["path"], "/engine/firing_order")

    def test_an_engine_and_an_inspection_made_on_a_device_are_made_once(self):
        engine, inspection = str(uuid.uuid4()), str(uuid.uuid4())
        data = document(4, title="Made out there")["engine"]
        opening = {
            "id": inspection,
            "engine": engine,
            "date": "2026-05-04",
            "author": str(self.user.pk),
        }
        for _ in "ab":
            for address, body in (
                ("/api/engines", {"id": engine, "data": data}),
                ("/api/inspections", {**opening, "device": engine}),
            ):
                answer = self.client.post(address, body, content_type="application/json")
                self.assertEqual(answer.status_code, 201, answer.content)
        self.assertEqual(answer.json()["id"], inspection)
        self.assertEqual(answer.json()["document"]["inspection"]["date"], "2026-05-04")
        self.assertEqual(Inspection.objects.filter(engine_id=engine).count(), 1)
        late = {**said("/inspection/date", "2026-05-05"), "device": engine, "seen": 0}
        address = f"/api/inspections/{inspection}/observations"
        answer = self.client.post(
            address, {"observations": [late]}, content_type="application/json"
        )
        self.assertEqual(answer.json()["conflicts"], [], "it knew what it had begun with")
        stranger = shop_with()
        self.client.force_login(stranger)
        taken = self.client.post(
            "/api/engines", {"id": engine, "data": data}, content_type="application/json"
        )
        self.assertEqual(taken.status_code, 400)

    def test_lists_take_the_same_queries_however_long(self):
        def queries():
            with self.assertNumQueries(3):
                self.client.get("/api/inspections")

        queries()
        for _ in range(5):
            inspection_of(self.user)
        queries()


class MigrationTests(TestCase):
    def test_models_and_migrations_agree(self):
        call_command("makemigrations", check=True, dry_run=True, verbosity=0)
