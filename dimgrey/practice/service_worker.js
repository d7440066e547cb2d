// Keeps rounds of practice, so that they open without a network. The page of practice lays them in (kept.js); one that
// was opened is not shown again while there is another.
// The server writes KEPT above this: version, page, round and files.
const NAME = `practice-${KEPT.version}`;

self.addEventListener("install", (event) => {
  self.skipWaiting();
  event.waitUntil(caches.open(NAME).then((cache) => cache.addAll(KEPT.files)));
});

self.addEventListener("activate", (event) => {
  const others = (names) => names.filter((name) => name.startsWith("practice-") && name !== NAME);
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(others(names).map((name) => caches.delete(name))))
      .then(() => self.clients.claim()),
  );
});

async function keptRound() {
  const cache = await caches.open(NAME),
    rounds = (await cache.keys()).filter(({ url }) => new URL(url).pathname === KEPT.round),
    [first] = rounds;
  if (!first) return Response.error();
  const answer = await cache.match(first);
  if (rounds.length > 1) await cache.delete(first);
  return answer;
}

async function page(request, path) {
  try {
    return await fetch(request);
  } catch {
    if (path === KEPT.round) return keptRound();
    const cache = await caches.open(NAME);
    return (await cache.match(KEPT.page)) ?? Response.error();
  }
}

self.addEventListener("fetch", (event) => {
  const { request } = event,
    { pathname } = new URL(request.url);
  if (request.method !== "GET") return;
  if (request.mode === "navigate" && [KEPT.page, KEPT.round].includes(pathname))
    event.respondWith(page(request, pathname));
  else if (KEPT.files.includes(pathname))
    event.respondWith(caches.match(request, { ignoreSearch: true }).then((known) => known ?? fetch(request)));
  else if (pathname.startsWith("/pictures/"))
    event.respondWith(fetch(request).catch(async () => (await caches.match(request)) ?? Response.error()));
});
