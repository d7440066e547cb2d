"""Intent: why this picture, in a sentence, and by parts that later steps check the plan against."""

from django.urls import reverse

from dimgrey.core.acts.intent import WANTED
from dimgrey.core.document.tonebriefing import texture_key
from dimgrey.core.judging.proposals import AS_WANTED
from dimgrey.core.planning.scoring import lost_of
from dimgrey.core.planning.spans import format_span
from dimgrey.core.planning.wishes import SKINS, SOURCES, contradictions
from dimgrey.scenes.acts import Look
from dimgrey.scenes.sheet.part import Part

IDS = {
    "title": "intent-title",
    "intent": "intent-text",
    "dark": "must-dark",
    "light": "must-light",
    "textured": "must-texture",
    "empty": "may-empty",
}


def _first(situation):
    document = situation.document
    said = {name: getattr(document.wanted, name) for name in WANTED}
    return {"title": situation.title, "intent": document.intent, **said}


def _line(situation):
    line = situation.intent_line
    looks = situation.plan is not None and bool(line.now) and line.now != AS_WANTED or bool(lost_of(situation.plan))
    return {
        "intent": situation.document.intent,
        "wanted": line.wanted,
        "now": line.now,
        "grave": "grave" if line.grave else "",
        "asked": line.asked,
        "nearer": reverse("nearer", args=[situation.scene.pk]) if looks else "",
    }


def _wish_rows(situation):
    """Every wish with what takes it back: what was set is unset, what was read or suggested is struck."""
    marks = situation.document.marks
    for wish in situation.wishes:
        is_set, of_one = wish.source == "set", wish.kind == "span"
        yield {
            "words": wish.words,
            "source": SOURCES[wish.source],
            "key": wish.key,
            "mark": marks[wish.tones[0]] if is_set and of_one else "",
            "verb": ("wish" if of_one else "drop-wishes") if is_set else "strike",
            "button": "Take back" if is_set else "Not meant",
        }
    for name, kind in situation.wanted.textures.items():
        words = f"{name} {'keeps texture' if kind == 'needed' else 'may be empty'}"
        key = texture_key(name)
        if key not in situation.document.wanted.struck:
            yield {
                "words": words,
                "source": SOURCES["words"],
                "key": key,
                "mark": "",
                "verb": "strike",
                "button": "Not meant",
            }


def _skins(situation):
    """Skin whose print nobody has wished, with what its complexion usually wants."""
    wished = {wish.tones[0] for wish in situation.wishes if wish.kind == "span"}
    offers = tuple((complexion, format_span(span)) for complexion, span in SKINS.items())
    return tuple(
        {"name": tone.name, "mark": tone.mark, "offers": offers}
        for tone in situation.document.tones
        if tone.known_role == "skin" and tone.name not in wished
    )


def _editor(situation, forms, mark):
    wanted = situation.document.wanted
    return {
        "form": forms.of("intent"),
        "order": forms.of("order") if len(situation.document.tones) > 1 else None,
        "wishes": tuple(_wish_rows(situation)),
        "asked": tuple(question.text for question in situation.wanted.asked),
        "skins": _skins(situation),
        "again": bool(wanted.struck or wanted.refused),
        "contradictions": contradictions(situation.brief),
    }


PART = Part(
    key="intent",
    title="Intent",
    order=10,
    line=_line,
    editor=_editor,
    opens=lambda situation: "Change" if situation.document.intent else "Write it",
    acts={
        "take-wishes": Look(),
        "strike": Look(),
        "ask-again": Look(),
        "take-proposal": Look(),
        "refuse": Look(),
        "order": Look(
            attrs={"lighter": {"id": "order-lighter"}, "darker": {"id": "order-darker"}, "zones": {"id": "order-zones"}}
        ),
        "drop-wishes": Look(),
        "intent": Look(_first, {name: {"id": html_id} for name, html_id in IDS.items()}),
    },
)
