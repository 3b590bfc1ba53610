from argon2 import Type, extract_parameters
from django.test import Client, TestCase, override_settings

from server.settings import PASSWORD_HASHERS as HASHERS
from server.tests.people import GAP, PASSWORD, inspection_of, shop_with


class OtherShopTests(TestCase):
    def setUp(self):
        self.theirs = inspection_of(shop_with(name="Theirs"))
        self.client.force_login(shop_with("owner", "Ours"))

    def test_another_shops_ids_are_not_there(self):
        inspection, engine = self.theirs.pk, self.theirs.engine_id
        body = {"data": self.theirs.engine.data}
        asked = (
            ("get", f"/api/inspections/{inspection}", None),
            ("get", f"/api/inspections/{inspection}/document", None),
            ("get", f"/api/inspections/{inspection}/observations", None),
            ("post", f"/api/inspections/{inspection}/observations", {"observations": [GAP]}),
            ("get", f"/api/inspections/{inspection}/board", None),
            ("post", f"/api/inspections/{inspection}/trace", {}),
            ("get", f"/api/engines/{engine}", None),
            ("put", f"/api/engines/{engine}", body),
            ("post", "/api/inspections", {"engine": str(engine)}),
        )
        for method, address, sent in asked:
            with self.subTest(method=method, address=address):
                answer = getattr(self.client, method)(
                    address, sent, content_type="application/json"
                )
                self.assertEqual(answer.status_code, 404)
        self.theirs.refresh_from_db()
        self.assertNotIn("cylinders", self.theirs.document)

    def test_lists_hold_nothing_of_theirs(self):
        self.assertEqual(self.client.get("/api/inspections").json(), [])
        self.assertEqual(self.client.get("/api/engines").json(), [])
        asked = self.client.get(f"/api/inspections?engine={self.theirs.engine_id}")
        self.assertEqual(asked.json(), [])


class RoleTests(TestCase):
    def test_nobody_without_a_session_sees_anything(self):
        inspection = inspection_of(shop_with())
        for address in ("/api/inspections", "/api/engines", f"/api/inspections/{inspection.pk}"):
            self.assertEqual(self.client.get(address).status_code, 401)

    def test_a_viewer_looks_and_does_not_write(self):
        viewer = shop_with("viewer")
        inspection = inspection_of(viewer)
        self.client.force_login(viewer)
        address = f"/api/inspections/{inspection.pk}"
        self.assertEqual(self.client.get(address).status_code, 200)
        for method, where, body in (
            ("post", f"{address}/observations", {"observations": [GAP]}),
            ("post", "/api/inspections", {"engine": str(inspection.engine_id)}),
            ("post", "/api/engines", {"data": inspection.engine.data}),
            ("post", "/api/inspections/import", inspection.document),
        ):
            with self.subTest(where=where):
                answer = getattr(self.client, method)(where, body, content_type="application/json")
                self.assertEqual(answer.status_code, 403)


class SessionTests(TestCase):
    def setUp(self):
        self.user = shop_with()

    def sign_in(self, password=PASSWORD, client=None):
        body = {"email": self.user.email, "password": password}
        return (client or self.client).post("/api/session", body, content_type="application/json")

    def test_signing_in_and_out(self):
        self.assertEqual(self.sign_in().json()["shop"], "A shop")
        self.assertEqual(self.client.get("/api/session").json()["role"], "inspector")
        self.assertEqual(self.client.delete("/api/session").status_code, 204)
        self.assertEqual(self.client.get("/api/session").status_code, 401)

    def test_a_wrong_password_is_refused_without_a_hint_which_was_wrong(self):
        wrong = self.sign_in("guessed")
        self.assertEqual(wrong.status_code, 401)
        self.user.email = "nobody@example.test"
        self.assertEqual(self.sign_in().json(), wrong.json())

    @override_settings(PASSWORD_HASHERS=HASHERS)  # The tests' own is quick.
    def test_passwords_are_kept_with_argon2_at_its_usual_cost(self):
        """RFC 9106, section 4: at least 64 MiB for what is not the first choice of 2 GiB."""
        self.user.set_password("cold-and-slow-10")
        kept = extract_parameters(self.user.password.removeprefix("argon2"))
        self.assertEqual(kept.type, Type.ID)
        self.assertGreaterEqual(kept.memory_cost, 64 * 1024)

    def test_a_write_needs_the_token(self):
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(self.user)
        answer = strict.post("/api/engines", {"data": {}}, content_type="application/json")
        self.assertEqual(answer.status_code, 403)


class PageTests(TestCase):
    def test_the_page_forbids_everything_from_elsewhere(self):
        answer = self.client.get("/inspections/anything")
        policy = answer["Content-Security-Policy"]
        self.assertIn("default-src 'none'", policy)
        self.assertIn("script-src 'self'", policy)
        self.assertNotIn("unsafe", policy)
        self.assertNotRegex(policy.replace("http://127.0.0.1:*", ""), "http")
        self.assertNotRegex(answer.content.decode(), r'(src|href)="https?:')

    def test_an_unknown_address_of_the_api_is_json(self):
        self.assertEqual(self.client.get("/api/nothing").json()["code"], "not-found")
