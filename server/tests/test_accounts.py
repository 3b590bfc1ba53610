"""Coming into a shop, what a role may do, and keeping others out."""

import re
from unittest.mock import patch

from axes.utils import reset
from django.core import mail
from django.test import Client, TestCase, override_settings
from django_otp.oath import totp

from server.shops.accounts import link_of, set_up_code
from server.shops.models import HouseRules, Shop, SignedIn, User
from server.tests.people import PASSWORD, inspection_of, shop_with
from server.tests.test_photos import picture

NEW = "plugs-out-and-dry-7"
JSON = "application/json"


class AccountCase(TestCase):
    def setUp(self):
        self.owner = shop_with("owner")
        self.client.force_login(self.owner)

    def post(self, address, body=None, client=None):
        return (client or self.client).post(address, body or {}, JSON)

    def sign_in(self, email, password=PASSWORD, client=None, **more):
        body = {"email": email, "password": password, **more}
        return self.post("/api/session", body, client or Client())

    def colleague(self, role="inspector"):
        return User.objects.create_user(
            f"{role}@example.test", PASSWORD, name=role, role=role, shop=self.owner.shop
        )

    def role(self, person, **change):
        body = {"name": person.name, "role": person.role, "active": True, **change}
        return self.client.put(f"/api/people/{person.pk}", body, JSON)


class ComingInTests(AccountCase):
    def test_a_set_up_link_makes_one_shop_and_no_second(self):
        body = {"code": set_up_code(), "shop": "Ours", "name": "Ada", "password": NEW}
        made = self.post("/api/set-up", {**body, "email": "ada@example.test"}, Client())
        self.assertEqual((made.json()["role"], made.json()["shop"]), ("owner", "Ours"))
        again = self.post("/api/set-up", {**body, "email": "eve@example.test"}, Client())
        self.assertEqual(again.json()["code"], "link-closed")
        forged = {**body, "code": body["code"][:-2] + "xx", "email": "eve@example.test"}
        self.assertEqual(self.post("/api/set-up", forged, Client()).json()["code"], "link-closed")
        self.assertEqual(Shop.objects.count(), 2)

    def test_an_invited_person_sets_a_password_once(self):
        body = {"name": "Bo", "email": "Bo@Example.test ", "role": "inspector"}
        invited = self.post("/api/people", body)
        self.assertEqual(invited.status_code, 201)
        path = re.sub(r"^https?://[^/]+", "/api", invited.json()["address"])
        stranger = Client()
        self.assertEqual(stranger.get(path).json()["email"], "bo@example.test")
        weak = self.post(path, {"name": "Bo", "password": "short"}, stranger)
        self.assertEqual(weak.json()["code"], "weak-password")
        self.assertNotIn("short", str(weak.json()["problems"][0]["value"]))
        welcome = self.post(path, {"name": "Bo", "password": NEW}, stranger)
        self.assertEqual(welcome.json()["role"], "inspector")
        self.assertEqual(self.post(path, {"name": "Bo", "password": NEW}).status_code, 400)
        self.assertEqual(self.sign_in(" bo@example.test", NEW).status_code, 200)

    def test_a_forgotten_password_is_answered_alike_and_mailed_where_mail_is_set_up(self):
        with override_settings(EMAIL_HOST="mail.example.test"):
            for email in (self.owner.email, "nobody@example.test"):
                answer = self.post("/api/forgotten", {"email": email}, Client())
                self.assertEqual((answer.status_code, answer.content), (204, b""))
        self.assertEqual([one.to for one in mail.outbox], [[self.owner.email]])
        self.assertIn("/welcome/", mail.outbox[0].body)

    def test_somebody_who_was_shut_out_is_out_at_once_and_their_link_is_closed(self):
        bo, session = self.colleague(), Client()
        self.sign_in(bo.email, client=session)
        link = link_of(bo)
        self.assertEqual(self.role(bo, active=False).status_code, 200)
        self.assertEqual(session.get("/api/inspections").status_code, 401)
        self.assertEqual(Client().get(f"/api{link}").status_code, 400)
        self.assertEqual(self.sign_in(bo.email).status_code, 401)

    def test_a_shop_keeps_an_owner_and_nobody_reaches_into_another_shop(self):
        self.assertEqual(self.role(self.owner, role="viewer").json()["code"], "last-owner")
        theirs = shop_with("owner", "Theirs")
        self.assertEqual(self.role(theirs, role="viewer").status_code, 404)
        self.assertEqual(self.post(f"/api/people/{theirs.pk}").status_code, 404)


