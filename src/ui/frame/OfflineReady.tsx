"use client";

import { useEffect } from "react";
import { belongTo } from "../device";
import { keepPage } from "./keepPage";

/** Makes the student's pages open without a connection too, and sees that a device holds one person's things at a time. */
export function OfflineReady({ personId, pages }: { personId: string; pages: boolean }) {
  useEffect(() => {
    void belongTo(personId).then(async () => {
      if (!pages || !("serviceWorker" in navigator)) return;
      await navigator.serviceWorker.register("/offline.js").catch(() => {});
      // The page that is open now was not fetched through it: it is kept by fetching it once more.
      await navigator.serviceWorker.ready;
      if (!navigator.serviceWorker.controller || /^\/work(\/|$)/.test(location.pathname))
        await keepPage(location.pathname);
    });
  }, [pages, personId]);
  return null;
}
