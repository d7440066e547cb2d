"""The painter against the server's array of the same light map: every medium, look and glass, on both kinds of canvas."""

import base64
from dataclasses import replace

import numpy as np
from django.test import tag

from dimgrey.core.colour.chain import glass_chain, mixed_chain
from dimgrey.core.colour.encoding import luminance
from dimgrey.core.document import plainform
from dimgrey.core.picture import lightmap
from dimgrey.core.picture.display import LOOKS, grey8_of_lightness
from dimgrey.core.picture.overhead import Overhead, Polarized
from dimgrey.core.picture.tonemap import Seen
from dimgrey.core.sky.dome import crossed_share
from dimgrey.pictures import store
from dimgrey.pictures.addresses import Rendering, grey_address
from dimgrey.scenes.models import Scene
from tests import hand
from tests.browser.story import DESK, PHONE, Story
from tests.documents import document
from tests.helpers import scene_with_picture
from tests.scenes.test_glass import BRICK, PLACE, light, tones

VIEW = {"heading_deg": 90, "tilt_deg": 8, "time": "12:00", "sky": True}
SKY_ABOVE = ((0.0, 0.0), (1.0, 0.0), (1.0, 0.5), (0.0, 0.5))
UNDER = Polarized(35.0, 100.0, 8.0, 28.0, False, 0.8)
VIEWS = {
    "film through orange": Rendering(glass_chain("general panchromatic", "D55", ("orange",)), 0.4, 1.0, "film", 0),
    "developed N-2": Rendering(glass_chain("extended red", "A", ("red",)), -0.7, 1.0, "film", -2),
    "slide, polarized": Rendering(glass_chain("orthochromatic", "D65"), 0.2, 1.0, "slide", 0, overhead=Overhead(SKY_ABOVE, UNDER)),
    "graduated": Rendering(mixed_chain("red"), 0.3, 1.0, "digital raw", 0, overhead=Overhead(None, None, ((2.0, 0.4),))),
    "polarizer turned away": Rendering(
        glass_chain("general panchromatic", "D55"), 0.2, 1.0, "film", 0, overhead=Overhead(SKY_ABOVE, replace(UNDER, turned_deg=20.0))
    ),
    "own mix, polarized": Rendering(
        mixed_chain("none", ((230.0, -1.5), (10.0, 0.8))), 0.0, 1.2, "digital raw", 0, overhead=Overhead(SKY_ABOVE, UNDER)
    ),
    "file with a setup": Rendering(mixed_chain((1.4, -0.3, -0.1)), 0.5, 0.9, "digital file", 0, tone=(0.5, -0.3, 0.2)),
    "no sky": Rendering(glass_chain("monochrome sensor", "D55", ("deep red",)), 0.0, 1.0, "digital raw", 0, overhead=Overhead(())),
    **{look: Rendering(glass_chain("general panchromatic", "D55", ("red",)), 0.1, 1.0, "film", 1, look) for look in ("hard", "two", "three")},
}  # fmt: skip


