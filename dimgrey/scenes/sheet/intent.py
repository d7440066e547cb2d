"""Intent: why this picture, in a sentence, and by parts that later steps check the plan against."""

from dimgrey.core.acts.intent import WANTED
from dimgrey.core.planning.wishes import contradictions
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
    wishes = situation.wishes
    return {
        "intent": situation.document.intent,
        "wished": "; ".join(wish.words for wish in wishes if not wish.guessed),
        "guessed": "; ".join(wish.words for wish in wishes if wish.guessed),
    }


def _editor(situation, forms, mark):
    return {
        "form": forms.of("intent"),
        "order": forms.of("order") if len(situation.document.tones) > 1 else None,
        **_line(situation),
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
        "order": Look(
            attrs={"lighter": {"id": "order-lighter"}, "darker": {"id": "order-darker"}, "zones": {"id": "order-zones"}}
        ),
        "drop-wishes": Look(),
        "intent": Look(_first, {name: {"id": html_id} for name, html_id in IDS.items()}),
    },
)