class RoleTests(AccountCase):
    def test_what_an_owner_decides_an_inspector_does_not(self):
        inspection = inspection_of(self.owner)
        one = f"/api/inspections/{inspection.pk}"
        asked = (
            ("put", "/api/shop/rules", {"rules": {}}),
            ("put", "/api/shop", {"name": "x"}),
            ("post", "/api/people", {"name": "x", "email": "x@example.test", "role": "owner"}),
            ("put", f"/api/people/{self.owner.pk}", {}),
            ("get", "/api/shop/archive", None),
            ("post", f"{one}/links", {}),
            ("post", f"{one}/reopen", {"reason": "so"}),
        )
        for role in ("inspector", "viewer"):
            self.client.force_login(User.objects.filter(role=role).first() or self.colleague(role))
            for method, address, body in asked:
                with self.subTest(role=role, address=address):
                    answer = getattr(self.client, method)(address, body, content_type=JSON)
                    self.assertEqual(answer.status_code, 403)
        self.assertFalse(HouseRules.objects.exists())

    def test_an_inspector_signs_and_everybody_changes_their_own(self):
        bo = self.colleague()
        self.client.force_login(bo)
        inspection = inspection_of(bo)
        signed = self.post(f"/api/inspections/{inspection.pk}/handing-over")
        self.assertEqual(signed.status_code, 200)
        self.client.force_login(self.colleague("viewer"))
        self.assertEqual(self.client.put("/api/me", {"name": "Vee"}, JSON).json()["name"], "Vee")


