"""Every address of the program with values that no page sends: none is answered by a fault, and what is accepted can be shown.

The doors are drawn from the address list. What each takes is found by looking at the forms that it reads; docs/doors.md is the table, and a
new address, or a new field of one, fails here until the table has it (DIMGREY_DOORS=1 writes it).
"""

import io
import logging
import os
import re
from unittest import mock

from django import forms
from django.db import transaction
from django.urls import get_resolver

from dimgrey.judging.pick.models import Candidate, Pick
from dimgrey.judging.secondlook.models import Batch, OldPicture
from dimgrey.judging.studies.models import Study, StudyPicture
from dimgrey.kit.models import Item, ItemRevision, KeptSetup
from dimgrey.outings.models import Outing
from dimgrey.people.actions import local_person
from dimgrey.people.models import Person
from dimgrey.practice.models import Assignment
from dimgrey.results.models import Result
from dimgrey.site.config import ROOT
from tests import hand
from tests.core.acts.madeup import seeded
from tests.safekeeping.archive.test_afterwards import WithEverything
from tests.safekeeping.archive.test_archive import filled
from tests.share import WHOLE, many

TEXTS = (
    "", " ", "\0", "x" * 20_000, "💀\u202e", "<b>&'\"", "inf", "nan", "-1", "1e999", "9" * 400, "१२", "0001-01-01", "9999-12-31",
    "0001-01-01T00:00", "9999-12-31T23:59:59-12:00", "[]", "{}", '[{"a": [[[[]]]]}]', '{"verb": []}', "null", "true", "../../etc", "/0", "0",
)  # fmt: skip
"""Values of any field: wrong type, huge, infinite, of year 1, unknown, of another language."""
FILES = (b"", b"\0" * 100, b"{}", b"[" * 5000, b"PK\5\6" + b"\0" * 18, b"\xff\xd8\xff\xe0" + b"\0" * 50)
BODIES = (
    "", "[]", "null", "{", '{"acts": null}', '{"acts": [null]}', '{"acts": [{"verb": "read"}], "own": [1], "base": "x"}',
    '{"acts": [{"verb": [], "act": 1}], "base": 1e999}', '{"acts": [{"verb": "log", "act": "x", "at": "0001-01-01T00:00:00Z"}], "own": []}',
    '{"acts": [{"verb": "place", "mark": {"a": 1}, "zone": [[]]}], "own": {}, "base": -1}', "[" * 3000, '{"acts": ["00000000-0000-4000-8000-000000000001"]}',
)  # fmt: skip
"""What a program might send where acts are meant."""
NUMBERS = ("0", "999999999", "9" * 18, "9" * 30)
"""What stands in an address where the number of something is meant."""
TABLE = ROOT / "docs/doors.md"
FEW = 12
"""Every so many requests one is made where not all of them are."""


def doors(patterns, before=""):
    """(name, address with its parameters) of every address."""
    for each in patterns:
        here = before + str(each.pattern)
        if hasattr(each, "url_patterns"):
            yield from doors(each.url_patterns, here)
        else:
            yield each.name or here, here


def parameters(address):
    """Names and kinds of the parameters of an address: [("pk", "int"), ...]."""
    named = re.findall(r"<(?:(\w+):)?(\w+)>", address)
    return [(name, kind or "regex") for kind, name in named if kind != "P"] + [
        (name, "regex") for name in re.findall(r"\(\?P<(\w+)>", address)
    ]