@tag("browser")
class Painting(Story):
    glass = True

    def setUp(self):
        super().setUp()
        rng = np.random.default_rng(3)
        linear = light(160, 240) * np.exp2(rng.normal(0, 0.5, (160, 240, 1))).astype(np.float32)
        linear[100:130, 20:60] = (0.02, 0.03, 0.3)
        placing = {"school": "known tone", "tone": "brick", "zone": 4}
        written = document(title="Yard", medium={"kind": "film", "iso": 100}, tones=tones(), placing=placing)
        self.scene = scene_with_picture(self.person, written, linear.astype(np.float16), "yard")

    def expected(self, shown):
        """The server's exact greys of the light map, uint8."""
        path = self.scene.picture.path
        colours = lightmap.colours_of(lightmap.unpacked(store.light_map(path, 1600)))
        height, width = colours.shape[:2]
        share = lightmap.unpacked(store.sky_map(path, shown.overhead, 1600))[0] / 255
        share = share if share.shape == (height, width) else None
        left = shown.overhead.left(share, height, width)
        seen = Seen(colours * np.broadcast_to(left, (height, width))[..., None], share)
        from dimgrey.core.picture.display import _look

        return grey8_of_lightness(_look(shown.tone_map.lightness(*seen), shown.look))

    def painted(self, shown, plain, how=None):
        """What the painter makes of a view in the browser. how: what a hand moves, as a part has it."""
        address = grey_address(self.scene.picture.folder, shown)
        key = address.split("/grey-")[1].removesuffix(".jpg")
        area = key.rsplit("_", 1)[1].split("p")[0].split("g")[0]
        script = """async ([base, folder, key, area, plain, how]) => {
            const { Painter, mapOf, tablesOf } = await import(base);
            const [map, sky, tables] = await Promise.all([
              mapOf(`/pictures/${folder}/light-1600.bin`), mapOf(`/pictures/${folder}/sky-1600-${area}.bin`),
              tablesOf(`/pictures/paint-${key}.json`)]);
            const canvas = document.createElement("canvas"), painter = new Painter(canvas, plain);
            painter.paint([{ light: map, sky, tables, shift: 0, ...how, from: 0, to: 1 }]);
            const flat = document.createElement("canvas");
            Object.assign(flat, { width: canvas.width, height: canvas.height });
            flat.getContext("2d").drawImage(canvas, 0, 0);
            const data = flat.getContext("2d").getImageData(0, 0, canvas.width, canvas.height).data;
            let text = ""; for (let k = 0; k < data.length; k += 4) text += String.fromCharCode(data[k]);
            return [painter.kind, canvas.width, canvas.height, btoa(text)];
        }"""
        base = "/static/pictures/painter.js"
        kind, width, height, text = self.do(
            lambda page: page.evaluate(script, [base, str(self.scene.picture.folder), key, area, plain, how or {}])
        )
        return kind, np.frombuffer(base64.b64decode(text), np.uint8).reshape(height, width)

    def test_painter_and_server_agree(self):
        self.open(f"/scenes/{self.scene.pk}/?painter=none")
        kinds = set()
        for name, shown in VIEWS.items():
            expected = self.expected(shown).astype(int)
            for plain in (False, True):
                kind, seen = self.painted(shown, plain)
                kinds.add(kind)
                off = np.abs(seen.astype(int) - expected)
                with self.subTest(name, kind=kind):
                    self.assertEqual(seen.shape, expected.shape)
                    if shown.look in ("two", "three"):
                        self.assertLessEqual(np.mean(off > 1), 0.001)
                    else:
                        limit = 4 if shown.look == "hard" else 1
                        self.assertLessEqual(off.max(), limit)
        self.assertEqual(kinds, {"plain", "glass"})
        self.assertEqual(set(LOOKS) - {shown.look for shown in VIEWS.values()}, {"squint"})

    def test_glass_that_a_hand_moves_is_painted_as_the_server_would(self):
        self.open(f"/scenes/{self.scene.pk}/?painter=none")
        film = Rendering(glass_chain("general panchromatic", "D55", ("orange",)), 0.4, 1.0, "film", 0)
        edge = lambda at: replace(film, overhead=Overhead(None, None, ((2.0, at),)))
        turned = lambda by: replace(film, overhead=Overhead(SKY_ABOVE, replace(UNDER, turned_deg=by)))
        for start, moved, how in (
            (edge(0.4), edge(0.55), {"slide": 0.15}),
            (edge(0.4), edge(0.1), {"slide": -0.3}),
            (turned(0.0), turned(30.0), {"crossed": crossed_share(30)}),
            (turned(30.0), turned(0.0), {"crossed": 1}),
        ):
            expected = self.expected(moved).astype(int)
            self.assertGreater(np.abs(self.expected(start).astype(int) - expected).max(), 10, "it does something")
            for plain in (False, True):
                with self.subTest(how, plain=plain):
                    _, seen = self.painted(start, plain, how)
                    self.assertLessEqual(np.abs(seen.astype(int) - expected).max(), 1)


