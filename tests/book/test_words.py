"""Every word on every page is plain English or has its entry in the book."""

import calendar
import re
import uuid
from io import StringIO
from pathlib import Path

from django.core.management import call_command

from dimgrey.book.glossary import AS_WRITTEN, FORMS, TERMS, written_forms
from dimgrey.core.practice.assignments import TASKS
from dimgrey.core.practice.drills import KINDS
from dimgrey.scenes.models import Scene
from tests.book.shown import Reader, pages_of
from tests.helpers import PageTest

WORD = re.compile(r"[A-Za-z][A-Za-z'’-]+")
PLAIN = Path(__file__).with_name("plain_words.txt")
TEMPLATES = Path(__file__).resolve().parents[2] / "dimgrey"
DIRECTION = re.compile(r"[nesw]{1,3}")
TAGS = re.compile(r"\{[%#{].*?[%#}]\}", re.DOTALL)


def plain_words():
    """Words that were read and found to be plain English, names and symbols of the demo among them, and those of a date."""
    names = (calendar.day_name, calendar.day_abbr, calendar.month_name, calendar.month_abbr)
    return set(PLAIN.read_text(encoding="utf-8").split()) | {name.lower() for each in names for name in each}


def words_of(text):
    found = {word.lower().replace("’", "'").removesuffix("'s").strip("'-") for word in WORD.findall(text)} - {""}
    return {word for word in found if not DIRECTION.fullmatch(word)}


def term_words():
    return {word for term in TERMS for form in written_forms(term) for word in words_of(form)}


def with_a_result(client):
    """The demo, and one frame of it with what came of it."""
    call_command("load_demo", stdout=StringIO())
    scene = Scene.objects.exclude(picture=None).exclude(removed=True).order_by("pk")[1]
    client.post(f"/scenes/{scene.pk}/shoot", {"stamp": scene.stamp, "act": str(uuid.uuid4())})


class EveryWord(PageTest):
    def test_every_word_on_every_page_is_plain_or_in_the_book(self):
        with_a_result(self.client)
        found, known = pages_of(self.client), plain_words() | term_words()
        kinds = {re.sub(r"\d+", "0", address.partition("?")[0]) for address in found}
        for page in ("/", "/scenes/0/", "/scenes/0/card", "/scenes/0/filters", "/frames/", "/results/0/", "/results/0/finish", "/learn/", "/kit/0/", "/setups/0/", "/practice/week"):  # fmt: skip
            self.assertIn(page, kinds)
        unknown = {word: address for address, text in found.items() for word in words_of(text) - known}
        self.assertEqual(unknown, {}, "give each an entry in dimgrey/book/glossary.py, or put it among the plain words")

    def test_every_word_that_a_template_may_show_is_plain_or_in_the_book(self):
        known, unknown = plain_words() | term_words(), {}
        for path in sorted(TEMPLATES.rglob("templates/**/*.html")):
            text = " ".join(Reader(TAGS.sub(" ", path.read_text(encoding="utf-8"))).words)
            unknown |= dict.fromkeys(words_of(text) - known, path.name)
        self.assertEqual(unknown, {}, "give each an entry in dimgrey/book/glossary.py, or put it among the plain words")

    def test_every_word_of_a_task_or_a_drill_is_plain_or_in_the_book(self):
        known = plain_words() | term_words()
        said = [text for task in TASKS.values() for text in (task.title, task.aim, task.meter, task.look)]
        said += [drill.name for drill in KINDS.values()]
        self.assertEqual({word for text in said for word in words_of(text)} - known, set())

    def test_a_term_of_one_word_is_never_among_the_plain_words(self):
        terms = {form.lower() for term in TERMS for form in written_forms(term) if " " not in form}
        self.assertEqual(terms & plain_words(), set())

    def test_forms_belong_to_terms_and_no_form_has_two(self):
        self.assertLessEqual(set(FORMS) | set(AS_WRITTEN), set(TERMS))
        forms = [form.lower() for term in TERMS for form in written_forms(term)]
        self.assertEqual(sorted({form for form in forms if forms.count(form) > 1}), [])
