// The outing: the slider moves the time line and asks for that moment's sky; scenes are put in order by drag or keys.
const token = () => JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];

function say(words) {
  const line = document.getElementById("said");
  line.textContent = words;
  line.hidden = !words;
}

async function post(address, values) {
  const answer = await fetch(address, {
    method: "POST",
    headers: { "X-CSRFToken": token(), "HX-Request": "true" },
    body: new URLSearchParams(values),
  });
  say(answer.ok ? "" : "That was not kept. Try again.");
}

const component = () => ({
  waiting: false,
  again: false,
  init() {
    if (!document.getElementById("minutes")) return;
    this.move();
    const cursor = document.getElementById("cursor");
    // on a phone the plot is wider than the page: start where the time line is
    const view = document.querySelector(".day-plot").parentElement;
    view.scrollLeft = cursor.getBoundingClientRect().left - view.getBoundingClientRect().left - view.clientWidth / 2;
    const sheet = document.querySelector("#now .scroll-x");
    const frame = sheet.querySelector(".sky-frame.chosen text") || sheet.querySelector(".sun-ring");
    if (frame) sheet.scrollLeft = frame.getBoundingClientRect().left - sheet.getBoundingClientRect().left - 60;
  },
  print() {
    window.print();
  },

  // --- the slider
  axis() {
    const { left, right, hours } = document.getElementById("cursor").dataset;
    return { left: Number(left), right: Number(right), hours: Number(hours) - 1 };
  },
  move() {
    const range = document.getElementById("minutes");
    const minutes = Number(range.value);
    const { left, right, hours } = this.axis();
    const x = left + (minutes / 60 / hours) * (right - left);
    document.getElementById("cursor").setAttribute("transform", `translate(${x.toFixed(1)} 0)`);
    const clock = `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
    document.getElementById("clock-text").textContent = clock;
    range.setAttribute("aria-valuetext", clock);
    return clock;
  },
  // The moment and the means as an address says them; they stay when the page is loaded again.
  said() {
    const said = new URLSearchParams({ time: this.move() });
    const through = document.querySelector(".now-lines .chosen [data-scene]");
    const filter = document.getElementById("see-through");
    if (this.wanted || through) said.set("through", this.wanted || through.dataset.scene);
    if (!this.wanted && filter && filter.value) said.set("filter", filter.value);
    return said;
  },
  // One question at a time; while one is under way only the last is remembered.
  async ask() {
    const said = this.said();
    if (this.waiting) {
      this.again = true;
      return;
    }
    this.waiting = true;
    this.wanted = "";
    history.replaceState(null, "", `?${said}`);
    try {
      const answer = await fetch(`${this.$root.dataset.at}?${said}`);
      if (answer.ok) this.show(await answer.text());
    } catch {
      say("The server does not answer; the sheet shows the last moment.");
    }
    this.waiting = false;
    if (this.again) {
      this.again = false;
      this.ask();
    }
  },
  show(markup) {
    const now = document.getElementById("now");
    const at = now.querySelector(".scroll-x").scrollLeft;
    const held = now.contains(document.activeElement) ? document.activeElement : null;
    const again = held && (held.id ? `#${held.id}` : `button[data-scene="${held.dataset.scene}"]`);
    window.htmx.swap(now, markup, { swapStyle: "innerHTML" });
    now.querySelector(".scroll-x").scrollLeft = at;
    if (again && now.querySelector(again)) now.querySelector(again).focus();
  },
  wanted: "",
  chosen(event) {
    if (event.target.id === "see-through") this.ask();
  },
  // A press on a frame or a scene's line takes its means; one on the sky takes the time when the sun is nearest to it.
  choose(event) {
    const scene = event.target.closest("[data-scene]");
    const sheet = event.target.closest(".sky-sheet");
    if (scene) {
      this.wanted = scene.dataset.scene;
      this.ask();
    } else if (sheet) {
      const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(sheet.getScreenCTM().inverse());
      const times = JSON.parse(document.getElementById("sun-times").textContent);
      const far = ([, x, y]) => Math.hypot(x - at.x, y - at.y);
      if (!times.length) return;
      const nearest = times.reduce((best, each) => (far(each) < far(best) ? each : best));
      document.getElementById("minutes").value = Math.round(nearest[0] / 5) * 5;
      this.ask();
    }
  },
  point(event) {
    const plot = document.querySelector(".day-plot");
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(plot.getScreenCTM().inverse()).x;
    const { left, right, hours } = this.axis();
    if (at < left || at > right) return;
    document.getElementById("minutes").value = Math.round(((at - left) / (right - left)) * hours * 12) * 5;
    this.ask();
  },

  // --- the order of the scenes
  held: null,
  async keepOrder() {
    const items = [...document.getElementById("order").children];
    try {
      await post(
        this.$root.dataset.order,
        items.map((item) => ["scene", item.dataset.scene]),
      );
    } catch {
      say("That was not kept: the server does not answer.");
    }
  },
  shift(item, by) {
    const other = by < 0 ? item.previousElementSibling : item.nextElementSibling;
    if (!other) return;
    item.parentElement.insertBefore(by < 0 ? item : other, by < 0 ? other : item);
    this.keepOrder();
  },
  press(event) {
    const button = event.target.closest("[data-move]");
    if (!button) return;
    this.shift(button.closest("li"), Number(button.dataset.move));
    button.focus();
  },
  nudge(event) {
    if (!event.altKey || !["ArrowUp", "ArrowDown"].includes(event.key)) return;
    const item = event.target.closest("li");
    this.shift(item, event.key === "ArrowUp" ? -1 : 1);
    item.focus();
    event.preventDefault();
  },
  grab(event) {
    if (!event.target.closest(".grip")) return;
    this.held = event.target.closest("li");
    this.held.classList.add("held");
    this.held.parentElement.setPointerCapture(event.pointerId);
    event.preventDefault();
  },
  drag(event) {
    const held = this.held;
    if (!held) return;
    const over = [...held.parentElement.children].find((item) => {
      const box = item.getBoundingClientRect();
      return item !== held && event.clientY > box.top && event.clientY < box.bottom;
    });
    if (!over) return;
    const box = over.getBoundingClientRect();
    held.parentElement.insertBefore(held, event.clientY < box.top + box.height / 2 ? over : over.nextElementSibling);
  },
  drop() {
    if (!this.held) return;
    this.held.classList.remove("held");
    this.held = null;
    this.keepOrder();
  },

  // --- the list before leaving
  async check(event) {
    const box = event.target;
    try {
      const values = { code: box.dataset.check, checked: box.checked ? "on" : "" };
      await post(this.$root.dataset.at.replace(/at$/, "check"), values);
    } catch {
      box.checked = !box.checked;
      say("That was not kept: the server does not answer.");
    }
  },
});

document.addEventListener("alpine:init", () => window.Alpine.data("light", component));
