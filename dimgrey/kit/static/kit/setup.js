// The setup editor: every move of a slider asks the server for the picture and the curve.
const form = document.getElementById("setup-form"), place = document.getElementById("preview");
let waiting = false, again = false;

async function ask() {
  for (const range of form.querySelectorAll("input[type=range]")) range.parentElement.querySelector("output").textContent = range.value;
  if (!form.elements.scene) return;
  if (waiting) { again = true; return; }
  waiting = true;
  const asked = new URLSearchParams(new FormData(form));
  asked.delete("csrfmiddlewaretoken");
  asked.delete("notes");
  try {
    const answer = await fetch(`${form.dataset.preview}?${asked}`);
    if (answer.ok) window.htmx.swap(place, await answer.text(), { swapStyle: "innerHTML" });
  } catch { /* the last picture stays; keeping the setup will say that the server is away */ }
  waiting = false;
  if (again) { again = false; ask(); }
}
form.addEventListener("input", ask);
