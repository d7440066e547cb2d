"""What every test of a door shares: a file goes in, is refused with a sentence or kept, and then every page still stands."""

import json
import time

from django.core.files.uploadedfile import SimpleUploadedFile

from dimgrey.frames.queries import frames_of
from dimgrey.kit.queries import items_of, setups_of
from dimgrey.outings.queries import outings_of
from dimgrey.scenes.queries import scenes_of
from dimgrey.scenes.sheet.registry import parts
from tests.browser.patience import patience
from tests.helpers import AsItRuns, PageTest

ASKED_OF_A_SCENE = ("", "card", "card.pdf", "filters", "compare", "camera", "test-shot", "scene.json")
LONGEST_S = 5.0
"""No file of a megabyte or two may hold a server longer than this, on a quiet machine."""


class DoorTest(AsItRuns, PageTest):
    """Bad input at one door. A row is (what it is, what is sent)."""

    def setUp(self):
        super().setUp()
        self.client.raise_request_exception = False

    def sent(self, address, data, name="file.json", field="file", **more):
        """The answer to a file that is sent."""
        data = data if isinstance(data, bytes) else data.encode("utf-8", "surrogatepass")
        return self.client.post(address, {field: SimpleUploadedFile(name, data), **more})

    def require_whole(self, name, answer, refused=None):
        """An answer is a refusal in a sentence, or what came in can be shown on every page. refused: whether it must be one."""
        self.assertIn(answer.status_code, (200, 302, 400, 404, 413, 422), name)
        if refused is not None:
            self.assertEqual(answer.status_code in (400, 404, 413, 422), refused, name)
        for address in self.pages():
            shown = self.client.get(address)
            self.assertLess(shown.status_code, 500, f"{name}: {address}")

    def pages(self):
        """Addresses of everything that this person has."""
        yield from ("/", "/kit/", "/setups/", "/setups/new", "/frames/", "/frames.csv", "/kit/kit.json", "/field/hello")
        for scene in scenes_of(self.person):
            yield from (f"/scenes/{scene.pk}/{page}" for page in ASKED_OF_A_SCENE)
            yield from (f"/scenes/{scene.pk}/edit/{part.key}" for part in parts())
            yield from (f"/scenes/{scene.pk}/edit/tone-{tone.mark}" for tone in scene.document.tones[:3])
        for outing in outings_of(self.person):
            yield from (f"/outings/{outing.pk}/", f"/field/outings/{outing.pk}.json")
        yield from (f"/kit/{item.pk}/" for item in items_of(self.person))
        for setup in setups_of(self.person):
            yield from (f"/setups/{setup.pk}/", f"/setups/{setup.pk}/menu", f"/setups/{setup.pk}/setup.cube")
        yield from (f"/frames/{frame.pk}/" for frame in frames_of(self.person))

    def timed(self, name, do):
        """What `do` gives, which may not take long."""
        patience.measure()
        began = time.monotonic()
        answer = do()
        self.assertLess(time.monotonic() - began, LONGEST_S * patience.busy, name)
        return answer


def scene_file(**parts):
    """Text of a scene file of the present version."""
    return json.dumps({"format": "dimgrey-scene", "version": 5, **parts})


def kit_file(**item):
    """Text of a kit file with one item."""
    return json.dumps({"format": "dimgrey-kit", "version": 2, "items": [{"name": "Mine", **item}]})
