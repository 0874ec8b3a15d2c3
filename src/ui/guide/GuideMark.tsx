"use client";

import dynamic from "next/dynamic";
import { usePathname } from "next/navigation";
import { useEffect, useState } from "react";
import type { MastheadView } from "@/core/views/overviewViews";
import { obeysLetters } from "../kit/letterKeys";

// What it says comes when it is first asked for.
const GuideCard = dynamic(() => import("./GuideCard").then((m) => m.GuideCard));

const WRITING = "input, textarea, select, [contenteditable=true], [role=dialog], [role=menu]";

/** `?` on each screen: what it is for, what to do first, its keys. */
export function GuideMark({ kind }: { kind: MastheadView["kind"] }) {
  const pathname = usePathname();
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key !== "?" || !obeysLetters(event, WRITING)) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
  return (
    <>
      <button
        type="button"
        className="min-h-7 min-w-7 cursor-pointer text-tide max-sm:min-h-11 max-sm:min-w-11"
        aria-label="About this screen"
        aria-keyshortcuts="?"
        onClick={() => setOpen(true)}
      >
        ?
      </button>
      {open ? <GuideCard kind={kind} pathname={pathname} onClose={() => setOpen(false)} /> : null}
    </>
  );
}
