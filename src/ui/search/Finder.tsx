"use client";

import dynamic from "next/dynamic";
import { usePathname } from "next/navigation";
import { useEffect, useEffectEvent, useState } from "react";
import type { MastheadView } from "@/core/views/overviewViews";
import { obeysLetters } from "../kit/letterKeys";

const load = () => import("./FindDialog");
const FindDialog = dynamic(load, { ssr: false, loading: () => null });

/** Where a key is a letter of what is being written, or belongs to what lies open. */
const TYPING = "input, textarea, select, [contenteditable=true], [role=grid]";
const OPEN = "[role=dialog], [role=menu]";

/** Searching from any screen: a button in the masthead, Ctrl K, and / where nothing is being written. */
export function Finder({ kind }: { kind: MastheadView["kind"] }) {
  const [open, setOpen] = useState(false);
  const path = usePathname();
  const press = useEffectEvent((event: KeyboardEvent) => {
    // The Desk has acts of its own under these keys; everywhere is found from there too.
    if (event.defaultPrevented || path === "/desk" || document.querySelector(OPEN)) return;
    const withControl = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "k";
    const slash = event.key === "/" && obeysLetters(event, TYPING);
    if (!withControl && !slash) return;
    event.preventDefault();
    setOpen(true);
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => press(event);
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        onPointerEnter={() => void load()}
        aria-haspopup="dialog"
        aria-keyshortcuts="Control+K /"
        className="min-h-9 cursor-pointer text-tide hover:underline max-sm:min-h-11"
      >
        Search <kbd className="text-xs max-2xl:hidden">/</kbd>
      </button>
      {open ? <FindDialog kind={kind} onClose={() => setOpen(false)} /> : null}
    </>
  );
}
