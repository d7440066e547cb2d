"""Signing in and out of a hosted house."""

from django.test import TestCase, override_settings

from dimgrey.people.models import Person


@override_settings(DIMGREY_LOCAL=False)
class Hosted(TestCase):
    def test_a_person_signs_in_sees_the_way_out_and_takes_it(self):
        Person.objects.create_user("vera", password="long enough password")
        self.assertEqual(self.client.get("/").status_code, 302)
        self.client.post("/sign-in", {"username": "vera", "password": "long enough password"})
        self.assertContains(self.client.get("/"), 'formaction="/sign-out"')
        self.client.post("/sign-out")
        self.assertEqual(self.client.get("/").status_code, 302)

    @override_settings(DIMGREY_LOCAL=True)
    def test_on_ones_own_machine_there_is_nothing_to_sign_out_of(self):
        self.assertNotContains(self.client.get("/", REMOTE_ADDR="127.0.0.1"), "/sign-out")
