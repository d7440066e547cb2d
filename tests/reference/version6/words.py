"""The words of pages: what a reader sees or hears of each, without markup, hidden fields and stamps."""

from html.parser import HTMLParser

SPOKEN = ("placeholder", "aria-label", "title", "alt", "value")
QUIET = ("script", "style")


class _Words(HTMLParser):
    def __init__(self):
        super().__init__()
        self.found, self.quiet = [], 0

    def handle_starttag(self, tag, attributes):
        told = dict(attributes)
        self.quiet += tag in QUIET
        if told.get("type") != "hidden":
            self.found += [told[name] for name in SPOKEN if told.get(name)]

    def handle_endtag(self, tag):
        self.quiet -= tag in QUIET

    def handle_data(self, data):
        if not self.quiet:
            self.found.append(data)


def words_of(html):
    """What a page says, as one text with single spaces."""
    parser = _Words()
    parser.feed(html)
    return " ".join(" ".join(parser.found).split())


def paths():
    """Addresses of the pages of a database: every page of every scene, frame, result, pick, study, item and setup."""
    from dimgrey.frames.models import Frame, Roll
    from dimgrey.judging.pick.models import Pick
    from dimgrey.judging.studies.models import Study
    from dimgrey.kit.models import Item, KeptSetup
    from dimgrey.outings.models import Outing
    from dimgrey.results.models import Result
    from dimgrey.scenes.models import Scene

    found = ["/frames/", "/kit/", "/setups/", "/second-look/", "/learn/", "/picks/", "/studies/", "/practice/patterns"]
    parts = [
        "intent",
        "view",
        "tones",
        "placing",
        "filter",
        "seeing",
        "crop",
        "sky",
        "exposure",
        "needs",
        "bracket",
        "camera",
        "cautions",
        "picture",
    ]
    for scene in Scene.objects.filter(removed=False).order_by("pk"):
        found += [
            f"/scenes/{scene.pk}/{page}" for page in ("", "card", "filters", "compare", "camera", "scene.json", "light")
        ]
        found += [f"/scenes/{scene.pk}/edit/{part}" for part in parts]
        found += [f"/scenes/{scene.pk}/edit/tones?mark={tone.mark}" for tone in scene.document.tones]
    for model, start in (
        (Frame, "frames"),
        (Roll, "rolls"),
        (Pick, "picks"),
        (Study, "studies"),
        (Item, "kit"),
        (KeptSetup, "setups"),
        (Outing, "outings"),
    ):
        found += [f"/{start}/{row.pk}/" for row in model.objects.order_by("pk")]
    for row in Result.objects.order_by("pk"):
        found += [f"/results/{row.pk}/", f"/results/{row.pk}/finish", f"/results/{row.pk}/finish/print"]
    return found


def visited():
    """path -> words, or the status where there is no page."""
    from django.test import Client

    client = Client(REMOTE_ADDR="127.0.0.1", HTTP_HOST="127.0.0.1")
    said = {}
    for path in paths():
        answer = client.get(path)
        if answer.status_code != 200:
            said[path] = answer.status_code
        elif "json" in answer["Content-Type"]:
            said[path] = answer.json()
        else:
            said[path] = words_of(answer.content.decode())
    return said
