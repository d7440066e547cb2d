"""Doors that take text: scenes, kit, setups, the log, places. Each has one table of bad input."""

import json

from dimgrey.core.acts.verb import verb_names
from dimgrey.scenes.acts import form_of
from dimgrey.scenes.queries import scenes_of
from tests.doors.door import DoorTest, scene_file
from tests.helpers import scene_with_light
from tests.share import many, share_of

LONE = "\ud83d"
"""Half of an emoji: JSON can write it, no database and no page can hold it."""
MANY_DIGITS = int("9" * 400)


def reading(**values):
    return {"kind": "spot", "ev100": 12, **values}


def tone(name="wall", **values):
    return {"name": name, "mark": "A", "readings": [reading()], **values}


def written(*pieces):
    """Scene file whose text is put together by hand, for what json.dumps does not write."""
    return '{"format": "dimgrey-scene", "version": 5, ' + ", ".join(pieces) + "}"


class SceneDoor(DoorTest):
    REFUSED = {
        "a mix that does not sum to 1": scene_file(medium={"kind": "digital raw", "channel_mix": [1.0, 1.0, 1.0]}),
        "half an emoji in the title": json.dumps({"format": "dimgrey-scene", "version": 5, "title": LONE}),
        "half an emoji in a tone's name": scene_file(tones=[tone(LONE)]),
        "half an emoji in the intent": scene_file(intent=LONE),
        "half an emoji in a note": scene_file(notes=LONE),
        "half an emoji as a key": written(f'"{chr(92)}ud83d": 1'),
        "a number of 400 digits": written(f'"lens": {{"focal_mm": {MANY_DIGITS}}}'),
        "a colour of 400 digits": written(f'"tones": [{{"name": "a", "mark": "A", "colour": [{MANY_DIGITS}, 0, 0]}}]'),
        "an infinite number": written('"lens": {"focal_mm": 1e999}'),
        "an infinite limit": written('"medium": {"kind": "digital raw", "limits_per_iso": [[1e999, 3, 3]]}'),
        "a speed of 400 digits": written(f'"medium": {{"kind": "film", "iso": {MANY_DIGITS}}}'),
        "an exposure compensation of infinity": written('"placing": {"under_stops": Infinity}'),
        "5,000 digits": written(f'"lens": {{"focal_mm": {"9" * 5000}}}'),
        "lists without end": "[" * 200_000,
        "objects without end": '{"tones":' * 50_000,
        "bytes that are no text": b"\xff\xfe\x00{",
        "nothing": b"",
        "a list": "[]",
        "a version that is not known": json.dumps({"format": "dimgrey-scene", "version": 99}),
        "NUL in the title": scene_file(title="a\0b"),
        "limits that contradict": scene_file(
            medium={"kind": "digital raw", "limits_per_iso": [[100, -3, 0], [100, 4, 4]]}
        ),
        "a drawn sky that crosses itself": scene_file(
            sky={"area": "drawn", "outline": [[0, 0], [1, 1], [1, 0], [0, 1]]}, tones=[tone(), tone()]
        ),
    }
    EITHER = {
        "two tones without the optional mark": scene_file(tones=[{"name": "a"}, {"name": "b"}]),
        "one tone of each kind of reading": scene_file(
            tones=[tone(mark=m, name=m, readings=[reading(kind=k)]) for m, k in zip("ABC", ("spot", "incident", "estimate"), strict=True)]
        ),
        "a date that no calendar has": scene_file(place={"latitude_deg": 1, "longitude_deg": 1, "date": "2026-02-30"}),
        "zone of a place that is none": scene_file(
            place={"latitude_deg": 1, "longitude_deg": 1, "zone": "../../etc/passwd", "date": "2026-02-03"}
        ),
        "a mix that nearly sums to 1": scene_file(
            medium={"kind": "digital raw", "channel_mix": [0.3349, 0.3349, 0.3349]}, tones=[tone(colour="#aa8866")]
        ),
        "a mix on film": scene_file(medium={"kind": "film", "channel_mix": [0.2, 0.2, 0.6]}, tones=[tone()]),
        "a named mix with an own one": scene_file(
            medium={"kind": "digital raw", "channel_mix": "red", "own_mix": [[0, 1]]}, tones=[tone(colour="#aa8866")]
        ),
        "a mix far outside": scene_file(
            medium={"kind": "digital raw", "channel_mix": [5, -5, 1]}, tones=[tone(colour="#0000ff"), tone("b", mark="B")]
        ),
        "year 9999": scene_file(place={"latitude_deg": 1, "longitude_deg": 1, "date": "9999-12-31"}),
        "year 1": scene_file(place={"latitude_deg": 89.9, "longitude_deg": 180, "date": "0001-01-01", "zone": "Asia/Tokyo"}),
        "year 0": scene_file(place={"latitude_deg": 1, "longitude_deg": 1, "date": "0000-00-00"}),
        "a title of blanks": scene_file(title="   "),
        "text that runs backwards": scene_file(title="\u202egreb", tones=[tone("\u200f\u200f")]),
        "forty tones": scene_file(tones=[{"name": f"t{k}", "readings": [reading()]} for k in range(40)]),
        "a setup on film": scene_file(setup={"name": "S", "effects": {"contrast": 1}}, medium={"kind": "film"}),
        "an effect that is none": scene_file(setup={"name": "S", "effects": {"glow": 1}}, medium={"kind": "digital file"}),
        "a reading at f/0": scene_file(tones=[tone(readings=[{"shutter": "1/0", "aperture": "f/0"}])]),
        "a placing without tones": scene_file(placing={"zone": 5, "tone": "nobody"}),
        "a magnification of twenty": scene_file(lens={"magnification": 20}, tones=[tone()]),
        "hills without points": scene_file(place={"latitude_deg": 90, "longitude_deg": 0, "hills": [[0, 0]] * 36, "date": "2026-06-21"}),
        "glass with an odd spectrum": scene_file(filters=[{"name": "x", "points": [[0, 0], [0, 0], [0, 0]]}]),
        "six filters": scene_file(filters=[{"name": "red"}] * 6, tones=[tone()]),
        "a curve with two points of one hue": scene_file(
            medium={"kind": "digital raw", "own_mix": [[10, 2], [10, -2]]}, tones=[tone(colour="#ff0000")]
        ),
        "a crop without width": scene_file(crop={"box": [0.5, 0.5, 0.5, 0.5]}),
        "an outer range of nothing": scene_file(medium={"kind": "film", "outer": [5, 5], "dependable": [5, 5]}),
        "a reciprocity table that falls": scene_file(
            medium={"kind": "film", "reciprocity": {"table": [[4, 2], [2, 8], [2, 8]]}}, tones=[tone()]
        ),
    }  # fmt: skip

    def test_what_must_be_refused(self):
        for name, text in self.REFUSED.items():
            with self.subTest(name):
                answer = self.timed(name, lambda text=text: self.sent("/scenes/import", text))
                self.require_whole(name, answer, refused=True)
        self.assertFalse(scenes_of(self.person).exists())

    def test_what_comes_in_can_be_shown(self):
        for name, text in self.EITHER.items():
            with self.subTest(name):
                self.require_whole(name, self.timed(name, lambda text=text: self.sent("/scenes/import", text)))
                scenes_of(self.person).delete()


