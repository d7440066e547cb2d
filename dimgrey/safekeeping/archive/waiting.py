"""Files that wait to be read when an archive is saved: they go along as they came, and wait again where it is brought in."""

from dimgrey.frames.models import Frame
from dimgrey.judging.secondlook.models import Batch
from dimgrey.judging.studies.models import Study
from dimgrey.pictures import arrivals
from dimgrey.safekeeping.archive.rows import WaitingRow
from dimgrey.scenes.models import Scene

SUBJECTS = {"scene": (Scene, "uid"), "frame": (Frame, "token"), "batch": (Batch, "title"), "study": (Study, "title")}
"""Purpose -> whose rows it is for, and the field by which an archive names them."""
WAITS_WITH = {"scene": "scenes", "frame": "results", "batch": "second-look", "study": "results"}
"""Purpose -> the part of an archive that it is brought in with."""


def waiting_row(person, arrival):
    """WaitingRow of an arrival; None for one of which nothing would be known elsewhere, such as an archive that comes in itself."""
    model, field = SUBJECTS.get(arrival.purpose, (None, ""))
    subject = model and model.objects.owned_by(person).filter(pk=arrival.subject).first()
    if not subject:
        return None
    about = {name: arrival.about[name] for name in arrivals.said_of(arrival.purpose) if name in arrival.about}
    named = str(getattr(subject, field))
    return WaitingRow(purpose=arrival.purpose, subject=named, name=arrival.name, **about)


def subject_of(person, told):
    """The row that a waiting file is for, None where it is not here."""
    model, field = SUBJECTS[told.purpose]
    return model.objects.owned_by(person).filter(**{field: told.subject}).first()


def take_waiting(person, told, path):
    """Let a file wait for what came in with it. path: where it lies. Returns 1, 0 where its subject did not come."""
    subject = subject_of(person, told)
    if subject is None:
        return 0
    about = {name: getattr(told, name) for name in arrivals.said_of(told.purpose)}
    with arrivals.laid_down(person, path, told.name) as file:
        arrivals.send(file, told.purpose, subject.pk, **about)
    return 1