class OwnAccountTests(AccountCase):
    def test_a_new_password_ends_every_other_session(self):
        other = Client()
        self.sign_in(self.owner.email, client=other)
        wrong = {"old": "guessed", "password": NEW}
        self.assertEqual(self.client.put("/api/me/password", wrong, JSON).status_code, 403)
        right = {"old": PASSWORD, "password": NEW}
        self.assertEqual(self.client.put("/api/me/password", right, JSON).status_code, 204)
        self.assertEqual(self.client.get("/api/session").status_code, 200)
        self.assertEqual(other.get("/api/session").status_code, 401)

    def test_sessions_are_listed_and_ended(self):
        other = Client(headers={"User-Agent": "A phone"})
        self.sign_in(self.owner.email, client=other)
        listed = self.client.get("/api/me/sessions").json()
        self.assertIn(("A phone", False), [(one["device"], one["here"]) for one in listed])
        self.client.delete("/api/me/sessions")
        self.assertEqual(other.get("/api/session").status_code, 401)
        self.assertEqual(SignedIn.objects.filter(user=self.owner).count(), 1)

    def enrol(self):
        self.post("/api/me/second-factor", {"password": PASSWORD})
        device = self.owner.totpdevice_set.get(confirmed=False)
        code = f"{totp(device.bin_key):06d}"
        return self.client.put("/api/me/second-factor", {"code": code}, JSON).json()["codes"]

    def test_the_second_factor_is_asked_for_and_a_recovery_code_is_spent(self):
        begun = self.post("/api/me/second-factor", {"password": PASSWORD}).json()
        self.assertTrue(begun["address"].startswith("otpauth://totp/"))
        self.assertIn("<svg", begun["picture"])
        self.assertEqual(self.sign_in(self.owner.email).status_code, 200, "of no effect yet")
        codes = self.enrol()
        self.assertEqual(self.sign_in(self.owner.email).json()["code"], "second-factor")
        wrong = self.sign_in(self.owner.email, code="000000")
        self.assertEqual(wrong.json()["code"], "second-factor-wrong")
        with patch("django_otp.models.ThrottlingMixin.verify_is_allowed", return_value=(True, {})):
            self.assertEqual(self.sign_in(self.owner.email, code=codes[0]).status_code, 200)
            self.assertEqual(self.sign_in(self.owner.email, code=codes[0]).status_code, 401)
        self.post("/api/me/second-factor/forget", {"password": PASSWORD})
        self.assertEqual(self.sign_in(self.owner.email).status_code, 200)

    def test_a_shop_that_wants_a_second_factor_lets_nobody_work_without(self):
        shop = {"name": "A shop", "address": "", "liability": "", "fee": "", "second_factor": True}
        self.assertEqual(self.client.put("/api/shop", shop, JSON).status_code, 400)
        self.enrol()
        bo, session = self.colleague(), Client()
        self.sign_in(bo.email, client=session)
        self.assertEqual(self.client.put("/api/shop", shop, JSON).status_code, 200)
        self.assertEqual(session.get("/api/inspections").status_code, 401, "signed out")
        self.assertTrue(self.sign_in(bo.email, client=session).json()["must_enrol"])
        refused = session.get("/api/inspections")
        self.assertEqual(refused.json()["code"], "second-factor-required")
        self.assertEqual(session.get("/api/me").status_code, 200)

    def test_in_what_one_measures_is_ones_own_and_else_the_shops(self):
        shop = self.client.get("/api/shop").json()
        self.client.put("/api/shop", {**shop, "units": "imperial"}, "application/json")
        self.assertEqual(self.client.get("/api/session").json()["measures"]["pressure"], "psi")
        own = {"name": "The owner", "units": "bar"}
        self.assertEqual(self.client.put("/api/me", own, "application/json").status_code, 200)
        measures = self.client.get("/api/session").json()["measures"]
        self.assertEqual((measures["pressure"], measures["length"]), ("bar", "mm"))

    def test_a_logo_is_made_anew(self):
        given = self.client.put("/api/shop/logo", picture(), "application/octet-stream")
        self.assertEqual(given.status_code, 204)
        self.owner.shop.refresh_from_db()
        self.assertTrue(bytes(self.owner.shop.logo).startswith(b"\x89PNG"))
        refused = self.client.put("/api/shop/logo", b"<svg onload=x>", "application/octet-stream")
        self.assertEqual((refused.status_code, refused.json()["code"]), (400, "not-a-picture"))
        self.assertNotIn("0x", refused.content.decode(), "no address of the server's memory")


class AccountLogTests(AccountCase):
    def log(self, address="/api/shop/log"):
        return [(one["kind"], one["whom"], one["by"]) for one in self.client.get(address).json()]

    def test_who_came_in_and_what_was_changed_by_whom(self):
        bo, session = self.colleague(), Client(REMOTE_ADDR="10.9.0.7")
        self.post(f"/api/people/{bo.pk}")
        self.post(f"/api{link_of(bo)}", {"name": bo.name, "password": NEW}, session)
        self.role(bo, role="viewer")
        self.client.get("/api/shop/archive")
        mine = (self.owner.name, self.owner.name)
        self.assertEqual(
            self.log(),
            [
                ("exported", *mine),
                ("role-changed", bo.name, self.owner.name),
                ("came-in", bo.name, bo.name),
                ("link-used", bo.name, bo.name),
                ("link-made", bo.name, self.owner.name),
            ],
        )
        self.assertEqual(session.get("/api/shop/log").status_code, 403)
        own = session.get("/api/me/log").json()
        self.assertEqual({one["whom"] for one in own}, {bo.name})
        self.assertIn("10.9.0.7", {one["address"] for one in own})

    def test_a_way_in_goes_to_its_own_address_and_its_use_is_told_there(self):
        bo = self.colleague()
        with override_settings(EMAIL_HOST="mail.example.test"):
            made = self.post(f"/api/people/{bo.pk}").json()
            self.assertEqual(made, {"address": "", "mailed": True})
            self.post(f"/api{link_of(bo)}", {"name": bo.name, "password": NEW}, Client())
        self.assertEqual([one.to for one in mail.outbox], [[bo.email]] * 2)
        self.assertIn("set your password by a link", mail.outbox[1].body)

    def test_a_session_ends_however_much_it_is_used(self):
        self.sign_in(self.owner.email, client=self.client)
        with override_settings(SESSION_ENDS_S=3600):
            self.assertEqual(self.client.get("/api/people").status_code, 200)
            session = self.client.session
            session["began"] -= 3700
            session.save()
            self.assertEqual(self.client.get("/api/people").status_code, 401)
            self.assertEqual(self.client.get("/api/session").status_code, 401)


