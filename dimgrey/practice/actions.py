"""Keeping answers: the only place that writes practice. One that is sent twice counts once, in whatever order they come home."""

from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from dimgrey.core.practice.spacing import is_state, next_state
from dimgrey.core.shapes.plain import whole_part
from dimgrey.practice.models import Answer, Card

SLACK = timedelta(minutes=5)
"""A phone's clock may be ahead by so much; what claims to come from later is taken as of now."""


@transaction.atomic
def keep_answers(person, answers, now=None):
    """Keep answers and move their cards. answers: GivenAnswer of each. Returns how many are new."""
    now = now or timezone.now()
    kept = Answer.objects.owned_by(person).filter(act__in=[each.act for each in answers])
    known = {str(act) for act in kept.values_list("act", flat=True)}
    fresh = []
    for each in sorted(answers, key=lambda answer: answer.at):
        if each.act in known:
            continue
        known.add(each.act)
        at = now if each.at > now + SLACK else each.at
        fresh.append(Answer(owner=person, **{**whole_part(each), "at": at}))
    Answer.objects.bulk_create(fresh)
    for answer in fresh:
        _move_card(person, answer)
    return len(fresh)


def _move_card(person, answer):
    card = Card.objects.owned_by(person).filter(kind=answer.kind, subject=answer.subject).first()
    state = card.state if card and is_state(card.state) else {}
    state, due = next_state(state, answer.is_right, answer.at)
    Card.objects.update_or_create(
        owner=person, kind=answer.kind, subject=answer.subject, defaults={"state": state, "due": due}
    )