class DeskStory(Story):
    """A scene with a picture of a yard, planned on film through orange."""

    NEARER = "!document.querySelector('#nearer') || document.querySelector('#nearer').textContent.trim()"
    STAMP = "JSON.parse(document.getElementById('desk-data').textContent).stamp"

    def setUp(self):
        super().setUp()
        placing = {"school": "known tone", "tone": "brick", "zone": 4}
        film = {"kind": "film", "iso": 100, "developed": -1}
        written = document(title="Yard", medium=film, tones=tones(), placing=placing, filters=[{"name": "orange"}])
        self.scene = scene_with_picture(self.person, written, light(160, 240).astype(np.float16), "yard")


@tag("browser")
class Live(DeskStory):
    """While a tone is dragged, picture, rail, list and figures follow it; what they showed is what the server settles."""

    def shown(self):
        """What the desk shows of every tone, and the exposure: (flag words, list words, places on the rail, time)."""
        return self.do(
            lambda page: page.evaluate(
                """() => {
                  const flags = [...document.querySelectorAll('.flag')].sort((a, b) => a.id < b.id ? -1 : 1);
                  return [flags.map(f => f.querySelector('.zone').textContent),
                    flags.map(f => document.querySelector(`#tone-${f.dataset.mark} .zone`).textContent),
                    flags.map(f => Number.parseFloat(f.getAttribute('x'))),
                    document.querySelector('[data-side=shutter]').textContent];
                }"""
            )
        )

    def middle(self):
        """Mean grey of the painted picture."""
        script = """() => { const c = document.getElementById('painted'), f = document.createElement('canvas');
            Object.assign(f, { width: 24, height: 16 }); const x = f.getContext('2d'); x.drawImage(c, 0, 0, 24, 16);
            const d = x.getImageData(0, 0, 24, 16).data; let s = 0; for (let k = 0; k < d.length; k += 4) s += d[k];
            return s / (d.length / 4); }"""
        return self.do(lambda page: page.evaluate(script))

    def hold(self, mark, zones):
        """Take a tone's flag and move it by so many zones, without letting go."""
        x, y = self.point(0.5, 0.5, f"#flag-{mark} .long .box")
        by = zones * self.do(lambda page: page.locator("svg.rail").bounding_box())["width"] / 11
        self.do(lambda page: (page.mouse.move(x, y), page.mouse.down(), page.mouse.move(x + by, y, steps=4)))

    def dragged(self):
        """(before, while, after a drag of a zone, mean grey before and while)."""
        self.open(f"/scenes/{self.scene.pk}/")
        self.until("!document.getElementById('painted').hidden")
        before, dark = self.shown(), self.middle()
        self.hold("C", 1)
        self.until("document.querySelector('.falls').getAttribute('visibility') === 'hidden'")
        self.pause(0.1)
        moving, bright = self.shown(), self.middle()
        was = self.do(lambda page: page.evaluate(self.STAMP))
        self.do(lambda page: page.mouse.up())
        self.until(f"{self.STAMP} > {was}")
        return before, moving, self.shown(), dark, bright

    def test_what_is_shown_under_the_hand_is_what_is_settled(self):
        before, moving, settled, dark, bright = self.dragged()
        self.assertNotEqual(moving[3], before[3])
        self.assertGreater(bright, dark + 5)
        self.assertEqual((settled[0], settled[1], settled[3]), (moving[0], moving[1], moving[3]))
        np.testing.assert_allclose(settled[2], moving[2], atol=0.15)
        self.assert_silent()

    def test_a_drag_that_is_given_up_leaves_everything_as_it_was(self):
        self.open(f"/scenes/{self.scene.pk}/")
        self.until("!document.getElementById('painted').hidden")
        before = self.shown()
        self.hold("C", 1.5)
        cancel = (
            "document.querySelector('svg.rail').dispatchEvent(new PointerEvent('pointercancel', { bubbles: true }))"
        )
        self.do(lambda page: page.evaluate(cancel))
        self.do(lambda page: page.mouse.up())
        self.assertEqual(self.shown()[0], before[0])
        self.assertEqual(self.shown()[3], before[3])


