"""What stands on the field card: the sheet that was filled, small enough to carry."""

from dataclasses import dataclass

from dimgrey.core.document.meansline import filter_line, means_line
from dimgrey.core.planning.planwords import exposure_words, pairs_of, placed_line, range_line
from dimgrey.scenes.desk import Desk
from dimgrey.scenes.rail import Hang
from dimgrey.scenes.sheet.bracket import bracket_lines
from dimgrey.scenes.sheet.crop import crop_line


class CardDesk(Desk):
    """The desk as the card shows it: letters hang closer."""

    short = Hang(7, 12, 96)


@dataclass(frozen=True)
class Card:
    """Everything in words; line: the IntentLine; exposure {} and wait a sentence before a plan. desk: for the rail's fragment."""

    title: str
    intent: str
    line: object
    exposure: dict
    wait: str
    school: object
    placed: str
    filter: str
    means: str
    range: str
    crop: str
    bracket: tuple
    pairs: tuple
    rail: object
    tones: tuple
    cautions: tuple
    desk: Desk


def card_of(situation):
    """Card of a Situation."""
    desk = CardDesk(situation)
    return Card(
        title=situation.title,
        intent=situation.document.intent,
        line=situation.whole_intent_line,
        exposure=exposure_words(situation.plan),
        wait=situation.wait,
        school=situation.school,
        placed=placed_line(situation.plan, situation.words),
        filter=filter_line(situation.document, situation.plan),
        means=means_line(situation.document, situation.plan.development if situation.plan else None),
        range=range_line(situation.plan),
        crop=crop_line(situation) if situation.document.crop else "",
        bracket=bracket_lines(situation),
        pairs=pairs_of(situation.plan),
        rail=desk.rail,
        tones=desk.tones,
        cautions=situation.cautions,
        desk=desk,
    )
