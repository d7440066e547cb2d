"""The parts of the field page that keep, send and reckon, each by itself in a browser: with a server and a core of the test's own."""

from dimgrey.core.field.lines import Line, plain_lines, ribbon
from tests.browser.story import PHONE, Story
from tests.core.acts.madeup import seeded

SERVER = """
  // A server of the test's own: answers by the end of the address; each call is written down.
  window.calls = [];
  window.served = (answers) => {
    window.fetch = async (address, { body } = {}) => {
      const path = new URL(address, location.href).pathname,
        sent = body && typeof body === "string" ? JSON.parse(body) : null;
      calls.push([path, sent]);
      const [, answer] = Object.entries(answers).find(([end]) => path.endsWith(end)) ?? [null, () => ({ status: 404 })];
      const { status = 200, json } = await answer(sent, path);
      return new Response(JSON.stringify(json ?? {}), { status });
    };
  };
  window.greeting = () => ({ json: { now: new Date().toISOString(), page: "this", outings: [] } });
  window.kept = (sent) => ({ json: { acts: sent.acts.map(({ act }) => ({ act, state: "kept", sentence: "", theirs: "" })), scene: null } });
  window.act = (n, more = {}) => ({ verb: "shift", scene: 1, act: `a${n}`, at: new Date().toISOString(), stops: "1", ...more });
"""


class Modules(Story):
    def setUp(self):
        super().setUp()
        self.open("/field/", PHONE)
        self.do(lambda page: page.evaluate(f"() => {{ {SERVER} }}"))

    def run_there(self, body, given=None):
        modules = "store sync home session lines"
        load = "\n".join(f'const {each} = await import("/static/field/{each}.js");' for each in modules.split())
        return self.do(lambda page: page.evaluate(f"async (given) => {{ {load}\n{body} }}", given))


class Store(Modules):
    def test_acts_stay_in_their_order_and_what_is_settled_is_settled_whole(self):
        found = self.run_there("""
            for (const n of [3, 1, 2]) await store.keepAct(act(n));
            await store.keepOuting({ pk: 9, scenes: [{ pk: 1, head: 5 }] });
            const [first, ...rest] = await store.waitingOf(1);
            await store.settle([{ ...first, state: "stale" }], { pk: 1, head: 6 });
            await store.dropUnsettled(1, "a1");
            const left = await store.waitingOf(1);
            await store.dropUnsettled(1, "a3");
            return [left.map(({ act }) => act), (await store.outing(9)).scenes[0].head, (await store.acts()).length];
        """)
        self.assertEqual(found, [["a1", "a2"], 6, 2])

    def test_the_same_act_is_not_kept_twice(self):
        found = self.run_there("""
            await store.keepAct(act(1));
            const refused = await store.keepAct(act(1)).catch(({ name }) => name);
            return [refused, (await store.acts()).length];
        """)
        self.assertEqual(found, ["ConstraintError", 1])

    def test_a_scene_that_came_home_takes_its_acts_along_and_old_acts_go_after_a_month(self):
        found = self.run_there("""
            await store.keepOuting({ pk: 9, scenes: [{ pk: "own" }] });
            await store.keepAct(act(1, { scene: "own" }));
            await store.rename("own", { pk: 7, picture: null });
            const [mine] = await store.actsOf(7), old = new Date(Date.now() - 31 * 86400e3).toISOString();
            await store.changeAct({ ...mine, state: "kept", keptAt: old });
            await store.keepAct(act(2, { scene: 7 }));
            await store.sweepActs();
            return [(await store.outing(9)).scenes[0].pk, (await store.actsOf(7)).map(({ act }) => act), await store.meta(store.homeOf("own"))];
        """)
        self.assertEqual(found, [7, ["a2"], 7])