class ActDoor(DoorTest):
    """Acts as the desk sends them, and as a list of JSON."""

    FIELDS = {
        "half an emoji": "\\ud83d",
        "400 digits": "9" * 400,
        "5,000 digits": "9" * 5000,
        "infinity": "inf",
        "not a number": "nan",
        "1e999": "1e999",
        "NUL": "a\0b",
        "50,000 blanks": " " * 50_000,
        "other digits": "١٢",
        "a minus alone": "-",
        "a formula": "=1+1",
    }

    @many
    def test_every_field_of_every_act(self):
        scene = scene_with_light(self.person, tones=[tone()])
        for verb in verb_names():
            fields = list(form_of(verb)(None, scene.document).fields)
            for field in fields:
                for name, value in share_of(self.FIELDS.items(), verb, field):
                    sent = {"verb": verb, "mark": "A", field: json.loads(f'"{value}"') if value[0] == "\\" else value}
                    with self.subTest(f"{verb}.{field}: {name}"):
                        answer = self.client.post(
                            f"/scenes/{scene.pk}/do",
                            json.dumps({"acts": [sent]}["acts"]),
                            content_type="application/json",
                        )
                        self.assertIn(answer.status_code, (200, 422))
        self.require_whole("after all of them", self.client.get("/"))

    def test_lists_that_are_none(self):
        scene = scene_with_light(self.person)
        for name, text in {
            "half an emoji": '[{"verb": "title", "title": "\\ud83d"}]',
            "an id of another kind": '[{"verb": "title", "act": "x", "title": "y"}]',
            "lists without end": "[" * 100_000,
            "400 digits": '[{"verb": "read", "mark": "A", "ev": ' + "9" * 400 + "}]",
        }.items():
            with self.subTest(name):
                answer = self.client.post(f"/scenes/{scene.pk}/do", text, content_type="application/json")
                self.require_whole(name, answer)


