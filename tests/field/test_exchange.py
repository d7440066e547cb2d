"""What desk and phone hand each other is what the core's shapes of it say, and nothing else but what the page uses itself."""

import json

from dimgrey.core.field.exchange import KitTaken, SceneTaken, asked_in
from dimgrey.core.shapes.declare import known_keys
from dimgrey.core.shapes.plain import whole_part
from dimgrey.field.bundle import kit_of, scene_of
from dimgrey.scenes.situation import Situation
from tests.field.test_doors import Doors

OF_THE_PAGE = {
    KitTaken: {"ground", "tables"},
    SceneTaken: {"pk", "title", "stamp", "head", "outing", "zone", "waits", "picture", "sheet"},
}


class Exchange(Doors):
    def test_what_is_taken_along_is_read_back_whole(self):
        for scene in self.scenes:
            situation = Situation(self.fresh(scene))
            for shape, written in ((KitTaken, kit_of(self.person, [situation])), (SceneTaken, scene_of(situation))):
                with self.subTest(scene.title, shape=shape.__name__):
                    text = json.dumps(written, default=str)
                    taken = asked_in(text, shape)
                    self.assertEqual({name for name, _ in taken.beyond}, OF_THE_PAGE[shape])
                    self.assertEqual(set(written) - OF_THE_PAGE[shape], {each.name for each in known_keys(shape)})
                    self.assertEqual(json.loads(json.dumps(whole_part(taken))), json.loads(text))
