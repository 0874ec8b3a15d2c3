"use client";

import { useEffect } from "react";
import { belongTo } from "../device";

/** Makes the student's pages open without a connection too, and sees that a device holds one person's things at a time. */
export function OfflineReady({ personId, pages }: { personId: string; pages: boolean }) {
  useEffect(() => {
    void belongTo(personId).then(async () => {
      if (!pages || !("serviceWorker" in navigator)) return;
      await navigator.serviceWorker.register("/offline.js").catch(() => {});
      // The page that is open now was not fetched through it: it is kept by fetching it once more.
      await navigator.serviceWorker.ready;
      if (!navigator.serviceWorker.controller || /^\/work(\/|$)/.test(location.pathname)) await keepPage(location.pathname);
    });
  }, [pages, personId]);
  return null;
}

async function keepPage(path: string): Promise<void> {
  try {
    const answer = await fetch(path, { headers: { accept: "text/html" } });
    if (!answer.ok || answer.redirected || !/^\/work(\/|$)/.test(path)) return;
    const page = await caches.open("almanac-pages-1");
    await page.put(path, answer);
    const program = await caches.open("almanac-program-1");
    const loaded = performance.getEntriesByType("resource").map((entry) => entry.name).filter((name) => name.includes("/_next/static/"));
    await Promise.all([...new Set(loaded)].map(async (address) => (await program.match(address)) ?? (await program.add(address))));
  } catch {
    // Without room or connection the page simply is not kept.
  }
}