class KitDoor(DoorTest):
    ITEMS = {
        "a list where text belongs": {"kind": "camera", "controls": ["a"]},
        "a dictionary where text belongs": {"kind": "film", "response": {"a": 1}},
        "a list where a choice belongs": {"kind": "camera", "senses": ["film"]},
        "a number where text belongs": {"kind": "camera", "controls": 7},
        "a number where a name belongs": {"kind": "camera", "name": 7},
        "a dictionary in place of points": {"kind": "filter", "glass": "own spectrum", "points": {"a": 1}},
        "points of text": {"kind": "filter", "glass": "own spectrum", "points": [["a", "b"], ["c", "d"], [1, 2]]},
        "points of one number": {"kind": "filter", "glass": "own spectrum", "points": [[400], [500], [600]]},
        "a number in place of points": {"kind": "filter", "glass": "own spectrum", "points": 5},
        "points out of order": {"kind": "filter", "glass": "own spectrum", "points": [[700, 1], [400, 1], [400, 1]]},
        "a table of dictionaries": {"kind": "film", "table": [{"a": 1}]},
        "a table that is a number": {"kind": "film", "table": 5},
        "a table of negative seconds": {"kind": "film", "table": [[-4, -6], [15, 30]]},
        "a development of text": {"kind": "film", "development": [{"step": 1, "minutes": "long", "stops": "many"}]},
        "a development without minutes": {"kind": "film", "development": [{"step": 1, "minutes": None}]},
        "a development of dictionaries": {"kind": "film", "development": [{"step": 1, "minutes": {"a": 1}}]},
        "a development with another key": {"kind": "film", "development": [{"step": 0, "minutes": 8, "soup": 1}]},
        "a development that is a number": {"kind": "film", "development": 5},
        "limits of text": {"kind": "camera", "limits_per_iso": [["a", "b", "c"]]},
        "limits of too few": {"kind": "camera", "limits_per_iso": [[100, 3]]},
        "a speed that is a list": {"kind": "film", "iso": [100]},
        "a time that is a dictionary": {"kind": "camera", "shutter_min": {"s": 1}},
        "a number of 400 digits": {"kind": "lens", "focal_min_mm": MANY_DIGITS},
        "a number in words": {"kind": "lens", "focal_min_mm": "fifty"},
        "true as a number": {"kind": "lens", "focal_min_mm": True},
        "half an emoji": {"kind": "lens", "name": LONE},
        "half an emoji in a menu": {"kind": "camera", "controls": f"{LONE}: contrast -2..2"},
        "NUL": {"kind": "lens", "name": "a\0b"},
        "a menu of numbers without end": {"kind": "camera", "controls": f"A: contrast -{'9' * 400}..{'9' * 400}"},
        "a step too fine to count": {"kind": "camera", "controls": "A: contrast -12..12 step 0." + "0" * 300 + "1"},
        "a menu of 50,000 blanks": {"kind": "camera", "controls": "A: " + "a " * 25_000},
        "a menu of blanks alone": {"kind": "camera", "controls": "A:" + " " * 50_000 + "!"},
        "a development of 50,000 blanks": {"kind": "film", "development": "N" + " " * 50_000 + "!"},
        "a spectrum of 50,000 blanks": {"kind": "filter", "glass": "own spectrum", "points": "4" + " " * 50_000},
        "a million points": {"kind": "filter", "glass": "own spectrum", "points": [[400 + k / 1e3, 0.5] for k in range(60_000)]},
    }  # fmt: skip

    def test_each_item(self):
        for name, item in self.ITEMS.items():
            with self.subTest(name):
                text = json.dumps({"format": "dimgrey-kit", "version": 2, "items": [{"name": "Mine", **item}]})
                self.require_whole(name, self.timed(name, lambda text=text: self.sent("/kit/import", text)))
                for row in self.person_items():
                    scene = scene_with_light(self.person)
                    self.act(scene, "kit", **{row.kind: row.name})
                    self.require_whole(f"{name}, in a scene", self.client.get("/"))
                    row.delete()

    def person_items(self):
        from dimgrey.kit.queries import items_of

        return list(items_of(self.person))

    def test_a_form_of_each_kind(self):
        for kind in ("camera", "lens", "film", "filter", "meter", "surface"):
            for value in (" " * 50_000, "9" * 400, "1e999", "\0", "nan"):
                from dimgrey.core.document.kit import FIELDS

                for field in FIELDS[kind]:
                    with self.subTest(f"{kind}.{field.name}: {value[:6]!r}"):
                        sent = {"name": "Mine", field.name: value}
                        answer = self.timed(
                            field.name, lambda kind=kind, sent=sent: self.client.post(f"/kit/new/{kind}", sent)
                        )
                        self.assertLess(answer.status_code, 500)
        self.require_whole("after all of them", self.client.get("/"))


