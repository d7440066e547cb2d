"""What pages read of the log."""

from dataclasses import dataclass

from django.db.models import Count, Q

from dimgrey.core.document.meansline import COLUMNS
from dimgrey.core.document.onroll import RollInUse
from dimgrey.frames.models import Frame, Roll


def frames_of(person):
    """A person's frames, newest first, with their scenes, outings, rolls and pictures; 1 query."""
    return Frame.objects.owned_by(person).select_related("scene__outing", "roll", "picture")


def every_frame_of(person):
    """A person's frames, those that were struck out among them."""
    return Frame.every.owned_by(person)


MOST_NAMED = 40


@dataclass(frozen=True)
class JustStruck:
    """What was struck out together. act: its id. words: the numbers of the frames."""

    act: str
    words: str


def just_struck(person, act):
    """JustStruck of an act, None where it struck out nothing of theirs; 1 query."""
    numbers = Frame.every.owned_by(person).filter(struck_by=act).order_by("number")[:MOST_NAMED]
    said = [str(number) for number in numbers.values_list("number", flat=True)]
    return JustStruck(str(act), f"frame{'s' if len(said) > 1 else ''} {', '.join(said)}") if said else None


def struck_frames_of(person):
    """Frames that were struck out and can be put back, the last one first; 1 query."""
    return every_frame_of(person).exclude(struck_by=None).select_related("scene__outing")


LISTED = tuple(name for name in COLUMNS if name != "meter")
"""What frames were made with, as lists show and filter it."""
SORTS = {
    "newest": ("-exposed_at", "-pk"),
    "oldest": ("exposed_at", "pk"),
    "scene": ("title", "-exposed_at"),
    "film": ("roll__number", "roll_number", "-exposed_at"),
    **{name: (f"made__{name}", "-exposed_at") for name in LISTED if name != "film"},
}
"""Orders of the list by name: fields of a frame."""


def chosen_frames(person, wanted, sort="newest"):
    """A person's frames that have what is wanted. wanted: column, "roll" or "words" -> value, empty ones left out; 1 query."""
    frames = frames_of(person).order_by(*SORTS[sort])
    for name, value in wanted.items():
        if name == "words":
            frames = frames.filter(Q(title__icontains=value) | Q(note__icontains=value))
        elif name == "roll":
            frames = frames.filter(roll__number=value)
        else:
            frames = frames.filter(**{f"made__{name}": value})
    return frames


def columns_of(person):
    """{column: names that frames have there, in order}; 1 query."""
    found = {name: set() for name in LISTED}
    for made in Frame.objects.owned_by(person).values_list("made", flat=True):
        for name in LISTED if made else ():
            found[name].add(getattr(made, name))
    return {name: sorted(values - {""}) for name, values in found.items()}


def frame_of(person, pk):
    """One frame of a person, or None; 1 query."""
    return frames_of(person).filter(pk=pk).first()


def struck_frame_of(person, pk):
    """One frame that was struck out, or None; 1 query."""
    return struck_frames_of(person).filter(pk=pk).first()


def rolls_of(person):
    """A person's rolls, newest first, each with how many frames it has; 1 query."""
    return Roll.objects.owned_by(person).annotate(count=Count("frames", filter=Q(frames__struck_by=None)))


def roll_of(person, pk):
    """One roll of a person, or None; 1 query."""
    return rolls_of(person).filter(pk=pk).first()


def open_rolls(person):
    """The rolls that are in cameras; 1 query."""
    return Roll.objects.owned_by(person).filter(ended_at=None)


def rolls_in_use(owner_id):
    """RollInUse of each roll that is in a camera of a person; 1 query."""
    rows = Roll.objects.filter(owner_id=owner_id, ended_at=None)
    return tuple(RollInUse(row.number, row.film, row.rated, row.development) for row in rows)


def roll_in_use(person, film):
    """The roll of a film that is in a camera, or None; 1 query, none without a film."""
    return open_rolls(person).filter(film=film).first() if film else None


def bracket_of(frame):
    """The frames of a frame's bracket, in the order they were exposed; the frame alone without one; 1 query."""
    if frame.bracket is None:
        return [frame]
    return list(frames_of(frame.owner).filter(bracket=frame.bracket).order_by("exposed_at", "number"))
