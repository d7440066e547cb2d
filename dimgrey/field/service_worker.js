// Keeps the field page and what it runs, so that it opens without a network. Everything but the page itself has its
// version in its address and never changes under it; what the page shows comes from the phone's own database.
// The server writes KEPT above this: version, page and files.
const NAME = `field-${KEPT.version}`;

self.addEventListener("install", (event) => {
  self.skipWaiting();
  event.waitUntil(caches.open(NAME).then((cache) => cache.addAll([KEPT.page, ...KEPT.files])));
});

self.addEventListener("activate", (event) => {
  const others = (names) => names.filter((name) => name.startsWith("field-") && name !== NAME);
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(others(names).map((name) => caches.delete(name))))
      .then(() => self.clients.claim()),
  );
});

const isPage = (request) => request.mode === "navigate" && new URL(request.url).pathname === KEPT.page;

// The page is fetched anew where it can be, so that a newer one is seen; without an answer in time the kept one serves.
async function page(request) {
  const cache = await caches.open(NAME);
  try {
    const answer = await fetch(request);
    if (answer.ok && !answer.redirected) await cache.put(KEPT.page, answer.clone());
    return answer;
  } catch {
    return cache.match(KEPT.page);
  }
}

self.addEventListener("fetch", (event) => {
  const { request } = event;
  if (request.method !== "GET") return;
  if (isPage(request)) event.respondWith(page(request));
  else if (KEPT.files.includes(new URL(request.url).pathname))
    event.respondWith(caches.match(request, { ignoreSearch: true }).then((known) => known ?? fetch(request)));
});
