"""Who a shop works for: seen by those who write, given out whole, and forgotten."""

import io
import json
import zipfile
from datetime import timedelta

from django.core.management import call_command
from django.test import TestCase
from django.utils import timezone

from server.archive.writing import Archive
from server.clients.models import Client
from server.inspections.models import Inspection
from server.tests.people import colleague_of, inspection_of, shop_with

PERSON = {
    "name": "Ingrid Vasse", "email": "ingrid@example.test", "phone": "+00 12 34",
    "address": "Slip 4", "note": "prefers to be called in the evening",
}  # fmt: skip


class ClientsTests(TestCase):
    def setUp(self):
        self.owner = shop_with("owner")
        self.client.force_login(self.owner)
        made = self.client.post("/api/clients", PERSON, "application/json")
        self.assertEqual(made.status_code, 201, made.content)
        self.address = f"/api/clients/{made.json()['id']}"
        self.inspection = inspection_of(self.owner)
        self.own = f"/api/engines/{self.inspection.engine_id}/owner"

    def owns(self):
        body = {"client": self.address.rpartition("/")[2]}
        self.assertEqual(self.client.put(self.own, body, "application/json").status_code, 200)

    def found(self, q):
        return [one["name"] for one in self.client.get("/api/clients", {"q": q}).json()]

    def test_a_client_is_found_changed_and_named_as_the_owner_of_an_engine(self):
        self.owns()
        self.assertEqual(self.found("vasse ingrid@"), ["Ingrid Vasse"])
        self.assertEqual(self.found("vasse nobody"), [])
        body = {**PERSON, "phone": "+00 56", "version": 1}
        changed = self.client.put(self.address, body, "application/json")
        self.assertEqual(changed.json()["engines"], [self.inspection.engine.title])
        late = self.client.put(self.address, {**body, "phone": "+00 78"}, "application/json")
        self.assertEqual((late.status_code, late.json()["code"]), (409, "changed-meanwhile"))
        self.assertEqual(self.client.get(self.own).json()["client"], changed.json()["id"])

    def test_the_night_erases_who_was_not_there_for_as_long_as_the_shop_keeps_them(self):
        self.owns()
        shop = self.client.get("/api/shop").json()
        kept = self.client.put("/api/shop", {**shop, "keep_clients": 5}, "application/json")
        self.assertEqual(kept.json()["keep_clients"], 5)
        long_ago = timezone.now() - timedelta(days=6 * 366)
        Client.objects.update(made=long_ago)
        call_command("clear_expired")
        self.assertEqual(self.found("vasse"), ["Ingrid Vasse"], "the engine was here since")
        Inspection.objects.update(changed=long_ago)
        self.client.put("/api/shop", {**shop, "keep_clients": None}, "application/json")
        call_command("clear_expired")
        self.assertEqual(self.found("vasse"), ["Ingrid Vasse"], "this shop keeps everybody")
        self.client.put("/api/shop", {**shop, "keep_clients": 5}, "application/json")
        call_command("clear_expired")
        self.assertEqual(self.found("vasse"), [])
        self.assertEqual(Inspection.objects.count(), 1)

    def test_a_client_gets_all_that_is_kept_of_them(self):
        self.owns()
        answer = self.client.get(f"{self.address}/data")
        self.assertIn("attachment", answer["Content-Disposition"])
        told = json.loads(answer.content)
        self.assertEqual({name: told[name] for name in PERSON}, PERSON)
        self.assertEqual(told["engines"][0]["inspections"][0]["id"], str(self.inspection.pk))

    def test_what_is_erased_is_nowhere_and_what_was_found_stays(self):
        self.owns()
        inspector = colleague_of(self.owner, "inspector")
        self.client.force_login(inspector)
        self.assertEqual(self.client.delete(self.address).status_code, 403)
        self.client.force_login(self.owner)
        self.assertEqual(self.client.delete(self.address).status_code, 204)
        self.assertEqual(self.found(""), [])
        erased = Client.objects.get()
        self.assertIsNotNone(erased.erased)
        packed = zipfile.ZipFile(io.BytesIO(b"".join(Archive(self.owner.shop).stream())))
        archive = b"".join(packed.read(name) for name in packed.namelist())
        self.assertIn(str(erased.pk).encode(), archive)
        kept = self.client.get(f"{self.address}/data").content
        for word in PERSON.values():
            self.assertNotIn(word.encode(), kept)
            self.assertNotIn(word.encode(), archive)
        self.assertEqual(self.client.get(self.own).json()["client"], str(erased.pk))
        refused = self.client.put(self.address, PERSON, "application/json")
        self.assertEqual(refused.status_code, 400)

    def test_who_only_looks_and_who_is_elsewhere_see_nobody(self):
        for other in (colleague_of(self.owner, "viewer"), shop_with("owner", "Elsewhere")):
            self.client.force_login(other)
            for method, address in (
                ("get", f"{self.address}/data"), ("put", self.address), ("delete", self.address),
                ("get", self.own),
            ):  # fmt: skip
                answer = getattr(self.client, method)(address, PERSON, "application/json")
                self.assertIn(answer.status_code, (403, 404), (method, address))
        self.assertEqual(self.found(""), [])
        self.assertEqual(Client.objects.get().name, PERSON["name"])
