"""Putting by, deleting and bringing back, and what everybody sees of it meanwhile."""

from datetime import timedelta

from django.test import TestCase
from django.utils import timezone

from core.errors import CoreError
from server.inspections.keeping import DAYS_KEPT, forget
from server.inspections.models import Inspection
from server.reports.services import reopen, sign
from server.tests.people import GAP, inspection_of, shop_with


class KeepingTests(TestCase):
    def setUp(self):
        self.user = shop_with("owner")
        self.inspection = inspection_of(self.user)
        self.client.force_login(self.user)

    def keep(self, kept, client=None):
        address = f"/api/inspections/{self.inspection.pk}/kept"
        body = {"kept": kept}
        return (client or self.client).put(address, body, content_type="application/json")

    def listed(self, **query):
        return [one["id"] for one in self.client.get("/api/inspections", query).json()]

    def test_what_is_put_by_is_out_of_the_list_and_open(self):
        self.assertEqual(self.keep("archived").status_code, 204)
        self.assertEqual(self.listed(), [])
        own = [str(self.inspection.pk)]
        self.assertEqual(self.listed(kept="archived"), own)
        self.assertEqual(self.listed(engine=self.inspection.engine_id), own)
        self.assertEqual(self.client.get(f"/api/inspections/{own[0]}").status_code, 200)

    def test_what_is_deleted_is_there_for_nobody_until_it_is_brought_back(self):
        address = f"/api/inspections/{self.inspection.pk}"
        link = self.client.post(f"{address}/links", {"days": 7}, content_type="application/json")
        shared = link.json()["address"]
        self.assertEqual(self.client.get(shared).status_code, 200)
        self.keep("removed")
        self.assertEqual(self.client.get(address).status_code, 404)
        self.assertEqual(self.client.get(shared).status_code, 404)
        self.assertEqual(self.listed(engine=self.inspection.engine_id), [])
        body = {"observations": [GAP]}
        late = self.client.post(f"{address}/observations", body, content_type="application/json")
        self.assertEqual(late.status_code, 404)
        self.assertEqual(self.listed(kept="removed"), [str(self.inspection.pk)])
        self.keep("shown")
        self.assertEqual(self.listed(), [str(self.inspection.pk)])
        self.assertEqual(self.client.get(shared).status_code, 200)

    def test_after_its_days_it_goes_for_good(self):
        self.keep("removed")
        rows = Inspection.objects.filter(pk=self.inspection.pk)
        for days, left in ((DAYS_KEPT - 1, 1), (DAYS_KEPT + 1, 0)):
            rows.update(removed=timezone.now() - timedelta(days=days))
            forget(self.user.shop)
            self.assertEqual(rows.count(), left)

    def test_a_signed_one_is_put_by_and_never_deleted(self):
        self.client.post(f"/api/inspections/{self.inspection.pk}/handing-over")
        refused = self.keep("removed")
        self.assertEqual((refused.status_code, refused.json()["code"]), (400, "signed-off"))
        self.assertEqual(self.keep("archived").status_code, 204)

    def test_of_one_that_is_signed_while_it_is_deleted_the_promise_stays(self):
        known = Inspection.objects.get(pk=self.inspection.pk)
        rows = Inspection.objects.filter(pk=known.pk)
        sign(inspection=known, by=self.user)
        rows.update(removed=timezone.now() - timedelta(days=2 * DAYS_KEPT))
        forget(self.user.shop)
        self.assertTrue(rows.exists())
        reopen(inspection=known, by=self.user, reason="a wrong gap")
        with self.assertRaises(CoreError):
            sign(inspection=known, by=self.user)

    def test_neither_a_viewer_nor_a_stranger_does_either(self):
        viewer = shop_with("viewer")
        viewer.shop = self.user.shop
        viewer.save()
        for person, status in ((viewer, 403), (shop_with("owner"), 404)):
            client = self.client_class()
            client.force_login(person)
            self.assertEqual(self.keep("removed", client).status_code, status)
