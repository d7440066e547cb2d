// The picture answers each slider; areas are drawn by touching their corners. The server does the arithmetic.
const stage = document.querySelector("[data-finish]");
const form = document.querySelector("[data-finish-form]");
const status = document.querySelector("[data-status]");
const image = stage?.querySelector("img");
const kept = image?.src;
let asked = 0;
let waiting = false;

for (const number of document.querySelectorAll(".area-number")) {
  const [, , , height] = stage.querySelector("svg").getAttribute("viewBox").split(" ").map(Number);
  number.style.left = `${number.dataset.x / 10}%`;
  number.style.top = `${(number.dataset.y / height) * 100}%`;
}

const ask = async () => {
  if (waiting) {
    asked += 1;
    return;
  }
  waiting = true;
  const answer = await fetch(stage.dataset.finish, { method: "POST", body: new FormData(form) });
  if (answer.ok) {
    const before = image.src;
    image.src = URL.createObjectURL(await answer.blob());
    if (before.startsWith("blob:")) URL.revokeObjectURL(before);
    status.textContent = "not kept yet";
  } else status.textContent = await answer.text();
  waiting = false;
  if (asked) {
    asked = 0;
    ask();
  }
};

form?.addEventListener("input", (event) => {
  const figure = event.target.parentElement.querySelector("output");
  if (figure) figure.textContent = Number(event.target.value).toFixed(2).replace("-", "−");
  if (event.target.name.startsWith("wish-")) form.elements[event.target.name.replace("wish", "lead")].checked = true;
  if (event.target.type !== "text") ask();
});

document.querySelector("[data-as-it-was]")?.addEventListener("change", (event) => {
  image.src = event.target.checked ? `${stage.dataset.finish.replace("finish/preview", "own.jpg")}` : kept;
});

const draw = document.querySelector("[data-draw]");
let corners = null;
const shape = () => {
  const [, , width, height] = stage.querySelector("svg").getAttribute("viewBox").split(" ").map(Number);
  const path = corners?.length ? "M" + corners.map(([x, y]) => `${x * width} ${y * height}`).join("L") : "";
  stage.querySelectorAll("[data-drawing]").forEach((each) => each.setAttribute("d", path));
};
const close = () => {
  if (corners?.length < 3) return;
  const area = document.querySelector("[data-area-form]");
  area.elements.outline.value = corners.map(([x, y]) => `${x.toFixed(4)} ${y.toFixed(4)}`).join(",");
  area.elements.tone.disabled = true;
  area.submit();
};
draw?.addEventListener("click", () => {
  corners = corners ? null : [];
  stage.classList.toggle("drawing-now", corners !== null);
  document.querySelector("[data-draw-hint]").hidden = corners === null;
  draw.textContent = corners ? "Leave off drawing" : "Draw an area";
  shape();
});
stage?.addEventListener("click", (event) => {
  if (!corners) return;
  const box = image.getBoundingClientRect();
  const at = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
  const first = corners[0] ?? at;
  const away = Math.hypot((at[0] - first[0]) * box.width, (at[1] - first[1]) * box.height);
  if (corners.length > 2 && away < 14) return close();
  corners.push(at);
  shape();
});
document.addEventListener("keydown", (event) => {
  if (!corners) return;
  if (event.key === "Enter") close();
  if (event.key === "Escape") draw.click();
});