class EveryDoor(WithEverything):
    def setUp(self):
        super().setUp()
        logging.disable(logging.CRITICAL)
        self.addCleanup(logging.disable, logging.NOTSET)
        self.client.raise_request_exception = False
        Person.objects.filter(pk=self.person.pk).update(role=Person.Role.OWNER)
        filled(self.person)
        hand.do(self.fresh(self.scene), None, "light-begin")
        self.own = {
            "outings/": Outing, "results/": Result, "picks/": Pick, "studies/": Study, "kit/": Item, "setups/": KeptSetup,
            "second-look/": Batch, "frames/": type(self.frame), "scenes/": type(self.scene),
        }  # fmt: skip
        """What the number in an address is of, by a piece of it."""

    def good(self, name, address, parameter, kind):
        """What stands in an address for something that there is."""
        first = lambda model, **where: str(
            model._default_manager.filter(**where).order_by("pk").values_list("pk", flat=True)[0]
        )
        if parameter == "pk":
            special = {
                "calibrate": first(Item, kind="camera"),
                "withdraw": "1", "member": str(local_person().pk), "drop-device": "1", "end-way-in": "1", "undo-correction": first(ItemRevision),
                "decide": first(OldPicture), "roll": "1", "end-roll": "1", "practice-give": first(Assignment), "practice-take-back": first(Assignment),
            }  # fmt: skip
            if name in special:
                return special[name]
            return first(next((model for word, model in self.own.items() if word in address), type(self.scene)))
        return {
            "setup_pk": first(KeptSetup), "candidate": first(Candidate), "light": first(StudyPicture), "folder": str(self.scene.picture.folder),
            "verb": "place", "part": "intent", "name": "zones", "kind": "film" if "kit/new" in address else "json", "side": "1000", "version": "1", "number": "0", "act": "change",
            "code": "AAAA", "secret": "x", "key": "auto-luminance", "area": "found", "uidb64": "MQ", "token": "x-y",
        }.get(parameter, "x")  # fmt: skip

    def filled_in(self, name, address, odd=None):
        """An address with something of one's own in it, or with an odd number."""
        made = address
        for parameter, kind in parameters(address):
            value = odd if odd is not None and kind == "int" else self.good(name, address, parameter, kind)
            made = re.sub(rf"<(?:\w+:)?{parameter}>|\(\?P<{parameter}>[^)]*\)", value, made)
        return "/" + re.sub(r"[\^$\\]", "", made)

    def asked(self, method, address, data=None, **how):
        """(status, forms that were read) of one request; what it did is taken back."""
        read, real = [], forms.BaseForm.__init__

        def noted(form, *args, **kwargs):
            real(form, *args, **kwargs)
            read.append(form)

        with mock.patch.object(forms.BaseForm, "__init__", noted), transaction.atomic():
            answer = getattr(self.client, method)(address, data or {}, **how)
            shown = self.client.get(answer["Location"]) if answer.status_code == 302 else None
            transaction.set_rollback(True)
        status = max(answer.status_code, shown.status_code if shown is not None and shown.status_code >= 500 else 0)
        return status, read

    def found(self):
        """{name: (address, methods, {field: its kind})} of every door."""
        found = {}
        for name, address in doors(get_resolver().url_patterns):
            here, methods, takes = self.filled_in(name, address), [], {}
            for method in ("get", "post"):
                status, read = self.asked(method, here)
                if status != 405:
                    methods.append(method.upper())
                    takes |= {
                        field: type(each).__name__
                        for form in read
                        if form.is_bound
                        for field, each in form.fields.items()
                    }
            found[name] = (address, methods, takes)
        return found

    def test_the_table_of_doors_is_what_the_program_has(self):
        rows = [
            f"| `{address}` | {', '.join(methods)} | {', '.join(f'`{field}`' for field in sorted(takes)) or 'nothing'} |"
            for _, (address, methods, takes) in sorted(self.found().items(), key=lambda each: each[1][0])
        ]
        head = "# Doors\n\nEvery address, how it is asked, and what it reads; made by `DIMGREY_DOORS=1` and `tests.doors.test_every_door`, which\nsends each of them what no page sends.\n\n| address | asked by | takes |\n|---|---|---|\n"
        made = head + "\n".join(rows) + "\n"
        if os.environ.get("DIMGREY_DOORS"):
            TABLE.write_text(made, encoding="utf-8")
        self.assertEqual(TABLE.read_text(encoding="utf-8"), made)

    @many
    def test_no_door_falls_over_what_no_page_sends(self):
        rng, wrong, count = seeded("doors"), [], 0
        for name, (address, methods, takes) in self.found().items():
            here = self.filled_in(name, address)
            tries = [
                (method.lower(), self.filled_in(name, address, odd), {})
                for odd in NUMBERS
                for method in methods
                if "int:" in address
            ]
            for field, kind in takes.items():
                values = [io.BytesIO(data) for data in FILES] if "File" in kind else [*TEXTS, ["1", "1"]]
                tries += [(method.lower(), here, {field: value}) for value in values for method in methods]
            for method, where, data in tries:
                if not WHOLE and rng.randrange(FEW):
                    continue
                for value in data.values():
                    if isinstance(value, io.BytesIO):
                        value.name = "odd.json"
                status, _ = self.asked(method, where, data)
                count += 1
                if status >= 500 and status != 503:
                    wrong.append(f"{status} {method} {where} {str(data)[:80]}")
            for body in BODIES if "POST" in methods else ():
                if WHOLE or not rng.randrange(FEW):
                    status, _ = self.asked("post", here, body, content_type="application/json")
                    count += 1
                    if status >= 500 and status != 503:
                        wrong.append(f"{status} post {here} {body[:80]}")
        print(f"{count} requests") if WHOLE else None
        self.assertEqual(wrong, [])
