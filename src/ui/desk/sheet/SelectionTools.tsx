"use client";

import { Toolbar } from "radix-ui";
import { useLayoutEffect, useRef, useState } from "react";
import { Button } from "../../kit/Button";
import type { CommandId } from "../commands/commands";
import { keyOf, showKey } from "../commands/keys";
import { usePieceOnDesk } from "../model";

/** What can be put on words, in the order of how often it is. */
const ACTS: readonly { id: CommandId; words: string }[] = [
  { id: "note", words: "note" },
  { id: "request", words: "asks" },
  { id: "praise", words: "praise" },
  { id: "bank", words: "bank" },
  { id: "speak", words: "voice" },
  { id: "tick", words: "✓" },
  { id: "replace", words: "other words" },
  { id: "delete", words: "take out" },
];

const GAP = 6;

/** The tools for words, where words are selected: over them, or under them where there is no room. */
export function SelectionTools() {
  const { session, marking, view, own, run } = usePieceOnDesk();
  const { picked, composing, editing } = marking;
  const bar = useRef<HTMLDivElement>(null);
  const shown =
    session.marking.words !== null && composing === null && editing === null && !view.comparing;
  const [at, setAt] = useState<{ top: number; left: number } | null>(null);
  useLayoutEffect(() => {
    if (!shown) return;
    const place = () => setAt(placeBy(session.at("sheet"), bar.current));
    place();
    window.addEventListener("resize", place);
    return () => window.removeEventListener("resize", place);
  }, [session, shown, picked]);
  if (!shown) return null;
  return (
    <Toolbar.Root
      ref={bar}
      aria-label="On the selected words"
      data-arrows
      data-selection-tools
      className="absolute z-20 flex w-max max-w-full flex-wrap gap-px border border-line-strong bg-raised shadow-lifted"
      style={{ ...at, opacity: at ? 1 : 0 }}
      // The selection must outlive the press.
      onMouseDown={(event) => event.preventDefault()}
    >
      {ACTS.map(({ id, words: said }) => (
        <Toolbar.Button key={id} asChild>
          <Button
            small
            ink="quiet"
            className="px-1.5! text-ink! max-lg:min-h-11"
            title={`${said} (${showKey(keyOf(id, own.keys))})`}
            aria-label={id === "tick" ? "tick" : undefined}
            onClick={() => run(id)}
          >
            {said}
          </Button>
        </Toolbar.Button>
      ))}
    </Toolbar.Root>
  );
}

/** Beside what is selected, within the sheet. */
function placeBy(sheet: HTMLElement | null, bar: HTMLElement | null) {
  const selection = window.getSelection();
  if (!sheet || !bar || !selection || selection.rangeCount === 0) return null;
  const range = selection.getRangeAt(0);
  const rects = [...range.getClientRects()].filter((r) => r.width > 0);
  const [first, last] = [rects[0], rects.at(-1)];
  if (!first || !last || !sheet.contains(range.commonAncestorContainer)) return null;
  const box = sheet.getBoundingClientRect();
  const scroller = sheet.closest("[data-scroll]")!.getBoundingClientRect();
  const over = first.top - bar.offsetHeight - GAP;
  const top = over > scroller.top ? over : last.bottom + GAP;
  const left = Math.min(Math.max(first.left, box.left), box.right - bar.offsetWidth);
  return { top: top - box.top, left: Math.max(0, left - box.left) };
}
