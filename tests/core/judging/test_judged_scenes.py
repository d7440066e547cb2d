"""Judged scenes: the suite runs a tenth, `script/judge` all. None may be wrong, and hardly any silent where something must be said."""

from django.test import SimpleTestCase

from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.judging.around import Around
from dimgrey.core.judging.proposals import intent_line, proposals_of
from dimgrey.core.measure.stops import format_time
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.wishes import wanted_of
from tests.documents import document
from tests.reference.judged import CASES, codes_match
from tests.share import WHOLE, many, share_of

MOST_SILENT = 3
THIRD = 1 / 3 + 1e-6


def verdict(case):
    """(sentences of what is wrong, patterns of what is missing) of a Case."""
    made = document(**case.parts)
    result = plan(brief_of(made))
    wanted = wanted_of(result.brief)
    judged = proposals_of(made, result, brief_of, Around(**case.around), deeply=True)
    line, codes = intent_line(wanted, result, judged), [each.code for each in judged.proposals]
    warned = {each.code for each in cautions_of(result)}
    prints = {tone.name: tone.printed for tone in result.tones}
    wrong = []
    if case.setting is not None and abs(result.setting_ev100 - case.setting) > THIRD:
        wrong.append(f"sets EV {result.setting_ev100:.2f}, not {case.setting:.2f}")
    if case.given is not None and format_time(result.given) != case.given:
        wrong.append(f"gives {format_time(result.given)}, not {case.given}")
    if case.development is not None and result.development != case.development:
        wrong.append(f"develops {result.development}, not {case.development}")
    wrong += [f"proposes {pattern} in {codes}" for pattern in codes_match(case.must_not, codes)]
    wrong += [f"warns of {code}" for code in case.not_warned if code in warned]
    if case.silent and codes:
        wrong.append(f"is not silent: {codes}")
    if case.grave is not None and line.grave != case.grave:
        wrong.append(f"grave is {line.grave}: {line.text}")
    wrong += [
        f"{name} prints on {prints[name]:.2f}"
        for name, (low, high) in case.prints.items()
        if not low - THIRD <= prints[name] <= high + THIRD
    ]
    missing = [f"{pattern} among {codes}" for pattern in case.must if not codes_match((pattern,), codes)]
    missing += [f"caution {code}" for code in case.warned if code not in warned]
    missing += [f"question about {word}" for word in case.asked if not any(word in text for text in line.asked)]
    return wrong, missing


class Judged(SimpleTestCase):
    @many
    def test_no_scene_is_judged_wrongly_and_hardly_any_in_silence(self):
        self.assertGreaterEqual(len(CASES), 150)
        silent = {}
        for case in share_of(CASES, "judged", least=20):
            with self.subTest(case.name):
                wrong, missing = verdict(case)
                self.assertEqual(wrong, [])
                if missing:
                    silent[case.name] = missing
        self.assertLessEqual(len(silent), MOST_SILENT if WHOLE else 0, silent)