@tag("browser")
class LiveOnGlass(Live):
    """The same on the graphics processor, or what plays one."""

    glass = True


@tag("browser")
class Manners(DeskStory):
    """What a change does to the page beside the figures: nothing jumps, the focus stays, what failed is taken back."""

    def test_a_change_keeps_focus_and_place_and_is_read_out(self):
        self.open(f"/scenes/{self.scene.pk}/", (1280, 600))
        self.click("#edit-filter > summary")
        self.do(lambda page: page.locator("#filter").wait_for())
        self.do(lambda page: page.focus("#filter"))
        place = "document.getElementById('edit-filter').getBoundingClientRect().top"
        self.until(self.NEARER)
        before = self.do(lambda page: page.evaluate(place))
        was = self.do(lambda page: page.evaluate(self.STAMP))
        self.do(lambda page: page.keyboard.press("ArrowDown"))
        self.until(f"{self.STAMP} > {was}")
        self.until("document.activeElement.id === 'filter'")
        self.until(self.NEARER)
        self.assertAlmostEqual(self.do(lambda page: page.evaluate(place)), before, delta=2)
        self.until("document.getElementById('announced').textContent.startsWith('Exposure')")
        self.do(lambda page: page.keyboard.press("Escape"))
        self.until("!document.getElementById('edit-filter').open && document.activeElement.tagName === 'SUMMARY'")
        self.assert_silent()

    def test_a_choice_that_is_not_kept_is_taken_back_with_a_word(self):
        self.open(f"/scenes/{self.scene.pk}/")
        self.click("#edit-filter > summary")
        self.do(lambda page: page.locator("#filter").wait_for())
        self.do(lambda page: page.route("**/do/**", lambda route: route.abort()))
        self.do(lambda page: page.select_option("#filter", "green"))
        self.until("!document.getElementById('said').hidden")
        self.until("document.getElementById('filter').value === 'orange'")

    def test_what_takes_longer_than_a_glance_shows_that_it_is_under_way(self):
        self.open(f"/scenes/{self.scene.pk}/")
        self.click("#edit-filter > summary")
        self.do(lambda page: page.locator("#filter").wait_for())
        held = []
        self.do(lambda page: page.route("**/do/**", lambda route: held.append(route)))
        self.do(lambda page: page.select_option("#filter", "green"))
        self.until("document.body.getAttribute('aria-busy') === 'true'")
        self.do(lambda page: held.pop().continue_())
        self.until("!document.body.hasAttribute('aria-busy')")
        self.told("filter", "Green")

    def test_a_development_is_seen_while_the_choices_are_gone_through(self):
        self.open(f"/scenes/{self.scene.pk}/")
        self.until("!document.getElementById('painted').hidden")
        self.click("#edit-camera > summary")
        self.do(lambda page: page.locator("#developed").wait_for())
        through = "const s = document.getElementById('developed'); s.value = '-2'; s.dispatchEvent(new Event('input', {bubbles: true}))"
        self.do(lambda page: page.evaluate(through))
        shown = "document.getElementById('frame').dataset.shown"
        wanted = self.do(
            lambda page: page.evaluate("JSON.parse(document.getElementById('developed').dataset.views)['-2']")
        )
        self.until(f"{shown} === {wanted!r}")
        was = self.do(lambda page: page.evaluate(self.STAMP))
        self.do(
            lambda page: page.evaluate(
                "document.getElementById('developed').dispatchEvent(new Event('change', {bubbles: true}))"
            )
        )
        self.until(f"{self.STAMP} > {was}")
        self.assertEqual(Scene.objects.get().document.medium.developed, -2)
        self.until(f"JSON.parse(document.getElementById('desk-data').textContent).grey === {wanted!r}")
        self.assert_silent()

    def test_until_the_light_is_there_small_pictures_answer(self):
        held = []
        self.open("/")
        self.do(lambda page: page.route("**/light-*.bin", lambda route: held.append(route)))
        self.go_without_waiting(f"/scenes/{self.scene.pk}/")
        self.do(lambda page: page.locator("#flag-C").wait_for())
        source = "document.getElementById('view').src"
        self.until(f"{source}.endsWith('?small=1')")
        self.until("window.Alpine && document.querySelector('#undo')")
        before = self.do(lambda page: page.evaluate(source))
        self.do(lambda page: page.focus("#flag-C"))
        self.do(lambda page: page.keyboard.press("ArrowRight"))
        self.until(f"{source} !== {before!r} && {source}.endsWith('?small=1')")
        self.assertTrue(self.do(lambda page: page.evaluate("document.getElementById('painted').hidden")))
        self.do(lambda page: [route.continue_() for route in held])
        self.do(lambda page: page.unroute("**/light-*.bin"))
        self.until("!document.getElementById('painted').hidden")

    def test_without_a_painter_the_servers_whole_picture_comes(self):
        self.open(f"/scenes/{self.scene.pk}/?painter=none")
        self.until("!document.getElementById('view').src.includes('small')")

    def test_a_page_is_not_shown_stale_on_back(self):
        answer = self.client.get(f"/scenes/{self.scene.pk}/")
        self.assertEqual(answer["Cache-Control"], "no-store")
        picture = self.client.get(f"/pictures/{self.scene.picture.folder}/colour.jpg")
        self.assertIn("immutable", picture["Cache-Control"])


