"""When a card comes back, and which ten are asked: what is missed sooner, what is known later, difficulty after the answers.

The schedule is FSRS, by the open library `fsrs`: memory that decays, and a next time when nine in ten are still remembered. Time and chance
come from outside; the same answers give the same schedule.
"""

from dataclasses import dataclass
from datetime import UTC, datetime

ROUND = 10
LATEST = 8
"""Answers of a kind that its difficulty and its weight follow."""
UP_AFTER, DOWN_AFTER, LAST = 4, 2, 5
"""Difficulty rises with so many of the last five right, and falls with so few."""
MOST_LEVEL = 4
TRIES = 40
NEW_WEIGHT, MISSED_WEIGHT = 1.0, 6.0


@dataclass(frozen=True)
class Answered:
    """One answer. kind, subject: of the question. off: stops from the right answer, or 1 for another wrong one. is_right: as its word says. level:
    difficulty it was asked at. in_stops: its error is in stops."""

    kind: str
    subject: str
    off: float
    is_right: bool
    level: int = 0
    in_stops: bool = False


def next_state(state, is_right, at):
    """(state after an answer, when the card is due). state: a card as it is kept, {} for a new one. is_right: the answer. at: aware datetime.

    A time before the last answer, as after a change of clocks or on another device, counts as the last answer's. Source: Ye 2022, FSRS.
    """
    from fsrs import Card, Rating, Scheduler

    card = Card.from_dict(state) if state else Card(card_id=1, due=at)
    if card.last_review and at < card.last_review:
        at = card.last_review
    scheduler = Scheduler(enable_fuzzing=False)
    card, _ = scheduler.review_card(card, Rating.Good if is_right else Rating.Again, at.astimezone(UTC))
    return card.to_dict(), card.due


def is_state(state):
    """Whether what was kept of a card can be read. state: a dictionary."""
    from fsrs import Card

    try:
        return isinstance(Card.from_dict(state).due, datetime)
    except (KeyError, TypeError, ValueError, AttributeError):
        return False


def level_of(answers):
    """Difficulty 0 to 4 that a kind is asked at. answers: Answered of that kind, the oldest first."""
    level, run = 0, []
    for each in answers:
        run = [*run, each.is_right][-LAST:]
        if sum(run) >= UP_AFTER and len(run) >= UP_AFTER:
            level, run = min(level + 1, MOST_LEVEL), []
        elif len(run) == LAST and sum(run) <= DOWN_AFTER:
            level, run = max(level - 1, 0), []
    return level


def weight_of(answers):
    """How often a kind is asked beside others: more for what is missed. answers: Answered of that kind, the oldest first."""
    last = answers[-LATEST:]
    missed = sum(not each.is_right for each in last) / len(last) if last else 0.5
    return NEW_WEIGHT + MISSED_WEIGHT * missed**2


def round_of(due, history, make, kinds, rng, count=ROUND):
    """Questions of one round.

    due: (kind, subject) of cards that are due, the longest due first. history: kind -> Answered of it, the oldest first. make: (kind, level) ->
    Question, or None where nothing can be asked. kinds: those that can be asked. rng: random.Random. count: at most so many.
    """
    asked, keys = [], set()

    def add(found):
        if found is not None and found.key not in keys:
            keys.add(found.key)
            asked.append(found)
        return found is not None

    for kind, subject in due:
        if len(asked) >= count * 7 // 10 or kind not in kinds:
            continue
        level = level_of(history.get(kind, ()))
        tried = (make(kind, level) for _ in range(TRIES))
        add(next((found for found in tried if found is not None and found.subject == subject), None))
    weights = [weight_of(history.get(kind, ())) for kind in kinds]
    for _ in range(count * 8):
        if len(asked) >= count or not kinds:
            break
        kind = rng.choices(kinds, weights)[0]
        add(make(kind, level_of(history.get(kind, ()))))
    rng.shuffle(asked)
    return tuple(asked)


@dataclass(frozen=True)
class Progress:
    """How a kind stands. count: answers. right: share of the last ones that were right. off: mean error of the last ones in stops, None for a kind
    that has none. before: the same of those before them, None with too few. worst: (subject, mean error or share missed) that is missed most."""

    kind: str
    count: int
    right: float
    off: float | None
    before: float | None
    worst: tuple | None
    level: int


def progress_of(kind, answers):
    """Progress of a kind. answers: Answered of it, the oldest first, at least one."""
    last, earlier = answers[-2 * LATEST :], answers[: -2 * LATEST]
    in_stops = last[-1].in_stops
    mean = lambda rows: sum(each.off for each in rows) / len(rows) if rows and in_stops else None
    by = {}
    for each in last:
        by.setdefault(each.subject, []).append(each)
    missed = {
        subject: sum(not each.is_right for each in rows) / len(rows) for subject, rows in by.items() if len(rows) > 1
    }
    worst = max(missed.items(), key=lambda item: item[1]) if missed and max(missed.values()) > 0 else None
    right = sum(each.is_right for each in last) / len(last)
    return Progress(kind, len(answers), right, mean(last), mean(earlier[-2 * LATEST :]), worst, level_of(answers))
