// The service worker: keeps the program, My work and the pieces that were opened on this device, so that they open without a
// connection too. It decides nothing and sends nothing; what was typed is kept by the pages themselves. Signing out
// empties it.
const PROGRAM = "almanac-program-1";
const PAGES = "almanac-pages-1";
const PATIENCE_MS = 4000;
const MOST_FILES = 400;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self.location.origin) return;
  if (url.pathname.startsWith("/_next/static/")) event.respondWith(program(request));
  else if (
    request.mode === "navigate" &&
    (url.pathname === "/work" || url.pathname.startsWith("/work/"))
  )
    event.respondWith(page(event, request));
});

// Named by their content: what is kept never grows old.
async function program(request) {
  const cache = await caches.open(PROGRAM);
  const kept = await cache.match(request);
  if (kept) return kept;
  const answer = await fetch(request);
  if (answer.ok) {
    await cache.put(request, answer.clone());
    // Earlier versions of the program go in time, the oldest first.
    const names = await cache.keys();
    if (names.length > MOST_FILES)
      await Promise.all(
        names.slice(0, names.length - MOST_FILES).map((name) => cache.delete(name)),
      );
  }
  return answer;
}

// The server's page where it can be had in time, otherwise the one that was kept.
async function page(event, request) {
  const cache = await caches.open(PAGES);
  const fresh = fetch(request).then(async (answer) => {
    // Only the page itself: not the way to the sign-in page, and no fault.
    if (answer.ok && !answer.redirected) await cache.put(request, answer.clone());
    return answer;
  });
  event.waitUntil(fresh.catch(() => {}));
  const kept = await cache.match(request, { ignoreVary: true });
  if (!kept) return fresh.catch(() => noPage());
  const late = new Promise((resolve) => setTimeout(() => resolve(kept), PATIENCE_MS));
  return Promise.race([fresh, late]).catch(() => kept);
}

function noPage() {
  const words =
    "There is no connection, and this page was not opened on this device before. What you wrote elsewhere is kept; try again when you are back.";
  return new Response(
    `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>No connection</title><body style="font:1.125rem/1.6 Georgia,serif;max-width:34rem;margin:4rem auto;padding:0 1rem;background:#faf6ee;color:#211d17"><h1>No connection</h1><p>${words}</p><p><a href="/work">My work</a></p>`,
    { status: 503, headers: { "content-type": "text/html; charset=utf-8" } },
  );
}
