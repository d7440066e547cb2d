"""Print docs/acts.md: every act that a hand, a phone or a program can do to a scene, made from the verbs themselves."""

from dataclasses import MISSING, fields
from types import SimpleNamespace

from django.core.management.base import BaseCommand

from dimgrey.core.acts.keys import As, Named, Number, OneOf, Sent, Several, Text, Whole, YesNo
from dimgrey.core.acts.verb import require_verb, verb_names

HEAD = """# Acts

What can be done to a scene, made by `manage.py acts` from `dimgrey/core/acts/`, one file a verb. The desk's forms, the phone and programs say the
same keys. A program posts a JSON list to `/scenes/NUMBER/do`, or the keys of one act to `/scenes/NUMBER/do/VERB`:

```json
[{"verb": "bracket", "count": 3, "step": "2/3", "act": "4766d449-bfd4-43cc-834c-4dbd3f45ab2e", "at": "2026-09-01T10:00:00+00:00"}]
```

Beside its own keys every act may carry `act` (an id: sent twice it is done once), `at` (when it was done) and `stamp` (the state of the scene that it was
made from: if another came between, the act is refused, unless it only appends). The answer says of each act `kept`, `stale`, `unsettled` or `refused`, with
the sentence that a form would show. Undo and redo are acts like the others.
"""
TEXTS = {
    Text: lambda rule: f"words, at most {rule.most}",
    Whole: lambda rule: f"a whole number, {rule.low:g} to {rule.high:g}",
    Number: lambda rule: f"a number, {rule.low:g} to {rule.high:g}",
    YesNo: lambda rule: "true or false",
    OneOf: lambda rule: (
        "one of those on offer" if callable(rule.words) else ", ".join(f"`{each}`" for each in rule.words)
    ),
    Several: lambda rule: f"a list of: {rule_words(rule.of)}",
    Named: lambda rule: "a tone of the scene" if rule.kind == "tone" else f"a {rule.kind} of the kit by its name",
    As: lambda rule: "as people write it",
}


def rule_words(rule):
    """What a key may hold, in words."""
    return TEXTS[type(rule)](rule)


def key_line(each):
    """One key of an act as a line of Markdown."""
    said = SimpleNamespace(**each.metadata)
    must = "" if each.default is not MISSING else ", needed"
    label = f" ({said.label})" if said.label else ""
    hint = f", such as `{said.hint}`" if any(map(str.isdigit, said.hint)) else ""
    return f"- `{each.name}`{label}{must}: {rule_words(said.rule)}{hint}"


def acts_page():
    """The whole page."""
    lines = [HEAD]
    for name in verb_names():
        verb = require_verb(name)
        lines += [f"\n## {name}\n", f"{verb.does}.{' Appends: never stale.' if verb.appends else ''}"]
        own = [key_line(each) for each in fields(verb.keys) if each.name not in Sent.__dataclass_fields__]
        lines += ["", *own] if own else []
    return "\n".join(lines) + "\n"


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = []

    def handle(self, *args, **options):
        self.stdout.write(acts_page(), ending="")
