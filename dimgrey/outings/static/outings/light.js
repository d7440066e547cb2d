// The light table: the slider moves the time line and asks the server for that moment; scenes are put in order by drag or keys.
const page = document.getElementById("outing");
const token = () => JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];

function say(words) {
  const line = document.getElementById("said");
  line.textContent = words;
  line.hidden = !words;
}

function slider() {
  const range = document.getElementById("minutes");
  if (!range) return;
  const cursor = document.getElementById("cursor"), text = document.getElementById("clock-text");
  let waiting = false, again = false;

  function move() {
    const minutes = Number(range.value);
    const left = Number(cursor.dataset.left), right = Number(cursor.dataset.right);
    const x = left + (minutes / 60 / (Number(cursor.dataset.hours) - 1)) * (right - left);
    cursor.setAttribute("transform", `translate(${x.toFixed(1)} 0)`);
    const clock = `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
    text.textContent = clock;
    range.setAttribute("aria-valuetext", clock);
    return clock;
  }

  // One question at a time; while one is under way only the last time is remembered.
  async function ask() {
    const clock = move();
    if (waiting) { again = true; return; }
    waiting = true;
    try {
      const answer = await fetch(`${page.dataset.at}?time=${clock}`);
      if (answer.ok) window.htmx.swap(document.getElementById("now"), await answer.text(), { swapStyle: "innerHTML" });
    } catch { say("The server does not answer; the plan shows the last moment."); }
    waiting = false;
    if (again) { again = false; ask(); }
  }
  range.addEventListener("input", ask);
  document.getElementById("clock").addEventListener("submit", (event) => event.preventDefault());
  const plot = document.querySelector(".day-plot");
  plot.addEventListener("click", (event) => {
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(plot.getScreenCTM().inverse()).x;
    const left = Number(cursor.dataset.left), right = Number(cursor.dataset.right);
    if (at < left || at > right) return;
    range.value = Math.round(((at - left) / (right - left)) * (Number(cursor.dataset.hours) - 1) * 12) * 5;
    ask();
  });
  move();
  const view = plot.parentElement; // on a phone the plot is wider than the page: start where the time line is
  const line = cursor.getBoundingClientRect();
  view.scrollLeft = line.left - view.getBoundingClientRect().left - view.clientWidth / 2;
}

async function post(address, values) {
  const answer = await fetch(address, { method: "POST", headers: { "X-CSRFToken": token(), "HX-Request": "true" }, body: new URLSearchParams(values) });
  say(answer.ok ? "" : "That was not kept. Try again.");
}

function order() {
  const list = document.getElementById("order");
  if (!list) return;
  const items = () => [...list.children];
  const keep = () => post(page.dataset.order, items().map((item) => ["scene", item.dataset.scene])).catch(() => say("That was not kept: the server does not answer."));
  function shift(item, by) {
    const other = by < 0 ? item.previousElementSibling : item.nextElementSibling;
    if (!other) return;
    list.insertBefore(by < 0 ? item : other, by < 0 ? other : item);
    keep();
  }
  list.addEventListener("click", (event) => {
    const button = event.target.closest("[data-move]");
    if (button) { shift(button.closest("li"), Number(button.dataset.move)); button.focus(); }
  });
  list.addEventListener("keydown", (event) => {
    if (!event.altKey || !["ArrowUp", "ArrowDown"].includes(event.key)) return;
    const item = event.target.closest("li");
    shift(item, event.key === "ArrowUp" ? -1 : 1);
    item.focus();
    event.preventDefault();
  });
  let held = null;
  list.addEventListener("pointerdown", (event) => {
    if (!event.target.closest(".grip")) return;
    held = event.target.closest("li");
    held.classList.add("held");
    list.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  list.addEventListener("pointermove", (event) => {
    if (!held) return;
    const over = items().find((item) => { const box = item.getBoundingClientRect(); return item !== held && event.clientY > box.top && event.clientY < box.bottom; });
    if (!over) return;
    const box = over.getBoundingClientRect();
    list.insertBefore(held, event.clientY < box.top + box.height / 2 ? over : over.nextElementSibling);
  });
  const drop = () => { if (held) { held.classList.remove("held"); held = null; keep(); } };
  list.addEventListener("pointerup", drop);
  list.addEventListener("pointercancel", drop);
}

function checklist() {
  for (const box of document.querySelectorAll("[data-check]")) {
    box.addEventListener("change", () => post(page.dataset.at.replace(/at$/, "check"), { code: box.dataset.check, checked: box.checked ? "on" : "" })
      .catch(() => { box.checked = !box.checked; say("That was not kept: the server does not answer."); }));
  }
}

slider();
order();
checklist();
document.getElementById("print").addEventListener("click", () => window.print());