@tag("browser")
class Pins(DeskStory):
    """Pins are moved by hand and by keys; a finger sights with a loupe."""

    def at(self):
        return Scene.objects.get(pk=self.scene.pk).document.tone("A").at

    def test_a_pin_is_dragged_and_read_where_it_is_let_go(self):
        self.open(f"/scenes/{self.scene.pk}/")
        before = Scene.objects.get(pk=self.scene.pk).document.tone("A")
        x, y = self.point(0.5, 0.5, ".pin[data-mark=A] circle:not(.reach)")
        to = self.point(0.3, 0.8)
        self.do(lambda page: (page.mouse.move(x, y), page.mouse.down(), page.mouse.move(*to, steps=5), page.mouse.up()))
        self.until_kept(lambda: tuple(round(v, 1) for v in self.at()), (0.3, 0.8))
        after = Scene.objects.get(pk=self.scene.pk).document.tone("A")
        self.assertLess(after.picture_reading.stops, before.picture_reading.stops - 1)
        self.assertEqual((after.name, after.role, len(self.scene.document.tones)), ("sky", "sky", 4))
        self.do(lambda page: page.wait_for_load_state("networkidle"))
        self.pause(0.3)
        self.do(lambda page: page.locator(".pin[data-mark=B]").focus())
        for _ in range(3):
            self.do(lambda page: page.keyboard.press("ArrowRight"))
        self.until_kept(lambda: round(Scene.objects.get(pk=self.scene.pk).document.tone("B").at[0], 3), 0.762)
        self.until("document.activeElement.dataset.mark === 'B'")
        self.assert_accessible("pins")
        self.assert_silent()

    def test_a_finger_sights_with_a_loupe_above_it_and_pins_with_the_button(self):
        self.open(f"/scenes/{self.scene.pk}/", PHONE)
        x, y = self.point(0.5, 0.75)
        up = self.point(0.6, 0.7)

        session = self.do(lambda page: self.context.new_cdp_session(page))

        def touch(kind, *at):
            points = [{"x": at[0], "y": at[1]}] if at else []
            session.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

        self.do(lambda page: touch("touchStart", x, y))
        self.until("!document.getElementById('loupe').hidden")
        self.do(lambda page: touch("touchMove", *up))
        self.until("!document.getElementById('sighted').hidden")
        frame, glass = (self.do(lambda page, s=s: page.locator(s).bounding_box()) for s in ("#frame", "#loupe"))
        self.assertGreaterEqual(glass["y"], frame["y"] - 1)
        self.assertLess(glass["y"] + glass["height"], up[1])
        self.do(lambda page: touch("touchEnd"))
        self.until("document.getElementById('loupe').hidden")
        self.click("#pin-here")
        self.until_kept(lambda: len(Scene.objects.get(pk=self.scene.pk).document.tones), 5)


