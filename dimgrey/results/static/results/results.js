// A divider between plan and result, the map over them, three points by hand, files sent one by one.
const divided = document.querySelector("[data-divided]");
if (divided) {
  const range = document.querySelector(".pair-tools input[type=range]");
  const over = divided.querySelector(".came-out");
  const line = divided.querySelector(".divider");
  const divide = () => {
    over.style.clipPath = `inset(0 0 0 ${range.value}%)`;
    line.style.left = `${range.value}%`;
  };
  range.addEventListener("input", divide);
  divided.addEventListener("pointermove", (event) => {
    if (!event.buttons) return;
    const box = divided.getBoundingClientRect();
    range.value = Math.min(Math.max(((event.clientX - box.left) / box.width) * 100, 0), 100);
    divide();
  });
  divide();

  const drawn = divided.querySelector("[data-difference]");
  document.querySelector("[data-map]").addEventListener("change", async (event) => {
    if (event.target.checked && !drawn.childElementCount) {
      const answer = await fetch(drawn.dataset.difference);
      const page = new DOMParser().parseFromString(await answer.text(), "text/html");
      drawn.replaceChildren(...page.body.childNodes);
    }
    drawn.hidden = !event.target.checked;
    if (event.target.checked) range.value = 0;
    divide();
  });
}

const points = document.querySelector("[data-points]");
if (points) {
  const fields = ["p1", "p2", "p3"].map((name) => document.getElementById(name));
  let next = 0;
  points.addEventListener("click", (event) => {
    const box = points.getBoundingClientRect();
    const percent = (at, from, size) => (((at - from) / size) * 100).toFixed(1);
    const across = percent(event.clientX, box.left, box.width);
    const down = percent(event.clientY, box.top, box.height);
    fields[next].value = `${across}, ${down}`;
    fields[next].focus();
    next = (next + 1) % fields.length;
  });
}