class Sync(Modules):
    def test_what_is_done_while_it_sends_goes_with_the_next_run(self):
        """As one that is done between the last look at what waits and the end."""
        found = self.run_there("""
            await store.keepAct(act(1));
            let late = null;
            served({
              hello: greeting,
              acts: kept,
              known: async () => {
                if (!late) { await store.keepAct(act(2)); late = sync.sync(() => {}); }
                return { json: { missing: [] } };
              },
            });
            await sync.sync(() => {});
            await late;
            return (await store.acts()).map(({ state }) => state);
        """)
        self.assertEqual(found, ["kept", "kept"])

    def test_a_scene_that_the_server_falls_over_holds_up_no_other(self):
        found = self.run_there("""
            for (const n of [1, 2, 3]) await store.keepAct(act(n, { scene: n }));
            served({
              hello: greeting,
              "1/acts": () => ({ status: 500 }),
              "2/acts": () => ({ status: 422, json: { problem: "No." } }),
              acts: kept,
              known: () => ({ json: { missing: [] } }),
            });
            const failed = await sync.sync(() => {}).catch(({ message }) => message);
            return [failed, (await store.acts()).map(({ state, sentence }) => [state, sentence ?? ""])];
        """)
        self.assertEqual(found, ["server 500", [["waiting", ""], ["refused", "No."], ["kept", ""]]])

    def test_what_an_older_backup_has_lost_is_sent_again_once(self):
        found = self.run_there("""
            await store.keepAct(act(1));
            served({ hello: greeting, acts: kept, known: () => ({ json: { missing: ["a1"] } }) });
            await sync.sync(() => {});
            return [(await store.acts())[0].state, calls.filter(([path]) => path.endsWith("acts")).length];
        """)
        self.assertEqual(found, ["kept", 2])

    def test_a_striking_that_was_kept_settles_what_it_struck(self):
        found = self.run_there("""
            await store.keepAct(act(1));
            await store.keepAct(act(2, { verb: "strike-out", line: "a1" }));
            const states = { a1: "stale", a2: "kept" };
            served({
              hello: greeting,
              acts: ({ acts }) => ({ json: { acts: acts.map(({ act }) => ({ act, state: states[act], sentence: "met" })), scene: null } }),
              known: () => ({ json: { missing: [] } }),
            });
            await sync.sync(() => {});
            return (await store.acts()).map(({ act, state }) => [act, state]);
        """)
        self.assertEqual(found, [["a2", "kept"]])


class Home(Modules):
    def said(self, answer):
        return self.run_there(f"""
            served({{ hello: {answer}, acts: kept }});
            const there = new home.Home("this", () => {{}});
            const arrived = await there.go();
            return [arrived, there.problem, there.signedOut];
        """)

    def test_each_fault_has_its_sentence(self):
        self.assertEqual(self.said("greeting"), [True, "", False])
        for answer, words in (
            ("() => ({ status: 403 })", "no longer paired"),
            ("() => ({ status: 500 })", "(server 500)"),
            ("() => { throw new TypeError('cut'); }", "No network."),
        ):
            with self.subTest(words):
                arrived, problem, out = self.said(answer)
                self.assertIn(words, problem)
                self.assertEqual((arrived, out), (False, "paired" in words))
        ahead = "() => ({ json: { now: new Date(Date.now() - 3600e3).toISOString(), page: 'this', outings: [] } })"
        self.assertIn("60 min off", self.said(ahead)[1])
        newer = "() => ({ json: { now: new Date().toISOString(), page: 'another', outings: [] } })"
        self.assertIn("newer page", self.said(newer)[1])

    def test_what_waits_is_tried_again_later_and_later(self):
        found = self.run_there("""
            await store.keepAct(act(1));
            served({ hello: () => { throw new TypeError("cut"); } });
            const there = new home.Home("this", () => {}), waits = [];
            for (let k = 0; k < 7; k++) { waits.push(there.retryMs); await there.go(); clearTimeout(there.timer); }
            there.soon();
            return [waits, there.retryMs];
        """)
        self.assertEqual(found, [[1000, 2000, 4000, 8000, 16000, 30000, 30000], 1000])