@tag("browser")
class Handles(DeskStory):
    """Rings on the ramp are handles: the whole disc grabs its own tone; where discs lie over each other the nearest middle does."""

    def test_every_disc_grabs_its_own_tone(self):
        for size in (DESK, PHONE):
            self.open(f"/scenes/{self.scene.pk}/", size)
            found = self.do(
                lambda page: page.evaluate(
                    "[...document.querySelectorAll('.flag')].map(f => { const b = f.querySelector('.ring-mark').getBoundingClientRect();"
                    " return {mark: f.dataset.mark, x: b.x + b.width / 2, y: b.y + b.height / 2}; })"
                )
            )
            self.assertGreater(len(found), 3)
            for ring in found:
                for dx, dy in ((0, 0), (11, 0), (-11, 0), (0, 11), (0, -11), (7, 7)):
                    at = (ring["x"] + dx, ring["y"] + dy)
                    away = lambda each, at=at: (each["x"] - at[0]) ** 2 + (each["y"] - at[1]) ** 2
                    nearest = min(away(each) for each in found)
                    wanted = {each["mark"] for each in found if away(each) <= nearest + 0.5}
                    with self.subTest(size=size, ring=ring["mark"], at=(dx, dy)):
                        self.do(lambda page, at=at: (page.mouse.move(*at), page.mouse.down()))
                        held = self.do(
                            lambda page: page.evaluate("document.activeElement.closest('.flag')?.dataset.mark")
                        )
                        self.do(lambda page: page.mouse.up())
                        self.assertIn(held, wanted)


@tag("browser")
class SmallWindows(DeskStory):
    def test_exposure_and_main_act_are_in_sight_and_nothing_scrolls_sideways(self):
        for size in ((844, 390), (390, 844), (320, 640), (390, 420), (640, 400)):
            self.open(f"/scenes/{self.scene.pk}/", size)
            with self.subTest(size):
                self.assert_fits()
                # On a phone the main act carries the exposure, so that it stays while a part is edited.
                exposure = ".foot-exposure" if size[0] <= 720 else ".big-exposure"
                self.click("#edit-filter > summary")
                self.do(lambda page: page.locator("#filter").wait_for())
                self.do(lambda page: page.focus("#factor"))
                for selector in (exposure, ".sheet-foot .main-act"):
                    box = self.do(lambda page, s=selector: page.locator(s).first.bounding_box())
                    self.assertLessEqual(box["y"] + box["height"], size[1] + 1, selector)
                    self.assertLessEqual(box["x"] + box["width"], size[0] + 1, selector)
                    self.assertGreaterEqual(box["y"], 0, selector)
                self.assert_accessible(str(size))


