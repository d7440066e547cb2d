// Rounds are laid in for when there is no network: whole pages with their pictures, where the address is a secure one.
import "./answers.js";

const ROUNDS = 3;
const place = document.querySelector("[data-service-worker]");
const { serviceWorker, round, version } = place.dataset;

async function layIn(cache, address) {
  const answer = await fetch(address);
  if (!answer.ok || answer.redirected) throw new Error(`${address}: ${answer.status}`);
  await cache.put(address, answer.clone());
  return answer;
}

async function picturesOf(answer) {
  const page = new DOMParser().parseFromString(await answer.text(), "text/html"),
    cards = JSON.parse(page.getElementById("cards")?.textContent ?? "[]");
  return cards.map(({ picture }) => picture).filter(Boolean);
}

async function keepRounds() {
  const cache = await caches.open(`practice-${version}`);
  await layIn(cache, location.pathname);
  const pictures = new Set();
  for (let k = 1; k <= ROUNDS; k++)
    for (const each of await picturesOf(await layIn(cache, `${round}?kept=${k}`))) pictures.add(each);
  for (const each of pictures) if (!(await cache.match(each))) await layIn(cache, each);
  place.dataset.kept = String(ROUNDS);
  place.hidden = false;
}

if (isSecureContext && navigator.serviceWorker && navigator.onLine)
  navigator.serviceWorker
    .register(serviceWorker, { scope: location.pathname })
    .then(() => navigator.serviceWorker.ready)
    .then(keepRounds)
    .catch(() => {});
