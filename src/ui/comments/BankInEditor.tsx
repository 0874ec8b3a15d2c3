"use client";

import type { Editor } from "@tiptap/core";
import { useEditorState } from "@tiptap/react";
import { useEffect, useState, type KeyboardEvent, type ReactNode } from "react";
import { lookUp, pendingLookup } from "@/core/comments/lookup";
import { fillPlaceholders, nextSlot } from "@/core/comments/placeholders";
import type { CommentView } from "@/core/views/views";
import { classes } from "../kit/classes";
import { useBankHere } from "./BankContext";

/** What stands in for a picture in the text before the caret, so that places in it stay places in the document. */
const LEAF = "\ufffc";
const MOST = 7;

type Looking = {
  /** In the document. */ from: number;
  to: number;
  query: string;
  /** Under the caret, in pixels from the top of the editor. */ top: number;
};

/** `;` and a shorthand or part of a phrase brings a comment of the bank into a rich text, as it does into every field a teacher writes in. */
export function BankInEditor({ editor, children }: { editor: Editor; children: ReactNode }) {
  const here = useBankHere();
  const [active, setActive] = useState(0);
  const [dismissed, setDismissed] = useState<number | null>(null);
  const looking = useEditorState({
    editor,
    selector: ({ editor: e }) => (here ? lookingIn(e) : null),
    equalityFn: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  });
  const want = here?.want;
  useEffect(() => {
    if (looking) want?.();
  }, [looking, want]);
  const choices =
    looking && here && dismissed !== looking.from ? lookUp(here.bank, looking.query, MOST) : [];
  const chosen = choices[Math.min(active, choices.length - 1)];

  function take(comment: CommentView) {
    if (!looking || !here) return;
    const words = fillPlaceholders(comment.text, here.values);
    const slot = nextSlot(words, 0);
    editor
      .chain()
      .focus()
      .insertContentAt({ from: looking.from, to: looking.to }, { type: "text", text: words })
      .setTextSelection(
        slot
          ? { from: looking.from + slot.start, to: looking.from + slot.end }
          : looking.from + words.length,
      )
      .run();
    setActive(0);
  }
  function keys(event: KeyboardEvent) {
    if (!chosen || event.shiftKey || event.ctrlKey || event.metaKey) return;
    const act = {
      ArrowDown: () => setActive((n) => (n + 1) % choices.length),
      ArrowUp: () => setActive((n) => (n - 1 + choices.length) % choices.length),
      Enter: () => take(chosen),
      Tab: () => take(chosen),
      Escape: () => setDismissed(looking!.from),
    }[event.key];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  }
  return (
    <div className="relative" onKeyDownCapture={keys}>
      {children}
      {choices.length > 0 && looking ? (
        <ul
          role="listbox"
          aria-label="Comments of the bank"
          className="absolute z-40 max-h-64 w-full max-w-xl overflow-auto border border-line-strong bg-raised shadow-lifted"
          style={{ top: looking.top }}
        >
          {choices.map((comment) => (
            <li
              key={comment.id}
              role="option"
              aria-selected={comment === chosen}
              className={classes(
                "cursor-pointer border-b border-line px-3 py-1.5 text-sm last:border-0",
                comment === chosen && "bg-tide-wash",
              )}
              onMouseDown={(event) => {
                event.preventDefault();
                take(comment);
              }}
            >
              {comment.shorthand ? (
                <span className="mr-2 font-semibold">;{comment.shorthand}</span>
              ) : null}
              {comment.text}
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}

/** What is being looked for before the caret, and where under it the list opens. */
function lookingIn(editor: Editor): Looking | null {
  const { selection } = editor.state;
  if (!selection.empty || !editor.isFocused) return null;
  const { $from } = selection;
  const before = $from.parent.textBetween(0, $from.parentOffset, "\n", LEAF);
  const found = pendingLookup(before, before.length);
  if (!found) return null;
  const frame = editor.view.dom.parentElement!.getBoundingClientRect();
  const caret = editor.view.coordsAtPos(selection.from);
  return {
    from: $from.start() + found.from,
    to: selection.from,
    query: found.query,
    top: caret.bottom - frame.top + 4,
  };
}