@tag("browser")
class GlassUnderTheHand(DeskStory):
    """The polarizer's slider, the edge of graduated glass, an area drawn as a tone."""

    def on_lens(self, *filters, place=True):
        changed = plainform.document_of(
            {
                **plainform.plain(self.scene.document),
                "filters": list(filters),
                **({"place": PLACE, "view": VIEW} if place else {}),
            }
        )
        self.scene = hand.change(self.scene, None, "glass", lambda _: changed)

    def flags(self):
        script = "() => Object.fromEntries([...document.querySelectorAll('.flag')].map(f => [f.dataset.mark, Number.parseFloat(f.getAttribute('x'))]))"
        return self.do(lambda page: page.evaluate(script))

    def settled_as_shown(self, let_go):
        """What the rail shows under the hand is what it shows after the answer; flags before are given back."""
        moving = self.flags()
        was = self.do(lambda page: page.evaluate(self.STAMP))
        self.do(let_go)
        self.until(f"{self.STAMP} > {was}")
        settled = self.flags()
        for mark, x in moving.items():
            self.assertAlmostEqual(settled[mark], x, delta=0.3, msg=mark)
        return moving

    def test_the_edge_of_graduated_glass_is_dragged_and_nudged(self):
        self.on_lens({"name": "graduated", "stops": 2, "edge": 0.2})
        self.open(f"/scenes/{self.scene.pk}/")
        self.until("!document.getElementById('painted').hidden")
        before = self.flags()
        x, y = self.point(0.55, 0.2)
        _, to = self.point(0.55, 0.6)
        self.do(lambda page: (page.mouse.move(x, y), page.mouse.down(), page.mouse.move(x, to, steps=5)))
        self.pause(0.1)
        moving = self.settled_as_shown(lambda page: page.mouse.up())
        self.assertLess(moving["A"], before["A"] - 5, "the sky is held back")
        self.assertAlmostEqual(Scene.objects.get().document.filters[0].edge, 0.6, delta=0.02)
        edge = lambda: Scene.objects.get().document.filters[0].edge
        was = edge()
        # The answer to the drag brings a grip of its own, and the key is meant for that one.
        self.do(lambda page: page.wait_for_load_state("networkidle"))
        self.pause(0.3)
        self.do(lambda page: page.press(".edge-grip", "ArrowUp"))
        self.until_kept(lambda: round(was - edge(), 3), 0.01, seconds=20)
        self.assert_accessible("graduated edge")
        self.assert_silent()

    def test_the_polarizer_is_turned(self):
        self.on_lens({"name": "polarizer"})
        self.open(f"/scenes/{self.scene.pk}/")
        self.until("!document.getElementById('painted').hidden")
        self.click("#edit-filter summary")
        self.do(lambda page: page.locator("#polarizer-turn").wait_for())
        before = self.flags()
        turn = "const s = document.getElementById('polarizer-turn'); s.value = 45; s.dispatchEvent(new Event('input', {bubbles: true}))"
        self.do(lambda page: page.evaluate(turn))
        self.pause(0.1)
        self.assertEqual(self.text("#turned"), "45°")
        let_go = "document.getElementById('polarizer-turn').dispatchEvent(new Event('change', {bubbles: true}))"
        moving = self.settled_as_shown(lambda page: page.evaluate(let_go))
        self.assertGreater(moving["A"], before["A"] + 3, "the sky is as without it")
        self.assertEqual(Scene.objects.get().document.filters[0].turned_deg, 45)
        self.assert_silent()

    def test_an_area_is_drawn_read_and_moved(self):
        self.open(f"/scenes/{self.scene.pk}/")
        self.click("text=Pin an area")
        (left, top), (right, bottom) = self.point(0.1, 0.6), self.point(0.4, 0.9)
        self.do(lambda page: (page.mouse.move(left, top), page.mouse.down()))
        for x, y in ((right, top), (right, bottom), (left, bottom)):
            self.do(lambda page, x=x, y=y: page.mouse.move(x, y, steps=3))
        self.do(lambda page: page.mouse.up())
        self.until_kept(lambda: len(Scene.objects.get().document.tones), 5)
        tone = Scene.objects.get().document.tones[-1]
        self.assertGreaterEqual(len(tone.area), 4)
        self.assertAlmostEqual(tone.at[0], 0.25, delta=0.03)
        self.assertAlmostEqual(tone.readings[0].stops, float(np.log2(luminance(BRICK) / 0.18)), delta=0.02)
        self.wait("#pins", tone.mark)
        self.assertEqual(self.do(lambda page: page.locator(".area").count()), 1)
        self.do(lambda page: page.focus(f".pin[data-mark={tone.mark}]"))
        self.do(lambda page: page.keyboard.press("Shift+ArrowRight"))
        self.until_kept(lambda: Scene.objects.get().document.tones[-1].at[0] > tone.at[0], True)
        moved = Scene.objects.get().document.tones[-1].area
        self.assertAlmostEqual(moved[0][0] - tone.area[0][0], 0.02, delta=0.003)
        self.assert_accessible("an area")
        self.assert_silent()
