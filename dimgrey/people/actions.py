"""What changes about people."""

from dimgrey.people.models import Person

LOCAL_NAME = "local"


def local_person():
    """The one person of a local installation, made on first use; it has no password and cannot sign in elsewhere."""
    person, made = Person.objects.get_or_create(username=LOCAL_NAME)
    if made:
        person.set_unusable_password()
        person.save(update_fields=["password"])
    return person


def set_look(person, **choices):
    """Keep how a person likes to look at pictures: surround, mode, tone_labels, explains_words; checked by the form."""
    for name, value in choices.items():
        setattr(person, name, value)
    person.save(update_fields=list(choices))