class SetupDoor(DoorTest):
    def test_files(self):
        head = {"format": "dimgrey-setup", "version": 1}
        for name, parts in {
            "half an emoji": {"name": LONE},
            "NUL": {"name": "a\0b"},
            "an effect of 400 digits": {"name": "S", "effects": {"contrast": MANY_DIGITS}},
            "effects that are a list": {"name": "S", "effects": ["contrast"]},
            "a filter that is a list": {"name": "S", "filter": ["red"]},
            "tags that are numbers": {"name": "S", "tags": [1, 2]},
            "a name of blanks": {"name": "   "},
            "a name of 200 characters": {"name": "S" * 200},
        }.items():
            with self.subTest(name):
                self.require_whole(name, self.sent("/setups/import", json.dumps({**head, **parts})))

    def test_a_setup_is_kept_while_a_film_scene_is_shown(self):
        for kind in ("film", "slide", "digital raw", "digital file"):
            scene = scene_with_light(
                self.person, medium={"kind": kind}, tones=[{"name": "wall", "readings": [reading()]}]
            )
            with self.subTest(kind):
                for page in ("/setups/new", f"/setups/new?scene={scene.pk}"):
                    sent = {"name": f"On {kind} {page[-3:]}", "scene": scene.pk, "contrast": "4", "save": "1"}
                    answer = self.client.post(page, sent)
                    self.require_whole(kind, answer, refused=False)
                    self.assertEqual(self.client.get(answer.headers["Location"]).status_code, 200)
                    self.assertEqual(self.client.get(page, {"scene": scene.pk}).status_code, 200)


class LogDoor(DoorTest):
    HEAD = "exposed_at,scene,aperture,shutter,iso,note\n"
    ROW = "2026-05-01T09:30:00Z,Kiln,f/8,1/125,100,"

    def test_files(self):
        for name, text in {
            "bare returns": (self.HEAD + self.ROW + "\n").replace("\n", "\r"),
            "a field over 131,072 characters": self.HEAD + self.ROW + "x" * 140_000 + "\n",
            "year 1": self.HEAD + self.ROW.replace("2026-05-01T09:30:00Z", "0001-01-01T00:00:00+14:00"),
            "year 9999": self.HEAD + self.ROW.replace("2026-05-01T09:30:00Z", "9999-12-31T23:59:59-12:00"),
            "half an emoji": (self.HEAD + self.ROW + LONE).encode("utf-8", "surrogatepass"),
            "NUL": self.HEAD + self.ROW + "\0",
            "an open quote": self.HEAD + self.ROW + '"',
            "two columns of one name": "exposed_at,exposed_at,scene,aperture,shutter,iso\n",
            "no line at all": "",
            "a heading alone": self.HEAD,
            "a difference without end": "difference_stops," + self.HEAD + "1e999," + self.ROW,
        }.items():
            with self.subTest(name):
                self.require_whole(
                    name, self.timed(name, lambda text=text: self.sent("/frames/import", text, "log.csv"))
                )

    def test_another_persons_token_is_a_frame_of_ones_own(self):
        from dimgrey.frames.actions import log_frame
        from dimgrey.frames.models import Frame

        theirs = log_frame(
            self.other(),
            scene_with_light(self.other_again(), tones=[tone()], placing={"tone": "wall", "zone": 7}),
            self.TOKEN,
        )
        scene = scene_with_light(self.person, tones=[tone()], placing={"tone": "wall", "zone": 7})
        for _ in range(2):
            answer = self.client.post(f"/scenes/{scene.pk}/log", {"token": self.TOKEN})
            self.assertEqual(answer.status_code, 302)
        self.assertEqual(Frame.objects.owned_by(self.person).count(), 1)
        self.assertNotEqual(Frame.objects.owned_by(self.person).get().pk, theirs.pk)

    TOKEN = "00000000-0000-4000-8000-000000000001"

    def other_again(self):
        from dimgrey.people.models import Person

        return Person.objects.get(username="someone-else")