@override_settings(AXES_FAILURE_LIMIT=4)
class GuessingTests(AccountCase):
    def setUp(self):
        super().setUp()
        reset()
        self.addCleanup(reset)

    def test_one_account_from_many_addresses_and_spelt_in_many_ways(self):
        spelt = [self.owner.email, f"{self.owner.email} ", self.owner.email.upper()] * 2
        answers = [
            self.post("/api/session", {"email": one, "password": "guessed"},
                      Client(REMOTE_ADDR=f"10.0.0.{at}")).status_code
            for at, one in enumerate(spelt)
        ]  # fmt: skip
        self.assertEqual(answers[-1], 429)
        right = Client(REMOTE_ADDR="10.0.0.99")
        self.assertEqual(self.sign_in(self.owner.email, client=right).status_code, 429)

    def test_a_stranger_keeps_nobody_out_of_where_they_came_in_before(self):
        usual = Client(REMOTE_ADDR="10.0.0.99")
        self.assertEqual(self.sign_in(self.owner.email, client=usual).status_code, 200)
        for at in range(6):
            stranger = Client(REMOTE_ADDR=f"10.0.0.{at}")
            self.sign_in(self.owner.email, "guessed", stranger)
        self.assertEqual(self.sign_in(self.owner.email, client=stranger).status_code, 429)
        self.assertEqual(self.sign_in(self.owner.email, client=usual).status_code, 200)
        for _ in range(4):
            self.sign_in(self.owner.email, "guessed", usual)
        self.assertEqual(self.sign_in(self.owner.email, client=usual).status_code, 429)

    def test_one_try_at_each_of_many_accounts(self):
        for at in range(4):
            self.sign_in(f"person{at}@example.test", "guessed")
        self.assertEqual(self.sign_in(self.owner.email).status_code, 429)

    def test_junk_does_not_make_it_forget(self):
        for _ in range(4):
            self.sign_in(self.owner.email, "guessed")
        for at in range(320):
            Client(REMOTE_ADDR=f"10.1.{at // 250}.{at % 250}").post("/api/session", {}, JSON)
        self.assertEqual(self.sign_in(self.owner.email).status_code, 429)

    def test_signing_in_needs_the_token_of_the_page(self):
        strict = Client(enforce_csrf_checks=True)
        self.assertEqual(self.sign_in(self.owner.email, client=strict).status_code, 403)


class AnswerTests(AccountCase):
    def test_private_answers_are_kept_nowhere(self):
        answer = self.client.get("/api/session")
        self.assertIn("no-store", answer["Cache-Control"])
        self.assertIn("geolocation=()", answer["Permissions-Policy"])

    def test_it_says_whether_it_lives_and_can_work(self):
        self.assertEqual(Client().get("/healthz").json(), {"alive": True})
        with self.settings(MEDIA_ROOT="/proc/nowhere"):
            answer = Client().get("/readyz")
        self.assertEqual((answer.status_code, answer.json()["database"]), (503, True))

    def test_a_container_asks_itself_by_its_own_number(self):
        within = {"host": "10.0.0.7:8020"}
        with self.settings(ALLOWED_HOSTS=["shop.example"]):
            self.assertEqual(Client(headers=within).get("/healthz").status_code, 200)
            self.assertEqual(Client(headers=within).get("/api/session").status_code, 400)

    def test_there_is_no_page_where_an_icon_was_looked_for(self):
        for address in ("/favicon.ico", "/apple-touch-icon.png"):
            self.assertEqual(Client().get(address).status_code, 404)
        self.assertIn("Disallow", Client().get("/robots.txt").content.decode())
