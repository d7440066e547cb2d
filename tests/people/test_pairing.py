"""Phones that are paired: a code once, for ten minutes, not to be guessed; dropped when wanted; nobody else."""

from datetime import timedelta
from io import StringIO

from django.core.management import CommandError, call_command
from django.test import Client, TestCase, override_settings
from django.urls import reverse
from django.utils import timezone

from dimgrey.people import pairing
from dimgrey.people.actions import local_person
from dimgrey.people.models import Device, PairingCode
from dimgrey.scenes.lifecycle import create_scene
from tests.documents import document

LAN = "192.168.7.5"


@override_settings(ALLOWED_HOSTS=["127.0.0.1", LAN], DIMGREY_LAN=[LAN])
class Pairing(TestCase):
    def setUp(self):
        self.person = local_person()
        self.desk = Client(REMOTE_ADDR="127.0.0.1", HTTP_HOST="127.0.0.1:8023")
        self.phone = self.a_phone()

    def a_phone(self):
        return Client(REMOTE_ADDR="192.168.7.40", HTTP_HOST=f"{LAN}:8023")

    def pair(self, phone, code, name="Pocket phone"):
        return phone.post(reverse("pair-typed"), {"code": code, "name": name})

    def is_in(self, client):
        return client.get(reverse("field-hello")).status_code == 200

    def test_a_phone_is_let_in_by_a_code_and_by_nothing_else(self):
        self.assertFalse(self.is_in(self.phone))
        answer = self.pair(self.phone, pairing.new_code(self.person))
        self.assertRedirects(answer, reverse("field"), fetch_redirect_response=False)
        self.assertTrue(self.is_in(self.phone))
        self.assertFalse(self.is_in(self.a_phone()))
        self.assertEqual(Device.objects.get().name, "Pocket phone")

    def test_a_glance_at_the_address_uses_no_code(self):
        code = pairing.new_code(self.person)
        page = self.phone.get(reverse("pair", args=[code]))
        self.assertContains(page, f'value="{code}"')
        self.assertTrue(PairingCode.objects.exists())
        self.assertEqual(self.pair(self.phone, code.lower().replace("-", " ")).status_code, 302)

    def test_a_code_works_once(self):
        code = pairing.new_code(self.person)
        self.pair(self.phone, code)
        again = self.a_phone()
        self.assertContains(self.pair(again, code), "was used", status_code=422)
        self.assertFalse(self.is_in(again))

    def test_a_code_is_old_after_ten_minutes(self):
        for minutes, status in ((9.9, 302), (10.1, 422)):
            code = pairing.new_code(self.person, timezone.now() - timedelta(minutes=minutes))
            with self.subTest(minutes):
                self.assertEqual(self.pair(self.a_phone(), code).status_code, status)

    def test_a_new_code_withdraws_the_one_before(self):
        first, second = pairing.new_code(self.person), pairing.new_code(self.person)
        self.assertEqual(self.pair(self.a_phone(), first).status_code, 422)
        self.assertEqual(self.pair(self.a_phone(), second).status_code, 302)

    def test_five_wrong_guesses_withdraw_the_code(self):
        for guesses, status in ((4, 302), (5, 422)):
            code = pairing.new_code(self.person)
            for k in range(guesses):
                self.assertEqual(self.pair(self.a_phone(), f"AAAA-AAA{k}").status_code, 422)
            with self.subTest(guesses):
                self.assertEqual(self.pair(self.a_phone(), code).status_code, status)

    def test_nothing_typed_is_no_guess(self):
        code = pairing.new_code(self.person)
        for _ in range(6):
            self.assertEqual(self.pair(self.a_phone(), "").status_code, 422)
        self.assertEqual(self.pair(self.phone, code).status_code, 302)

    def test_a_dropped_device_is_out_at_once(self):
        self.pair(self.phone, pairing.new_code(self.person))
        self.desk.post(reverse("drop-device", args=[Device.objects.get().pk]))
        self.assertFalse(self.is_in(self.phone))
        self.assertEqual(Device.objects.count(), 0)

    def test_only_a_persons_own_devices_are_listed_and_dropped(self):
        other = type(self.person).objects.create_user("someone-else", password="long enough password")
        self.pair(self.phone, pairing.new_code(other))
        self.assertContains(self.desk.get(reverse("phone")), "No phone is paired")
        self.desk.post(reverse("drop-device", args=[Device.objects.get().pk]))
        self.assertTrue(self.is_in(self.phone))

    def test_the_last_use_is_written_down_now_and_then(self):
        self.pair(self.phone, pairing.new_code(self.person))
        long_ago = timezone.now() - timedelta(days=3)
        Device.objects.update(used_at=long_ago)
        self.is_in(self.phone)
        self.assertGreater(Device.objects.get().used_at, long_ago + timedelta(days=2))

    def test_a_paired_phone_sees_its_persons_scenes(self):
        scene = create_scene(self.person, document(title="Kiln"))
        self.pair(self.phone, pairing.new_code(self.person))
        self.assertContains(self.phone.get(reverse("desk", args=[scene.pk])), "Kiln")


@override_settings(ALLOWED_HOSTS=["127.0.0.1", LAN], DIMGREY_LAN=[LAN])
class NobodyElse(TestCase):
    def test_a_server_in_front_of_this_one_makes_nobody_the_local_person(self):
        """Through a proxy on this machine every request comes from the loopback address."""
        desk = Client(REMOTE_ADDR="127.0.0.1", HTTP_HOST="127.0.0.1")
        self.assertEqual(desk.get("/").status_code, 200)
        for header in ("X-Forwarded-For", "Forwarded", "X-Forwarded-Host"):
            with self.subTest(header):
                self.assertEqual(desk.get("/", headers={header: "192.168.7.40"}).status_code, 302)

    def test_other_hosts_names_and_origins_are_refused(self):
        self.assertEqual(Client(REMOTE_ADDR="127.0.0.1").get("/", headers={"Host": "evil.example"}).status_code, 400)
        strict = Client(enforce_csrf_checks=True, REMOTE_ADDR="127.0.0.1", HTTP_HOST="127.0.0.1")
        for origin in ("http://evil.example", "null"):
            answer = strict.post(reverse("phone"), headers={"Origin": origin})
            self.assertEqual(answer.status_code, 403)
        self.assertEqual(PairingCode.objects.count(), 0)

    def test_without_a_network_there_is_no_code(self):
        desk = Client(REMOTE_ADDR="127.0.0.1", HTTP_HOST="127.0.0.1")
        with override_settings(DIMGREY_LAN=[]):
            self.assertContains(desk.post(reverse("phone")), "listens to itself only")
            with self.assertRaisesMessage(CommandError, "script/demo phone"):
                call_command("pair_phone")
        self.assertEqual(PairingCode.objects.count(), 0)

    def test_the_page_and_the_terminal_show_one(self):
        desk = Client(REMOTE_ADDR="127.0.0.1", HTTP_HOST="127.0.0.1:8023")
        page = desk.post(reverse("phone"))
        self.assertContains(page, f"http://{LAN}:8023/pair/")
        picture = desk.get(page.content.decode().split('class="code-picture"')[1].split('src="')[1].split('"')[0])
        self.assertEqual(picture["Content-Type"], "image/svg+xml")
        out = StringIO()
        call_command("pair_phone", stdout=out)
        self.assertIn(f"http://{LAN}:8023/pair/", out.getvalue())
        self.assertEqual(PairingCode.objects.count(), 1)
