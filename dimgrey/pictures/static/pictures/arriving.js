// Where files are read: asks how far they are, and has the page show itself anew once all that came are.
const SOON_MS = 200,
  LATER_MS = 1500,
  SOON_FOR_MS = 15000;

const part = document.getElementById("arriving"),
  begun = performance.now();
let kept = Number(part.dataset.kept);

// What is being typed is not swept away: the page waits until it was sent or left.
const isTyping = () => {
  const field = document.activeElement;
  return field?.matches("input:not([type=file]), textarea") && field.value !== field.defaultValue;
};

const again = () => setTimeout(ask, performance.now() - begun < SOON_FOR_MS ? SOON_MS : LATER_MS);

async function ask() {
  if (document.hidden) return document.addEventListener("visibilitychange", ask, { once: true });
  const answer = await fetch(part.dataset.address).catch(() => null);
  if (!answer?.ok) return again();
  const told = await answer.json();
  if (!told.waiting && told.kept > kept && !isTyping()) return location.reload();
  part.innerHTML = told.rows;
  if (told.waiting || told.kept > kept) again();
}

part.addEventListener("click", async (event) => {
  const away = event.target.closest("[data-put-away]");
  if (!away) return;
  const answer = await fetch(away.dataset.putAway, {
    method: "POST",
    headers: { "X-CSRFToken": part.dataset.token },
  }).catch(() => null);
  if (answer?.ok) location.reload();
});

if (Number(part.dataset.waiting)) again();
