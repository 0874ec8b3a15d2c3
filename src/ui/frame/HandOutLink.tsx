"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect } from "react";
import { obeysLetters } from "../kit/letterKeys";

const WRITING = "input, textarea, select, [contenteditable=true], [role=dialog], [role=menu]";

/** Begins an assignment from any screen: a link in the masthead, and the key "a". */
export function HandOutLink() {
  const router = useRouter();
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key !== "a" || !obeysLetters(event, WRITING)) return;
      event.preventDefault();
      router.push("/hand-out");
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [router]);
  return (
    <Link
      href="/hand-out"
      prefetch={false}
      className="border border-tide px-2.5 py-1 text-tide no-underline hover:bg-tide-wash"
      aria-keyshortcuts="a"
    >
      Hand out <kbd className="text-xs">a</kbd>
    </Link>
  );
}
