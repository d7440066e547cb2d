// Keeps the field page and what it runs, so that it opens without a network. A version is fetched whole or not at all,
// and stands until the next one is here whole; what the page shows comes from the phone's own database.
// The server writes KEPT above this: version, page and files.
const NAME = `field-${KEPT.version}`,
  WAIT_MS = 3e3,
  ONLY_KEPT = "?kept";

self.addEventListener("install", (event) => {
  self.skipWaiting();
  event.waitUntil(whole());
});

async function whole() {
  const cache = await caches.open(NAME),
    answer = await fetch(KEPT.page, { cache: "reload" });
  if (!isOurs(answer)) throw new Error("the page is of another version, or somebody has to sign in first");
  await cache.addAll(KEPT.files);
  await cache.put(KEPT.page, answer);
}

self.addEventListener("activate", (event) => {
  const others = (names) => names.filter((name) => name.startsWith("field-") && name !== NAME);
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(others(names).map((name) => caches.delete(name))))
      .then(() => self.clients.claim()),
  );
});

const isOurs = (answer) => answer.ok && !answer.redirected && answer.headers.get("X-Field-Version") === KEPT.version;
const isPage = (request) => request.mode === "navigate" && new URL(request.url).pathname === KEPT.page;

// Null where nothing comes in time.
const soon = (request) =>
  Promise.race([fetch(request), new Promise((done) => setTimeout(done, WAIT_MS, null))]).catch(() => null);

// A server that is stopped, broken, silent or newer than what is kept changes nothing, nor does one that does not know
// this phone any more: what is kept opens, and says so.
async function page(request) {
  const kept = await (await caches.open(NAME)).match(KEPT.page),
    answer = await soon(request);
  if (!kept) return answer ?? Response.error();
  if (answer && isOurs(answer)) return answer;
  if (answer?.ok && !answer.redirected) self.registration.update();
  return kept;
}

// A worker that is started to prove what is kept gets nothing else.
async function file(request, clientId) {
  const known = await (await caches.open(NAME)).match(request, { ignoreSearch: true });
  if (known) return known;
  const client = clientId && (await self.clients.get(clientId)),
    asks = [request.url, client?.url].filter(Boolean).map((url) => new URL(url).search);
  return asks.includes(ONLY_KEPT) ? Response.error() : fetch(request);
}

self.addEventListener("fetch", (event) => {
  const { request } = event;
  if (request.method !== "GET") return;
  if (isPage(request)) event.respondWith(page(request));
  else if (KEPT.files.includes(new URL(request.url).pathname)) event.respondWith(file(request, event.clientId));
});

// What is missing of this version, asked by the page.
self.addEventListener("message", (event) => {
  if (event.data !== "missing") return;
  const missing = async () => {
    const cache = await caches.open(NAME),
      wanted = [KEPT.page, ...KEPT.files],
      found = await Promise.all(wanted.map((address) => cache.match(address)));
    event.ports[0].postMessage(wanted.filter((_, k) => !found[k]));
  };
  event.waitUntil(missing());
});
