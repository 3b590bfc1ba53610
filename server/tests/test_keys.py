"""Other programs come in by keys of a person, and by less than the person may."""

from datetime import timedelta

from django.core.cache import cache
from django.core.management import call_command
from django.test import Client, TestCase
from django.utils import timezone
from django_otp.plugins.otp_totp.models import TOTPDevice
from icalendar import Calendar

from server.api.access import KeyThrottle
from server.inspections.models import Inspection
from server.shops.accounts import Newcomer, change, link_of, welcome
from server.shops.keys import make
from server.shops.models import AccessKey, SignedIn
from server.tests.people import GAP, PASSWORD, colleague_of, inspection_of, shop_with

JSON = "application/json"


class KeyTests(TestCase):
    def setUp(self):
        cache.clear()
        self.owner = shop_with("owner")
        self.inspection = inspection_of(self.owner)
        self.client.force_login(self.owner)
        self.one = f"/api/inspections/{self.inspection.pk}"

    def made(self, scope):
        body = {"name": "a program", "scope": scope, "password": PASSWORD}
        return self.client.post("/api/me/keys", body, JSON).json()

    def holder(self, secret):
        return Client(headers={"Authorization": f"Bearer {secret}"})

    def test_a_key_reads_or_records_as_it_says_and_is_not_kept(self):
        reads, writes = (self.holder(self.made(scope)["secret"]) for scope in ("read", "write"))
        body = {"observations": [GAP]}
        self.assertEqual(reads.get(self.one).status_code, 200)
        self.assertEqual(reads.post(f"{self.one}/observations", body, JSON).status_code, 403)
        self.assertEqual(writes.post(f"{self.one}/observations", body, JSON).status_code, 200)
        kept = " ".join(AccessKey.objects.values_list("digest", flat=True))
        self.assertNotIn("fiacre_", kept)
        self.assertNotIn("secret", self.client.get("/api/me/keys").content.decode())

    def test_the_address_names_its_version_and_a_version_that_is_not_there_is_told_so(self):
        reads = self.holder(self.made("read")["secret"])
        now = reads.get(self.one)
        self.assertEqual(reads.get(self.one.replace("/api/", "/api/v1/")).content, now.content)
        later = reads.get(self.one.replace("/api/", "/api/v2/"))
        self.assertEqual((later.status_code, later["Content-Type"]), (404, "application/json"))

    def test_a_key_decides_nothing_for_the_shop_or_its_person(self):
        holder = self.holder(self.made("write")["secret"])
        for method, address, body in (
            ("put", "/api/shop/rules", {"rules": {}}), ("get", "/api/shop/archive", None),
            ("put", "/api/me", {"name": "x"}), ("post", "/api/me/keys", {"name": "y"}),
            ("post", "/api/people", {}), ("get", "/api/me/sessions", None),
        ):  # fmt: skip
            with self.subTest(address=address):
                answer = getattr(holder, method)(address, body, content_type=JSON)
                self.assertEqual((answer.status_code, answer.json()["code"]), (403, "not-by-key"))

    def test_what_is_old_taken_back_or_of_somebody_shut_out_opens_nothing(self):
        for end in ("old", "taken back", "shut out"):
            secret = self.made("read")["secret"]
            key = AccessKey.objects.latest("made")
            if end == "old":
                AccessKey.objects.update(expires=timezone.now() - timedelta(days=1))
            elif end == "taken back":
                self.client.delete(f"/api/me/keys/{key.pk}")
            else:
                type(self.owner).objects.filter(pk=self.owner.pk).update(is_active=False)
            with self.subTest(end=end):
                self.assertEqual(self.holder(secret).get(self.one).status_code, 401)

    def test_a_session_alone_makes_none(self):
        """It outlives the session: so the password is asked for, and the factor where one is."""
        body = {"name": "a program", "scope": "read"}
        for more, code in (({}, "invalid"), ({"password": "guessed"}, "wrong-password")):
            answer = self.client.post("/api/me/keys", {**body, **more}, JSON)
            self.assertEqual(answer.json()["code"], code)
        self.owner.shop.second_factor = True
        self.owner.shop.save()
        answer = self.client.post("/api/me/keys", {**body, "password": PASSWORD}, JSON)
        self.assertEqual((answer.status_code, answer.json()["code"]), (403, "required"))
        TOTPDevice.objects.create(user=self.owner, confirmed=True)
        answer = self.client.post("/api/me/keys", {**body, "password": PASSWORD}, JSON)
        self.assertEqual((answer.status_code, answer.json()["code"]), (403, "wrong-code"))
        self.assertFalse(AccessKey.objects.exists())

    def test_a_session_guesses_its_password_only_so_often(self):
        body = {"name": "a program", "scope": "read", "password": "guessed"}
        codes = [self.client.post("/api/me/keys", body, JSON).status_code for _ in range(25)]
        self.assertEqual((codes[0], codes[-1]), (403, 429))
        wrong = {"old": "guessed", "password": "a heron stands in the reeds"}
        self.assertEqual(self.client.put("/api/me/password", wrong, JSON).status_code, 429)
        self.assertEqual(self.client.get("/api/me/keys").status_code, 200)

    def test_it_walks_round_no_second_factor(self):
        holder = self.holder(self.made("read")["secret"])
        self.assertEqual(holder.get(self.one).status_code, 200)
        type(self.owner.shop).objects.update(second_factor=True)
        self.assertEqual(holder.get(self.one).status_code, 401)
        TOTPDevice.objects.create(user=self.owner, confirmed=True)
        self.assertEqual(holder.get(self.one).status_code, 200)

    def test_it_ends_with_the_password_the_role_and_the_factor(self):
        def password():
            new = {"old": PASSWORD, "password": "a heron stands in the reeds"}
            self.assertEqual(self.client.put("/api/me/password", new, JSON).status_code, 204)
            self.owner.refresh_from_db()
            self.owner.set_password(PASSWORD)
            self.owner.save()
            self.client.force_login(self.owner)

        def link():
            who, token = link_of(self.owner).split("/")[2:]
            welcome(who, token, Newcomer("", PASSWORD))
            self.owner.refresh_from_db()
            self.client.force_login(self.owner)

        def role():
            colleague_of(self.owner, "owner")
            change(self.owner, role="inspector", active=True, name=self.owner.name)

        for end in (password, link, role):
            self.made("read")
            with self.subTest(end.__name__):
                end()
                self.assertFalse(AccessKey.objects.filter(user=self.owner).exists())

    def test_owners_see_whose_keys_there_are_and_take_them_back(self):
        other = colleague_of(self.owner, "inspector")
        secret = make(other, "a colleague's program", "read", 9)[1]
        stranger = shop_with("owner", "Another shop")
        make(stranger, "not of this shop", "read", 9)
        listed = self.client.get("/api/shop/keys").json()
        self.assertEqual([(one["person"], one["name"]) for one in listed],
                         [(other.name, "a colleague's program")])  # fmt: skip
        self.client.delete(f"/api/shop/keys/{listed[0]['id']}")
        self.assertEqual(self.holder(secret).get(self.one).status_code, 401)
        self.client.force_login(other)
        self.assertEqual(self.client.get("/api/shop/keys").status_code, 403)

    def test_what_has_had_its_day_is_taken_away_and_the_rest_stays(self):
        self.made("read")
        old = AccessKey.objects.get()
        AccessKey.objects.update(expires=timezone.now() - timedelta(days=1))
        self.made("read")
        SignedIn.objects.create(
            session_key="old", session_data="", expire_date=timezone.now() - timedelta(days=1)
        )
        call_command("clear_expired")
        self.assertFalse(AccessKey.objects.filter(pk=old.pk).exists())
        self.assertEqual((AccessKey.objects.count(), SignedIn.objects.count()), (1, 1))
        self.assertEqual(self.client.get("/api/session").status_code, 200)

    def test_one_key_asks_so_often_and_no_oftener(self):
        holder = self.holder(self.made("read")["secret"])
        kept = KeyThrottle.THROTTLE_RATES
        self.addCleanup(setattr, KeyThrottle, "THROTTLE_RATES", kept)
        KeyThrottle.THROTTLE_RATES = {"key": "2/min"}
        codes = [holder.get("/api/engines").status_code for _ in range(3)]
        self.assertEqual(codes, [200, 200, 429])
        self.assertEqual(self.client.get("/api/engines").status_code, 200)

    def test_the_calendar_tells_what_is_to_be_looked_at_again(self):
        Inspection.objects.filter(pk=self.inspection.pk).update(follow_up="2027-03-01")
        elsewhere = inspection_of(shop_with(name="Elsewhere"))
        Inspection.objects.filter(pk=elsewhere.pk).update(follow_up="2027-03-02")
        address = self.made("calendar")["address"]
        answer = Client().get(address)
        self.assertEqual(answer["Content-Type"], "text/calendar; charset=utf-8")
        events = Calendar.from_ical(answer.content).walk("VEVENT")
        told = [(str(one["dtstart"].dt), str(one["summary"])) for one in events]
        self.assertEqual(told, [("2027-03-01", "Look again: An inline four")])
        self.assertEqual(self.holder(address.rsplit("/", 1)[1][:-4]).get(self.one).status_code, 401)
        self.assertEqual(Client().get(address.replace("fiacre_", "fiacre_x")).status_code, 404)
