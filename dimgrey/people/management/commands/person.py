"""People of a hosted house from the command line: add one, make a link for a new password, suspend, list."""

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from dimgrey.core.errors import CoreError
from dimgrey.people import accounts
from dimgrey.people.events import tell
from dimgrey.people.models import Person


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        parser.add_argument("act", choices=("add", "link", "suspend", "resume", "list"))
        parser.add_argument("name", nargs="?", default="")
        parser.add_argument("--owner", action="store_true", help="with add: an owner of the house")

    def handle(self, *args, act, name, owner, **options):
        if act == "list":
            for person in Person.objects.order_by("username"):
                self.stdout.write(f"{person}  {person.role}{'' if person.is_active else ', suspended'}")
            return
        try:
            self._act(act, name, owner)
        except CoreError as refused:
            raise CommandError(str(refused)) from None

    def _act(self, act, name, owner):
        if act == "add":
            if not name.strip():
                raise CommandError("Say the name: manage.py person add NAME.")
            person = accounts.make(name, None, Person.Role.OWNER if owner else Person.Role.MEMBER)
        else:
            person = Person.objects.filter(username=name).first()
            if person is None:
                raise CommandError(f"There is nobody called {name}. manage.py person list shows who is there.")
        if act in ("suspend", "resume"):
            accounts.set_active(person, act == "resume", Person(username="command line"))
            self.stdout.write(f"{person} is {'suspended' if act == 'suspend' else 'let in again'}.")
            return
        if act == "link":
            tell("made a password link", Person(username="command line"), person)
        host = settings.ALLOWED_HOSTS[0] if settings.ALLOWED_HOSTS else "127.0.0.1"
        scheme = "http" if settings.DIMGREY_LOCAL else "https"
        self.stdout.write(f"{person} sets a password at {scheme}://{host}{accounts.password_path(person)}")
