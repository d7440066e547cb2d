"""What a person does to outings."""

from dimgrey.outings.models import Outing


def create_outing(person, title, notes=""):
    return Outing.objects.create(owner=person, title=title, notes=notes)