class Sessions(Modules):
    """A session with a core of the test's own: each act makes the time one longer, "bad" is refused, "odd" is asked about."""

    CORE = """
      const told = [];
      const core = {
        ready: Promise.resolve(),
        call: async () => {},
        ask: async (name, key, { acts }) => {
          const refused = Object.fromEntries(acts.filter(({ verb }) => ["bad", "odd"].includes(verb)).map(({ act, verb }) => [act, `${verb}.`]));
          const done = acts.filter(({ act }) => !(act in refused));
          return {
            refused,
            asked: acts.filter(({ verb }) => verb === "odd").map(({ act }) => act),
            sheet: { exposure: { shutter: String(done.length) }, tones: [], lines: done.map(({ act }) => ({ line: act, words: act, struck: "", frame: false })) },
          };
        },
      };
      const note = (name) => (...given) => void told.push([name, ...given.map((each) => each?.exposure?.shutter ?? each)]);
      const shows = Object.fromEntries(["opened", "drawn", "counted", "say", "doubt", "acted", "home", "ask"].map((name) => [name, note(name)]));
      await store.keepOuting({ pk: 9, kit: {}, scenes: [{ pk: 1, head: 5, sheet: { exposure: { shutter: "prepared" }, tones: [], lines: [] } }] });
      const here = new session.Session(() => core, shows);
    """

    def test_what_is_prepared_is_drawn_first_and_the_core_says_it_anew(self):
        found = self.run_there(f"{self.CORE} await here.open(9, 1); return told;")
        self.assertEqual(found, [["opened"], ["drawn", "prepared", True], ["drawn", "0", True], ["counted"]])

    def test_no_setting_is_drawn_that_leaves_out_what_waits(self):
        found = self.run_there(f"""{self.CORE}
            await store.keepAct(act(1));
            await here.open(9, 1);
            const first = told.filter(([name]) => name === "drawn").map(([, shutter]) => shutter?.wait ? "waits" : shutter);
            told.length = 0;
            await here.open(9, 1);
            return [first, told.filter(([name]) => name === "drawn").map(([, shutter]) => shutter)];
        """)
        self.assertEqual(found, [["waits", "1"], ["1", "1"]])

    def test_what_the_core_refuses_never_was_and_what_it_asks_about_is_asked(self):
        found = self.run_there(f"""{self.CORE}
            await here.open(9, 1);
            told.length = 0;
            const answers = [await here.act("bad"), await here.act("odd", {{ reading: "9" }}), await here.act("shift")];
            return [answers, (await store.acts()).length, told.filter(([name]) => ["say", "doubt", "home"].includes(name))];
        """)
        doubts = [
            ["doubt", None],
            ["say", "bad."],
            ["doubt", {"sentence": "odd.", "values": {"reading": "9"}}],
            ["home"],
        ]
        self.assertEqual(found, [[False, False, True], 1, doubts])

    def test_undo_strikes_the_newest_of_the_phones_own_lines_and_asks_before_a_frame(self):
        found = self.run_there(f"""{self.CORE}
            await here.open(9, 1);
            await here.act("shift");
            await here.undo();
            const [made, struck] = await store.acts();
            here.sheet.lines.push({{ line: "desk", words: "orange", frame: false, struck: "" }});
            here.sheet.lines.forEach((each) => (each.struck ||= each.line === made.act ? struck.act : ""));
            here.sheet.lines = here.sheet.lines.filter(({{ line }}) => line !== struck.act);
            await here.undo();
            const nothing = told.filter(([name]) => name === "say").length;
            await store.keepAct(act("f", {{ verb: "log" }}));
            here.sheet.lines.push({{ line: "af", words: "frame 1", frame: true, struck: "" }});
            await here.undo();
            return [struck.verb, struck.line === made.act, nothing, told.filter(([name]) => name === "ask")];
        """)
        self.assertEqual(found, ["strike-out", True, 1, [["ask", "af"]]])


class Lines(Modules):
    def test_the_page_strikes_lines_as_the_core_does(self):
        """Made-up days of acts, strikings and strikings of strikings, told by both."""
        days, rng = [], seeded("lines")
        for _ in range(40):
            acts = []
            for n in range(12):
                target = rng.choice([None, *[each["act"] for each in acts], *[each["act"] for each in acts]])
                strikes = {"verb": "strike-out", "line": target} if target and rng.random() < 0.6 else {"verb": "level"}
                acts.append({"act": f"a{n}", **strikes})
            days.append(acts)
        there = self.run_there("return given.map((acts) => lines.standing([], acts, []));", days)
        for acts, found in zip(days, there, strict=True):
            here = plain_lines(ribbon([Line(each["act"], strikes=each.get("line", "")) for each in acts]))
            self.assertEqual(
                [(each["line"], each["struck"]) for each in found], [(each["line"], each["struck"]) for each in here]
            )