class PlaceDoor(DoorTest):
    def test_files(self):
        from dimgrey.outings.actions import create_outing

        outing = create_outing(self.person, "Day", zone="UTC")
        head = '<gpx version="1.1">'
        for name, text in {
            "infinity": f'{head}<wpt lat="1e999" lon="0"/></gpx>',
            "not a number": f'{head}<wpt lat="nan" lon="0"/></gpx>',
            "400 digits": f'{head}<wpt lat="{"9" * 400}" lon="0"/></gpx>',
            "no position": f"{head}<wpt/></gpx>",
            "an entity": f'<!DOCTYPE a [<!ENTITY b "c">]>{head}<wpt lat="1" lon="1"><name>&b;</name></wpt></gpx>',
            "depth": head + "<a>" * 100_000,
            "cut": f'{head}<wpt lat="1" lon="1">',
            "an encoding that is none": '<?xml version="1.0" encoding="x-none"?><gpx/>',
            "a name with a control": f'{head}<wpt lat="1" lon="1"><name>a&#1;b</name></wpt></gpx>',
            "a name of 5,000": f'{head}<wpt lat="1" lon="1"><name>{"n" * 5000}</name></wpt></gpx>',
        }.items():
            with self.subTest(name):
                answer = self.timed(name, lambda text=text: self.sent(f"/outings/{outing.pk}/gpx", text, "a.gpx"))
                self.require_whole(name, answer)

    def test_facts_of_an_outing(self):
        from dimgrey.outings.actions import create_outing

        outing = create_outing(self.person, "Day", zone="UTC")
        for field in ("title", "date", "latitude_deg", "place", "zone", "coordinates", "latitude", "longitude"):
            for value in (
                "9" * 400,
                "1e999",
                "nan",
                "\0",
                " " * 50_000,
                "9999-12-31",
                "0001-01-01",
                "../../etc/passwd",
            ):
                with self.subTest(f"{field}: {value[:8]!r}"):
                    sent = {"title": "Day", "zone": "Pacific/Kiritimati", field: value}
                    answer = self.client.post(f"/outings/{outing.pk}/change", sent)
                    self.require_whole(field, answer)


class Addresses(DoorTest):
    def test_numbers_that_no_row_has(self):
        scene = scene_with_light(self.person, tones=[tone()])
        big = "9" * 40
        for address in (
            f"/scenes/{big}/",
            f"/scenes/{big}/do/title",
            f"/frames/{big}/",
            f"/kit/{big}/",
            f"/outings/{big}/",
            f"/setups/{big}/",
            f"/second-look/{big}/",
            f"/field/outings/{big}.json",
            f"/field/scenes/{big}/known",
            f"/phone/devices/{big}/drop",
            f"/scenes/new?outing={big}",
            f"/setups/new?scene={big}",
            f"/setups/new?to={big}",
            f"/scenes/{scene.pk}/edit/tone-ZZ",
            f"/scenes/{scene.pk}/sight?x=nan&y=inf",
            f"/scenes/{scene.pk}/sight?x=1e999&y=0",
            f"/scenes/{scene.pk}/camera?aperture={'9' * 400}&compensation=inf",
            f"/scenes/{scene.pk}/camera/live?shutter=1/0&compensation=1e999",
            f"/scenes/{scene.pk}/camera?compensation=999999999999",
            f"/scenes/{scene.pk}/export/../../x",
            f"/scenes/{scene.pk}/filters?light=%00",
            "/look",
            "/%00",
            "/%ed%a0%bd",
            "/scenes/new?outing=%ed%a0%bd",
            "/pictures/00000000-0000-0000-0000-000000000000/grey-x.jpg",
        ):
            for ask in (self.client.get, self.client.post):
                with self.subTest(f"{ask.__name__} {address[:60]}"):
                    self.assertLess(ask(address).status_code, 500)
